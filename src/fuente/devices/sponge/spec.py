"""What the builder decides of a sponge or box filter on air."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.devices.base import measured
from fuente.devices.contract import Held
from fuente.devices.filtering import picked
from fuente.devices.pocket import PocketSpec

STYLES = {"sponge": "a sponge", "box": "a box of media"}


class Sponge(PocketSpec):
    """A block of foam, or a slotted box of media, with lift tubes in its middle."""

    kind: Literal["sponge"] = "sponge"
    name: str = Field("Sponge filter", max_length=80)
    style: Literal["sponge", "box"] = picked("sponge", "It is", STYLES)
    length: float = measured(0.12, "length", "Block's length", 0.02, 2.0, step=0.01)
    width: float = measured(0.12, "length", "Block's width", 0.02, 2.0, step=0.01)
    height: float = measured(0.15, "length", "Block's height", 0.02, 1.5, step=0.01)
    ppi: float = measured(20.0, "number", "Pores per inch", 8.0, 60.0, "Of the foam.", step=5.0)
    medium: str = Field("ring", description="Media in the box, an id of the catalogue.")
    slots: float = measured(0.2, "fraction", "Open share of the box's walls", 0.02, 0.9, step=0.05)

    @model_validator(mode="after")
    def _fits(self) -> Sponge:
        if self.tubes * (self.bore + 0.004) > 0.9 * self.length:
            raise ValueError("The lift tubes do not fit into the block; take fewer or narrower ones.")
        return self

    def holds(self) -> tuple[Held, ...]:
        """What a box is filled with."""
        return (Held(self.medium),)

    @property
    def block(self) -> float:
        """Bulk of foam or media, m³: the block less the tubes' core."""
        return self.length * self.width * self.height * 0.9

    @property
    def face(self) -> float:
        """Outer faces that water enters by, m²: four sides and the top."""
        return 2 * (self.length + self.width) * self.height + self.length * self.width

    @property
    def long(self) -> float:
        """Room along the tank, m."""
        return self.length
