"""Upkeep of standpipes."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.network.model import Solution


def care(spec: StandpipeSpec, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Strainers clog."""
    why = "A strainer behind leaves or snails lifts the water to the rim."
    name = f"Look at the drain of {solution.network.cell(spec.tank).name}"
    return (Task(f"{spec.id}.strainer", name, 7 * 86400.0, why, spec.tank),)
