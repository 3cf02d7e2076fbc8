"""What the builder decides of a plant bed or planter."""

from __future__ import annotations

from typing import ClassVar, Literal

from pydantic import Field

from fuente.devices.base import Outline, measured, picked
from fuente.devices.beside import BesideSpec, DrainSpec, FeedSpec
from fuente.devices.contract import Site
from fuente.one_line import Line

PLANTS = {"marsh": "marsh plants", "herbs": "herbs and greens", "floating": "floating plants", "none": "none yet"}


class PlantBed(BesideSpec):
    """A trough of gravel that water is led through along its length, with plants in it."""

    rim_field: ClassVar[str] = "height"

    kind: Literal["plant_bed"] = "plant_bed"
    name: Line = Field("Plant bed", max_length=80)
    length: float = measured(1.2, "length", "Length", 0.1, 20.0, step=0.1)
    width: float = measured(0.5, "length", "Width", 0.05, 6.0, step=0.05)
    height: float = measured(0.4, "length", "Height", 0.05, 2.0, step=0.05)
    gravel: float = measured(0.3, "length", "Gravel", 0.0, 1.9, step=0.05)
    grain: float = measured(0.008, "fine_length", "Grain", 0.001, 0.05, step=0.001)
    void: float = measured(0.4, "fraction", "Void of the gravel", 0.25, 0.6, step=0.01)
    plants: Literal["marsh", "herbs", "floating", "none"] = picked("marsh", "Planted with", PLANTS)
    planted: float = measured(0.8, "fraction", "Share that grows", 0.0, 1.0, step=0.1)

    feed: FeedSpec = FeedSpec(way="pump", release=0.35)
    drain: DrainSpec = DrainSpec(way="fall", height=0.25)

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its box."""
        return (Outline(self.name, self.offset, 0.0, self.length, self.width, self.stand),)

    @property
    def plan(self) -> float:
        """m²."""
        return self.length * self.width
