"""Upkeep of socks."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.sock.spec import SockStage
from fuente.network.model import Solution
from fuente.one_line import within


def care(spec: SockStage, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Change them."""
    return (
        Task(
            f"{spec.id}.change",
            f"Change the {within(spec.name)}",
            5 * 86400.0,
            "Dirt in a sock is still in the water: the short interval goes to the cheapest pad.",
            spec.id,
            minutes=4,
            tools=("clean sock", "bucket"),
            how=("Lift it slowly, so that nothing runs over its rim", "Hang in a clean, dry one", "Wash it inside out"),
            clogs=("*",),
            does="swapped",
            uses=(("sock", 1.0),),
        ),
    )
