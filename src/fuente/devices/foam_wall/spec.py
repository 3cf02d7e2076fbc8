"""What the builder decides of a foam wall."""

from __future__ import annotations

import math
from typing import Literal

from pydantic import Field, model_validator

from fuente.devices.base import measured
from fuente.devices.filtering import counted, picked
from fuente.devices.pocket import PocketSpec

SHAPES = {"flat": "flat across the tank", "corner": "quarter-round in a corner"}
TWIN = {"single": "one pad", "twin": "two pads, one swapped at a time"}


class FoamWall(PocketSpec):
    """Foam held by rails across a tank or round a corner; water goes through it and is lifted back from behind it."""

    kind: Literal["foam_wall"] = "foam_wall"
    name: str = Field("Foam wall", max_length=80)
    shape: Literal["flat", "corner"] = picked("flat", "It stands", SHAPES)
    thickness: float = measured(0.05, "length", "Foam's thickness", 0.01, 0.3, "Of each pad.", step=0.005)
    ppi: float = measured(20.0, "number", "Pores per inch", 8.0, 60.0, step=5.0)
    twin: Literal["single", "twin"] = picked("single", "Cartridge", TWIN)
    second: float = measured(30.0, "number", "Second pad, pores per inch", 8.0, 60.0, "Behind the first.", step=5.0)
    height: float = measured(0.3, "length", "Top of the foam above the floor", 0.03, 3.0, step=0.005)
    dam: float = measured(0.0, "length", "Dam under the foam", 0.0, 0.5, "Holds the substrate back.", step=0.005)
    behind: float = measured(0.06, "length", "Room behind it", 0.01, 2.0, "Kept by spacers.", step=0.005)
    reach: float = measured(
        0.2, "length", "Reach along either wall", 0.04, 2.0, "Of a corner wall, to its outer face.", step=0.01
    )
    across: float = measured(
        0.3, "length", "Wall's length across the tank", 0.03, 4.0, "The tank's inner width.", step=0.005
    )
    walls: int = counted(1, "Walls one after the other", 1, 6)
    spacing: float = measured(0.2, "length", "Between two walls", 0.02, 3.0, "Of dividers along the tank.", step=0.01)
    squeeze: float = measured(
        0.015, "percent", "Cut larger by", 0.0, 0.1, "So that no water passes its edges.", step=0.005
    )

    @model_validator(mode="after")
    def _fits(self) -> FoamWall:
        if self.dam >= self.height - 0.02:
            raise ValueError("The dam leaves no foam over it.")
        if self.shape == "corner" and self.deep >= self.reach:
            raise ValueError("The foam is thicker than the corner is deep; take a larger reach.")
        if self.shape == "corner" and self.walls > 1:
            raise ValueError("Corner walls stand alone; dividers are flat.")
        return self

    @property
    def pads(self) -> tuple[float, ...]:
        """Pores per inch of the pads in the water's order."""
        return (self.ppi, self.second) if self.twin == "twin" else (self.ppi,)

    @property
    def deep(self) -> float:
        """All pads together, m."""
        return self.thickness * len(self.pads)

    @property
    def foam_height(self) -> float:
        """m."""
        return self.height - self.dam

    @property
    def face(self) -> float:
        """Length of the wall's middle line, m."""
        return self.across if self.shape == "flat" else math.pi / 2 * (self.reach - self.deep / 2)

    @property
    def bulk(self) -> float:
        """Foam, m³."""
        return self.face * self.deep * self.foam_height * self.walls

    @property
    def long(self) -> float:
        """Room along the tank, m."""
        if self.shape == "corner":
            return self.reach
        return self.behind + self.walls * self.deep + (self.walls - 1) * self.spacing
