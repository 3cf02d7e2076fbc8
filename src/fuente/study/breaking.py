"""The network with something broken: what a fault can change, and how the changes come together."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

from fuente.hydraulics.air import OPEN_VALVE
from fuente.hydraulics.pipes import Pipe
from fuente.network.aeration import Aeration
from fuente.network.beds import FloatedFeed, Sealed, Through
from fuente.network.duct import PumpDuct, Spout
from fuente.network.ducts import Ducts
from fuente.network.level_curve import LevelCurve
from fuente.network.model import FLOOR, Cell, Group, Law, Link, Network, Piped, WayKind
from fuente.network.returning import ReturnLine
from fuente.network.supplies import Falls, Header, Lines
from fuente.water.properties import GRAVITY

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis


BUCKET = "bucket"


AIR = "evaporated"


_BUCKET_CELL = Cell(BUCKET, "The bucket", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)


_AIR_CELL = Cell(AIR, "The room's air", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)


DIRTY = 25.0  # times the clean loss at which most builders reach for a pad; an assumption, stated on the card


@dataclass(frozen=True)
class Fault:
    """A fault of a kind at a time in s, with its amount; ``what`` names one thing that it is about, where not the
    amount does.
    """

    kind: str
    time: float = 0.0
    value: float = 1.0
    what: str = ""


@dataclass
class Broken:
    """A network as faults change it, one after the other; ``network`` is what is left of it."""

    study: Analysis
    base: Network
    powered: bool = True
    stuck: set[int] = field(default_factory=set)  # positions of pumps; -1 is all
    leak: float | None = None
    wear: float = 1.0
    off: bool = False
    floats: str = ""  # how floats stick
    still: set[int] = field(default_factory=set)  # positions of air pumps that stopped; -1 is all
    air_wear: float = 1.0
    opened: set[int] = field(default_factory=set)  # positions of drops among all, from 1; 0 is the most closed
    slipped: set[int] = field(default_factory=set)
    change: dict[str, Law | None] = field(default_factory=dict)
    moved: dict[str, Law] = field(default_factory=dict)  # by link: what now lets its water onto the floor
    extra: list[Link] = field(default_factory=list)
    cells: dict[str, Cell] = field(default_factory=dict)

    @property
    def laws(self) -> dict[str, Law]:
        """The laws that are there now, by link."""
        return {k.id: self.change.get(k.id) or k.law for k in self.base.links}

    def network(self) -> Network:
        """The network with all that is broken so far."""
        change, pumps = dict(self.change), 0
        for link in self.base.links:
            law = change.get(link.id, link.law)
            if isinstance(law, ReturnLine):
                stands = not self.powered or pumps in self.stuck or -1 in self.stuck
                pumps += 1
                share = 1.0 if not law.valve else law.leak if self.leak is None else self.leak
                curve = law.curve if self.wear == 1.0 else replace(law.curve, wear=law.curve.wear * self.wear)
                if stands or share != law.leak or curve is not law.curve:
                    change[link.id] = replace(law, on=not stands, leak=share, curve=curve)
        links = []
        for link in self.base.links:
            now = change.get(link.id, link.law)
            assert now is not None
            to = FLOOR if self.off and link.kind in (WayKind.PUMP, WayKind.FEED_PUMP) else link.b
            if link.id in self.moved:
                to, now = FLOOR, self._moved(link.id, now)
            elif to != link.b:
                now = _floor_hose(now, self.base.cell(link.b).floor)
            links.append(link if now is link.law and to == link.b else replace(link, law=now, b=to))
        more = [c for key, c in self.cells.items() if key not in self.base.index]
        return self.base.like(links=(*links, *self.extra), groups=self._groups(pumps), more=more)

    def _moved(self, key: str, now: Law) -> Law:
        """A pump's line without its hose, running, standing and worn as the pump is."""
        law = self.moved[key]
        if isinstance(law, Spouts) and isinstance(now, ReturnLine):
            return replace(law, law=replace(law.law, on=now.on, curve=now.curve))
        return law

    def _groups(self, pumps: int) -> Iterable[Group]:
        blown = drops = 0
        for g in self.base.groups:
            if isinstance(g, Ducts):
                yield _broken_ducts(g, self, pumps)
            elif isinstance(g, Aeration) and g.supply.on:
                yield _broken_air(g, self, blown, drops)
                blown, drops = blown + 1, drops + len(g.supply.drops)
            elif isinstance(g, FloatedFeed) and self.floats:
                yield g.stuck(self.floats)
            else:
                yield g


def _broken_ducts(group: Ducts, state: Broken, before: int) -> Ducts:
    """A manifold with its pumps standing or worn, or with its main hose off."""
    change: dict[str, dict[str, object]] = {}
    pumps = [d for d in group.ducts if isinstance(d, PumpDuct)]
    for n, duct in enumerate(pumps):
        stands = not state.powered or before + n in state.stuck or -1 in state.stuck
        leak = 1.0 if not duct.valve else duct.leak if state.leak is None else state.leak
        curve = replace(duct.curve, wear=duct.curve.wear * state.wear)
        if stands or leak != duct.leak or curve != duct.curve:
            change[duct.id] = {"on": not stands, "leak": leak, "curve": curve}
    made = group.changed(change) if change else group
    if not state.off:
        return made
    # The hose comes off at the manifold: what the pump lifts so far goes to the floor.
    first = pumps[0]
    low = min(d.mouth for d in group.ducts if isinstance(d, Spout)) - 0.1
    pipe = Pipe(first.pipe.bore, 0.05, 1.5, first.pipe.roughness, first.pipe.water)
    open_end = Spout("hose-off", "Hose off", first.b, FLOOR, pipe, WayKind.SPILL, first.owner, False, low, low)
    return Ducts((*made.ducts, open_end), (*group.cells, FLOOR))


