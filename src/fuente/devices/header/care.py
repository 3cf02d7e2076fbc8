"""Upkeep of a common drain."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.header.spec import HeaderSpec
from fuente.devices.site import Site
from fuente.network.model import Solution
from fuente.one_line import within


def care(spec: HeaderSpec, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Slime narrows it."""
    why = "Slime and snails narrow a pipe that lies nearly level; every tank above shares it."
    return (Task(f"{spec.id}.flush", f"Flush the {within(spec.name)}", 90 * 86400.0, why, spec.id),)
