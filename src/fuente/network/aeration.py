"""Air as a network beside the water: a pump, its manifold, the drops, and the tubes that the air lifts water in.

Air pipes are solved by the same gradient method as water's, in metres of air; each drop pushes against the water over
its injector, and what comes out lifts water by the tube's own balance. So who gets how much follows the water, and the
water the air, in one Newton.
"""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property, lru_cache

import numpy as np

from fuente.hydraulics.air import AIR_DENSITY, AIR_VISCOSITY, OPEN_K
from fuente.hydraulics.airlift import FEW, LiftTubes, airlift_flow, best_air
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.pumps import PumpCurve
from fuente.network.duct import Duct, PumpDuct, Spout
from fuente.network.ducts import Ducts, Scratch
from fuente.network.model import NOTHING, Way, WayKind
from fuente.water.properties import GRAVITY, Water

AIR = Water(AIR_DENSITY, AIR_VISCOSITY)  # as a fluid for pipes
METRE = AIR_DENSITY * GRAVITY  # Pa of a metre of air
ATMOSPHERE = 101325.0
_TRACE = 1e-8  # m³/s of air where none is known to flow: a first guess must move
_FAR = 1e9
_DRIES = 0.003  # m of water over an outlet under which what falls back grows less


@dataclass(frozen=True)
class Lift:
    """Equal tubes that lift water from cell a to cell b on one drop's air; elevations in m, bore in m.

    ``k`` is extra loss on the bore; bubbly tubes are wide with fine bubbles. A ``count`` of 0 only bubbles in cell a.
    ``yields`` is the share of what the tubes lift by the model.
    """

    id: str
    name: str
    a: str
    b: str
    injector: float
    outlet: float
    bore: float
    k: float = 0.0
    bubbly: bool = False
    count: int = 1
    owner: str = ""
    yields: float = 1.0


@dataclass(frozen=True)
class AirDrop:
    """A line from the manifold to a lift: length and bore in m, its valve's loss, what its diffuser holds back in Pa.

    ``spacing`` is the manifold's length in m before its tap. ``shut`` closes the valve.
    """

    lift: Lift
    length: float = 1.5
    bore: float = 0.004
    valve_k: float = 0.0
    diffuser: float = 0.0
    spacing: float = 0.3
    shut: bool = False


@dataclass(frozen=True)
class AirSupply:
    """A pump with (flow m³/s, pressure Pa) points, and its manifold's bore in m. ``speed`` wears its pressure."""

    id: str
    name: str
    points: tuple[tuple[float, float], ...]
    manifold_bore: float
    drops: tuple[AirDrop, ...]
    on: bool = True
    wear: float = 1.0
    water: Water = AIR  # the water that is lifted: density and viscosity


