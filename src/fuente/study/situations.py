"""The situations that the strip shows: each a set of faults, settled, with a verdict. A new one is an entry in
SITUATIONS.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

from fuente.devices.base import Rank, Verdict
from fuente.errors import PumpTooWeak
from fuente.network import Network, Solution, steady
from fuente.network.laws import Beside
from fuente.network.model import WayKind
from fuente.network.returning import ReturnLine
from fuente.study.breaking import BUCKET, DIRTY, Fault
from fuente.study.effects import clean_pads, closed, twins
from fuente.study.faults import broken
from fuente.study.movers import left_moving, movers
from fuente.study.situation import Situation

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

WEEK = 7 * 86400.0
FALLS = 0.02  # m by which a chamber must fall before it counts as going with another
_MOST_PIPES = 3  # filters whose pipes are tried
_MOST_MOVERS = 6  # pumps that are stopped, each alone


@dataclass(frozen=True)
class SituationKind:
    """A situation: its name and title, when it applies, and how it is worked out of a study; ``about`` one thing or the
    worst.
    """

    name: str
    title: str
    solve: Callable[[Analysis, str], Situation]
    applies: Callable[[Analysis], bool] = lambda _: True


def _made(name: str, solution: Solution, verdict: Verdict, numbers: Mapping[str, float], about: str = "") -> Situation:
    return Situation(name, SITUATIONS[name].title, solution, verdict, numbers, about)


def settled(study: Analysis, name: str, faults: Sequence[Fault], start: Solution | None = None) -> Solution:
    """Where the water goes from the running state, or another, with faults in force; fresh water and waste are too slow
    to count.
    """
    return study.settle(name, broken(study, faults, study.calm), start)


# -- running
# ------------------------------------------------------------------------------------------------------------


def running(study: Analysis, about: str) -> Situation:
    """What flows, and where the water stands; raises FuenteError where a pump cannot."""
    study.check()
    solution = steady(study.network, study.first_guess("running"), study.first_flows, guessed=True)
    ducts = study.pump_ducts
    if ducts and all(solution.flow[key] < 1e-9 for key in ducts):
        owner = study.system.device(next(iter(ducts.values())).owner)
        raise PumpTooWeak(f"{owner.title}: the pump reaches no tank; take a stronger one, or open a valve.")
    rank = Rank.STOP if solution.spilling else None
    wells = study.wells()
    if wells:
        level, words = solution.depth(wells[0][1].leave), f"{study.below} {{level:level}}"
    else:
        moved = sum(max(solution.flow[w.id], 0.0) for w in study.network.ways if w.kind.driven)
        level, words = moved, "{level:flow} moved"
        rank = rank or (Rank.STOP if study.system.filters and moved < 1e-9 else None)
    words = "water over the rim" if solution.spilling else words
    return _made("running", solution, Verdict(words, {"level": level}, rank), {})


# -- power
# ----------------------------------------------------------------------------------------------------------------


def _after_cut(name: str, leak: float) -> Callable[[Analysis, str], Situation]:
    faults = (Fault("power-cut"), Fault("check-valve-leak", value=leak))

    def solve(study: Analysis, about: str) -> Situation:
        solution = settled(study, name, faults)
        cells = study.filter_cells()
        left = study.freeboard(solution) if cells else study.tank_freeboard(solution)
        back = sum(solution.volume[c] - study.running.volume[c] for c in cells)
        numbers = {"left": left, "spilled": solution.spilled, "back": back}
        if solution.spilled > 1e-7:
            verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
        else:
            tight = bool(cells) and left < study.space.margin - 1e-6
            verdict = Verdict("{left:level} left", numbers, Rank.FIX if tight else None)
        return replace(_made(name, solution, verdict, numbers), powered=False)

    return solve


# -- drains and pipes
# -----------------------------------------------------------------------------------------------------


def drain_blocked(study: Analysis, about: str) -> Situation:
    """The drains of the most exposed tank shut, its emergency drain left."""
    tank = about or study.most_exposed()
    number = 1.0 + [t.id for t in study.system.tanks].index(tank)
    solution = settled(study, "drain_blocked", (Fault("tank-drain-block", value=number),))
    rise = solution.level[tank] - study.running.level[tank]
    carried = sum(solution.flow[key] for key in {*study.drains(True, tank)})
    numbers = {"rise": rise, "spilled": solution.spilled, "left": solution.freeboard(tank), "carried": carried}
    who = "tank" if len(study.system.tanks) == 1 else study.system.tank(tank).name
    if solution.spilled > 1e-7:
        verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
    elif carried > 1e-6:
        verdict = Verdict(f"{who} +{{rise:level}}, holds", {**numbers, "rise": max(rise, 0.0)})
    else:
        verdict = Verdict(f"{who} +{{rise:level}}, pump dry", numbers, Rank.FIX)
    return _made("drain_blocked", solution, verdict, numbers, tank)


def pipe_blocked(study: Analysis, about: str) -> Situation:
    """The pipe out of a filter that a pump fills: the one that puts most on the floor, or rises highest, of up to
    three.
    """
    worst: tuple[tuple[float, float], Situation] | None = None
    for owner, way in study.pumped_outs()[:_MOST_PIPES]:
        fault = Fault("filter-pipe-block", what=way)
        solution = study.settle(f"pipe_blocked.{owner}", broken(study, (fault,), study.calm))
        left = min(solution.freeboard(c.id) for c in solution.network.cells if c.owner == owner)
        which = [f.id for f in study.system.filters].index(owner)
        numbers = {"spilled": solution.spilled, "left": left, "which": float(which)}
        if solution.spilled > 1e-7:
            verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
        else:
            verdict = Verdict(f"{study.system.device(owner).title}: {{left:level}} left", numbers)
        rank = (solution.spilled, -left)
        if worst is None or rank > worst[0]:
            worst = rank, _made("pipe_blocked", solution, verdict, numbers, owner)
    if worst is None:
        return _made("pipe_blocked", study.running, Verdict("no such pipe", {}), {})
    return worst[1]


def hose_off(study: Analysis, about: str) -> Situation:
    """A hose of each closed vessel slipped off at its lid, on the way in or back: the one that puts most on the floor,
    of up to three vessels.
    """
    worst: Situation | None = None
    for number, cell in enumerate(closed(study)[:_MOST_PIPES], start=1):
        owner = study.network.cell(cell).owner
        if about and owner != about:
            continue
        for way, kind in enumerate(("intake-hose-off", "outlet-hose-off")):
            solution = study.settle(f"hose_off.{number}.{way}", broken(study, (Fault(kind, value=number),), study.calm))
            if worst is None or solution.spilled > worst.numbers["spilled"]:
                numbers = {"spilled": solution.spilled, "which": float(number), "way": float(way)}
                rank = Rank.CONSIDER if solution.spilled > 1e-7 else None
                words = "{spilled:volume} on the floor" if rank else "nothing runs out"
                worst = _made("hose_off", solution, Verdict(words, numbers, rank), numbers, owner)
    if worst is None:
        return _made("hose_off", study.running, Verdict("no such hose", {}), {})
    return worst


def pump_out(study: Analysis, about: str) -> Situation:
    """Each pump and air pump stopped alone: the one without which a tank keeps least of its flow, or that floods."""
    worst: tuple[tuple[float, float], Situation] | None = None
    for number, mover in enumerate(movers(study)[:_MOST_MOVERS]):
        if about and mover.owner != about:
            continue
        name = f"pump_out.{number}"
        solution = study.settle(name, broken(study, (mover.fault,), study.calm))
        tank, share = left_moving(study, solution)
        which = float([t.id for t in study.system.tanks].index(tank)) if tank else -1.0
        numbers = {"share": share, "spilled": solution.spilled, "which": float(number), "tank": which}
        if solution.spilled > 1e-7:
            verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
        elif share < 0.005:
            who = "the tank stands" if len(study.system.tanks) == 1 else "a tank stands"
            verdict = Verdict(f"{who} still", numbers, Rank.CONSIDER)
        else:
            verdict = Verdict("{share:fraction} flow left", numbers)
        rank = (solution.spilled, -share)
        if worst is None or rank > worst[0]:
            worst = rank, _made("pump_out", solution, verdict, numbers, mover.owner)
    if worst is None:
        return _made("pump_out", study.running, Verdict("no such pump", {}), {})
    return worst[1]


def air_open(study: Analysis, about: str) -> Situation:
    """Each air pump's throttled valves: the one that takes most from the others falls wide open."""
    worst, lost, which = "", -1.0, ""
    for key in study.airs:
        for name, share in study.lost_air(key).items():
            if share > lost:
                worst, lost, which = key, share, name
    if not worst:
        return _made("air_open", study.running, Verdict("no valve", {}), {})
    before = 0
    for key, group in study.airs.items():
        if key == worst:
            break
        before += len(group.supply.drops)
    number = before + study.opened_most(worst) + 1.0
    solution = settled(study, "air_open", (Fault("air-valve-open", value=number),))
    numbers = {"lost": max(lost, 0.0)}
    if lost < 0.02:
        return _made("air_open", solution, Verdict("others keep theirs", numbers), numbers, which)
    rank = Rank.CONSIDER if lost > 0.5 else None
    name = study.air_places[which].title if which in study.air_places else study.system.device(which).title
    return _made("air_open", solution, Verdict(f"{name} −{{lost:fraction}} air", numbers, rank), numbers, which)


