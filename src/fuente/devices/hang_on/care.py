"""Upkeep of a hang-on overflow."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.site import Site
from fuente.network.model import Solution


def care(spec: HangOn, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Air gathers in the tube."""
    why = "Air gathers at its top until the siphon breaks, and then the pump empties the sump into the tank."
    return (Task(f"{spec.id}.air", "Draw the air out of the siphon tube", 7 * 86400.0, why, spec.id),)
