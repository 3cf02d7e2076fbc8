"""What the builder decides of a trickle tower or tray stack."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from pydantic import Field, model_validator

from fuente.devices.base import Outline, measured, picked
from fuente.devices.beside import BesideSpec, DrainSpec, FeedSpec
from fuente.devices.contract import Held, Site
from fuente.devices.filtering import counted
from fuente.one_line import Line

STYLES = {"tower": "one packing", "trays": "a stack of trays"}


class TrickleTower(BesideSpec):
    """A tray with holes over a packing that water runs down in air, over a base that holds some."""

    rim_field: ClassVar[str] = "base"

    kind: Literal["trickle_tower"] = "trickle_tower"
    name: Line = Field("Trickle tower", max_length=80)
    style: Literal["tower", "trays"] = picked("tower", "It is", STYLES)
    trays: int = counted(3, "Trays", 1, 12)
    length: float = measured(0.35, "length", "Length", 0.05, 3.0, step=0.01)
    width: float = measured(0.3, "length", "Width", 0.05, 3.0, step=0.01)
    packing: float = measured(0.6, "length", "Height of the packing", 0.05, 3.0, step=0.05)
    medium: str = Field("plastic_ball", description="Packing, an id of the catalogue.")
    holes: int = counted(60, "Holes in the spreading tray", 1, 5000)
    hole: float = measured(0.006, "fine_length", "Hole's bore", 0.001, 0.03, step=0.0005)
    tray: float = measured(0.08, "length", "Spreading tray's wall", 0.01, 0.5, step=0.01)
    base: float = measured(
        0.3, "length", "Base under the packing", 0.02, 2.0, "Its wall; part of it holds water.", step=0.01
    )
    submerged: float = measured(0.0, "length", "Packing under water", 0.0, 1.0, step=0.01)

    feed: FeedSpec = FeedSpec(way="pump", release=1.0)
    drain: DrainSpec = DrainSpec(way="fall", height=0.1, release=0.4)

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its box."""
        return (Outline(self.name, self.offset, 0.0, self.length, self.width, self.stand),)

    @model_validator(mode="after")
    def _fits(self) -> TrickleTower:
        if self.submerged > self.packing:
            raise ValueError("More of the packing is under water than there is.")
        return self

    def holds(self) -> tuple[Held, ...]:
        """Its packing."""
        return (Held(self.medium),)

    @property
    def plan(self) -> float:
        """m²."""
        return self.length * self.width

    @property
    def bulk(self) -> float:
        """Packing, m³."""
        return self.plan * self.packing

    @property
    def open_area(self) -> float:
        """Of the holes, m²."""
        return self.holes * math.pi / 4 * self.hole**2

    @property
    def tall(self) -> float:
        """From its foot to the tray's rim, m."""
        return self.base + self.packing + self.tray
