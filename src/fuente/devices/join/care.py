"""Upkeep of a join."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.join.spec import JoinSpec
from fuente.devices.site import Site
from fuente.network.model import Solution
from fuente.one_line import within


def care(spec: JoinSpec, site: Site, solution: Solution) -> tuple[Task, ...]:
    """It must stay free."""
    why = "A join that narrows lifts the sump that gives; mark both levels and compare."
    return (Task(f"{spec.id}.brush", f"Brush the {within(spec.name)} through", 90 * 86400.0, why, spec.id),)
