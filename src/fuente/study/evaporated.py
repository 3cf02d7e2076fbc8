"""How far evaporation takes the water before something stalls."""

from __future__ import annotations

from typing import TYPE_CHECKING

from fuente.devices.base import Rank, Verdict
from fuente.network import Network, steady
from fuente.network.laws import ReturnLine
from fuente.study.situation import MOVERS, TITLES, Situation

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

WEEK = 7 * 86400.0


def evaporated(analysis: Analysis) -> Situation:
    """The pump chamber fallen to where its pump sucks air; without one, a week off every tank."""
    intakes = {k.a: k.law.intake for k in analysis.network.links if isinstance(k.law, ReturnLine)}
    intakes.update({d.a: d.intake for d in analysis.pump_ducts.values()})
    tanks = {t.id for t in analysis.system.tanks}
    held = [cell for cell in analysis.network.marks if cell in intakes and cell not in tanks]
    if not held:
        return _week_dry(analysis)
    marks = {**analysis.network.marks, **{cell: intakes[cell] + 0.008 for cell in held}}
    low = Network(analysis.calm.cells, analysis.calm.links, marks, analysis.calm.groups)
    solution = steady(low, analysis.guess("evaporated"))
    gone = analysis.running.total - solution.total
    rate = analysis.evaporation_rate()
    stored = sum(t.volume for t in analysis.system.top_ups if t.source == "reservoir")
    endless = any(t.source != "reservoir" for t in analysis.system.top_ups)
    days = float("inf") if endless or rate <= 0 else (gone + stored) / rate
    numbers = {"gone": gone, "rate": rate * 86400, "days": days, "stored": stored}
    rank = Rank.FIX if days < 3 * 86400 else None
    verdict = Verdict("dry in {days:days}" if days < 1e9 else "does not fall", numbers, rank)
    return Situation("evaporated", TITLES["evaporated"], solution, verdict, numbers)


def _week_dry(analysis: Analysis) -> Situation:
    """Without a pump chamber whose level shows it: a week's evaporation off every tank."""
    marks = dict(analysis.network.marks)
    fall = 0.0
    for tank in analysis.system.tanks:
        if tank.id in marks:
            body = next(b for b in analysis.bodies if tank.id in b)
            # What filters beside it lose comes off the tank too: their levels stand by their own outlets.
            area = sum(t.inner_length * t.inner_width for t in analysis.system.tanks if t.id in body)
            marks[tank.id] = max(marks[tank.id] - analysis.evaporation_of(body) * WEEK / area, tank.floor + 0.02)
            fall = max(fall, analysis.network.marks[tank.id] - marks[tank.id])
    low = Network(analysis.calm.cells, analysis.calm.links, marks, analysis.calm.groups)
    solution = steady(low, analysis.guess("evaporated"))
    moved = {
        w.id: analysis.running.flow[w.id]
        for w in analysis.network.ways
        if w.kind in MOVERS and analysis.running.flow[w.id] > 1e-9
    }
    kept = min((max(solution.flow[key], 0.0) / q for key, q in moved.items()), default=1.0)
    rate = analysis.evaporation_rate()
    numbers = {"gone": rate * WEEK, "rate": rate * 86400, "days": float("inf"), "fall": fall, "kept": kept}
    words = "−{fall:length} in a week" if kept > 0.5 else "a filter stalls in a week"
    return Situation(
        "evaporated",
        TITLES["evaporated"],
        solution,
        Verdict(words, numbers, None if kept > 0.5 else Rank.FIX),
        numbers,
    )
