"""Edits about filters of all kinds: add one from the gallery, give it air, duplicate it, take it out, set the air valves."""

from __future__ import annotations

from collections.abc import Iterable, Sequence

from fuente.devices import KINDS, kind_of
from fuente.devices.air_supply.spec import AirPumpSpec, AirSupplySpec, DropSpec
from fuente.devices.air_supply.valves import AirPlan, set_air
from fuente.devices.base import Change, Edit
from fuente.devices.filtering import FilterSpec, Kind, Site
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.study.analysis import Analysis
from fuente.study.sites import all_ids, new_site

# Air pumps as they are sold, by class: pressure Pa, flow m³/s, watts; typical.
AIR_PUMPS = (
    ("Small air pump", 12e3, 4e-3 / 60, 4.0),
    ("Air pump", 18e3, 12e-3 / 60, 10.0),
    ("Membrane air pump", 25e3, 40e-3 / 60, 35.0),
    ("Large membrane air pump", 35e3, 80e-3 / 60, 65.0),
    ("Piston air pump", 40e3, 140e-3 / 60, 130.0),
)


def first_layouts(system: System, tank_id: str) -> list[tuple[Kind, FilterSpec | FuenteError]]:
    """A first layout of every kind for a tank, or why there is none."""
    site = new_site(system, tank_id)
    found: list[tuple[Kind, FilterSpec | FuenteError]] = []
    for kind in KINDS.values():
        try:
            found.append((kind, kind.first(site)))
        except (FuenteError, ValueError) as error:
            found.append(
                (
                    kind,
                    error
                    if isinstance(error, FuenteError)
                    else FuenteError(f"{kind.name}: the tank is too small for it."),
                )
            )
    return found


def add_filter(system: System, spec: FilterSpec) -> Edit:
    """Put a filter into the system.

    On air, a drop on the first air pump leads to it, or a new pump that carries it; its valve stands where it gets what it
    wants, and those of others stay as they are.
    """
    return _added(system, (spec,), f"Add {kind_of(spec).name.lower()}")


def _added(system: System, specs: tuple[FilterSpec, ...], name: str) -> Edit:
    filters = Change(("filters",), (*system.filters, *specs))
    if not any(needs_air(s) for s in specs):
        return Edit(name, (filters,))
    airs = Change(("airs",), with_drops(system, [s for s in specs if needs_air(s)]))
    made = apply(system, Edit(name, (filters, airs)))
    new = {s.id for s in specs}
    try:
        plan = plan_air(Analysis(made), 0)
    except FuenteError:
        return Edit(name, (filters, airs))
    first = made.airs[0]
    drops = tuple(
        d.model_copy(update={"opening": plan.openings[d.to]}) if d.to in new and d.to in plan.openings else d
        for d in first.drops
    )
    return Edit(name, (filters, Change(("airs",), (first.model_copy(update={"drops": drops}), *made.airs[1:]))))


def add_to_many(system: System, spec: FilterSpec, tanks: Sequence[str]) -> Edit:
    """Put a filter into its tank and the same into others."""
    made = _copies(system, spec, tanks)
    return _added(system, (spec, *made), f"Add {kind_of(spec).name.lower()} to {len(made) + 1} tanks")


def _copies(system: System, spec: FilterSpec, tanks: Sequence[str]) -> list[FilterSpec]:
    taken = all_ids(system) | {spec.id}
    stem = spec.kind.replace("_", "-")
    made = []
    for tank in tanks:
        key = next(f"{stem}-{n}" for n in range(1, 9999) if f"{stem}-{n}" not in taken)
        taken.add(key)
        made.append(spec.model_copy(update={"id": key, "tank": tank}))
    return made


def needs_air(spec: FilterSpec) -> bool:
    """Whether it stands still without air."""
    return kind_of(spec).air and getattr(spec, "drive", "air") == "air"


