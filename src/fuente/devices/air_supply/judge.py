"""What Fuente would change of an air supply."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.air_supply.card import names_of
from fuente.devices.air_supply.network import air_to
from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.rules import judged_by
from fuente.devices.site import Site
from fuente.water.properties import GRAVITY

STARVED = 0.6  # share of the air that a filter wants under which it counts as starved


def air_idle(spec: AirSupplySpec, site: Site, study: Study) -> Iterable[Finding]:
    """A pump that leads to nothing."""
    if study.air_group(spec.id) is None:
        yield Finding(
            "air-idle",
            Rank.FIX,
            f"{spec.name} leads to no filter.",
            "An air pump that blows against nothing wears out.",
            spec.id,
        )


def air_deep(spec: AirSupplySpec, site: Site, study: Study) -> Iterable[Finding]:
    """Water deeper than its pressure reaches."""
    solution = study.running
    group = study.air_group(spec.id)
    if group is None:
        return
    lifts = [d.lift for d in group.supply.drops]
    water = group.supply.water
    depths = {lift.id: max(solution.level[lift.a] - lift.injector, 0.0) for lift in lifts}
    deepest = max(lifts, key=lambda lift: depths[lift.id])
    pressure = water.density * GRAVITY * depths[deepest.id]
    top = max(p for _, p in spec.pump.curve) * spec.pump.wear
    if pressure >= top:
        yield Finding(
            "air-deep",
            Rank.STOP,
            "{need:air_pressure} of water stand over an injector; the air pump pushes {have:air_pressure} at most.",
            "Depth eats an air pump's output: raise the air's entry, or take a pump of more pressure.",
            spec.id,
            {"need": pressure, "have": top},
            "",
            None,
            top - pressure,
        )
    elif pressure > 0.7 * top:
        yield Finding(
            "air-near-limit",
            Rank.CONSIDER,
            "Depth alone takes {share:fraction} of what the air pump can push.",
            "As its membranes tire the deepest drop stops first.",
            spec.id,
            {"share": pressure / top},
        )


def air_siphon(spec: AirSupplySpec, site: Site, study: Study) -> Iterable[Finding]:
    """Lines that siphon back when it stops."""
    solution, path = study.running, spec.path
    group = study.air_group(spec.id)
    if group is None:
        return
    lifts = [d.lift for d in group.supply.drops]
    low = [d.place for d in spec.drops if not d.check]
    tops = max(solution.level[lift.a] for lift in lifts)
    if spec.height < tops and spec.height + spec.loop < tops + 0.05 and low:
        changes = tuple(Change((*path, "drops", i, "check"), True) for i, d in enumerate(spec.drops) if not d.check)
        yield Finding(
            "air-siphon",
            Rank.STOP,
            "The air pump stands {under:level} under the water, and its line has no check valve.",
            "When it stops, water siphons down the line into it and onto the floor, near electricity.",
            spec.id,
            {"under": tops - spec.height},
            "Fit check valves",
            Edit("Fit check valves", changes),
            spec.height - tops,
        )


def air_uneven(spec: AirSupplySpec, site: Site, study: Study) -> Iterable[Finding]:
    """Filters that get much less than they ask for."""
    solution, names = study.running, names_of(site, study)
    wishes = {d.place: study.air_wish(d.place) for d in spec.drops}
    air = air_to(spec, solution)
    shares = {k: q / wishes[k] for k, q in air.items() if wishes.get(k, 0.0) > 0}
    worst = min(shares, key=shares.__getitem__, default="")
    if worst and shares[worst] < STARVED and air[worst] > 1e-9:
        most = max(shares, key=shares.__getitem__)
        also = f" {names.get(most, most)} takes {shares[most]:.1f} times its own." if shares[most] > 1.5 else ""
        yield Finding(
            "air-uneven",
            Rank.FIX,
            f"{names.get(worst, worst)} gets {{least:air_flow}} of the {{want:air_flow}} of air that it wants.{also}",
            "The shallow and near drops take the air until they are throttled. Balance the valves, or take a larger"
            " pump.",
            spec.id,
            {"least": air[worst], "want": wishes[worst]},
            "",
            None,
            air[worst] - wishes[worst],
        )


def air_one_open(spec: AirSupplySpec, site: Site, study: Study) -> Iterable[Finding]:
    """A valve that takes the air of all others."""
    group = study.air_group(spec.id)
    if group is None:
        return
    loss = study.lost_air(spec.id) if group else {}
    lost = max(loss.values(), default=0.0)
    if lost > 0.5:
        yield Finding(
            "air-one-open",
            Rank.CONSIDER,
            "If one air valve falls wide open, another filter loses {lost:fraction} of its air.",
            "A larger pump with a bleed valve holds its pressure better; or mark each valve's place.",
            spec.id,
            {"lost": lost},
        )


judge = judged_by(air_idle, air_deep, air_siphon, air_uneven, air_one_open)