class Aeration:
    """See network.model.Group: the lifts as ways of water, and each drop's air as a way of kind "air"."""

    forks = False  # each lift's water has one way to go

    def __init__(self, supply: AirSupply, loose: Sequence[Lift] = ()):
        """``loose`` are lifts that no drop reaches: open tubes."""
        self.supply = supply
        self.lifts = tuple(d.lift for d in supply.drops) + tuple(loose)
        self.cells = tuple(dict.fromkeys(c for lift in self.lifts for c in (lift.a, lift.b)))
        self.pairs = tuple((lift.a, lift.b) for lift in self.lifts if lift.count)
        at = {c: i for i, c in enumerate(self.cells)}
        self._a = np.array([at[lift.a] for lift in self.lifts], dtype=int)
        self._b = np.array([at[lift.b] for lift in self.lifts], dtype=int)
        self._injector = np.array([lift.injector for lift in self.lifts])
        self._outlet = np.array([lift.outlet for lift in self.lifts])
        self._count = np.array([float(lift.count) for lift in self.lifts])
        self._yields = np.array([lift.count * lift.yields for lift in self.lifts])
        self._tubes = LiftTubes(
            np.array([lift.bore for lift in self.lifts]),
            np.maximum(self._outlet - self._injector, 0.01),
            np.array([lift.k for lift in self.lifts]),
            np.array([lift.bubbly for lift in self.lifts]),
            supply.water.kinematic,
        )

    @cached_property
    def _pipes(self) -> Ducts | None:
        """The air's own pipes; None where nothing is blown."""
        supply = self.supply
        if not supply.on or not supply.drops:
            return None
        curve = PumpCurve.from_points(tuple((q, p * supply.wear / METRE) for q, p in supply.points))
        bore = supply.manifold_bore
        ducts: list[Duct] = [
            PumpDuct(
                "air",
                "Air pump",
                "room",
                "tap.0",
                Pipe(bore, max(supply.drops[0].spacing, 0.05), 1.0, 1.5e-6, AIR),
                curve=curve,
                intake=-_FAR,
                leak=0.0,
            )
        ]
        for i, drop in enumerate(supply.drops):
            if i:
                pipe = Pipe(bore, max(drop.spacing, 0.01), 0.3, 1.5e-6, AIR)
                ducts.append(Duct(f"main.{i}", "Manifold", f"tap.{i - 1}", f"tap.{i}", pipe))
            line = Pipe(drop.bore, max(drop.length, 0.02), OPEN_K + drop.valve_k, 1.5e-6, AIR)
            ducts.append(
                Spout(f"drop.{i}", "Drop", f"tap.{i}", f"end.{i}", line, mouth=-_FAR, breaks_at=_FAR, shut=drop.shut)
            )
        return Ducts(ducts, ["room", *(f"end.{i}" for i in range(len(supply.drops)))])

    @cached_property
    def _places(self) -> tuple[int, list[int], list[int]]:
        """In the air's pipes: the pump's way, the drops' ways, and the drops' ports."""
        pipes = self._pipes
        assert pipes is not None
        ids = [d.id for d in pipes.ducts]
        n = len(self.supply.drops)
        return (
            ids.index("air"),
            [ids.index(f"drop.{i}") for i in range(n)],
            [pipes.cells.index(f"end.{i}") for i in range(n)],
        )

    @cached_property
    def ways(self) -> tuple[Way, ...]:
        """Lifts first, then the air of each drop."""
        lifts = tuple(Way(lift.id, lift.name, lift.a, lift.b, WayKind.LIFT, lift.owner) for lift in self.lifts)
        own = self.supply.id
        return lifts + tuple(Way(f"{own}.{lift.id}", "Air", own, "", WayKind.AIR, own) for lift in self.lifts)

    def changed(self, **change: object) -> Aeration:
        """The same with other fields of the supply."""
        loose = self.lifts[len(self.supply.drops) :]
        return Aeration(replace(self.supply, **change), loose)  # type: ignore[arg-type]

    def scratch(self, flows: Mapping[str, float] = NOTHING) -> Scratch | None:
        """See network.model.Group; the air's own pipes are what is solved."""
        pipes = self._pipes
        if pipes is None:
            return None
        scratch = pipes.scratch()
        if flows:
            blown = [flows.get(f"{self.supply.id}.{drop.lift.id}", 0.0) for drop in self.supply.drops]
            if any(blown):
                scratch.flow = self._in_pipes([max(q, _TRACE) for q in blown])
        return scratch

    def _in_pipes(self, blown: list[float]) -> np.ndarray:
        """Flows in m³/s of the air's pipes, from what each drop takes: the pump's, then each piece of the manifold's
        by all drops beyond it.
        """
        pipes = self._pipes
        assert pipes is not None
        beyond = [sum(blown[i:]) for i in range(len(blown))]
        by_id = {"air": beyond[0]}
        by_id.update({f"drop.{i}": q for i, q in enumerate(blown)})
        by_id.update({f"main.{i}": q for i, q in enumerate(beyond)})
        return np.array([by_id[duct.id] for duct in pipes.ducts])

    def exchange(
        self, levels: Sequence[float], scratch: Scratch | None = None
    ) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """See network.model.Group."""
        return self._solve(np.asarray(levels, dtype=float), scratch or self.scratch())

    def air(self, levels: Sequence[float]) -> np.ndarray:
        """Air of every lift in m³/s at the room's pressure, (lifts,), at the cells' levels in m."""
        return self._blown(np.asarray(levels, dtype=float), self.scratch())[0]

    def held(self, levels: Sequence[float]) -> None:
        """Its tubes stand in the water that they lift; what runs over in them is not counted."""

    def heads(self, levels: Sequence[float], flows: Mapping[str, float] = NOTHING) -> Mapping[str, float]:
        """Pressure at the taps, in metres of water."""
        pipes = self._pipes
        if pipes is None:
            return {}
        scratch = self.scratch(flows)
        assert scratch is not None
        pipes.exchange(self._thresholds(np.asarray(levels, dtype=float))[0].tolist(), scratch)
        found = dict(zip(pipes.nodes, scratch.head.tolist(), strict=True))
        return {f"{self.supply.id}.{node}": head * METRE / (1000 * GRAVITY) for node, head in found.items()}

    def _thresholds(self, z: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """What each port of the air's pipes pushes against, m of air, and its slope by the lifting cell's level."""
        pipes = self._pipes
        assert pipes is not None
        n = len(self.supply.drops)
        weight = self.supply.water.density / AIR_DENSITY  # m of air a metre of water
        depth = z[self._a[:n]] - self._injector[:n]
        under = depth > 0
        ports = np.zeros(len(pipes.cells))
        hold = np.array([d.diffuser for d in self.supply.drops]) / METRE
        ports[self._places[2]] = weight * np.where(under, depth, 0.0) + hold
        return ports, np.where(under, weight, 0.0)

    def _blown(self, z: np.ndarray, scratch: Scratch | None) -> tuple[np.ndarray, np.ndarray]:
        """Air of every lift in m³/s at the room's pressure, and its slopes by every cell's level (lifts, cells)."""
        n, cells = len(self.supply.drops), len(self.cells)
        air, by_level = np.zeros(len(self.lifts)), np.zeros((len(self.lifts), cells))
        pipes = self._pipes
        if pipes is None:
            return air, by_level
        ports, slope = self._thresholds(z)
        _gained, by_port, flows = pipes.exchange(ports.tolist(), scratch)
        _, ways, ends = self._places
        air[:n] = np.maximum(flows[ways], 0.0)
        inner = by_port[np.ix_(ends, ends)] * slope[None, :]
        np.add.at(by_level.T[:, :n], self._a[:n], inner.T)
        return air, by_level

    def _solve(self, z: np.ndarray, scratch: Scratch | None) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        air, air_by_level = self._blown(z, scratch)
        if len(self.lifts) <= FEW:
            return self._one_by_one(z.tolist(), air, air_by_level)
        rows = np.arange(len(self.lifts))
        cells = len(self.cells)
        a, b = z[self._a], z[self._b]
        under = b > self._outlet
        submergence = a - self._injector - np.where(under, b - self._outlet, 0.0)
        wet = a > self._injector
        depth = np.maximum(a - self._injector, 0.0)
        squeeze = ATMOSPHERE / (ATMOSPHERE + self.supply.water.density * GRAVITY * depth / 2)
        tubes = np.maximum(self._count, 1.0)
        flow, by_sub, by_air = self._tubes.flow(submergence, air * squeeze / tubes)
        back = flow < 0
        stopped = (back & ~under) | (~wet & ~back) | (self._count == 0)
        # What falls back comes from over the outlet, and dries out as that does.
        fade = np.where(back & under, np.clip((b - self._outlet) / _DRIES, 0.0, 1.0), 1.0)
        fade_slope = np.where(back & under & (fade < 1), 1 / _DRIES, 0.0)
        raw = np.where(stopped, 0.0, flow * self._yields)
        by_sub = np.where(stopped, 0.0, by_sub * self._yields) * fade
        by_air = np.where(stopped, 0.0, by_air * self._yields * squeeze / tubes) * fade
        water = raw * fade
        by = by_air[:, None] * air_by_level
        by[rows, self._a] += by_sub
        by[rows, self._b] += np.where(under, -by_sub, 0.0) + raw * fade_slope
        squeeze_slope = -(squeeze**2) * self.supply.water.density * GRAVITY / (2 * ATMOSPHERE)
        by[rows, self._a] += np.where(wet, by_air * air / np.where(squeeze > 0, squeeze, 1) * squeeze_slope, 0.0)
        gained, by_port = np.zeros(cells), np.zeros((cells, cells))
        np.subtract.at(gained, self._a, water)
        np.add.at(gained, self._b, water)
        np.subtract.at(by_port, self._a, by)
        np.add.at(by_port, self._b, by)
        return gained, by_port, np.concatenate((water, air))

    def _one_by_one(
        self, z: list[float], air: np.ndarray, air_by_level: np.ndarray
    ) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """The same of a few lifts, for which plain numbers are quicker than arrays."""
        n, weight = len(self.cells), self.supply.water.density * GRAVITY / 2
        gained, by_port, water = [0.0] * n, [[0.0] * n for _ in range(n)], []
        blown, slopes = air.tolist(), air_by_level.tolist()
        for i, (lift, a, b) in enumerate(zip(self.lifts, self._a.tolist(), self._b.tolist(), strict=True)):
            head, over, tubes = z[a] - lift.injector, z[b] - lift.outlet, max(lift.count, 1)
            under = over > 0
            squeeze = ATMOSPHERE / (ATMOSPHERE + weight * max(head, 0.0))
            each = blown[i] * squeeze / tubes
            flow, by_sub, by_air = self._tubes.flow_of(i, head - over if under else head, each)
            back = flow < 0
            if not lift.count or (not under if back else head <= 0):
                water.append(0.0)
                continue
            part = lift.count * lift.yields
            by_over = 0.0
            if back and over < _DRIES:  # what falls back comes from over the outlet, and dries out as that does
                by_over = flow * part / _DRIES
                part *= over / _DRIES
            water.append(flow * part)
            by_sub, by_air = by_sub * part, by_air * part
            row = [by_air * squeeze / tubes * s for s in slopes[i]]
            row[a] += by_sub - (by_air * each * squeeze * weight / ATMOSPHERE if head > 0 else 0.0)
            row[b] += by_over - (by_sub if under else 0.0)
            gained[a] -= water[i]
            gained[b] += water[i]
            for j, by in enumerate(row):
                by_port[a][j] -= by
                by_port[b][j] += by
        return np.array(gained), np.array(by_port), np.array(water + blown)


def best_share(lift: Lift, level: float) -> float:
    """Air in m³/s, of all its tubes, at which a lift moves most water between equal levels in m."""
    length, sunk = _sunk(lift, level)
    if sunk <= 0.02 * length or not lift.count:
        return math.nan
    return lift.count * _best(round(lift.bore, 5), length, sunk, round(lift.k, 3))[0]


def modest_share(lift: Lift, level: float) -> float:
    """Air in m³/s, of all its tubes, at which a lift moves 70 % of the most that it can: quiet, and far
    from wasteful.
    """
    length, sunk = _sunk(lift, level)
    if sunk <= 0.02 * length or not lift.count:
        return 0.0
    return lift.count * _best(round(lift.bore, 5), length, sunk, round(lift.k, 3))[1]


def _sunk(lift: Lift, level: float) -> tuple[float, float]:
    """Length and submergence to the millimetre, so that alike lifts are worked out once."""
    length = round(lift.outlet - lift.injector, 3)
    return length, min(round(min(level, lift.outlet) - lift.injector, 3), length)


@lru_cache(maxsize=512)
def _best(bore: float, length: float, sunk: float, k: float) -> tuple[float, float]:
    best, most = best_air(bore, length, sunk, 0.025, k)
    low, high = 0.0, best
    for _ in range(24):
        middle = (low + high) / 2
        few = airlift_flow(bore, length, sunk, middle, 0.025, k) < 0.7 * most
        low, high = (middle, high) if few else (low, middle)
    return best, high
