"""Upkeep of a tank itself; its water is changed as the builder keeps it."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.tank.spec import Tank
from fuente.devices.warm_shown import heater_task
from fuente.network.model import Solution


def care(tank: Tank, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Its heaters, where it has any."""
    return heater_task(tank.id, tank.name) if tank.heaters else ()
