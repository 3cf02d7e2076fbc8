"""A state of the water that Fuente foresees, with its verdict, and the names of all of them."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from fuente.devices.base import Verdict
from fuente.network import Solution

MOVERS = ("lift", "inner-pump", "feed-pump", "pump", "branch")  # kinds of ways that machines drive
TITLES = {
    "running": "Running",
    "power_cut": "Power cut",
    "valve_leaks": "Valve leaks",
    "drain_blocked": "Drain blocked",
    "pipe_blocked": "Pipe blocked",
    "air_open": "Air valve open",
    "pads_dirty": "Pads dirty",
    "evaporated": "Evaporated",
    "cleaning": "Cleaning",
}


@dataclass(frozen=True)
class Situation:
    """A state of the water with its one-line verdict."""

    name: str
    title: str
    solution: Solution
    verdict: Verdict
    numbers: Mapping[str, float] = field(default_factory=dict)
