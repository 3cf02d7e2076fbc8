"""Upkeep of a plant bed."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.plant_bed.spec import PlantBed
from fuente.devices.site import Site
from fuente.network.model import Solution

WEEK = 7 * 86400.0


def care(spec: PlantBed, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Harvest, muck."""
    return (
        Task(
            f"{spec.id}.cut",
            "Cut and take out what has grown",
            4 * WEEK,
            "Nitrogen leaves with the leaves; what rots gives it back.",
            spec.id,
        ),
        Task(
            f"{spec.id}.head",
            "Siphon the muck out where water comes in",
            13 * WEEK,
            "The head of the bed clogs first.",
            spec.id,
        ),
    )
