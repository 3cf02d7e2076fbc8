"""Upkeep of a tank."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.tank.spec import Tank
from fuente.network.model import Solution

WEEK = 7 * 86400.0


def care(tank: Tank, site: Site, solution: Solution) -> tuple[Task, ...]:
    """What comes round."""
    return (
        Task(
            f"{tank.id}.change",
            f"Change a fifth of the water of {tank.name}",
            WEEK,
            "Nitrate leaves by water change first of all.",
            tank.id,
        ),
    )