# -- dirt, evaporation, cleaning
# ------------------------------------------------------------------------------------------


def pads_dirty(study: Analysis, about: str) -> Situation:
    """Every pad, sock and bed at many times its clean loss."""
    solution = settled(study, "pads_dirty", (Fault("pads-clog", value=DIRTY),))
    over = [k.id for k in study.network.links if k.kind is WayKind.BYPASS and solution.flow[k.id] > 1e-7]
    soft = clean_pads(study, DIRTY)
    drop = max((study.pad_drop(solution, key) for key in soft), default=0.0)
    wells = study.wells()
    numbers = {
        "drop": drop,
        "level": solution.depth(wells[0][1].leave) if wells else 0.0,
        "over": float(len(over)),
        "left": study.freeboard(solution),
        "spilled": solution.spilled,
    }
    if solution.spilled > 1e-7:
        verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
    elif not soft:
        verdict = Verdict("no pads", numbers)
    elif over:
        verdict = Verdict("water goes round", numbers, Rank.CONSIDER)
    else:
        verdict = Verdict("drop {drop:level}", numbers)
    return _made("pads_dirty", solution, verdict, numbers)


def pad_out(study: Analysis, about: str) -> Situation:
    """One of two pads taken out to be rinsed, everything running: of up to three pairs the one that lets most past, or
    takes most of the level.
    """
    worst: Situation | None = None
    for number, link in enumerate(twins(study)[:_MOST_PIPES], start=1):
        if about and link.owner != about:
            continue
        solution = study.settle(f"pad_out.{number}", broken(study, (Fault("pad-out", value=number),), study.calm))
        a, b = solution.level[link.a], solution.level[link.b]
        past = link.one_out.past(a, b) if isinstance(link.one_out, Beside) else 0.0
        numbers = {"past": past, "drop": a - b, "spilled": solution.spilled, "which": float(number)}
        if solution.spilled > 1e-7:
            verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
        elif past > 0:
            verdict = Verdict("{past:fraction} unfiltered", numbers)
        else:
            verdict = Verdict("the other takes {drop:level}", numbers)
        made = _made("pad_out", solution, verdict, numbers, link.owner)
        if worst is None or (past, a - b) > (worst.numbers["past"], worst.numbers["drop"]):
            worst = made
    return worst or _made("pad_out", study.running, Verdict("no such pads", {}), {})


