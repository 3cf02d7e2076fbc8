"""What happens when one air valve falls wide open: the others on its pump lose air."""

from __future__ import annotations

from dataclasses import replace
from typing import TYPE_CHECKING

from fuente.devices.air_supply.network import OPEN_VALVE
from fuente.devices.base import Rank, Verdict
from fuente.network.aeration import Aeration
from fuente.study.situation import TITLES, Situation

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis


def air_open(analysis: Analysis) -> Situation:
    """Each pump's throttled valves: the one that takes most from the others falls wide open."""
    title = TITLES["air_open"]
    worst, lost, which = None, -1.0, ""
    for key in analysis.airs:
        for name, share in analysis.wide_open(key).items():
            if share > lost:
                worst, lost, which = key, share, name
    if worst is None:
        return Situation("air_open", title, analysis.running, Verdict("no valve", {}))
    group = analysis.airs[worst]
    opened = _opened(group, analysis.opened_most(worst))
    network = analysis.calm.with_groups(opened if g is group else g for g in analysis.calm.groups)
    solution = analysis.settled("air_open", network)
    name = next((f.name for f in analysis.system.filters if f.id == which), which)
    numbers = {"lost": max(lost, 0.0)}
    if lost < 0.02:
        return Situation("air_open", title, solution, Verdict("others keep theirs", numbers), numbers)
    rank = Rank.CONSIDER if lost > 0.5 else None
    return Situation("air_open", title, solution, Verdict(f"{name} −{{lost:fraction}} air", numbers, rank), numbers)


def wide_open(analysis: Analysis, air_id: str) -> tuple[dict[str, float], int]:
    """What each filter on an air pump loses of its air, as a share, and which drop's valve does that."""
    group = analysis.airs[air_id]
    drops = group.supply.drops
    levels = [analysis.running.level[c] for c in group.cells]
    group.exchange(levels)
    now = group.air[: len(drops)].copy()
    throttled = [i for i, d in enumerate(drops) if d.valve_k > 1.3 * OPEN_VALVE or d.shut]
    best: dict[str, float] = {}
    which = 0
    # The one that stands shallowest and most closed takes most.
    for i in sorted(throttled, key=lambda i: -drops[i].valve_k)[:3]:
        opened = _opened(group, i)
        opened.exchange(levels)
        lost = {
            d.lift.owner: float(1 - opened.air[k] / now[k]) for k, d in enumerate(drops) if k != i and now[k] > 1e-9
        }
        if lost and max(lost.values()) > max(best.values(), default=-1.0):
            best, which = lost, i
    return best, which


def _opened(group: Aeration, index: int) -> Aeration:
    drops = list(group.supply.drops)
    drops[index] = replace(drops[index], valve_k=OPEN_VALVE, shut=False)
    return group.changed(drops=tuple(drops))
