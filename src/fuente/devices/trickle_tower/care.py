"""Upkeep of a trickle tower."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.trickle_tower.spec import TrickleTower
from fuente.network.model import Solution

WEEK = 7 * 86400.0


def care(spec: TrickleTower, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Holes, base."""
    return (
        Task(
            f"{spec.id}.holes", "Brush the tray's holes through", WEEK, "One clogged hole is one dry stripe.", spec.id
        ),
        Task(
            f"{spec.id}.base",
            "Siphon the muck out of the base",
            13 * WEEK,
            "What comes off the packing settles there.",
            spec.id,
        ),
    )