def evaporated(study: Analysis, about: str) -> Situation:
    """Evaporation at its end: the pump chamber fallen to where its pump sucks air; without one, a week off
    every tank.
    """
    # From the running levels, whatever is known: where nothing flows any more, water stands as the fall has left it.
    intakes = {k.a: k.law.intake for k in study.network.links if isinstance(k.law, ReturnLine)}
    intakes.update({d.a: d.intake for d in study.pump_ducts.values()})
    tanks = {t.id for t in study.system.tanks}
    held = [cell for cell in study.network.marks if cell in intakes and cell not in tanks]
    if not held:
        return _week_dry(study)
    marks = {**study.network.marks, **{cell: intakes[cell] + 0.008 for cell in held}}
    solution = steady(_marked(study, marks), study.running.level, study.running.flow)
    gone = study.running.total - solution.total
    rate = study.evaporation_rate()
    stored = sum(c.curve.volume(c.rim) for c in study.reservoirs())
    days = float("inf") if study.endless() or rate <= 0 else (gone + stored) / rate
    numbers = {"gone": gone, "rate": rate * 86400, "days": days, "stored": stored}
    rank = Rank.FIX if days < 3 * 86400 else None
    verdict = Verdict("dry in {days:days}" if days < 1e9 else "does not fall", numbers, rank)
    return _made("evaporated", solution, verdict, numbers)


def _marked(study: Analysis, marks: Mapping[str, float]) -> Network:
    return study.calm.like(marks=marks)


