"""Filters inside a tank: a pocket of water behind a resistance, emptied by lift tubes on air or by a small pump.

What sponge, bottle, ornament, foam wall and under-gravel plate share; each kind adds its own body.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from typing import Literal

from pydantic import Field

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Change, Choice, Edit, Finding, Fragment, Part, Parts, Path, Rank, Reading, measured
from fuente.devices.filtering import FilterSpec, Site, choices_of, clogged, counted, picked
from fuente.devices.pumping import BACKWARDS_K, PumpSpec, pump_choices, pump_curve
from fuente.drawing.primitives import Circle, Drawing, Handle, Polyline, Primitive, box
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.network.aeration import Lift, best_share, modest_share
from fuente.network.beds import Bed, Resistance
from fuente.network.laws import Outlet, ReturnLine
from fuente.network.model import Cell, Law, LevelCurve, Link, Solution, WayKind

ELECTRIC = (
    "Electricity near water: residual-current protection, drip loops; local codes and a licensed electrician decide."
)
AIR_CAUTION = "Set an air pump above the water or fit a check valve: when it stops, water siphons back down its line."
_CORE = 4e-4  # m², the least plan of a pocket
DRIVES = {"air": "air", "pump": "a pump"}
SMALL_PUMP = PumpSpec(name="Small pump", max_head=0.8, max_flow=500e-3 / 3600, watts=5)


class PocketSpec(FilterSpec):
    """What all filters inside a tank have: where they stand, and what moves their water."""

    at: float = measured(0.03, "length", "From the tank's left wall", 0.0, 10.0, step=0.01)
    drive: Literal["air", "pump"] = picked("air", "Driven by", DRIVES)
    tubes: int = counted(1, "Lift tubes", 1, 12)
    bore: float = measured(0.02, "fine_length", "Lift tube's bore", 0.006, 0.11, step=0.002)
    injector: float = measured(0.03, "length", "Air enters above the tank's floor", 0.0, 3.0, step=0.01)
    outlet: float = measured(0.28, "length", "Water leaves above the tank's floor", 0.02, 3.2, step=0.005)
    pump: PumpSpec = SMALL_PUMP
    hose: str = Field("hose-16", description="Hose from the pump, an id of the catalogue.")
    dirt: float = measured(1.0, "number", "Times its clean loss", 1.0, 500.0, "1 is clean.", step=1.0)

    @property
    def on_air(self) -> bool:
        """Unless a pump drives it."""
        return self.drive == "air"

    @property
    def air_tube(self) -> float:
        """Its lift's."""
        return self.bore

    @property
    def long(self) -> float:
        """Room along the tank, m."""
        return 0.1

    @property
    def span_inside(self) -> tuple[float, float]:
        """From where it stands on."""
        return self.at, self.at + self.long


def cell_id(spec: FilterSpec) -> str:
    """Id of the pocket's cell."""
    return f"{spec.id}.in"


def bed_id(spec: FilterSpec) -> str:
    """Id of the way into it."""
    return f"{spec.id}.bed"


def out_id(spec: FilterSpec) -> str:
    """Id of the way out of it."""
    return f"{spec.id}.out"


def pocket(
    spec: PocketSpec,
    site: Site,
    body: tuple[float, float],
    plan: float,
    soft: Resistance,
    hard: Resistance = Resistance(),
    *,
    open_top: bool = False,
    source: str = "",
    solids: float = 0.0,
    solids_span: tuple[float, float] | None = None,
    bubbly_bore: float = 0.0,
    lift_k: float = 0.5,
    holes_height: float = 0.0,
) -> Fragment:
    """The pocket's cell, its bed from the tank (or from ``source``), and its lift or pump back.

    ``body`` is its foot and top above the tank's floor in m, ``plan`` its free water area in m²; a closed pocket rises
    in its
    tubes alone. ``solids`` m³ is what of the body is neither water of the pocket nor of the tank, over the body or
    over ``solids_span``. A ``bubbly_bore`` makes
    the body itself the lift.
    """
    tank = site.tank
    foot, top = tank.floor + body[0], tank.floor + body[1]
    if body[1] <= body[0]:
        raise SpecError(f"{spec.name} has no height.")
    if spec.outlet > tank.inner_height + 0.3:
        raise SpecError(f"{spec.name} lets its water go more than 300 mm above the tank's rim.")
    plan = max(plan, _CORE)
    thin = max(spec.tubes * math.pi / 4 * spec.bore**2, _CORE)
    end = max(tank.rim, tank.floor + spec.outlet) + 0.5
    if open_top or top >= tank.rim - 1e-6:
        curve = LevelCurve.prism(foot, end, plan)
    else:
        curve = LevelCurve(
            (foot, top, end), (0.0, plan * (top - foot), plan * (top - foot) + min(thin, plan) * (end - top))
        )
    owner = spec.id
    cell = Cell(cell_id(spec), spec.name, foot, tank.rim, curve, owner=owner)
    height = max(holes_height or body[1] - body[0], 0.005)
    law = Bed(foot, height, soft, hard, spec.dirt)
    links = [Link(bed_id(spec), f"Into {spec.name}", source or tank.id, cell.id, law, WayKind.PAD, owner)]
    more, lifts = driven(spec, site, cell.id, foot, lift_k, bubbly_bore)
    links += more
    taken = max(plan * (min(top, tank.rim) - foot) if not open_top else plan * (tank.rim - foot), 0.0)
    displaced = [(tank.id, foot, min(top, tank.rim) if not open_top else tank.rim, taken)]
    if solids > 0:
        low, high = solids_span or body
        displaced.append((tank.id, tank.floor + low, min(tank.floor + high, tank.rim), solids))
    return Fragment((cell,), tuple(links), {"in": cell.id}, {}, lifts, tuple(displaced))


