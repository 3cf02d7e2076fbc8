"""Upkeep of fresh water."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.top_up.spec import TopUp
from fuente.network.model import Solution


def care(spec: TopUp, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Floats stick."""
    if spec.source == "drip":
        return (Task(f"{spec.id}.drip", "Time the drip into a cup", 30 * 86400.0, "Emitters clog slowly.", spec.id),)
    return (
        Task(
            f"{spec.id}.float",
            "Lift the float by hand",
            30 * 86400.0,
            "A float that sticks floods or starves.",
            spec.id,
        ),
    )
