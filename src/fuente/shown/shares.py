"""What each of many tanks gets, against the others."""

from __future__ import annotations

from fuente.devices.offered import Share
from fuente.study.analysis import Analysis
from fuente.study.situation import Situation

STILL = 1e-7  # m³/s


def tank_shares(analysis: Analysis, situation: Situation) -> dict[str, Share]:
    """What each tank gets in a situation, the least and the most marked."""
    solution, fed = situation.solution, analysis.fed()
    flows = {t.id: analysis.moved(solution, t.id) for t in analysis.system.tanks if t.id in fed}
    if not flows or max(flows.values()) < STILL:
        return {key: Share(0.0, 0.0, "", "still") for key in flows}
    turns = {key: q / max(analysis.running.volume[key], 1e-6) for key, q in flows.items()}
    least, most = min(turns, key=turns.__getitem__), max(turns, key=turns.__getitem__)
    even = turns[most] < 1.1 * max(turns[least], 1e-12)
    found = {}
    for key, q in flows.items():
        mark = "" if even else "least" if key == least else "most" if key == most else ""
        found[key] = Share(q, turns[key] / turns[most], mark)
    return found