def driven(
    spec: PocketSpec, site: Site, cell: str, foot: float, lift_k: float = 0.5, bubbly_bore: float = 0.0
) -> tuple[tuple[Link, ...], tuple[Lift, ...]]:
    """What moves the water of a cell, whose floor is at ``foot`` m, back into the tank: a pump's link, or tubes for
    air.
    """
    tank = site.tank
    if spec.drive == "pump":
        law = _pumped(spec, site, foot)
        return (Link(out_id(spec), f"Pump of {spec.name}", cell, tank.id, law, WayKind.INNER_PUMP, spec.id),), ()
    injector, outlet = tank.floor + spec.injector, tank.floor + spec.outlet
    if outlet <= injector + 0.01:
        raise SpecError(f"{spec.name}: the air enters above where the water leaves.")
    wide = bubbly_bore > 0
    made = Lift(
        out_id(spec),
        f"Lift of {spec.name}",
        cell,
        tank.id,
        injector,
        outlet,
        bubbly_bore or spec.bore,
        0.0 if wide else lift_k,
        wide,
        spec.tubes,
        spec.id,
    )
    return (), (made,)


def _pumped(spec: PocketSpec, site: Site, foot: float) -> Law:
    size = pipe_size(spec.hose)
    rise = max(spec.outlet - (foot - site.tank.floor), 0.05)
    pipe = Pipe(size.bore, rise + 0.1, fitting("elbow").k, size.roughness, site.water)
    outlet = site.tank.floor + spec.outlet
    end = Outlet(outlet, max(outlet, foot), size.bore, 1.0)
    return ReturnLine(pump_curve(spec.pump), pipe, (end,), foot + 0.02, leak=1.0, pump_k=BACKWARDS_K, valve=False)


def flow_of(spec: FilterSpec, solution: Solution) -> float:
    """Water through it, m³/s."""
    return solution.flow.get(out_id(spec), 0.0)


def air_of(spec: FilterSpec, solution: Solution) -> float:
    """Air into it at the room's pressure, m³/s."""
    found = [q for key, q in solution.flow.items() if key.endswith(f".{out_id(spec)}")]
    return found[0] if found else 0.0


def drop_of(spec: FilterSpec, site: Site, solution: Solution) -> float:
    """How far the water inside stands under the tank's, m."""
    return solution.level[site.tank.id] - solution.level[cell_id(spec)]


def lift_of(spec: FilterSpec, solution: Solution) -> Lift | None:
    """Its lift in a solution's network."""
    for group in solution.network.groups:
        lifts: Sequence[Lift] = getattr(group, "lifts", ())
        for lift in lifts:
            if lift.id == out_id(spec):
                return lift
    return None


def best_of(spec: PocketSpec, site: Site, solution: Solution) -> float:
    """Air in m³/s at which its lift moves most; not a number where that says nothing."""
    lift = lift_of(spec, solution)
    if lift is None or lift.bubbly or spec.drive != "air":
        return math.nan
    return best_share(lift, solution.level[cell_id(spec)])


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


def modest_air(spec: PocketSpec, site: Site) -> float:
    """Air in m³/s that a lift wants: what lifts 70 % of the most; twice as much air would add little but noise."""
    made = Lift(
        "", "", "", "", site.tank.floor + spec.injector, site.tank.floor + spec.outlet, spec.bore, 0.5, count=spec.tubes
    )
    return modest_share(made, min(site.level, site.tank.floor + spec.outlet) - 0.005)


