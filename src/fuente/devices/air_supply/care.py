"""Upkeep of an air supply."""

from __future__ import annotations

from fuente.devices.air_supply.network import end_of
from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.network.model import Solution
from fuente.one_line import within

WEEK = 7 * 86400.0


def care(spec: AirSupplySpec, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Filter pad, membranes, stones."""
    found = [
        Task(
            f"{spec.id}.dust",
            f"Rinse the dust pad of {within(spec.pump.name)}",
            13 * WEEK,
            "Dust starves it and heats it.",
            spec.id,
        ),
        Task(
            f"{spec.id}.membrane",
            "Change the air pump's membranes",
            104 * WEEK,
            "They tear without warning; keep a set.",
            spec.id,
        ),
        Task(
            f"{spec.id}.check",
            "Blow through the air check valves",
            26 * WEEK,
            "Lime holds them open, or shut.",
            spec.id,
        ),
    ]
    if any(end_of(d, site.devices) == "diffuser" for d in spec.drops):
        found.append(
            Task(
                f"{spec.id}.stones",
                "Change the diffusers",
                26 * WEEK,
                "They clog and take the pump's pressure.",
                spec.id,
            )
        )
    return tuple(found)
