"""What filters inside a tank show: choices, readings, findings, parts, drawing."""

from __future__ import annotations

import math
from collections.abc import Iterable

from fuente.devices.base import Change, Choice, Edit, Finding, Path, Rank, Reading
from fuente.devices.filtering import FilterSpec, Site, choices_of, clogged
from fuente.devices.pieces import ELECTRIC, Parts, Pipe, note
from fuente.devices.pocket import (
    AIR_CAUTION,
    PocketSpec,
    air_of,
    best_of,
    drop_of,
    flow_of,
    oxygen_of,
)
from fuente.devices.pumping import pump_choices, pump_piece
from fuente.network.model import Solution
from fuente.one_line import within


def headline(spec: FilterSpec, solution: Solution) -> tuple[str, dict[str, float]]:
    """The row's number: its flow, and its air where it has some."""
    air = air_of(spec, solution)
    flow = flow_of(spec, solution)
    if air > 0:
        return "{flow:flow} on {air:air_flow} of air", {"flow": flow, "air": air}
    return "{flow:flow}", {"flow": flow}


def drive_choices(spec: PocketSpec, path: Path) -> tuple[Choice, ...]:
    """What moves its water, and where it goes in and out."""
    if spec.drive == "air":
        return choices_of(spec, path, "drive bore outlet", "tubes injector at dirt name")
    front, folded = pump_choices(spec.pump, (*path, "pump"))
    own = choices_of(spec, path, "drive outlet", "at dirt name")
    return (*own[:2], *front, *own[2:], *folded[:3])


def pocket_readings(spec: PocketSpec, site: Site, solution: Solution, what: str) -> tuple[Reading, ...]:
    """Level difference, air, best air, oxygen, turnover: what every one of them shows."""
    flow = flow_of(spec, solution)
    volume = solution.volume[site.tank.id]
    found = [
        Reading(
            "Water inside stands lower by",
            max(drop_of(spec, site, solution), 0.0),
            "fine_length",
            f"What {what} takes of the head. It is the gauge of how dirty it is: write it down.",
            "Darcy–Forchheimer, holes C = 0.62",
            "±30 %",
        ),
        Reading("Turnover by it", flow / volume if volume else 0.0, "per_hour", "Its flow over the tank's water."),
    ]
    if spec.drive == "air":
        air, best = air_of(spec, solution), best_of(spec, site, solution)
        found.append(
            Reading(
                "Air it gets", air, "air_flow", "From the network of the air pump, manifold and drops.", "", "±20 %"
            )
        )
        if not math.isnan(best):
            why = "Beyond it more air lifts less; half of it lifts nearly as much."
            found.append(Reading("Air that lifts most", best, "air_flow", why, "Stenning and Martin 1968", "±25 %"))
        if air > 0:
            brought = oxygen_of(air, solution.level[site.tank.id] - site.tank.floor - spec.injector)
            why = (
                "A share of 2 % of the oxygen in coarse bubbles for each metre of depth, when the water lacks most"
                " of it."
            )
            found.append(
                Reading("Oxygen that its air can bring", brought, "feed", why, "typical transfer", "a factor of two")
            )
    return tuple(found)


def judge_pocket(spec: PocketSpec, site: Site, solution: Solution, path: Path) -> tuple[Finding, ...]:
    """No air, no flow, too much air, a mouth that does not suit, a clogged bed."""
    depth = solution.level[site.tank.id] - site.tank.floor
    found = [*_still(spec, site, solution)]
    if spec.drive == "air":
        found += _aired(spec, site, solution, path)
        if spec.outlet > depth + 0.12:
            found.append(
                _lower(spec, path, depth, "Its lift ends {over:level} over the water: it pumps little and splashes.")
            )
        found += _air_entry(spec, path, depth)
    elif spec.outlet > depth + 0.3:
        found.append(_lower(spec, path, depth, "It lets its water fall {over:level}: that splashes."))
    return (*found, *clogged(spec, path))


