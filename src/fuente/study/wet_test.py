"""The wet test before the water: break things at chosen moments, watch, and compare with what was measured."""

from __future__ import annotations

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field, replace

from fuente.devices.air_supply.network import OPEN_VALVE
from fuente.devices.base import Rank, Verdict
from fuente.devices.sump import network as sump_network
from fuente.errors import EntryError
from fuente.hydraulics.pipes import Pipe
from fuente.network.aeration import Aeration
from fuente.network.beds import FloatedFeed, FloatFed, Sealed, Through
from fuente.network.ducts import Ducts, PumpDuct, Spout
from fuente.network.laws import Gap, Pad, ReturnLine, Sheet
from fuente.network.model import FLOOR, Cell, Group, Law, LevelCurve, Link, Network, Solution
from fuente.network.supplies import Falls, FloatValve, Header, Lines, RimSiphon
from fuente.network.transient import Event, History, transient
from fuente.study.analysis import Analysis
from fuente.study.cleaning import BUCKET
from fuente.study.pipe_blocked import stopped

_BUCKET_CELL = Cell(BUCKET, "The bucket", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)


@dataclass(frozen=True)
class FaultKind:
    """Something that can go wrong: name as scripts write it, words, and what its number means."""

    name: str
    title: str
    number: str = ""  # what the number is; empty for none
    default: float = 1.0
    low: float = 0.0
    high: float = 1.0


KINDS: dict[str, FaultKind] = {
    k.name: k
    for k in (
        FaultKind("power-cut", "Power cut"),
        FaultKind("power-return", "Power returns"),
        FaultKind("check-valve-leak", "Check valve leaks", "share of the free back-flow", 1.0),
        FaultKind("drain-block", "Block the drains", "share blocked, the emergency left open", 1.0),
        FaultKind(
            "tank-drain-block", "Block one tank's drains", "number of the tank, 0 for the most exposed", 0.0, 0.0, 400.0
        ),
        FaultKind("header-block", "Block the common drain", "share blocked", 0.5),
        FaultKind("join-block", "Block the pipes between vessels", "share blocked", 1.0),
        FaultKind("all-drains-block", "Block every drain", "share blocked", 1.0),
        FaultKind("pads-clog", "Clog the pads", "times the clean loss", 25.0, 1.0, 2000.0),
        FaultKind("pump-wear", "Pump wears", "share of its head that is left", 0.8, 0.05, 1.0),
        FaultKind("pump-stuck", "Pump sticks", "number of the pump, 0 for all", 0.0, 0.0, 16.0),
        FaultKind("hose-off", "Return hose off"),
        FaultKind("chamber-out", "Pump a chamber out", "number of the chamber, 1 for the first", 1.0, 1.0, 200.0),
        FaultKind("float-open", "Float sticks open"),
        FaultKind("float-shut", "Float sticks shut"),
        FaultKind("siphon-lost", "Siphon over the rim breaks"),
        FaultKind("air-stops", "Air pump stops", "number of the air pump, 0 for all", 0.0, 0.0, 20.0),
        FaultKind("air-worn", "Air pump's membranes tire", "share of its pressure that is left", 0.6, 0.05, 1.0),
        FaultKind(
            "air-valve-open",
            "An air valve falls wide open",
            "number of the drop, 0 for the most closed",
            0.0,
            0.0,
            400.0,
        ),
        FaultKind("air-line-off", "An airline slips off", "number of the drop, 1 for the first", 1.0, 1.0, 400.0),
        FaultKind("joint-weep", "A joint weeps", "litres an hour from the pump chamber", 10.0, 0.0, 5000.0),
    )
}


@dataclass(frozen=True)
class Fault:
    """A fault of a kind at a time in s, with its number."""

    kind: str
    time: float
    value: float

    @property
    def title(self) -> str:
        """As it is shown."""
        return KINDS[self.kind].title


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


class Weep:
    """A steady small loss that ends with the water."""

    def __init__(self, flow: float, floor: float):
        self._flow, self._floor = flow, floor

    def flow(self, a: float, b: float) -> tuple[float, float, float]:
        """m³/s, straight to nothing in the last 5 mm."""
        share = min(max((a - self._floor) / 0.005, 0.0), 1.0)
        return self._flow * share, self._flow / 0.005 if 0 < share < 1 else 0.0, 0.0


