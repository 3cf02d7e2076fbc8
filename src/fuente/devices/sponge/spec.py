"""What the builder decides of a sponge or box filter on air."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.devices.base import Outline, Spec, measured, picked
from fuente.devices.contract import Held, Site
from fuente.devices.pocket import PocketSpec
from fuente.one_line import Line, within

STYLES = {"sponge": "a sponge", "box": "a box of media"}


TOPS = {
    "open": "by slots all round",
    "foam": "from above, through foam",
    "fleece": "from above, through fleece on a grid",
}


class Bag(Spec):
    """A bag of media in a box."""

    medium: str = Field("ring", description="Media, an id of the catalogue.")
    volume: float = measured(1e-3, "volume", "Media in the bag", 1e-5, 1.0, "In bulk.", step=5e-4)


class Sponge(PocketSpec):
    """A block of foam, or a slotted box of media, with lift tubes in its middle."""

    kind: Literal["sponge"] = "sponge"
    name: Line = Field("Sponge filter", max_length=80)
    style: Literal["sponge", "box"] = picked("sponge", "It is", STYLES)
    length: float = measured(0.12, "length", "Block's length", 0.02, 2.0, step=0.01)
    width: float = measured(0.12, "length", "Block's width", 0.02, 2.0, step=0.01)
    height: float = measured(0.15, "length", "Block's height", 0.02, 1.5, step=0.01)
    ppi: float = measured(20.0, "number", "Pores per inch", 8.0, 60.0, "Of the foam.", step=5.0)
    medium: str = Field("ring", description="Media in the box, an id of the catalogue.")
    bags: tuple[Bag, ...] = Field((), max_length=4, description="Bags in the box, instead of one filling.")
    top: Literal["open", "foam", "fleece"] = picked("open", "Water enters the box", TOPS)
    mat: float = measured(0.03, "length", "Thickness of the mat", 0.003, 0.3, "On top of the box.", step=0.005)
    slots: float = measured(0.2, "fraction", "Open share of the box's walls", 0.02, 0.9, step=0.05)

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its block."""
        return self._within(site, self.width)

    @model_validator(mode="after")
    def _fits(self) -> Sponge:
        if self.tubes * (self.bore + 0.004) > 0.9 * self.length:
            raise ValueError("The lift tubes do not fit into the block; take fewer or narrower ones.")
        over = sum(b.volume for b in self.bags) - self.block
        if self.style == "box" and over > 1e-9:
            raise ValueError(f"The bags hold {{{over:.6f}:volume}} more than {within(self.name)} has room for.")
        return self

    def holds(self) -> tuple[Held, ...]:
        """What a box is filled with."""
        return tuple(Held(b.medium) for b in self.bags) or (Held(self.medium),)

    @property
    def matted(self) -> bool:
        """Whether its water comes from above, through a mat."""
        return self.style == "box" and self.top != "open"

    @property
    def filling(self) -> tuple[tuple[str, float], ...]:
        """Media of a box: ids and m³ in bulk."""
        return tuple((b.medium, b.volume) for b in self.bags) or ((self.medium, self.block),)

    @property
    def block(self) -> float:
        """Bulk of foam or media, m³: the block less the tubes' core, and less a mat on top."""
        return self.length * self.width * max(self.height - (self.mat if self.matted else 0.0), 0.005) * 0.9

    @property
    def face(self) -> float:
        """Outer faces that water enters by, m²: four sides and the top."""
        return 2 * (self.length + self.width) * self.height + self.length * self.width

    @property
    def long(self) -> float:
        """Room along the tank, m."""
        return self.length
