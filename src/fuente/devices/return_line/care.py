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
        Task(
            f"{line.id}.pump",
            "Clean the pump's intake and impeller",
            season,
            "Wear and lime take flow.",
            line.id,
            minutes=25,
            tools=("old toothbrush", "vinegar or citric acid", "bucket"),
            how=(
                "Pull its plug; watch how far the sump rises",
                "Take the strainer off and the impeller out; wipe the magnet and its well",
                "Lime: half an hour in vinegar, then rinse well",
                "Put it together, plug it in, and time a bucket: write it down",
            ),
            does="cleaned",
        )
    ]
    if line.valve != "none":
        why = "Switch the pump off and watch the tank: a valve that leaks shows at once."
        how = (
            "Switch the pump off at its plug",
            "Watch the tank for two minutes",
            "Mark the level in the sump; switch on",
        )
        tasks.append(Task(f"{line.id}.valve", "Try the check valve", season, why, line.id, minutes=5, how=how))
    if any(o.hole for o in line.outlets):
        tasks.append(Task(f"{line.id}.hole", "Poke the air holes clear", 30 * 86400.0, "Algae close them.", line.id))
    if line.lamp:
        tasks += [
            Task(f"{line.id}.lamp", "Change the steriliser's lamp", LAMP_LIFE, "Old, it glows in vain.", line.id),
            Task(f"{line.id}.sleeve", "Clean the lamp's sleeve", season, "Lime on it keeps the light back.", line.id),
        ]
    return tuple(tasks)