def _week_dry(study: Analysis) -> Situation:
    """Without a pump chamber whose level shows it: a week's evaporation off every tank."""
    marks = dict(study.network.marks)
    fall = 0.0
    for tank in study.system.tanks:
        if tank.id in marks:
            body = next(b for b in study.bodies if tank.id in b)
            # What filters beside it lose comes off the tank too: their levels stand by their own outlets.
            area = sum(t.inner_length * t.inner_width for t in study.system.tanks if t.id in body)
            marks[tank.id] = max(marks[tank.id] - study.evaporation_of(body) * WEEK / area, tank.floor + 0.02)
            fall = max(fall, study.network.marks[tank.id] - marks[tank.id])
    solution = steady(_marked(study, marks), study.running.level, study.running.flow)
    flows = study.running.flow
    moved = {w.id: flows[w.id] for w in study.network.ways if w.kind.driven and flows[w.id] > 1e-9}
    kept = min((max(solution.flow[key], 0.0) / q for key, q in moved.items()), default=1.0)
    rate = study.evaporation_rate()
    numbers = {"gone": rate * WEEK, "rate": rate * 86400, "days": float("inf"), "fall": fall, "kept": kept}
    words = "−{fall:level} in a week" if kept > 0.5 else "a filter stalls in a week"
    verdict = Verdict(words, numbers, None if kept > 0.5 else Rank.FIX)
    return _made("evaporated", solution, verdict, numbers)


def cleaning(study: Analysis, about: str) -> Situation:
    """One chamber pumped into a bucket, everything standing: what is carried, and what falls with it."""
    rooms = study.rooms()
    room = next((r for r in rooms if r.id == about), None) or study.dirtiest()
    number = 1.0 + [r.id for r in rooms].index(room.id)
    faults = (Fault("power-cut"), Fault("check-valve-leak", value=0.0), Fault("chamber-out", value=number))
    rest = study.situation("power_cut").solution
    solution = settled(study, "cleaning" if not about else f"cleaning.{room.id}", faults, rest)
    carried = solution.volume[BUCKET]
    own = sum(rest.volume[c] for c in room.cells)
    owner = study.network.cell(room.cells[0]).owner
    beside = [r for r in rooms if r.id != room.id and study.network.cell(r.cells[0]).owner == owner]
    others = [r for r in beside if any(rest.level[c] - solution.level[c] > FALLS for c in r.cells)]
    numbers = {"carried": carried, "own": own, "others": float(len(others))}
    if not others:
        verdict = Verdict("{carried:volume}, apart", numbers)
    else:
        words = "1 other falls" if len(others) == 1 else f"{len(others)} others fall"
        verdict = Verdict("{carried:volume}, " + words, numbers, Rank.CONSIDER)
    return _made("cleaning", solution, verdict, numbers, room.id)


SITUATIONS: dict[str, SituationKind] = {
    s.name: s
    for s in (
        SituationKind("running", "Running", running),
        SituationKind("power_cut", "Power cut", _after_cut("power_cut", 0.0)),
        SituationKind("valve_leaks", "Valve leaks", _after_cut("valve_leaks", 1.0), lambda s: s.has_sump),
        SituationKind("drain_blocked", "Drain blocked", drain_blocked, lambda s: bool(s.drains(False)) and s.has_pumps),
        SituationKind("pipe_blocked", "Pipe blocked", pipe_blocked, lambda s: bool(s.pumped_outs())),
        SituationKind("hose_off", "Hose off", hose_off, lambda s: bool(closed(s))),
        SituationKind("pump_out", "One pump out", pump_out, lambda s: len(movers(s)) > 1),
        SituationKind(
            "air_open", "Air valve open", air_open, lambda s: any(len(g.supply.drops) > 1 for g in s.airs.values())
        ),
        SituationKind("pads_dirty", "Pads dirty", pads_dirty),
        SituationKind("pad_out", "One pad out", pad_out, lambda s: bool(twins(s))),
        SituationKind("evaporated", "Evaporated", evaporated),
        SituationKind("cleaning", "Cleaning", cleaning, lambda s: bool(s.rooms())),
    )
}
TITLES: Mapping[str, str] = {s.name: s.title for s in SITUATIONS.values()}


def applying(study: Analysis) -> Iterable[str]:
    """Names of all situations that a system can be in, in the order of the strip."""
    return (s.name for s in SITUATIONS.values() if s.applies(study))