def fits(analysis: Analysis, kind: str) -> bool:
    """Whether a system has what a fault breaks."""
    system = analysis.system
    moved = bool(system.returns or system.manifolds)
    pumps = moved or any(isinstance(k.law, ReturnLine) for k in analysis.whole.links)
    air = bool(analysis.airs)
    floats = any(t.source != "drip" for t in system.top_ups)
    floats = floats or any(isinstance(k.law, FloatFed) for k in analysis.whole.links)
    floats = floats or any(isinstance(g, FloatedFeed) for g in analysis.whole.groups)
    needs = {
        "check-valve-leak": moved,
        "drain-block": bool(analysis.drains(False)),
        "all-drains-block": bool(analysis.drains(False)),
        "pump-wear": pumps,
        "pump-stuck": pumps,
        "hose-off": moved or any(k.kind == "feed-pump" for k in analysis.whole.links),
        "chamber-out": analysis.has_sump,
        "joint-weep": analysis.has_sump,
        "air-stops": air,
        "air-worn": air,
        "air-valve-open": air,
        "air-line-off": air,
        "header-block": bool(system.headers),
        "join-block": bool(system.joins)
        or any(isinstance(k.law, Lines | Falls | Through | Sealed) for k in analysis.whole.links),
        "tank-drain-block": len(system.tanks) > 1,
        "float-open": floats,
        "float-shut": floats,
        "siphon-lost": bool(system.hang_ons),
        "pads-clog": bool(analysis._pad_mediums() or analysis.soft_beds() or analysis.soft_pads(1.0)),
    }
    return needs.get(kind, True)


_DRYING = ("drain-block", "tank-drain-block", "pads-clog", "pump-wear", "header-block", "join-block")


@dataclass
class _State:
    """What is broken so far."""

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


def broken(analysis: Analysis, faults: Sequence[Fault]) -> Network:
    """The network with faults in force, in the order in which they happened."""
    base = analysis.whole
    laws = {k.id: k.law for k in base.links}
    state = _State()
    for fault in faults:
        _break(analysis, laws, fault, state)
    pumps = 0
    for key, line_law in laws.items():
        if isinstance(line_law, ReturnLine):
            stands = not state.powered or pumps in state.stuck or -1 in state.stuck
            pumps += 1
            share = 1.0 if not line_law.valve else line_law.leak if state.leak is None else state.leak
            curve = replace(line_law.curve, wear=line_law.curve.wear * state.wear)
            state.change[key] = replace(line_law, on=not stands, leak=share, curve=curve)
    links = []
    for link in base.links:
        now = state.change.get(link.id, link.law)
        assert now is not None
        to = FLOOR if state.off and link.kind in ("pump", "feed-pump") else link.b
        links.append(replace(link, law=_floor_hose(now, base.cell(link.b).floor) if to != link.b else now, b=to))
    groups: list[Group] = []
    blown = drops = 0
    for g in base.groups:
        if isinstance(g, Ducts):
            groups.append(_broken_group(g, state, pumps))
        elif isinstance(g, Aeration) and g.supply.on:
            groups.append(_broken_air(g, state, blown, drops))
            blown, drops = blown + 1, drops + len(g.supply.drops)
        elif isinstance(g, FloatedFeed) and state.floats:
            groups.append(g.stuck(state.floats))
        else:
            groups.append(g)
    return Network((*base.cells, _BUCKET_CELL), (*links, *state.extra), base.marks, tuple(groups))


