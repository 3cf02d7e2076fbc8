"""Upkeep of a steriliser."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.steriliser.spec import Steriliser
from fuente.network.model import Solution

DAY = 86400.0


def care(spec: Steriliser, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Lamp, sleeve."""
    return (
        Task(
            f"{spec.id}.lamp",
            "Change the steriliser's lamp",
            270 * DAY,
            "It glows on long after its ultraviolet is gone.",
            spec.id,
        ),
        Task(
            f"{spec.id}.sleeve",
            "Wipe the lamp's sleeve, switched off",
            90 * DAY,
            "Lime and film hold the light back.",
            spec.id,
        ),
    )
