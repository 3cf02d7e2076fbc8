"""Upkeep of a sponge or box."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.sponge.spec import Sponge
from fuente.network.model import Solution

WEEK = 7 * 86400.0


def care(spec: Sponge, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Squeeze it, look at its air."""
    why = "Its pores hold what it lives on until they clog; tap water with chlorine kills the film."
    return (
        Task(f"{spec.id}.squeeze", f"Squeeze {spec.name.lower()} out in old tank water", 4 * WEEK, why, spec.id),
        Task(
            f"{spec.id}.air",
            f"Look whether {spec.name.lower()} still lifts",
            WEEK,
            "Airlines clog with lime and slip off.",
            spec.id,
        ),
    )
