"""Upkeep of a sump."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.sump.spec import Sump
from fuente.network.model import Solution

WEEK = 7 * 86400.0


def care(sump: Sump, site: Site, solution: Solution) -> tuple[Task, ...]:
    """What comes round, by chamber."""
    tasks: list[Task] = []
    for chamber in sump.chambers:
        owner = f"{sump.id}.{chamber.id}"
        if chamber.role == "socks":
            tasks.append(Task(f"{owner}.socks", "Change the socks", WEEK, "Fine felt clogs within days.", owner))
        if chamber.role == "foam":
            why = "Rinse one pad at a time, in old tank water: the others keep the living surface."
            tasks.append(Task(f"{owner}.pads", f"Rinse a pad of {chamber.title.lower()}", 4 * WEEK, why, owner))
        if chamber.role == "media":
            tasks.append(Task(f"{owner}.media", "Swish half of the media", 26 * WEEK, "Never all at once.", owner))
        if chamber.role in ("inlet", "clean_out"):
            tasks.append(
                Task(f"{owner}.muck", f"Pump out {chamber.title.lower()}", 4 * WEEK, "Muck left in rots.", owner)
            )
    return tuple(tasks)
