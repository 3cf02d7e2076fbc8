"""Everything that can go wrong: when it applies, and how it changes the network, with an amount and a time.

A situation is a set of these, settled; the wet test the same set in time. A new one is an entry in KINDS.
"""

from __future__ import annotations

import re
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import TYPE_CHECKING

from fuente.errors import EntryError
from fuente.hydraulics.air import OPEN_VALVE
from fuente.hydraulics.pipes import Pipe
from fuente.network.aeration import Aeration
from fuente.network.beds import Bed, FloatedFeed, FloatFed, Sealed, Through
from fuente.network.ducts import Ducts, PumpDuct, Spout
from fuente.network.laws import Gap, Pad, ReturnLine, Sheet, Standpipe
from fuente.network.model import FLOOR, Cell, Group, Law, LevelCurve, Link, Network, WayKind
from fuente.network.supplies import Falls, FloatValve, Header, Lines, RimSiphon

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

    @property
    def title(self) -> str:
        """As it is shown."""
        return KINDS[self.kind].title


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
    extra: list[Link] = field(default_factory=list)
    cells: dict[str, Cell] = field(default_factory=dict)

    @property
    def laws(self) -> dict[str, Law]:
        """The laws that are there now, by link."""
        return {k.id: self.change.get(k.id) or k.law for k in self.base.links}

    def add(self, fault: Fault) -> None:
        """One fault more."""
        KINDS[fault.kind].breaks(self, fault)

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
            if to != link.b:
                now = _floor_hose(now, self.base.cell(link.b).floor)
            links.append(link if now is link.law and to == link.b else replace(link, law=now, b=to))
        more = [c for key, c in self.cells.items() if key not in self.base.index]
        return self.base.like(links=(*links, *self.extra), groups=self._groups(pumps), more=more)

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


def broken(study: Analysis, faults: Sequence[Fault], base: Network) -> Network:
    """The network with faults in force, in the order in which they happened."""
    state = Broken(study, base)
    for fault in faults:
        state.add(fault)
    return state.network()


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
class _OntoFloor:
    """A return whose hose came off near the tank: the pump sees the same rise, the water the floor."""

    law: ReturnLine
    height: float

    def flow(self, a: float, b: float) -> tuple[float, float, float]:
        """Only downhill of the pump."""
        if not self.law.on:
            return 0.0, 0.0, 0.0
        q, by_a, _ = self.law.flow(a, self.height)
        return max(q, 0.0), by_a, 0.0


# -- what each kind asks for, and what it does -------------------------------------------------------------------------


def stopped(law: Law, share: float) -> Law | None:
    """The law of a pipe with a share of it blocked, 0 to 1; None where it is not a pipe."""
    if isinstance(law, Lines | Falls | Through | Sealed | Header):
        return replace(law, open_share=1.0 - share)
    return None


def _has(study: Analysis, *laws: type) -> bool:
    return any(isinstance(k.law, laws) for k in study.whole.links)


def _moved(study: Analysis) -> bool:
    return any(k.kind is WayKind.PUMP for k in study.whole.ways)


def _many(study: Analysis) -> bool:
    return len(study.system.tanks) > 1


def _drained(study: Analysis) -> bool:
    return bool(study.drains(False))


def _aired(study: Analysis) -> bool:
    return bool(study.airs)


def _floated(study: Analysis) -> bool:
    return _has(study, FloatValve, FloatFed) or any(isinstance(g, FloatedFeed) for g in study.whole.groups)


def _blocked(state: Broken, keys: Iterable[str], share: float) -> None:
    for key in keys:
        law = state.laws[key]
        assert isinstance(law, Standpipe)
        state.change[key] = replace(law, open_share=1.0 - share)


def _power(on: bool) -> Callable[[Broken, Fault], None]:
    def breaks(state: Broken, fault: Fault) -> None:
        state.powered = on

    return breaks


def _leak(state: Broken, fault: Fault) -> None:
    state.leak = fault.value


def _drains(state: Broken, fault: Fault) -> None:
    _blocked(state, state.study.drains(False), fault.value)


def _all_drains(state: Broken, fault: Fault) -> None:
    _blocked(state, (*state.study.drains(False), *state.study.drains(True)), fault.value)


def _tank_drain(state: Broken, fault: Fault) -> None:
    tanks = state.study.system.tanks
    if round(fault.value) > len(tanks):
        raise EntryError(f"There is no tank {fault.value:g}; the system has {len(tanks)}.")
    tank = tanks[round(fault.value) - 1].id if fault.value >= 1 else state.study.most_exposed()
    _blocked(state, state.study.drains(False, tank), 1.0)


def _pipes(kinds: tuple[type, ...], but: tuple[type, ...] = ()) -> Callable[[Broken, Fault], None]:
    def breaks(state: Broken, fault: Fault) -> None:
        for key, law in state.laws.items():
            if isinstance(law, kinds) and not isinstance(law, but):
                state.change[key] = stopped(law, fault.value)

    return breaks


