"""Upkeep of a manifold."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.manifold.spec import Manifold
from fuente.devices.site import Site
from fuente.network.model import Solution

_MONTH, _SEASON = 30 * 86400.0, 90 * 86400.0


def care(spec: Manifold, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Pumps, valves, holes."""
    tasks = [
        Task(f"{spec.id}.{f.id}", "Clean the pump's intake and impeller", _SEASON, "Wear and lime take flow.", spec.id)
        for f in spec.feeders
    ]
    tasks.append(
        Task(
            f"{spec.id}.valves",
            "Turn every branch valve shut and back to its mark",
            _SEASON,
            "A ball valve that never moves seizes; mark its handle first.",
            spec.id,
        )
    )
    branches = [b for row in spec.rows for b in row.branches]
    if any(b.air_hole for b in branches):
        tasks.append(Task(f"{spec.id}.holes", "Poke the air holes clear", _MONTH, "Algae close them.", spec.id))
    if any(b.form == "bar" for b in branches):
        tasks.append(Task(f"{spec.id}.bars", "Brush the spray bars", _MONTH, "Holes close one by one.", spec.id))
    return tuple(tasks)
