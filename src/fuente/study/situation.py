"""A state of the water that Fuente foresees, with its verdict."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field

from fuente.devices.base import Verdict
from fuente.network import Solution


@dataclass(frozen=True)
class Situation:
    """A state of the water with its one-line verdict; ``about`` is what it is about where it can be about several
    things.
    """

    name: str
    title: str
    solution: Solution
    verdict: Verdict
    numbers: Mapping[str, float] = field(default_factory=dict)
    about: str = ""
    powered: bool = True  # whether pumps, heaters and lamps have current