def _broken_air(group: Aeration, state: Broken, position: int, before: int) -> Aeration:
    """An air pump standing or worn, a valve wide open, a line that blows into the room."""
    supply = group.supply
    on = state.powered and position not in state.still and -1 not in state.still
    drops = list(supply.drops)
    most = max(range(len(drops)), key=lambda i: drops[i].valve_k)
    for i, drop in enumerate(drops):
        number = before + i + 1
        if number in state.opened or (0 in state.opened and i == most):
            drops[i] = replace(drop, valve_k=OPEN_VALVE, shut=False)
        if number in state.slipped:  # nothing stands against it, and nothing is lifted
            gone = replace(drop.lift, injector=1e3, outlet=1e3 + 1)
            drops[i] = replace(drop, valve_k=0.0, diffuser=0.0, length=0.1, lift=gone, shut=False)
    made = tuple(drops)
    if on and state.air_wear == 1.0 and made == supply.drops:
        return group
    return group.changed(on=on, wear=supply.wear * state.air_wear, drops=made)


_SEEP_C = 0.6  # of a sharp slit


class Seep:
    """A gap of so many m² under a lid at a height in m: it loses by the pressure there; under suction it draws air, and
    loses nothing.
    """

    def __init__(self, lid: float, area: float):
        self._lid, self._c = lid, _SEEP_C * area * math.sqrt(2 * GRAVITY)

    def flow(self, a: float, b: float) -> tuple[float, float, float]:
        """m³/s by the root of the pressure, straight in its last millimetre."""
        over = a - self._lid
        if over <= 0:
            return 0.0, 0.0, 0.0
        if over < 1e-3:
            return self._c * over / math.sqrt(1e-3), self._c / math.sqrt(1e-3), 0.0
        return self._c * math.sqrt(over), 0.5 * self._c / math.sqrt(over), 0.0


class Weep:
    """A steady small loss that ends with the water."""

    def __init__(self, flow: float, floor: float):
        self._flow, self._floor = flow, floor

    def flow(self, a: float, b: float) -> tuple[float, float, float]:
        """m³/s, straight to nothing in the last 5 mm."""
        share = min(max((a - self._floor) / 0.005, 0.0), 1.0)
        return self._flow * share, self._flow / 0.005 if 0 < share < 1 else 0.0, 0.0


def _floor_hose(law: Law, height: float) -> Law:
    assert isinstance(law, ReturnLine)
    return _OntoFloor(law, height)


@dataclass(frozen=True)
class _OntoFloor(Piped):
    """A return whose hose came off near the tank: the pump sees the same rise, the water the floor."""

    law: ReturnLine
    height: float

    back = True

    def flow(self, a: float, b: float) -> tuple[float, float, float]:
        """Only downhill of the pump."""
        if not self.law.on:
            return 0.0, 0.0, 0.0
        q, by_a, _ = self.law.flow(a, self.height)
        return max(q, 0.0), by_a, 0.0

    def held(self, a: float, b: float) -> tuple[float, float, float]:
        """Its rising pipe, open at the top."""
        v, by_a, _ = self.law.held(a, self.height)
        return v, by_a, 0.0


@dataclass(frozen=True)
class Ends:
    """A line whose far end came off and hangs open at a height in m: no water holds it up there, none comes back."""

    law: Law
    height: float

    def flow(self, a: float, b: float) -> tuple[float, float, float]:
        """By the water that it comes from alone."""
        q, by_a, _ = self.law.flow(a, self.height)
        return (q, by_a, 0.0) if q > 0 else (0.0, 0.0, 0.0)


@dataclass(frozen=True)
class Spouts:
    """A pump's outlet without its hose, open at a height in m: it pushes, and where it stands water runs through it."""

    law: ReturnLine
    height: float

    def flow(self, a: float, b: float) -> tuple[float, float, float]:
        """Its own loss alone is left, backwards as forwards."""
        if self.law.on:
            q, by_a, _ = self.law.flow(a, self.height)
        else:
            pipe = self.law.pipe
            through = Pipe(pipe.bore, pipe.length, pipe.k + self.law.pump_k + 1.0, pipe.roughness, pipe.water)
            q, by_a = through.flow_and_slope(max(a - self.height, 0.0))
        return (q, by_a, 0.0) if q > 0 else (0.0, 0.0, 0.0)


def stopped(law: Law, share: float) -> Law | None:
    """The law of a pipe with a share of it blocked, 0 to 1; None where it is not a pipe."""
    if isinstance(law, Lines | Falls | Through | Sealed | Header):
        return replace(law, open_share=1.0 - share)
    return None
