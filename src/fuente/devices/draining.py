"""How a falling drain runs, for every kind that has one: dry, open, gulping or full."""

from __future__ import annotations

from dataclasses import dataclass

from fuente.hydraulics.drains import QUIET_SHARE, mouth_flow, open_channel_capacity
from fuente.network.laws import Standpipe
from fuente.network.model import Solution


@dataclass(frozen=True)
class DrainRun:
    """A drain in one solution: flows m³/s, speed m/s."""

    mode: str
    flow: float
    speed: float
    quiet: bool
    open_capacity: float


def drain_run(link_id: str, solution: Solution) -> DrainRun:
    """How a drain's link runs; quiet is a full siphon, or an open channel under half of what it carries open."""
    link = solution.network.link(link_id)
    law = link.law
    assert isinstance(law, Standpipe)
    flow = solution.flow[link_id]
    level = solution.level[link.a]
    capacity = open_channel_capacity(law.pipe.bore)
    if flow <= 1e-8:
        return DrainRun("dry", flow, 0.0, True, capacity)
    speed = flow / law.pipe.area
    head = level - law.mouth
    full = law.pipe.flow_at(level - max(law.release, solution.level[link.b]))
    if head >= law.prime_to or mouth_flow(head, law.pipe.bore)[0] >= full:
        return DrainRun("full siphon", flow, speed, True, capacity)
    if head > law.prime_from:
        return DrainRun("gulping", flow, speed, False, capacity)
    return DrainRun("open", flow, speed, flow <= QUIET_SHARE * capacity, capacity)


def most(link_id: str, solution: Solution, level: float) -> float:
    """What a drain carries alone in m³/s with the water before it at a level in m."""
    link = solution.network.link(link_id)
    return link.law.flow(level, solution.level[link.b])[0]
