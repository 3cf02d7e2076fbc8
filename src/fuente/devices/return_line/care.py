"""Upkeep of a return."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.lamps import LAMP_LIFE
from fuente.devices.return_line.spec import ReturnSpec
from fuente.devices.site import Site
from fuente.network.model import Solution


def care(line: ReturnSpec, site: Site, solution: Solution) -> tuple[Task, ...]:
    """What comes round."""
    season = 90 * 86400.0
    tasks = [
        Task(f"{line.id}.pump", "Clean the pump's intake and impeller", season, "Wear and lime take flow.", line.id)
    ]
    if line.valve != "none":
        why = "Switch the pump off and watch the tank: a valve that leaks shows at once."
        tasks.append(Task(f"{line.id}.valve", "Try the check valve", season, why, line.id))
    if any(o.hole for o in line.outlets):
        tasks.append(Task(f"{line.id}.hole", "Poke the air holes clear", 30 * 86400.0, "Algae close them.", line.id))
    if line.lamp:
        tasks += [
            Task(f"{line.id}.lamp", "Change the steriliser's lamp", LAMP_LIFE, "Old, it glows in vain.", line.id),
            Task(f"{line.id}.sleeve", "Clean the lamp's sleeve", season, "Lime on it keeps the light back.", line.id),
        ]
    return tuple(tasks)
