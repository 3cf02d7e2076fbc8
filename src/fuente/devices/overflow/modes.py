"""How each drain runs: dry, as a weir, open, gulping or full; and how much it could carry."""

from __future__ import annotations

from dataclasses import dataclass

from fuente.catalogue import valve_k
from fuente.devices.draining import drain_run, most
from fuente.devices.overflow.network import drain_id
from fuente.devices.overflow.spec import Drain, Overflow
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.weirs import weir_flow, weir_head
from fuente.network.laws import Standpipe
from fuente.network.model import Solution


@dataclass(frozen=True)
class DrainState:
    """One drain in one solution: flows m³/s, speed m/s."""

    drain: Drain
    mode: str
    flow: float
    speed: float
    quiet: bool
    open_capacity: float


def state(overflow: Overflow, index: int, solution: Solution) -> DrainState:
    """How a drain runs."""
    run = drain_run(drain_id(overflow, index), solution)
    return DrainState(overflow.drains[index], run.mode, run.flow, run.speed, run.quiet, run.open_capacity)


def states(overflow: Overflow, solution: Solution) -> tuple[DrainState, ...]:
    """All drains of an overflow."""
    return tuple(state(overflow, i, solution) for i in range(len(overflow.drains)))


def capacity(overflow: Overflow, index: int, solution: Solution, level: float) -> float:
    """What a drain carries alone, m³/s, with the box filled to a level in m."""
    return most(drain_id(overflow, index), solution, level)


def covered_rise(overflow: Overflow, head: float) -> float:
    """How far the tank rises, m, where plants cover half of the crest that water runs over at a head in m: the same
    flow over half of the free length.
    """
    if head <= 0:
        return 0.0
    flow = weir_flow(head, overflow.free_weir, overflow.crest)[0]
    return weir_head(flow, overflow.free_weir / 2, overflow.crest) - head


def trimmed_opening(overflow: Overflow, index: int, solution: Solution, flow: float) -> float | None:
    """Opening of a siphon's gate valve at which it carries a flow in m³/s with the box at the open channel's mouth.

    None where even a fully open valve carries less.
    """
    drain = overflow.drains[index]
    link = solution.network.link(drain_id(overflow, index))
    law = link.law
    assert isinstance(law, Standpipe)
    opens = [d.mouth for d in overflow.drains if d.role == "open"]
    floor = law.mouth - drain.mouth
    level = floor + max(min(opens) + 0.002 if opens else drain.mouth + 0.06, drain.mouth + law.pipe.bore * 1.2)
    drop = level - max(law.release, solution.level[link.b])
    own = law.pipe.k - (valve_k(drain.valve) if drain.valve is not None else 0.0)

    def carried(opening: float) -> float:
        pipe = law.pipe
        return Pipe(pipe.bore, pipe.length, own + valve_k(opening), pipe.roughness, pipe.water).flow_at(drop)

    if carried(1.0) < flow:
        return None
    low, high = 0.02, 1.0
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if carried(middle) < flow else (low, middle)
    return high