def _filter_pipe(state: Broken, fault: Fault) -> None:
    outs = state.study.pumped_outs()
    if round(fault.value) > len(outs):
        raise EntryError(f"There is no such filter {fault.value:g}; a pump fills {len(outs)}.")
    key = fault.what or outs[max(round(fault.value) - 1, 0)][1]
    state.change[key] = stopped(state.laws[key], 1.0)


def clean_pads(study: Analysis, dirt: float) -> dict[str, Law | None]:
    """Every pad, sock, bed and screen at so many times its clean loss, by link id."""
    found: dict[str, Law | None] = {}
    for link in study.whole.links:
        law = link.law
        if isinstance(law, Pad | Sheet):
            if law.dirt is None:  # does not clog
                continue
            found[link.id] = replace(law, medium=law.medium.dirty(dirt / law.dirt))
        elif isinstance(law, Bed | Sealed | Through) and law.soft.straight + law.soft.square > 0:
            found[link.id] = replace(law, dirt=dirt)
    return found


def _pads(state: Broken, fault: Fault) -> None:
    state.change.update(clean_pads(state.study, fault.value))


def _wear(state: Broken, fault: Fault) -> None:
    state.wear = fault.value


def _stuck(state: Broken, fault: Fault) -> None:
    state.stuck.add(round(fault.value) - 1)


def _hose(state: Broken, fault: Fault) -> None:
    state.off = True


def _room(state: Broken, fault: Fault) -> None:
    rooms = state.study.rooms()
    if round(fault.value) > len(rooms):
        raise EntryError(f"There is no chamber {fault.value:g}; there are {len(rooms)}.")
    room = next(r for r in rooms if r.id == fault.what) if fault.what else rooms[round(fault.value) - 1]
    state.cells[BUCKET] = _BUCKET_CELL
    for cell in room.cells:
        hose = Gap(state.base.cell(cell).floor, 0.05, 0.01)
        state.extra.append(Link(f"{BUCKET}.{cell}", "Hose to the bucket", cell, BUCKET, hose, WayKind.HOSE))


def _float(how: str) -> Callable[[Broken, Fault], None]:
    def breaks(state: Broken, fault: Fault) -> None:
        state.floats = how
        for key, law in state.laws.items():
            if isinstance(law, FloatValve | FloatFed):
                state.change[key] = replace(law, stuck=how)

    return breaks


def _siphon(state: Broken, fault: Fault) -> None:
    for key, law in state.laws.items():
        if isinstance(law, RimSiphon):
            state.change[key] = replace(law, primed=False)


def _air_stops(state: Broken, fault: Fault) -> None:
    state.still.add(round(fault.value) - 1)


def _air_worn(state: Broken, fault: Fault) -> None:
    state.air_wear = fault.value


def _air_drop(which: str) -> Callable[[Broken, Fault], None]:
    def breaks(state: Broken, fault: Fault) -> None:
        count = sum(len(g.supply.drops) for g in state.study.airs.values())
        if round(fault.value) > count:
            raise EntryError(f"There is no drop {fault.value:g}; the system has {count}.")
        (state.opened if which == "opened" else state.slipped).add(round(fault.value))

    return breaks


def _weep(state: Broken, fault: Fault) -> None:
    _, well = state.study.wells()[0]
    weep = Weep(fault.value * 1e-3 / 3600, state.base.cell(well.leave).floor)
    state.extra.append(Link("weep", "A joint weeps", well.leave, FLOOR, weep, WayKind.SPILL))


def _evaporates(state: Broken, fault: Fault) -> None:
    state.cells[AIR] = _AIR_CELL
    for cell in state.base.cells:
        rate = state.study.evaporation_of({cell.id}) * fault.value
        if rate > 0:
            weep = Weep(rate, cell.floor)
            state.extra.append(Link(f"{AIR}.{cell.id}", "Into the air", cell.id, AIR, weep, WayKind.HOSE))


@dataclass(frozen=True)
class FaultKind:
    """Something that can go wrong: name as scripts write it, words, what its number means, when it applies, what it
    does.

    Where it dries a pump, the wet test says so.
    """

    name: str
    title: str
    breaks: Callable[[Broken, Fault], None]
    applies: Callable[[Analysis], bool] = lambda _: True
    number: str = ""  # what the number is; empty for none
    default: float = 1.0
    low: float = 0.0
    high: float = 1.0
    dries: bool = False


