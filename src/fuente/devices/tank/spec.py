"""What the builder says of a tank."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.devices.base import Spec, measured
from fuente.life.load import live_weight


class Tank(Spec):
    """A rectangular tank. Outside sizes; x runs along its length, z up from the room's floor."""

    id: str = Field("tank", max_length=40)
    name: str = Field("Tank", max_length=80, description="What it is called.")
    length: float = measured(1.5, "length", "Length outside", 0.15, 10)
    width: float = measured(0.6, "length", "Width outside", 0.1, 4)
    height: float = measured(0.55, "length", "Height outside", 0.1, 3)
    thickness: float = measured(0.012, "length", "Wall thickness", 0.003, 0.06, step=0.001)
    bottom: float = measured(0.012, "length", "Bottom thickness", 0.003, 0.06, step=0.001)
    material: Literal["glass", "acrylic"] = "glass"
    braced: bool = Field(False, description="Whether a brace holds the top edges.")
    stand: float = measured(0.8, "length", "Underside above the floor", 0.0, 4, "The stand with its mat.")
    gravel: float = measured(0.0, "volume", "Gravel and rock", 0.0, 5, "Volume of solids, which displace water.")
    temperature: float = measured(25.0, "temperature", "Water temperature", 2, 38)
    cover: float = measured(0.5, "fraction", "Covered share of the surface", 0.0, 1.0)
    feed: float = measured(
        0.0, "feed", "Feed", 0.0, 1e-4, "Dry feed; 0 where it is not known yet.", step=0.1e-3 / 86400
    )
    heads: int = Field(
        0, ge=0, le=100000, description="How many animals; with their length it makes the feed where that is not given."
    )
    body: float = measured(0.03, "length", "Length of each", 0.003, 2.0, "Without the tail fin.", step=0.005)
    ration: float = measured(
        0.015, "percent", "Fed a day, of their weight", 0.0, 0.2, "1 to 3 % is usual, fry take more.", step=0.005
    )
    protein: float = measured(0.45, "fraction", "Protein in the feed", 0.0, 0.8, step=0.05)
    level: float = measured(
        0.0, "length", "Water above the tank's floor", 0.0, 3.0, "Only where nothing drains it; 0 is nine tenths of its height.",
        step=0.005,
    )  # fmt: skip
    digs: bool = Field(False, description="Whether someone who lives there digs.")
    stock: str = Field("", max_length=400, description="Who lives there.")
    offset: float = measured(0.0, "length", "Left end from the left of the drawing", -20, 60, step=0.01)
    rack: str = Field("", max_length=40, description="Name of the rack that it stands in; empty for none.")
    apart: bool = Field(False, description="Whether it must share no water: a quarantine tank, or sick animals.")

    @model_validator(mode="after")
    def _walls_fit(self) -> Tank:
        if self.inner_length < 0.05 or self.inner_width < 0.05 or self.inner_height < 0.05:
            raise ValueError("The tank's walls leave no room inside.")
        if self.gravel > 0.6 * self.inner_length * self.inner_width * self.inner_height:
            raise ValueError("The gravel and rock fill more than 60 % of the tank.")
        return self

    @property
    def stock_weight(self) -> float:
        """Live weight in kg, by number and length; ±50 %."""
        return self.heads * live_weight(self.body)

    @property
    def fed(self) -> float:
        """Feed in kg/s: as given, else by the stock."""
        return self.feed or self.stock_weight * self.ration / 86400

    @property
    def inner_length(self) -> float:
        """m."""
        return self.length - 2 * self.thickness

    @property
    def inner_width(self) -> float:
        """m."""
        return self.width - 2 * self.thickness

    @property
    def inner_height(self) -> float:
        """m."""
        return self.height - self.bottom

    @property
    def floor(self) -> float:
        """Elevation of the inner floor, m."""
        return self.stand + self.bottom

    @property
    def rim(self) -> float:
        """Elevation of the rim, m."""
        return self.stand + self.height
