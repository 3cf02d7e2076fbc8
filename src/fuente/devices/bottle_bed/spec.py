"""What the builder decides of moving beds in bottles."""

from __future__ import annotations

import math
from typing import Any, Literal

from pydantic import Field, model_validator

from fuente.devices.base import Outline, measured, picked
from fuente.devices.contract import Held, Site
from fuente.devices.filtering import counted
from fuente.devices.pocket import PocketSpec
from fuente.one_line import Line

ENTRIES = {"centre": "the centre: it mixes", "side": "one side: it rolls"}
NECK = 0.3  # of a shouldered bottle's bore
ENDS = {"open": "an open line", "diffuser": "a diffuser"}


def _circle(bore: float) -> float:
    return math.pi / 4 * bore**2


class BottleBed(PocketSpec):
    """Equal straight-walled bottles or tubes side by side; ``tubes`` counts them. The bottle itself is the lift."""

    kind: Literal["bottle_bed"] = "bottle_bed"
    name: Line = Field("Bottle moving bed", max_length=80)
    drive: Literal["air"] = "air"
    tubes: int = counted(1, "Bottles", 1, 12)
    diameter: float = measured(0.09, "length", "Bottle's bore", 0.03, 0.5, step=0.005)
    height: float = measured(0.25, "length", "Bottle's height", 0.05, 2.0, step=0.01)
    shoulder: float = measured(
        0.0, "length", "Of it, its shoulder", 0.0, 1.0, "It narrows to its neck over this; 0 for straight.", step=0.01
    )
    hang: float = measured(0.03, "length", "Bottle's foot above the tank's floor", 0.0, 3.0, step=0.01)
    medium: str = Field("wheel_10", description="Carriers, an id of the catalogue.")
    fill: float = measured(0.667, "fraction", "Filled with carriers", 0.05, 1.0, step=0.05)
    holes: int = counted(60, "Holes at the foot", 1, 2000)
    hole: float = measured(0.006, "fine_length", "Their bore", 0.001, 0.05, step=0.0005)
    top_holes: int = counted(60, "Holes under the top", 0, 2000)
    top_hole: float = measured(0.006, "fine_length", "Bore of those", 0.001, 0.05, step=0.0005)
    cap_holes: int = counted(0, "Holes in the cap", 0, 500)
    cap_hole: float = measured(0.006, "fine_length", "Bore of those in the cap", 0.001, 0.05, step=0.0005)
    airline: float = measured(0.006, "fine_length", "Airline's outside", 0.003, 0.02, step=0.0005)
    suckers: int = counted(2, "Suckers or hangers, each", 0, 6)
    sucker: float = measured(0.006, "fine_length", "Hole for one", 0.002, 0.02, step=0.0005)
    sponge: float = measured(0.0, "number", "Intake sponge, pores per inch", 0.0, 60.0, "0 for none.", step=5.0)
    entry: Literal["centre", "side"] = picked("side", "Air enters at", ENTRIES)
    end: Literal["open", "diffuser"] = picked("diffuser", "Air comes through", ENDS)
    roll: Literal["gentle", "hard"] = picked("gentle", "It is moved", {"gentle": "gently", "hard": "hard"})
    age: float = measured(
        0.0, "days", "Carriers have been in water for", 0.0, 3650 * 86400.0, "New ones float.", step=7 * 86400.0
    )

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its bottles in a row."""
        return self._within(site, self.diameter)

    @model_validator(mode="before")
    @classmethod
    def _as_at_the_foot(cls, data: Any) -> Any:
        """Where nothing is said of the top it has the holes of the foot: so were files before the two were told
        apart.
        """
        if not isinstance(data, dict):
            return data
        alike = {f"top_{name}": data[name] for name in ("hole", "holes") if name in data}
        return {**alike, **data}

    @model_validator(mode="after")
    def _fits(self) -> BottleBed:
        if self.shoulder > 0.6 * self.height:
            raise ValueError("A bottle's shoulder takes at most six tenths of its height.")
        if self.sponge and not 8 <= self.sponge <= 60:
            raise ValueError("An intake sponge has 8 to 60 pores per inch, or 0 for none.")
        if self.top_holes + self.cap_holes == 0:
            raise ValueError("A bottle wants holes under its top or in its cap for the water to leave by.")
        wall = 0.6 * math.pi * self.diameter * 0.1 + 0.4 * math.pi / 4 * self.diameter**2
        for where, area in (("foot", self.open_area), ("top", self.top_holes * self.tubes * _circle(self.top_hole))):
            if area > self.tubes * wall:
                raise ValueError(f"So many holes leave no wall at the bottle's {where}; take fewer or smaller ones.")
        cap = self.diameter * (NECK if self.shoulder else 1.0)
        if self.cap_holes * _circle(self.cap_hole) > 0.6 * _circle(cap):
            raise ValueError("So many holes leave no cap; take fewer or smaller ones.")
        return self

    def holds(self) -> tuple[Held, ...]:
        """Its carriers."""
        return (Held(self.medium, "carrier"),)

    @property
    def ends_its_line(self) -> bool:
        """An open line or a diffuser, as its card says."""
        return True

    @property
    def bottle(self) -> float:
        """Volume of one bottle, m³; its shoulder narrows to a neck of three tenths of its bore."""
        straight = self.height - self.shoulder
        return math.pi / 4 * self.diameter**2 * (straight + self.shoulder * (1 + NECK + NECK**2) / 3)

    @property
    def media(self) -> float:
        """Bulk of all carriers, m³."""
        return self.tubes * self.bottle * self.fill

    @property
    def open_area(self) -> float:
        """Of the holes at the foot, m², all bottles."""
        return self.tubes * self.holes * _circle(self.hole)

    @property
    def way_out(self) -> float:
        """Of the holes under the top and in the cap, m², all bottles."""
        return self.tubes * (self.top_holes * _circle(self.top_hole) + self.cap_holes * _circle(self.cap_hole))

    @property
    def narrowest(self) -> float:
        """The less of the two ways that all its water takes, m²."""
        return min(self.open_area, self.way_out)

    @property
    def long(self) -> float:
        """Room along the tank, m."""
        return self.tubes * (self.diameter + 0.01)

    @property
    def air_line_end(self) -> str:
        """As the bed wants it."""
        return self.end