def oxygen_of(air: float, depth: float) -> float:
    """Oxygen in kg/s that coarse bubbles bring into water that lacks it: 2 % of their oxygen a metre of depth.

    air m³/s, depth m; 0.28 kg of oxygen in a m³ of air. Typical of coarse bubbles, a factor of two.
    """
    return 0.02 * 0.28 * air * max(depth, 0.0)


def drive_choices(spec: PocketSpec, path: Path) -> tuple[Choice, ...]:
    """What moves its water, and where it goes in and out."""
    if spec.drive == "air":
        return choices_of(spec, path, "drive bore outlet", "tubes injector at dirt name")
    front, folded = pump_choices(spec.pump, (*path, "pump"))
    own = choices_of(spec, path, "drive outlet", "at dirt name")
    return (*own[:2], *front, *own[2:], *folded[:3])


def judge_pocket(spec: PocketSpec, site: Site, solution: Solution, path: Path) -> tuple[Finding, ...]:
    """No air, no flow, too much air, a mouth that does not suit, a clogged bed."""
    found: list[Finding] = []
    flow = flow_of(spec, solution)
    depth = solution.level[site.tank.id] - site.tank.floor
    blown = spec.drive == "air" and spec.id in site.drops and air_of(spec, solution) > 1e-9
    if flow < 1e-9 and (blown or spec.drive == "pump"):
        found.append(
            Finding(
                "filter-still",
                Rank.STOP,
                f"Nothing flows through {spec.name.lower()}.",
                "Its mouth stands too high over the water for this air or this pump, or its intake is shut. What lives"
                " in it dies within hours.",
                spec.id,
            )
        )
    if spec.drive == "air":
        if spec.id not in site.drops:
            found.append(
                Finding(
                    "no-air",
                    Rank.STOP,
                    f"No air line leads to {spec.name.lower()}.",
                    "Without air its water stands still, and what lives in it dies within hours. Add a drop to an air"
                    " pump.",
                    spec.id,
                )
            )
        elif air_of(spec, solution) <= 1e-9:
            found.append(
                Finding(
                    "air-starved",
                    Rank.STOP,
                    f"{spec.name} gets no air.",
                    "Its line is deeper than the pump pushes, or other drops take all. Look at the air pump's card.",
                    spec.id,
                )
            )
        best = best_of(spec, site, solution)
        air = air_of(spec, solution)
        if not math.isnan(best) and air > 1.3 * best:
            opening = site.drops[spec.id]
            found.append(
                Finding(
                    "too-much-air",
                    Rank.CONSIDER,
                    f"{spec.name} gets {{air:air_flow}}; {{best:air_flow}} lifts most.",
                    "Past the best air more air lifts less water and makes more noise. Turn its valve down, or use a"
                    " wider tube.",
                    spec.id,
                    {"air": air, "best": best, "opening": opening.valve_k},
                    "Wider tube",
                    Edit("Widen lift tube", (Change((*path, "bore"), round(min(spec.bore * 1.25, 0.11), 4)),)),
                    best - air,
                )
            )
        if spec.outlet > depth + 0.12:
            found.append(
                _lower(spec, path, depth, "Its lift ends {over:length} over the water: it pumps little and splashes.")
            )
        sunk = spec.injector
        if sunk > 0.6 * depth:
            better = round(max(0.1 * depth, 0.01), 3)
            found.append(
                Finding(
                    "air-shallow",
                    Rank.CONSIDER,
                    f"Air enters {spec.name.lower()} only {{deep:length}} under water.",
                    "The deeper the air enters, the more it lifts, up to what the air pump can push.",
                    spec.id,
                    {"deep": depth - sunk},
                    "Lower the air",
                    Edit("Lower air entry", (Change((*path, "injector"), better),)),
                )
            )
    elif spec.outlet > depth + 0.3:
        found.append(_lower(spec, path, depth, "It lets its water fall {over:length}: that splashes."))
    found += clogged(spec, path)
    return tuple(found)


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
        length = max(spec.outlet - spec.injector, 0.0)
        return Parts(
            (),
            (
                Part(
                    f"{spec.id}.tube",
                    f"Rigid tube, {spec.bore * 1000:.0f} mm bore",
                    spec.tubes,
                    "piece",
                    "Pipe",
                    "{l:length}",
                    "lift tube; smooth end, air enters at its foot",
                    {"l": length},
                ),
            ),
            (AIR_CAUTION,),
        )
    size = pipe_size(spec.hose)
    note = f"{spec.pump.watts:.0f} W; hide its cable and leave a drip loop"
    return Parts(
        (),
        (
            Part(
                f"{spec.id}.pump",
                spec.pump.name,
                1,
                "piece",
                "Equipment",
                "{h:head} at no flow, {q:flow} at no head",
                note,
                {"h": spec.pump.max_head, "q": spec.pump.max_flow},
            ),
            Part(
                f"{spec.id}.hose",
                f"Hose, {size.name}",
                1,
                "piece",
                "Pipe",
                "{l:length}",
                "from pump to mouth",
                {"l": max(spec.outlet, 0.05)},
            ),
        ),
        (ELECTRIC,),
    )


