"""Filters inside a tank: a pocket of water behind a resistance, emptied by lift tubes on air or by a small pump.

What sponge, bottle, ornament, foam wall and under-gravel plate share; each kind adds its own body.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from typing import Any, Literal

from pydantic import Field

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Fragment, Outline, measured, picked
from fuente.devices.filtering import FilterSpec, Site, counted
from fuente.devices.pumping import BACKWARDS_K, PumpSpec, pump_curve
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.network.aeration import Lift, best_share, modest_share
from fuente.network.beds import Bed, Resistance
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Law, Link, Solution, WayKind
from fuente.network.returning import Outlet, ReturnLine

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
    dirt: float = measured(1.0, "number", "Clogging (× clean loss)", 1.0, 500.0, "1 is clean.", step=1.0)

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """What it walls off of its tank: as wide as it is long, unless its kind knows better."""
        return self._within(site, self.long)

    def _within(self, site: Site, width: float, shape: str = "box") -> tuple[Outline, ...]:
        """An outline in its tank, of a width in m from the back."""
        tank = site.tank
        x0, x1 = self.span_inside
        left = tank.offset + tank.thickness + x0
        return (Outline(self.name, left, tank.thickness, x1 - x0, width, tank.floor, shape, inside=True),)

    @property
    def draws(self) -> float:
        """Its pump's, where none blows air into it."""
        return 0.0 if self.on_air else self.pump.watts

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


def all_in(surface: Callable[[Any, Site], float]) -> Callable[[Any, Site], tuple[tuple[str, float], ...]]:
    """Living surface by cell, of a filter whose media all stand in its pocket's water."""
    return lambda spec, site: ((cell_id(spec), surface(spec, site)),)


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
    in its tubes alone. ``solids`` m³ is what of the body is neither water of the pocket nor of the tank, over the body
    or over ``solids_span``. A ``bubbly_bore`` makes the body itself the lift.
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