def _break(analysis: Analysis, laws: dict[str, Law], fault: Fault, state: _State) -> None:
    """One fault more."""
    kind, value = fault.kind, fault.value
    base = analysis.whole
    if kind == "power-cut":
        state.powered = False
    elif kind == "power-return":
        state.powered = True
    elif kind == "pump-stuck":
        state.stuck.add(round(value) - 1)
    elif kind == "check-valve-leak":
        state.leak = value
    elif kind == "pump-wear":
        state.wear = value
    elif kind == "hose-off":
        state.off = True
    elif kind in ("drain-block", "all-drains-block"):
        state.change.update(analysis.blocked(analysis.drains(False), value))
        if kind.startswith("all"):
            state.change.update(analysis.blocked(analysis.drains(True), value))
    elif kind == "tank-drain-block":
        tanks = analysis.system.tanks
        if round(value) > len(tanks):
            raise EntryError(f"There is no tank {value:g}; the system has {len(tanks)}.")
        tank = tanks[round(value) - 1].id if value >= 1 else analysis.most_exposed()
        state.change.update(analysis.blocked(analysis.drains(False, tank)))
    elif kind == "pads-clog":
        for key, medium in analysis._pad_mediums().items():
            law = laws[key]
            assert isinstance(law, Pad | Sheet)
            state.change[key] = replace(law, medium=medium.dirty(value))
        state.change.update({key: replace(bed, dirt=value) for key, bed in analysis.soft_beds().items()})
        state.change.update(analysis.soft_pads(value))
    elif kind == "air-stops":
        state.still.add(round(value) - 1)
    elif kind == "air-worn":
        state.air_wear = value
    elif kind in ("air-valve-open", "air-line-off"):
        count = sum(len(g.supply.drops) for g in analysis.airs.values())
        if round(value) > count:
            raise EntryError(f"There is no drop {value:g}; the system has {count}.")
        (state.opened if kind == "air-valve-open" else state.slipped).add(round(value))
    elif kind == "chamber-out":
        rooms = [(d, c) for d in analysis.system.devices for c in d.chambers]
        if round(value) > len(rooms):
            raise EntryError(f"There is no chamber {value:g}; there are {len(rooms)}.")
        device, chamber = rooms[round(value) - 1]
        for cell in sump_network.cell_ids(device, chamber):
            hose = Gap(base.cell(cell).floor, 0.05, 0.01)
            state.extra.append(Link(f"{BUCKET}.{cell}", "Hose to the bucket", cell, BUCKET, hose, "hose"))
    elif kind == "joint-weep":
        cell = analysis.pump_cell
        weep = Weep(value * 1e-3 / 3600, base.cell(cell).floor)
        state.extra.append(Link("weep", "A joint weeps", cell, FLOOR, weep, "spill"))
    else:
        if kind in ("float-open", "float-shut"):
            state.floats = kind.removeprefix("float-")
        state.change.update(_changed(laws, kind, value))


def _changed(laws: dict[str, Law], kind: str, value: float) -> dict[str, Law | None]:
    """Laws that a fault changes all alike."""
    found: dict[str, Law | None] = {}
    for key, law in laws.items():
        if isinstance(law, FloatValve | FloatFed) and kind in ("float-open", "float-shut"):
            found[key] = replace(law, stuck=kind.removeprefix("float-"))
        elif kind == ("header-block" if isinstance(law, Header) else "join-block"):
            blocked = stopped(law, value)
            if blocked is not None:
                found[key] = blocked
        elif isinstance(law, RimSiphon) and kind == "siphon-lost":
            found[key] = replace(law, primed=False)
    return found


def _broken_group(group: Ducts, state: _State, before: int) -> Ducts:
    """A manifold with its pumps standing or worn, or with its main hose off."""
    change: dict[str, dict[str, object]] = {}
    pumps = [d for d in group.ducts if isinstance(d, PumpDuct)]
    for n, duct in enumerate(pumps):
        stands = not state.powered or before + n in state.stuck or -1 in state.stuck
        leak = 1.0 if not duct.valve else duct.leak if state.leak is None else state.leak
        curve = replace(duct.curve, wear=duct.curve.wear * state.wear)
        change[duct.id] = {"on": not stands, "leak": leak, "curve": curve}
    made = group.changed(change)
    if not state.off:
        return made
    # The hose comes off at the manifold: what the pump lifts so far goes to the floor.
    first = pumps[0]
    low = min(d.mouth for d in group.ducts if isinstance(d, Spout)) - 0.1
    pipe = Pipe(first.pipe.bore, 0.05, 1.5, first.pipe.roughness, first.pipe.water)
    open_end = Spout("hose-off", "Hose off", first.b, FLOOR, pipe, "spill", first.owner, False, low, low)
    return Ducts((*made.ducts, open_end), (*group.cells, FLOOR))