def _still(spec: PocketSpec, site: Site, solution: Solution) -> Iterable[Finding]:
    """Driven, and yet nothing flows."""
    blown = spec.drive == "air" and spec.id in site.drops and air_of(spec, solution) > 1e-9
    if flow_of(spec, solution) < 1e-9 and (blown or spec.drive == "pump"):
        yield Finding(
            "filter-still",
            Rank.STOP,
            f"Nothing flows through {within(spec.name)}.",
            "Its mouth stands too high over the water for this air or this pump, or its intake is shut. What lives"
            " in it dies within hours.",
            spec.id,
        )


def _aired(spec: PocketSpec, site: Site, solution: Solution, path: Path) -> Iterable[Finding]:
    """No line, no air in it, or more than lifts most."""
    air = air_of(spec, solution)
    if spec.id not in site.drops:
        yield Finding(
            "no-air",
            Rank.STOP,
            f"No air line leads to {within(spec.name)}.",
            "Without air its water stands still, and what lives in it dies within hours. Add a drop to an air pump.",
            spec.id,
        )
    elif air <= 1e-9:
        yield starved(spec)
    best = best_of(spec, site, solution)
    if not math.isnan(best) and air > 1.3 * best:
        yield Finding(
            "too-much-air",
            Rank.CONSIDER,
            f"{spec.name} gets {{air:air_flow}}; {{best:air_flow}} lifts most.",
            "Past the best air more air lifts less water and makes more noise. Turn its valve down, or use a wider"
            " tube.",
            spec.id,
            {"air": air, "best": best, "opening": site.drops[spec.id].valve_k},
            "Wider tube",
            Edit("Widen lift tube", (Change((*path, "bore"), round(min(spec.bore * 1.25, 0.11), 4)),)),
            best - air,
        )


def starved(spec: FilterSpec) -> Finding:
    """A line in which nothing comes."""
    return Finding(
        "air-starved",
        Rank.STOP,
        f"{spec.name} gets no air.",
        "Its line is deeper than the pump pushes, or other drops take all. Look at the air pump's card.",
        spec.id,
    )


def _air_entry(spec: PocketSpec, path: Path, depth: float) -> Iterable[Finding]:
    """Air that enters too near the surface; depth m is the tank's water."""
    if spec.injector > 0.6 * depth:
        yield Finding(
            "air-shallow",
            Rank.CONSIDER,
            f"Air enters {within(spec.name)} only {{deep:level}} under water.",
            "The deeper the air enters, the more it lifts, up to what the air pump can push.",
            spec.id,
            {"deep": depth - spec.injector},
            "Lower the air",
            Edit("Lower air entry", (Change((*path, "injector"), round(max(0.1 * depth, 0.01), 3)),)),
        )


def _lower(spec: PocketSpec, path: Path, depth: float, words: str) -> Finding:
    return Finding(
        "outlet-high",
        Rank.CONSIDER,
        words,
        "A mouth at the waterline moves most and is quiet.",
        spec.id,
        {"over": spec.outlet - depth},
        "Lower the mouth",
        Edit("Lower the mouth", (Change((*path, "outlet"), round(max(depth, spec.injector + 0.03), 3)),)),
    )


def pocket_parts(spec: PocketSpec, site: Site) -> Parts:
    """Lift tubes, or pump and hose."""
    if spec.drive == "air":
        tube = Pipe(
            id=f"{spec.id}.tube",
            form="Rigid tube",
            bore=spec.bore,
            count=spec.tubes,
            length=max(spec.outlet - spec.injector, 0.0),
            exact=True,
            notes=(note("lift tube; smooth end, air enters at its foot"),),
        )
        return Parts((tube,), (AIR_CAUTION,))
    pump = pump_piece(f"{spec.id}.pump", spec.pump, note("hide its cable and leave a drip loop"))
    hose = Pipe(
        id=f"{spec.id}.hose",
        form="Hose",
        pipe=spec.hose,
        length=max(spec.outlet, 0.05),
        exact=True,
        notes=(note("from pump to mouth"),),
    )
    return Parts((pump, hose), (ELECTRIC,))
