"""What happens when the pipe out of a filter that a pump feeds is blocked: it fills to its rim, and the pump goes on."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from fuente.devices import kind_of
from fuente.devices.base import Rank, Verdict
from fuente.devices.plumbing import BesideSpec, drain_id
from fuente.document.system import System
from fuente.network.beds import Sealed, Through
from fuente.network.model import Law
from fuente.network.supplies import Falls, Header, Lines
from fuente.study.situation import TITLES, Situation

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis


def stopped(law: Law, share: float) -> Law | None:
    """The law of a pipe with a share of it blocked, 0 to 1; None where it is not a pipe."""
    if isinstance(law, Lines | Falls | Through | Sealed | Header):
        return replace(law, open_share=1.0 - share)
    return None


def pumped_outs(system: System) -> list[BesideSpec]:
    """Filters that a pump fills, at once or through others, and that no pump empties: those next to a tank first."""
    found: list[BesideSpec] = []
    vessels = {f.id: f for f in system.filters if isinstance(f, BesideSpec) and kind_of(f).vessel is not None}
    filled: set[str] = set()
    for _ in vessels:  # a train is at most so long
        for spec in vessels.values():
            by_pipe = spec.feed.way == "pump" or (spec.feed.way != "fed" and spec.feed.source in filled)
            by_fall = any(
                o.drain.into == spec.id and (o.drain.way == "pump" or o.id in filled) for o in vessels.values()
            )
            if (by_pipe or by_fall) and spec.drain.way != "pump":
                filled.add(spec.id)
    tanks = {t.id for t in system.tanks}
    found = [spec for key, spec in vessels.items() if key in filled]
    return sorted(found, key=lambda s: s.drain.into not in tanks)


def pipe_blocked(analysis: Analysis) -> Situation:
    """The one that puts most on the floor, or rises highest, of up to three."""
    title = TITLES["pipe_blocked"]
    worst: tuple[tuple[float, float], Situation] | None = None
    for spec in pumped_outs(analysis.system)[:3]:
        key = drain_id(spec)
        law = stopped(analysis.laws[key], 1.0)
        if law is None:
            continue
        solution = analysis.settled(f"pipe_blocked.{spec.id}", analysis.calm.replace_links({key: law}))
        own = [c.id for c in solution.network.cells if c.owner == spec.id]
        left = min(solution.freeboard(c) for c in own)
        spilled = solution.spilled
        numbers = {"spilled": spilled, "left": left, "which": float(analysis.system.filters.index(spec))}
        if spilled > 1e-7:
            verdict = Verdict("{spilled:volume} on the floor", numbers, Rank.STOP)
        else:
            verdict = Verdict(f"{spec.name}: {{left:length}} left", numbers)
        rank = (spilled, -left)
        if worst is None or rank > worst[0]:
            worst = rank, Situation("pipe_blocked", title, solution, verdict, numbers)
    if worst is None:
        return Situation("pipe_blocked", title, analysis.running, Verdict("no such pipe", {}))
    return worst[1]
