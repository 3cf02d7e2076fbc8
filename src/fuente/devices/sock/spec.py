"""What the builder decides of socks on an overflow."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from pydantic import Field

from fuente.devices.base import Outline, measured
from fuente.devices.beside import BesideSpec, DrainSpec, FeedSpec
from fuente.devices.contract import Site
from fuente.devices.filtering import counted
from fuente.one_line import Line


class SockStage(BesideSpec):
    """Socks in a holder over a box; water falls into them, through their felt, and on."""

    rim_field: ClassVar[str] = "height"

    kind: Literal["sock"] = "sock"
    name: Line = Field("Socks", max_length=80)
    socks: int = counted(1, "Socks", 1, 12)
    diameter: float = measured(0.18, "length", "Sock's diameter", 0.05, 0.5, step=0.01)
    sock: float = measured(0.4, "length", "Sock's length", 0.1, 1.0, step=0.05)
    micron: float = measured(200e-6, "micron", "Sock's rating", 5e-6, 1e-3, step=50e-6)
    length: float = measured(0.3, "length", "Box's length", 0.08, 3.0, step=0.01)
    width: float = measured(0.3, "length", "Box's width", 0.08, 2.0, step=0.01)
    height: float = measured(0.5, "length", "Box's height", 0.15, 1.5, step=0.05)

    feed: FeedSpec = FeedSpec(way="fall", release=0.45)
    drain: DrainSpec = DrainSpec(way="fall", height=0.1)

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its box."""
        return (Outline(self.name, self.offset, 0.0, self.length, self.width, self.stand),)

    @property
    def plate(self) -> float:
        """Height of the plate that the socks hang in, m."""
        return self.height - 0.06

    @property
    def felt(self) -> float:
        """Area of all felt, m²."""
        return self.socks * (math.pi * self.diameter * self.sock + math.pi / 4 * self.diameter**2)