def _broken_air(group: Aeration, state: _State, position: int, before: int) -> Aeration:
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
            drops[i] = replace(
                drop,
                valve_k=0.0,
                diffuser=0.0,
                length=0.1,
                lift=replace(drop.lift, injector=1e3, outlet=1e3 + 1),
                shut=False,
            )
    return group.changed(on=on, wear=supply.wear * state.air_wear, drops=tuple(drops))


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


@dataclass(frozen=True)
class WetTest:
    """A run with its verdict. margins are m under the rims, from the worst moment."""

    faults: tuple[Fault, ...]
    history: History
    sump_margin: float
    tank_margin: float
    spilled: float
    still: float | None
    verdict: Verdict
    worst_time: float = 0.0
    dry: bool = False
    notes: tuple[str, ...] = field(default=())


def run(
    analysis: Analysis,
    faults: Sequence[Fault],
    until: float = 900.0,
    progress: Callable[[float], bool] | None = None,
    tolerance: float | None = None,
) -> WetTest:
    """Start from running water and break things. until s; raises FuenteError where the design does not run."""
    for fault in faults:
        if not fits(analysis, fault.kind):
            raise EntryError(f"This design has nothing that {fault.kind} could break.")
    running = analysis.running
    ordered = sorted(faults, key=lambda f: f.time)
    events = [Event(fault.time, fault.title, broken(analysis, ordered[: i + 1])) for i, fault in enumerate(ordered)]
    options = {} if tolerance is None else {"tolerance": tolerance}
    history = transient(broken(analysis, ()), running.level, until, events, progress=progress, **options)
    sump = [analysis.network.cell(c) for c in analysis.sump_cells()]
    tanks = min(analysis.network.cell(t.id).rim - history.peak(t.id)[0] for t in analysis.system.tanks)
    worst = min(((c.rim - history.peak(c.id)[0], history.peak(c.id)[1]) for c in sump), default=(tanks, 0.0))
    intakes = {k.a: k.law.intake for k in analysis.network.links if isinstance(k.law, ReturnLine)}
    intakes.update({d.a: d.intake for d in analysis.pump_ducts.values()})
    dry = any(bool((history.level(cell) < intake + 0.004).any()) for cell, intake in intakes.items())
    spilled = history.spilled
    values = {"left": worst[0], "tank": tanks, "spilled": spilled}
    wanted = analysis.system.space.margin
    if spilled > 1e-6:
        verdict = Verdict("{spilled:volume} on the floor", values, Rank.STOP)
    elif sump and worst[0] < wanted - 1e-6:
        verdict = Verdict(f"{{left:length}} left in the {analysis.below}", values, Rank.FIX)
    elif tanks < 0.008:
        verdict = Verdict("{tank:length} left in the tank", values, Rank.FIX)
    elif dry and any(f.kind in _DRYING for f in faults):
        verdict = Verdict("the pump runs dry", values, Rank.FIX)
    elif analysis.airs and not _lifts_run(analysis, history):
        verdict = Verdict("filters stand still: oxygen falls", values, Rank.CONSIDER)
    elif not sump:
        verdict = Verdict("{tank:length} left in the tank", values)
    else:
        verdict = Verdict(f"{{left:length}} left in the {analysis.below}", values)
    return WetTest(tuple(ordered), history, worst[0], tanks, spilled, history.still_from(), verdict, worst[1], dry)


def _lifts_run(analysis: Analysis, history: History) -> bool:
    """Whether every lift that ran at first still moves half of its water at the end."""
    for group in analysis.airs.values():
        for drop in group.supply.drops:
            flow = history.flow(drop.lift.id)
            if flow[0] > 1e-8 and flow[-1] < 0.5 * flow[0]:
                return False
    return True


def solution_at(analysis: Analysis, test: WetTest, time: float) -> Solution:
    """The water at a moment of a run, as the screens read it."""
    history = test.history
    levels = history.at(time)
    volumes = {c.id: c.curve.volume(levels[c.id]) for c in history.network.cells}
    flows = history.flows_at(time)
    known = {way.id for way in analysis.whole.ways}
    return Solution(analysis.whole, levels, volumes, {k: q for k, q in flows.items() if k in known}, 0.0)


@dataclass(frozen=True)
class Trial:
    """A standard trial: id, title, faults, how long, and what is written down from it."""

    id: str
    title: str
    faults: tuple[Fault, ...]
    until: float
    reads: str  # "sump" or "tank": whose margin is measured