def with_drops(system: System, specs: Iterable[FilterSpec]) -> tuple[AirSupplySpec, ...]:
    """The air pumps with drops for more filters; a first pump is chosen by what they want."""
    specs = tuple(specs)
    made = tuple(_drop(system, s) for s in specs)
    if system.airs:
        first = system.airs[0]
        return (first.model_copy(update={"drops": (*first.drops, *made)}), *system.airs[1:])
    want = sum(_wish(s, new_site(system, s.tank)) for s in specs)
    deepest = max((new_site(system, s.tank).depth for s in specs), default=0.3)
    tank = system.tank(specs[0].tank)
    pump = pump_for(want, deepest)
    key = "air" if "air" not in all_ids(system) else new_site(system, specs[0].tank).new_id("air")
    return (AirSupplySpec(id=key, height=round(tank.rim + 0.25, 2), pump=pump, drops=made),)


def pump_for(want: float, depth: float) -> AirPumpSpec:
    """The smallest class of air pump that gives a flow in m³/s at a depth in m with its line and a third to spare."""
    need = 9810.0 * depth + 2500.0
    for name, pressure, flow, watts in AIR_PUMPS:
        if need < pressure and flow * (1 - need / pressure) >= 1.35 * want:
            return AirPumpSpec(name=name, max_pressure=pressure, max_flow=flow, watts=watts)
    name, pressure, flow, watts = AIR_PUMPS[-1]
    return AirPumpSpec(name=name, max_pressure=pressure, max_flow=flow, watts=watts)


def _wish(spec: FilterSpec, site: Site) -> float:
    kind = kind_of(spec)
    return kind.wish(spec, site) if kind.wish else 0.0


def _drop(system: System, spec: FilterSpec) -> DropSpec:
    site = new_site(system, spec.tank)
    end = "diffuser" if getattr(spec, "end", "") == "diffuser" else "open"
    return DropSpec(
        to=spec.id, length=round(site.tank.inner_height + 0.4, 2), spacing=round(site.tank.length, 2), end=end
    )


def without_drops(system: System, gone: set[str]) -> tuple[AirSupplySpec, ...]:
    """The air pumps without the drops of filters that go; a pump that then blows nowhere goes too."""
    kept = []
    for air in system.airs:
        drops = tuple(d for d in air.drops if d.to not in gone)
        if drops or not air.drops:
            kept.append(air.model_copy(update={"drops": drops}))
    return tuple(kept)


def take_out(system: System, spec: FilterSpec) -> Edit:
    """Without a filter; others that lead to it or from it then lead past it to its tank."""
    changes = [
        Change(("filters",), tuple(_past(f, spec) for f in system.filters if f.id != spec.id)),
    ]
    airs = without_drops(system, {spec.id})
    if airs != system.airs:
        changes.append(Change(("airs",), airs))
    return Edit(f"Take out {spec.name.lower()}", tuple(changes))


def _past(other: FilterSpec, gone: FilterSpec) -> FilterSpec:
    """Pipes that led to a filter that goes, led to where its own led."""
    update = {}
    for end, own in (("feed", "source"), ("drain", "into")):
        line = getattr(other, end, None)
        if line is not None and getattr(line, own) == gone.id:
            beyond = getattr(getattr(gone, end, None), own, gone.tank)
            update[end] = line.model_copy(update={own: beyond})
    return other.model_copy(update=update) if update else other


def duplicate(system: System, spec: FilterSpec, tanks: Sequence[str]) -> Edit:
    """The same filter in other tanks, its air with it."""
    made = _copies(system, spec, tanks)
    many = f"{len(made)} tanks" if len(made) != 1 else system.tank(tanks[0]).name
    name = f"Duplicate {spec.name.lower()} to {many}"
    changes = [Change(("filters",), (*system.filters, *made))]
    if needs_air(spec):
        own = next((d for air in system.airs for d in air.drops if d.to == spec.id), None)
        airs = with_drops(system, made)
        if own is not None:  # as its own line is
            keys = {m.id for m in made}
            alike = {"opening": own.opening, "bore": own.bore, "length": own.length, "end": own.end, "check": own.check}
            airs = tuple(
                a.model_copy(
                    update={"drops": tuple(d.model_copy(update=alike) if d.to in keys else d for d in a.drops)}
                )
                for a in airs
            )
        changes.append(Change(("airs",), airs))
    return Edit(name, tuple(changes))


