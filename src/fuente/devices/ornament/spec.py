"""What the builder decides of a filter in an ornament."""

from __future__ import annotations

import math
from typing import Literal

from pydantic import Field, model_validator

from fuente.devices.base import Outline, measured, picked
from fuente.devices.contract import Held, Site
from fuente.devices.filtering import counted, yes_no
from fuente.devices.pocket import PocketSpec
from fuente.one_line import Line

FORMS = {"cylinder": "a cylinder", "box": "a box", "cone": "a cone", "litres": "known by its litres"}
SHELLS = {
    "clay": "fired clay",
    "plastic": "food-safe plastic",
    "stone": "stone",
    "metal": "metal",
    "unknown": "not known",
}
AIRLINE, CABLE = 0.006, 0.008  # m outside, as they are sold
DENSITY = {"clay": 1900.0, "plastic": 1050.0, "stone": 2600.0, "metal": 7800.0, "unknown": 1500.0}


class Ornament(PocketSpec):
    """A hollow ornament with gaps at its foot, layers inside, and a lift tube or a pump."""

    kind: Literal["ornament"] = "ornament"
    name: Line = Field("Ornament filter", max_length=80)
    form: Literal["cylinder", "box", "cone", "litres"] = picked("cylinder", "Form", FORMS)
    width: float = measured(0.16, "length", "Width outside", 0.03, 1.5, step=0.01)
    depth: float = measured(0.16, "length", "Depth outside", 0.03, 1.5, "Of a box.", step=0.01)
    height: float = measured(0.22, "length", "Height outside", 0.04, 1.5, step=0.01)
    wall: float = measured(0.006, "fine_length", "Wall", 0.001, 0.08, step=0.001)
    outer: float = measured(4e-3, "volume", "Outer volume", 1e-4, 0.5, "Where it is known by its litres.", step=1e-4)
    inner: float = measured(3e-3, "volume", "Inner cavity", 5e-5, 0.5, "Filled with water and poured out.", step=1e-4)
    shell: Literal["clay", "plastic", "stone", "metal", "unknown"] = picked("clay", "Shell", SHELLS)
    gaps: int = counted(8, "Gaps at its foot", 1, 200)
    gap: float = measured(0.004, "fine_length", "Gap's width", 0.0005, 0.05, step=0.0005)
    gap_height: float = measured(0.03, "length", "Gap's height", 0.002, 0.3, step=0.005)
    animal: float = measured(
        0.006, "fine_length", "Smallest animal's width", 0.001, 0.1, "Nobody may pass a gap.", step=0.001
    )
    ppi: float = measured(20.0, "number", "Foam layer, pores per inch", 0.0, 60.0, "0 for none.", step=5.0)
    foam: float = measured(0.03, "length", "Foam layer's thickness", 0.0, 0.3, step=0.005)
    medium: str = Field("ring", description="Media in it, an id of the catalogue.")
    media: float = measured(1e-3, "volume", "Media in it", 0.0, 0.4, step=1e-4)
    exit: float = measured(
        0.008,
        "fine_length",
        "Exit for airline or cable",
        0.0,
        0.06,
        "At its back; the hose leaves by the same.",
        step=0.001,
    )
    lid: bool = yes_no(True, "Opens for cleaning without a tear-down")
    ballast: float = measured(0.0, "mass", "Ballast put in", 0.0, 100.0, step=0.1)

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its shell."""
        return self._within(
            site, self.depth if self.form == "box" else self.width, "box" if self.form == "box" else "round"
        )

    @model_validator(mode="after")
    def _fits(self) -> Ornament:
        if self.ppi and not 8 <= self.ppi <= 60:
            raise ValueError("A foam layer has 8 to 60 pores per inch, or 0 for none.")
        if self.cavity <= 0 or self.cavity >= self.volume:
            raise ValueError("The walls leave no cavity: make it larger, or its walls thinner.")
        if self.media + self.foam_bulk > 0.95 * self.cavity:
            raise ValueError("Media and foam are more than the cavity holds.")
        return self

    def holds(self) -> tuple[Held, ...]:
        """What lies in it."""
        return (Held(self.medium),)

    @property
    def passes(self) -> float:
        """What must pass its exit, m: the airline's outside, or the cable beside a hose that ends inside."""
        return AIRLINE if self.drive == "air" else CABLE

    @property
    def share(self) -> float:
        """Of its box that the form fills."""
        return {"box": 1.0, "cylinder": math.pi / 4, "cone": math.pi / 12, "litres": 1.0}[self.form]

    @property
    def volume(self) -> float:
        """Outer volume, m³."""
        if self.form == "litres":
            return self.outer
        deep = self.depth if self.form == "box" else self.width
        return self.share * self.width * deep * self.height

    @property
    def cavity(self) -> float:
        """Inner volume, m³."""
        if self.form == "litres":
            return self.inner
        wide, tall = self.width - 2 * self.wall, self.height - self.wall
        deep = (self.depth if self.form == "box" else self.width) - 2 * self.wall
        return self.share * max(wide, 0.0) * max(deep, 0.0) * max(tall, 0.0)

    @property
    def plan(self) -> float:
        """Mean inner section that water rises through, m²."""
        return self.cavity / max(self.height - self.wall, 1e-6)

    @property
    def foam_bulk(self) -> float:
        """Of the foam layer, m³."""
        return self.plan * self.foam if self.ppi else 0.0

    @property
    def open_area(self) -> float:
        """Of all gaps, m²."""
        return self.gaps * self.gap * self.gap_height

    @property
    def shell_volume(self) -> float:
        """Of its walls, m³."""
        return self.volume - self.cavity

    @property
    def shell_mass(self) -> float:
        """kg."""
        return self.shell_volume * DENSITY[self.shell]

    @property
    def long(self) -> float:
        """Room along the tank, m."""
        return self.width