def standard_trials(analysis: Analysis) -> tuple[Trial, ...]:
    """What every system should stand before it is filled for good."""
    found = [
        Trial(
            "cut-valve-tight",
            "Cut the power, valve tight",
            (Fault("power-cut", 5, 1), Fault("check-valve-leak", 5, 0.0)),
            1800,
            "sump",
        ),
        Trial(
            "cut-valve-as-is", "Cut the power, valve as it is, half an hour", (Fault("power-cut", 5, 1),), 1800, "sump"
        ),
        Trial(
            "cut-valve-open",
            "Cut the power, valve held open",
            (Fault("power-cut", 5, 1), Fault("check-valve-leak", 5, 1.0)),
            1800,
            "sump",
        ),
        Trial(
            "cut-and-return",
            "Cut the power, give it back after five minutes",
            (Fault("power-cut", 5, 1), Fault("power-return", 305, 1)),
            1200,
            "tank",
        ),
        Trial("drain-blocked", "Close the siphon and the open channel", (Fault("drain-block", 5, 1.0),), 1800, "tank"),
        Trial("pads-clogged", "Pads at 25 times their clean loss", (Fault("pads-clog", 5, 25.0),), 1800, "sump"),
        Trial("pump-worn", "Pump down to four fifths of its head", (Fault("pump-wear", 5, 0.8),), 1800, "sump"),
    ]
    if len(analysis.system.tanks) > 1:
        found[4] = Trial(
            "tank-drain-blocked",
            "Block the drain of the tank with the least room",
            (Fault("tank-drain-block", 5, 0.0),),
            1800,
            "tank",
        )
        if analysis.system.headers:
            found.append(
                Trial("header-half", "Half of the common drain blocked", (Fault("header-block", 5, 0.5),), 1800, "tank")
            )
    if analysis.airs:
        found = [
            replace(t, id="power-cut", title="Cut the power, half an hour", reads="tank")
            if t.id == "cut-valve-as-is" and not analysis.has_sump
            else t
            for t in found
        ]
        found.append(
            Trial(
                "air-valve-open",
                "The most closed air valve falls wide open",
                (Fault("air-valve-open", 5, 0.0),),
                600,
                "tank",
            )
        )
        found.append(
            Trial("air-worn", "Air pump down to six tenths of its pressure", (Fault("air-worn", 5, 0.6),), 600, "tank")
        )
    if any(t.source != "drip" for t in analysis.system.top_ups):
        found.append(
            Trial("float-open", "Float stuck open for half an hour", (Fault("float-open", 5, 1.0),), 1800, "sump")
        )
    if analysis.system.hang_ons:
        cut = (Fault("power-cut", 5, 1), Fault("power-return", 65, 1), Fault("siphon-lost", 65, 1))
        found.append(Trial("siphon-lost", "The siphon over the rim does not start again", cut, 1200, "tank"))
    if len(analysis.pump_ducts) > 1:
        found.append(Trial("one-pump", "One pump sticks", (Fault("pump-stuck", 5, 1.0),), 1800, "sump"))
    found = [t for t in found if all(fits(analysis, f.kind) for f in t.faults)]
    if not analysis.drains(True) and any(t.id == "drain-blocked" for t in found):
        blocked = next(i for i, t in enumerate(found) if t.id == "drain-blocked")
        found[blocked] = replace(found[blocked], title="Close the drain", faults=(Fault("all-drains-block", 5, 1.0),))
    return tuple(found)


@dataclass(frozen=True)
class TrialResult:
    """A trial with its run."""

    trial: Trial
    test: WetTest

    @property
    def passed(self) -> bool:
        """Whether the builder's margins held."""
        return self.test.verdict.rank is None

    @property
    def expected(self) -> float:
        """What Fuente expects to be read: the margin in m."""
        return self.test.sump_margin if self.trial.reads == "sump" else self.test.tank_margin


def trials(analysis: Analysis, progress: Callable[[float], bool] | None = None) -> list[TrialResult]:
    """All standard trials."""
    found = []
    every = standard_trials(analysis)
    for i, trial in enumerate(every):
        found.append(TrialResult(trial, run(analysis, trial.faults, trial.until)))
        if progress is not None and not progress((i + 1) / len(every)):
            break
    return found