KINDS: Mapping[str, FaultKind] = {
    k.name: k
    for k in (
        FaultKind("power-cut", "Power cut", _power(False)),
        FaultKind("power-return", "Power returns", _power(True)),
        FaultKind("check-valve-leak", "Check valve leaks", _leak, _moved, "share of the free back-flow"),
        FaultKind(
            "drain-block", "Block the drains", _drains, _drained, "share blocked, the emergency left open", dries=True
        ),
        FaultKind(
            "tank-drain-block",
            "Block one tank's drains",
            _tank_drain,
            _many,
            "number of the tank, 0 for the most exposed",
            0.0,
            0.0,
            400.0,
            True,
        ),
        FaultKind(
            "header-block",
            "Block the common drain",
            _pipes((Header,)),
            lambda s: _has(s, Header),
            "share blocked",
            0.5,
            dries=True,
        ),
        FaultKind(
            "join-block",
            "Block the pipes between vessels",
            _pipes((Lines, Falls, Through, Sealed)),
            lambda s: _has(s, Lines, Falls, Through, Sealed),
            "share blocked",
            dries=True,
        ),
        FaultKind(
            "filter-pipe-block",
            "Block the pipe out of a filter",
            _filter_pipe,
            lambda s: bool(s.pumped_outs()),
            "number of the filter that a pump fills, 1 for the first",
            1.0,
            1.0,
            400.0,
        ),
        FaultKind("all-drains-block", "Block every drain", _all_drains, _drained, "share blocked"),
        FaultKind(
            "pads-clog",
            "Clog the pads",
            _pads,
            lambda s: bool(clean_pads(s, 1.0)),
            "times the clean loss",
            DIRTY,
            1.0,
            2000.0,
            True,
        ),
        FaultKind(
            "pump-wear",
            "Pump wears",
            _wear,
            lambda s: _has(s, ReturnLine) or _moved(s),
            "share of its head that is left",
            0.8,
            0.05,
            1.0,
            True,
        ),
        FaultKind(
            "pump-stuck",
            "Pump sticks",
            _stuck,
            lambda s: _has(s, ReturnLine) or _moved(s),
            "number of the pump, 0 for all",
            0.0,
            0.0,
            16.0,
        ),
        FaultKind(
            "hose-off",
            "Return hose off",
            _hose,
            lambda s: any(k.kind in (WayKind.PUMP, WayKind.FEED_PUMP) for k in s.whole.ways),
        ),
        FaultKind(
            "chamber-out",
            "Pump a chamber out",
            _room,
            lambda s: bool(s.rooms()),
            "number of the chamber, 1 for the first",
            1.0,
            1.0,
            200.0,
        ),
        FaultKind("float-open", "Float sticks open", _float("open"), _floated),
        FaultKind("float-shut", "Float sticks shut", _float("shut"), _floated),
        FaultKind("siphon-lost", "Siphon over the rim breaks", _siphon, lambda s: _has(s, RimSiphon)),
        FaultKind(
            "air-stops", "Air pump stops", _air_stops, _aired, "number of the air pump, 0 for all", 0.0, 0.0, 20.0
        ),
        FaultKind(
            "air-worn",
            "Air pump's membranes tire",
            _air_worn,
            _aired,
            "share of its pressure that is left",
            0.6,
            0.05,
            1.0,
        ),
        FaultKind(
            "air-valve-open",
            "An air valve falls wide open",
            _air_drop("opened"),
            _aired,
            "number of the drop, 0 for the most closed",
            0.0,
            0.0,
            400.0,
        ),
        FaultKind(
            "air-line-off",
            "An airline slips off",
            _air_drop("slipped"),
            _aired,
            "number of the drop, 1 for the first",
            1.0,
            1.0,
            400.0,
        ),
        FaultKind(
            "joint-weep",
            "A joint weeps",
            _weep,
            lambda s: bool(s.wells()),
            "litres an hour from the pump chamber",
            10.0,
            0.0,
            5000.0,
        ),
        FaultKind(
            "evaporation",
            "Water evaporates",
            _evaporates,
            lambda s: s.evaporation_rate() > 0,
            "times its usual rate",
            1.0,
            0.0,
            1000.0,
        ),
    )
}


def fits(study: Analysis, kind: str) -> bool:
    """Whether a system has what a fault breaks."""
    return KINDS[kind].applies(study)


def read_fault(text: str) -> Fault:
    """``power-cut@30`` or ``check-valve-leak@30=0.5``: kind, moment in s, number."""
    match = re.fullmatch(r"\s*([a-z-]+)\s*@\s*([\d.]+)\s*(?:=\s*([\d.]+))?\s*", text)
    if not match:
        raise EntryError(f"“{text[:40]}” is not a fault; write it as power-cut@30 or check-valve-leak@30=0.5.")
    name, moment, number = match.groups()
    if name not in KINDS:
        raise EntryError(f"There is no fault “{name[:40]}”; there are: {', '.join(KINDS)}.")
    kind = KINDS[name]
    try:
        time, value = float(moment), float(number) if number else kind.default
    except ValueError:
        raise EntryError(f"“{text[:40]}” holds a number that cannot be read.") from None
    if number and not kind.number:
        raise EntryError(f"{name} takes no number.")
    if not kind.low <= value <= kind.high:
        raise EntryError(f"{name} takes a number from {kind.low:g} to {kind.high:g}: {kind.number}.")
    if not 0 <= time <= 7 * 86400:
        raise EntryError("A fault happens within a week from the start.")
    return Fault(name, time, value)
