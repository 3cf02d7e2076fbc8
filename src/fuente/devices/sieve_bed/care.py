"""Upkeep of a sieve."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.devices.site import Site
from fuente.network.model import Solution

DAY = 86400.0


def care(spec: SieveBed, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Screen, float."""
    return (
        Task(
            f"{spec.id}.screen",
            "Hose the screen off from below",
            2 * DAY,
            "What lies on it dissolves again within days.",
            spec.id,
        ),
        Task(
            f"{spec.id}.float",
            "Lift the float: does the valve shut?",
            28 * DAY,
            "Threads of algae hold it open.",
            spec.id,
        ),
    )
