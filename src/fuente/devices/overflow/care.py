"""Upkeep of an overflow."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.overflow.spec import Overflow
from fuente.devices.site import Site
from fuente.network.model import Solution


def care(overflow: Overflow, site: Site, solution: Solution) -> tuple[Task, ...]:
    """What comes round."""
    month = 30 * 86400.0
    tasks = [Task(f"{overflow.id}.teeth", "Wipe the weir's teeth", month, "Blocked teeth raise the tank.", overflow.id)]
    if overflow.screen:
        why = "Half of it covered leaves half of the crest, and the tank rises."
        tasks.append(Task(f"{overflow.id}.screen", "Lift plants off the screen", 7 * 86400.0, why, overflow.id))
    if any(d.role == "emergency" for d in overflow.drains):
        why = "Pour a jug into the dry pipe and listen: it must run free."
        tasks.append(Task(f"{overflow.id}.emergency", "Try the emergency drain", month, why, overflow.id))
    return tuple(tasks)
