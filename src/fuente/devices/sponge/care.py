"""Upkeep of a sponge or box."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.sponge.spec import Sponge
from fuente.network.model import Solution

WEEK = 7 * 86400.0


def care(spec: Sponge, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Squeeze it, look at its air."""
    why = "Its pores hold what it lives on until they clog; tap water with chlorine kills the film."
    name = spec.name.lower()
    why_air = "Airlines clog with lime and slip off."
    air = Task(f"{spec.id}.air", f"Look whether {name} still lifts", WEEK, why_air, spec.id)
    if not spec.matted:
        return (Task(f"{spec.id}.squeeze", f"Squeeze {name} out in old tank water", 4 * WEEK, why, spec.id), air)
    what = "Rinse the mat of" if spec.top == "foam" else "Change the fleece of"
    dirt = "It catches all dirt; the media under it waits."
    return (
        Task(f"{spec.id}.mat", f"{what} {name}", 2 * WEEK, dirt, spec.id),
        Task(f"{spec.id}.bags", f"Swish a part of the media of {name}", 13 * WEEK, why, spec.id),
        air,
    )
