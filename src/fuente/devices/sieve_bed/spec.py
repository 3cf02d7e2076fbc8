"""What the builder decides of a sieve or screen bed."""

from __future__ import annotations

import math
from typing import ClassVar, Literal

from pydantic import Field, model_validator

from fuente.devices.base import Outline, measured
from fuente.devices.beside import BesideSpec, DrainSpec, FeedSpec
from fuente.devices.contract import Device, End, Held, Site
from fuente.devices.filtering import counted
from fuente.one_line import Line

MOST_LINES = 3  # ways in and ways out besides the first of each


class SieveBed(BesideSpec):
    """A box whose water falls through a screen, on a frame, into a chamber with media and the pump."""

    rim_field: ClassVar[str] = "height"

    kind: Literal["sieve_bed"] = "sieve_bed"
    name: Line = Field("Sieve", max_length=80)
    length: float = measured(1.0, "length", "Length", 0.1, 6.0, step=0.05)
    width: float = measured(0.6, "length", "Width", 0.1, 4.0, step=0.05)
    height: float = measured(0.8, "length", "Height", 0.15, 3.0, step=0.05)
    screen: float = measured(0.55, "length", "Screen above its floor", 0.05, 2.9, step=0.01)
    aperture: float = measured(300e-6, "micron", "Screen's openings", 50e-6, 3e-3, step=50e-6)
    open_share: float = measured(0.3, "fraction", "Open share of the screen", 0.02, 0.9, step=0.05)
    clogged: float = measured(
        0.5, "fraction", "Share that dirt may close", 0.0, 0.95, "What it is sized for.", step=0.05
    )
    edge: float = measured(
        0.08, "length", "Water may rise over the screen", 0.01, 1.0, "Then it runs over an edge past it.", step=0.01
    )
    tube: float = measured(0.032, "fine_length", "Frame's tube outside", 0.01, 0.12, step=0.001)
    wall: float = measured(0.0024, "fine_length", "Frame tube's wall", 0.0008, 0.02, step=0.0002)
    bars: int = counted(3, "Frame's bars across", 0, 40)
    legs: int = counted(3, "Legs along each side", 2, 12)
    load: float = measured(15.0, "mass", "Wet dirt and media on each m²", 0.0, 400.0, "kg on a m².", step=5.0)
    medium: str = Field("scrubber", description="Lower media, an id of the catalogue.")
    media: float = measured(0.0, "volume", "Lower media", 0.0, 10.0, step=0.01)
    spare: float = measured(0.0, "flow", "To spare for another pump", 0.0, 0.05, step=500e-3 / 3600)
    waste: str = Field("63-pn10", description="Waste outlet, an id of the catalogue.")

    feed: FeedSpec = FeedSpec(way="float", hold=0.4)
    drain: DrainSpec = DrainSpec(way="pump")

    feeds: tuple[FeedSpec, ...] = Field((), max_length=MOST_LINES, description="Further ways in.")
    drains: tuple[DrainSpec, ...] = Field((), max_length=MOST_LINES, description="Further ways out.")

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its box."""
        return (Outline(self.name, self.offset, 0.0, self.length, self.width, self.stand),)

    @model_validator(mode="after")
    def _fits(self) -> SieveBed:
        if any(feed.way in ("fed", "air") for feed in self.feeds):
            raise ValueError(f"{self.name}: a further way in is a pipe or a pump.")
        if self.screen + self.edge > self.height - 0.02:
            raise ValueError("The screen and the edge over it are above the rim.")
        if self.media > 0.9 * self.area * self.screen:
            raise ValueError("There is more lower media than room under the screen.")
        return self

    def holds(self) -> tuple[Held, ...]:
        """Its lower media."""
        return (Held(self.medium),)

    def ends(self) -> tuple[End, ...]:
        """Those of all its lines."""
        more = (*(End(f.source, "draws") for f in self.feeds), *(End(d.into, "gives", d.chamber) for d in self.drains))
        return (*super().ends(), *more)

    def falls(self) -> tuple[tuple[str, float], ...]:
        """Of every way in that is a fall."""
        return (*super().falls(), *((f.source, f.height) for f in self.feeds if f.way == "fall"))

    def past(self, gone: Device) -> SieveBed | None:
        """Without the further lines that led from or to what goes."""
        made = super().past(gone)
        if not isinstance(made, SieveBed):
            return None
        feeds = tuple(f for f in self.feeds if f.source != gone.id)
        drains = tuple(d for d in self.drains if d.into != gone.id)
        same = (feeds, drains) == (self.feeds, self.drains)
        return made if same else made.model_copy(update={"feeds": feeds, "drains": drains})

    @property
    def area(self) -> float:
        """Of the screen, m²."""
        return self.length * self.width

    @property
    def span(self) -> float:
        """Between two supports of the screen's frame, m: across the width, or between its bars along the length."""
        return min(self.width, self.length)

    @property
    def inertia(self) -> float:
        """Of the frame's tube, m⁴."""
        return math.pi / 64 * (self.tube**4 - max(self.tube - 2 * self.wall, 0.0) ** 4)
