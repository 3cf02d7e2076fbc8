"""Upkeep of bottle beds."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.site import Site
from fuente.network.model import Solution
from fuente.one_line import within

WEEK = 7 * 86400.0


def care(spec: BottleBed, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Look, listen, rinse the sponge."""
    found = [
        Task(
            f"{spec.id}.look",
            f"Look whether {within(spec.name)} turns everywhere",
            WEEK,
            "A corner that stands still rots.",
            spec.id,
        )
    ]
    if spec.sponge:
        found.append(
            Task(
                f"{spec.id}.sponge",
                "Rinse the intake sponge in old tank water",
                2 * WEEK,
                "Leave the cap on meanwhile: carriers float out.",
                spec.id,
            )
        )
    if spec.end == "diffuser":
        found.append(
            Task(
                f"{spec.id}.stone", "Change the bottle's diffuser", 26 * WEEK, "It clogs, and the bed stands.", spec.id
            )
        )
    return tuple(found)
