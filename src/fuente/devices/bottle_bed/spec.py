"""What the builder decides of moving beds in bottles."""

from __future__ import annotations

import math
from typing import Literal

from pydantic import Field, model_validator

from fuente.devices.base import measured
from fuente.devices.contract import Held
from fuente.devices.filtering import counted, picked
from fuente.devices.pocket import PocketSpec

ENTRIES = {"centre": "the centre: it mixes", "side": "one side: it rolls"}
NECK = 0.3  # of a shouldered bottle's bore
ENDS = {"open": "an open line", "diffuser": "a diffuser"}


class BottleBed(PocketSpec):
    """Equal straight-walled bottles or tubes side by side; ``tubes`` counts them. The bottle itself is the lift."""

    kind: Literal["bottle_bed"] = "bottle_bed"
    name: str = Field("Bottle moving bed", max_length=80)
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
    holes: int = counted(60, "Holes at the foot, and as many at the top", 1, 2000)
    hole: float = measured(0.006, "fine_length", "Hole's bore", 0.001, 0.05, step=0.0005)
    sponge: float = measured(0.0, "number", "Intake sponge, pores per inch", 0.0, 60.0, "0 for none.", step=5.0)
    entry: Literal["centre", "side"] = picked("side", "Air enters at", ENTRIES)
    end: Literal["open", "diffuser"] = picked("diffuser", "Air comes through", ENDS)
    roll: Literal["gentle", "hard"] = picked("gentle", "It is moved", {"gentle": "gently", "hard": "hard"})
    age: float = measured(
        0.0, "days", "Carriers have been in water for", 0.0, 3650 * 86400.0, "New ones float.", step=7 * 86400.0
    )

    @model_validator(mode="after")
    def _fits(self) -> BottleBed:
        if self.shoulder > 0.6 * self.height:
            raise ValueError("A bottle's shoulder takes at most six tenths of its height.")
        if self.sponge and not 8 <= self.sponge <= 60:
            raise ValueError("An intake sponge has 8 to 60 pores per inch, or 0 for none.")
        if (
            self.holes * math.pi / 4 * self.hole**2
            > 0.6 * math.pi * self.diameter * 0.1 + 0.4 * math.pi / 4 * self.diameter**2
        ):
            raise ValueError("So many holes leave no wall at the bottle's foot; take fewer or smaller ones.")
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
        return self.tubes * self.holes * math.pi / 4 * self.hole**2

    @property
    def long(self) -> float:
        """Room along the tank, m."""
        return self.tubes * (self.diameter + 0.01)

    @property
    def air_line_end(self) -> str:
        """As the bed wants it."""
        return self.end
