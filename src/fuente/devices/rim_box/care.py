"""Upkeep of a hang-on filter."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.rim_box.spec import RimBox
from fuente.devices.site import Site
from fuente.network.model import Solution
from fuente.one_line import within

WEEK = 7 * 86400.0


def care(spec: RimBox, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Block, lip, inlet."""
    name = within(spec.name)
    found = [
        Task(
            f"{spec.id}.rinse", f"Rinse the block of {name}", 4 * WEEK, "In old tank water, never the bag too.", spec.id
        ),
        Task(
            f"{spec.id}.gauge",
            f"Look how high the water stands before the block of {name}",
            WEEK,
            "It rises as the block clogs; over the block it goes past it.",
            spec.id,
        ),
    ]
    if spec.inlet == "skim":
        why = "Leaves block it, and as water evaporates it sucks air."
        found.append(Task(f"{spec.id}.skim", f"Look at the skimming inlet of {name}", WEEK / 7, why, spec.id))
    return tuple(found)