def filter_commands(
    system: System, spec: FilterSpec, own: tuple[tuple[str, Edit], ...]
) -> tuple[tuple[str, Edit], ...]:
    """What can be done to a filter from its card; duplicating stands apart, as it asks for tanks."""
    found = [*own]
    if needs_air(spec) and all(d.to != spec.id for a in system.airs for d in a.drops):
        found.append(
            (
                "Lead air to it",
                Edit(f"Lead air to {spec.name.lower()}", (Change(("airs",), with_drops(system, (spec,))),)),
            )
        )
    others = [
        t.id
        for t in system.tanks
        if t.id != spec.tank and not any(f.tank == t.id and f.kind == spec.kind for f in system.filters)
    ]
    mates = [t for t in others if system.tank(t).rack and system.tank(t).rack == system.tank(spec.tank).rack]
    if kind_of(spec).inside:
        if mates:
            found.append((f"Duplicate to the {len(mates)} others of its rack", duplicate(system, spec, mates)))
        if others and others != mates:
            found.append((f"Duplicate to {len(others)} other tanks" if len(others) > 1 else f"Duplicate to {system.tank(others[0]).name}",
                          duplicate(system, spec, others)))  # fmt: skip
    found.append(("Take it out", take_out(system, spec)))
    return tuple(found)


def air_wishes(analysis: Analysis, index: int) -> dict[str, float]:
    """Air in m³/s that each filter on an air pump wants."""
    return {d.to: _wish(analysis.system.filter(d.to), analysis.sites[d.to]) for d in analysis.system.airs[index].drops}


def plan_air(analysis: Analysis, index: int) -> AirPlan:
    """Openings of all valves of an air pump for what its filters want."""
    air = analysis.system.airs[index]
    group = analysis.airs[air.id]
    lifts = {d.lift.owner: d.lift for d in group.supply.drops}
    depths = {key: analysis.running.level[lift.a] - lift.injector for key, lift in lifts.items()}
    return set_air(air, lifts, depths, air_wishes(analysis, index))


def air_commands(analysis: Analysis, index: int) -> tuple[tuple[str, Edit], ...]:
    """Set all valves, open them all, another pump beside it."""
    air = analysis.system.airs[index]
    found: list[tuple[str, Edit]] = []
    if air.id in analysis.airs:
        plan = plan_air(analysis, index)
        edit = valves_edit(index, air, plan)
        label = (
            "Set all valves to what each wants"
            if plan.share >= 1
            else f"Share out what there is: {100 * plan.share:.0f} % of what each wants"
        )
        found.append((label, edit))
        opened = tuple(
            Change(("airs", index, "drops", i, "opening"), 1.0) for i, d in enumerate(air.drops) if d.opening < 1
        )
        if opened:
            found.append(("Open all valves", Edit("Open all air valves", opened)))
        wish = sum(air_wishes(analysis, index).values())
        deepest = max(analysis.running.level[d.lift.a] - d.lift.injector for d in analysis.airs[air.id].supply.drops)
        better = pump_for(wish, deepest)
        if (better.max_flow, better.max_pressure) != (air.pump.max_flow, air.pump.max_pressure):
            found.append((f"Take a pump of the class that fits: {better.name.lower()}",
                          Edit("Change air pump", (Change(("airs", index, "pump"), better),))))  # fmt: skip
    kept = tuple(a for k, a in enumerate(analysis.system.airs) if k != index)
    found.append(("Take the air pump out", Edit("Take out air pump", (Change(("airs",), kept),))))
    return tuple(found)


def valves_edit(index: int, air: AirSupplySpec, plan: AirPlan) -> Edit:
    """The edit that sets a plan's openings."""
    changes = tuple(
        Change(("airs", index, "drops", i, "opening"), plan.openings[d.to])
        for i, d in enumerate(air.drops)
        if d.to in plan.openings
    )
    return Edit("Set air valves", changes)
