"""A manifold's group and ducts in a solution."""

from __future__ import annotations

from fuente.devices.manifold.network import pump_id
from fuente.devices.manifold.spec import Feeder, Manifold
from fuente.network.duct import PumpDuct
from fuente.network.ducts import Ducts
from fuente.network.model import Solution


def group_of(spec: Manifold, solution: Solution) -> Ducts:
    """The manifold's group in a solution."""
    key = pump_id(spec, spec.feeders[0])
    return next(g for g in solution.network.groups if isinstance(g, Ducts) and any(d.id == key for d in g.ducts))


def pump_duct(spec: Manifold, feeder: Feeder, solution: Solution) -> PumpDuct:
    """A pump's duct in a solution."""
    duct = next(d for d in group_of(spec, solution).ducts if d.id == pump_id(spec, feeder))
    assert isinstance(duct, PumpDuct)
    return duct


def head_at(spec: Manifold, solution: Solution) -> float:
    """Head in m at the manifold's start, over the room's floor."""
    group = group_of(spec, solution)
    return group.heads([solution.level[c] for c in group.cells], solution.flow)[f"{spec.id}:0"]
