"""Upkeep of a canister."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.canister.spec import Canister
from fuente.devices.site import Site
from fuente.network.model import Solution

WEEK = 7 * 86400.0


def care(spec: Canister, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Rinse, seal, hoses."""
    return (
        Task(
            f"{spec.id}.rinse",
            f"Rinse the foam of {spec.name.lower()}",
            8 * WEEK,
            "In old tank water; time a bucket before and after.",
            spec.id,
        ),
        Task(
            f"{spec.id}.seal",
            "Grease its lid's seal and look at the hoses",
            26 * WEEK,
            "A dry seal weeps; hoses harden at the barbs and slip off.",
            spec.id,
        ),
    )
