"""The wet test before the water: break things at chosen moments, watch, and compare with what was measured."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field

import numpy as np

from fuente.devices.base import Rank, Verdict
from fuente.errors import EntryError
from fuente.network.assembly import Assembly
from fuente.network.model import FLOOR, Cell, Network, Solution
from fuente.network.returning import ReturnLine
from fuente.network.transient import Event, History, transient
from fuente.study.analysis import Analysis
from fuente.study.breaking import Broken, Fault
from fuente.study.faults import KINDS, fits, put, title_of


@dataclass(frozen=True)
class Margin:
    """How far water stays under a rim, m, in which cell, and when, s."""

    left: float
    cell: str
    name: str
    time: float


@dataclass(frozen=True)
class WetTest:
    """A run with its verdict. Margins are m under the rims: ``sump_margin`` and ``tank_margin`` at the worst moment
    after something broke, ``rests`` as the water stands at the end, in the filters and in the tanks.
    """

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
    worst: Margin | None = None  # of the filters, where there are any
    rests: tuple[Margin | None, Margin] | None = None


def broken_in_time(analysis: Analysis, ordered: Sequence[Fault]) -> list[Network]:
    """The network before any fault, and after each; all of the same cells, with those that only a fault fills."""
    base = analysis.whole
    last = Broken(analysis, base)
    for fault in ordered:
        put(last, fault)
    if last.cells:
        base = base.like(more=last.cells.values())
    state = Broken(analysis, base)
    found = [state.network()]
    for fault in ordered:
        put(state, fault)
        found.append(state.network())
    return found


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
    networks = broken_in_time(analysis, ordered)
    events = [Event(f.time, title_of(f), network) for f, network in zip(ordered, networks[1:], strict=True)]
    options = {} if tolerance is None else {"tolerance": tolerance}
    history = transient(networks[0], running.level, until, events, progress=progress, known=running.flow, **options)
    sump = [analysis.network.cell(c) for c in analysis.filter_cells()]
    homes = [analysis.network.cell(t.id) for t in analysis.system.tanks]
    begin = ordered[0].time if ordered else 0.0
    peak = at_worst(history, sump, begin)
    tanks = min(c.rim - history.peak(c.id)[0] for c in homes)
    worst = (peak.left, peak.time) if peak is not None else (tanks, 0.0)
    home = at_rest(history, homes)
    assert home is not None
    rests = (at_rest(history, sump), home)
    intakes = {k.a: k.law.intake for k in analysis.network.links if isinstance(k.law, ReturnLine)}
    intakes.update({d.a: d.intake for d in analysis.pump_ducts.values()})
    dry = any(bool((history.level(cell) < intake + 0.004).any()) for cell, intake in intakes.items())
    spilled = history.spilled
    values = {"left": worst[0], "tank": tanks, "spilled": spilled}
    wanted = analysis.system.space.margin
    if spilled > 1e-6:
        verdict = Verdict("{spilled:volume} on the floor", values, Rank.STOP)
    elif sump and worst[0] < wanted - 1e-6:
        verdict = Verdict(f"{{left:level}} left in the {analysis.below}", values, Rank.FIX)
    elif tanks < 0.008:
        verdict = Verdict("{tank:level} left in the tank", values, Rank.FIX)
    elif dry and any(KINDS[f.kind].dries for f in faults):
        verdict = Verdict("the pump runs dry", values, Rank.FIX)
    elif analysis.airs and not _lifts_run(analysis, history):
        verdict = Verdict("{tank:level} left in the tank; filters stand still: oxygen falls", values, Rank.CONSIDER)
    elif not sump:
        verdict = Verdict("{tank:level} left in the tank", values)
    else:
        verdict = Verdict(f"{{left:level}} left in the {analysis.below}", values)
    return WetTest(
        tuple(ordered),
        history,
        worst[0],
        tanks,
        spilled,
        history.still_from(),
        verdict,
        worst[1],
        dry,
        worst=peak,
        rests=rests,
    )


def moment(analysis: Analysis, test: WetTest, time: float) -> Verdict:
    """How it stands at a moment in s: what is on the floor by then, else the least margin under a rim."""
    history = test.history
    levels = history.at(time)
    if FLOOR in levels:
        fallen = history.volumes[:, history.network.index[FLOOR]]
        spilled = float(np.interp(time, history.times, fallen))
        if spilled > 1e-6:
            return Verdict("{spilled:volume} on the floor so far", {"spilled": spilled}, Rank.STOP)
    cells = [analysis.network.cell(c) for c in analysis.filter_cells()]
    where = f"the {analysis.below}" if cells else "the tank"
    cells = cells or [analysis.network.cell(t.id) for t in analysis.system.tanks]
    return Verdict(f"{{left:level}} left in {where} now", {"left": min(c.rim - levels[c.id] for c in cells)})


_ROSE = 5e-4  # m over its running level by which a fault has raised a water
_ALIKE = 5e-4  # m within which waters stand at one height: the last along the water is then named


def at_worst(history: History, cells: Sequence[Cell], begin: float) -> Margin | None:
    """The least margin of cells after a time in s, of those that rose by what broke; what stood high before is no
    margin of a fault. Of all where none rose, None for no cells.
    """
    found = []
    for cell in cells:
        highest, time = history.peak(cell.id, begin + 1e-6)
        rose = highest > float(history.level(cell.id)[0]) + _ROSE
        found.append((not rose, Margin(cell.rim - highest, cell.id, cell.name, time)))
    raised = [m for still, m in found if not still] or [m for _, m in found]
    return min(raised, key=lambda m: m.left, default=None)


def at_rest(history: History, cells: Sequence[Cell]) -> Margin | None:
    """The least margin of cells at the end."""
    end = float(history.times[-1])
    found = [Margin(c.rim - float(history.level(c.id)[-1]), c.id, c.name, end) for c in cells]
    least = min((m.left for m in found), default=0.0)
    return next((m for m in reversed(found) if m.left <= least + _ALIKE), None)


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
    now = history.network_at(time)
    held = Assembly(now).held_by_way(np.array([levels[c.id] for c in now.cells]))
    return Solution(
        analysis.whole,
        levels,
        volumes,
        {k: q for k, q in flows.items() if k in known},
        0.0,
        held={k: v for k, v in held.items() if k in known},
    )
