"""Upkeep of an under-gravel filter."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.under_gravel.spec import UnderGravel
from fuente.network.model import Solution
from fuente.one_line import within

WEEK = 7 * 86400.0


def care(spec: UnderGravel, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Vacuum a part of the gravel at a time."""
    why = "Muck closes the gravel and the water takes the open places; a third at a time keeps most of the living film."
    return (
        Task(f"{spec.id}.vacuum", "Vacuum a third of the gravel", 2 * WEEK, why, spec.id),
        Task(
            f"{spec.id}.air",
            f"Look whether {within(spec.name)} still lifts",
            WEEK,
            "Airlines clog and slip off.",
            spec.id,
        ),
    )