# -- drawing ------------------------------------------------------------------------------------------------------


def x_of(spec: PocketSpec, site: Site) -> float:
    """Its left edge in the drawing, mm."""
    return (site.tank.offset + site.tank.thickness + spec.at) * 1000


def y_of(site: Site, height: float) -> float:
    """A height over the tank's floor in the drawing, mm."""
    return (site.tank.floor + height) * 1000


def inside_water(
    spec: FilterSpec, site: Site, solution: Solution, x0: float, x1: float, low: float, top: float
) -> list[Primitive]:
    """The pocket's water between two x in mm and from ``low`` m up, at most to ``top`` m above the tank's floor."""
    level = min(solution.level[cell_id(spec)], site.tank.floor + top) * 1000
    foot = y_of(site, low)
    if level <= foot + 0.5:
        return []
    return [box(x0, foot, x1, level, "water", spec.id), Polyline(((x0, level), (x1, level)), "surface", spec.id)]


def bubbles(
    x: float, low: float, high: float, wide: float, owner: str, lively: bool, most: int = 14
) -> list[Primitive]:
    """Air rising in a tube of a width in mm between two heights; a fixed pattern that does not jump."""
    if not lively or high - low < 12:
        return []
    count = max(3, min(most, int((high - low) / 22)))
    size = max(min(wide * 0.28, 9.0), 1.6)
    return [
        Circle(
            (x + wide * (0.25 + 0.5 * ((k * 0.7548776662) % 1) - 0.5), low + (k + 0.5) / count * (high - low)),
            size * (0.6 + 0.4 * ((k * 0.5698402909) % 1)),
            "bubble",
            owner,
        )
        for k in range(count)
    ]


def tube_sketch(spec: PocketSpec, site: Site, solution: Solution, x: float, path: Path) -> Drawing:
    """The lift tube, or the pump's hose, standing at x mm, with handles on its mouth and on the air's entry."""
    flow = flow_of(spec, solution)
    top = y_of(site, spec.outlet)
    foot = y_of(site, spec.injector)
    owner = spec.id
    mouth = Handle(
        (x, top),
        "y",
        (*path, "outlet"),
        spec.outlet,
        spec.injector + 0.02,
        site.tank.inner_height + 0.25,
        f"mouth of {spec.name.lower()}",
        "mouth",
        owner=owner,
    )
    if spec.drive == "pump":
        wide = pipe_size(spec.hose).outside * 1000
        style = "pipe-pumped" if flow > 5e-7 else "pipe-still"
        size = 22.0
        shapes: list[Primitive] = [
            Polyline(((x, foot + size), (x, top), (x + 2.2 * wide, top)), style, owner, wide),
            Circle((x, foot + size / 2), size * 0.75, "pump", owner),
        ]
        return Drawing(tuple(shapes), (mouth,))
    wide = spec.bore * 1000
    lively = air_of(spec, solution) > 1e-9
    shapes = [
        box(x - wide / 2 - 1.5, foot, x + wide / 2 + 1.5, top, "tube", owner),
        *bubbles(x, foot, top - wide * 0.3, wide, owner, lively),
    ]
    entry = Handle(
        (x, foot),
        "y",
        (*path, "injector"),
        spec.injector,
        0.0,
        max(spec.outlet - 0.02, 0.01),
        f"air entry of {spec.name.lower()}",
        "air entry",
        owner=owner,
    )
    return Drawing(tuple(shapes), (mouth, entry))


def headline(spec: FilterSpec, solution: Solution) -> tuple[str, dict[str, float]]:
    """The row's number: its flow, and its air where it has some."""
    air = air_of(spec, solution)
    flow = flow_of(spec, solution)
    if air > 0:
        return "{flow:flow} on {air:air_flow} of air", {"flow": flow, "air": air}
    return "{flow:flow}", {"flow": flow}
