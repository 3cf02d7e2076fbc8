"""What every water that animals live in has, whatever its walls: who lives there, how it is kept, where it stands."""

from __future__ import annotations

from typing import TYPE_CHECKING, Literal

from pydantic import Field

from fuente.devices.base import measured, picked
from fuente.devices.contract import Device, Heater
from fuente.life.load import live_weight
from fuente.life.plants import GROUPS, LIGHTS
from fuente.one_line import Line

TEMPERED = {"none": "none of it", "bottom": "its bottom", "all": "all of it"}


class HomeSpec(Device):
    """The head of every tank in the document. A kind adds its walls, and with them the sizes that others ask for."""

    name: Line = Field("Tank", max_length=80, description="What it is called.")
    gravel: float = measured(0.0, "volume", "Gravel and rock", 0.0, 5, "Volume of solids, which displace water.")
    planted: float = measured(0.0, "area", "Planted area", 0.0, 400.0, "Of leaves seen from above.", step=0.05)
    plants: Literal["none", "floating", "stems", "rosettes", "mosses", "marsh"] = picked("stems", "Plants", GROUPS)
    light: Literal["dim", "fair", "bright"] = picked("fair", "Light on them", LIGHTS)
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
        0.0,
        "length",
        "Water above the tank's floor",
        0.0,
        3.0,
        "Only where nothing drains it; 0 is nine tenths of its height.",
        step=0.005,
    )
    heaters: int = Field(0, ge=0, le=8, description="Heaters in the tank itself.")
    heater_watts: float = measured(0.0, "power", "Each heater", 0, 3000)
    digs: bool = Field(False, description="Whether someone who lives there digs.")
    stock: Line = Field("", max_length=400, description="Who lives there.")
    offset: float = measured(0.0, "length", "Left end from the left of the drawing", -20, 60, step=0.01)
    rack: Line = Field("", max_length=40, description="Name of the rack that it stands in; empty for none.")
    tempered: Literal["none", "bottom", "all"] = picked(
        "none", "Tempered glass", TEMPERED, "It shatters when it is cut or drilled."
    )
    apart: bool = Field(False, description="Whether it must share no water: a quarantine tank, or sick animals.")

    if TYPE_CHECKING:  # what a kind's walls give

        @property
        def floor(self) -> float: ...
        @property
        def rim(self) -> float: ...
        @property
        def stand(self) -> float: ...
        @property
        def thickness(self) -> float: ...
        @property
        def length(self) -> float: ...
        @property
        def width(self) -> float: ...
        @property
        def inner_length(self) -> float: ...
        @property
        def inner_width(self) -> float: ...
        @property
        def inner_height(self) -> float: ...

    @property
    def home(self) -> str:
        """Its own."""
        return self.id

    def heated(self) -> tuple[Heater, ...]:
        """Those in the tank itself."""
        made = Heater(self.id, self.id, self.name, self.heaters, self.heater_watts)
        return (made,) if self.heaters and self.heater_watts else ()

    def ports(self) -> tuple[str, ...]:
        """All its water is one."""
        return ("water",)

    @property
    def stock_weight(self) -> float:
        """Live weight in kg, by number and length; ±50 %."""
        return self.heads * live_weight(self.body)

    @property
    def fed(self) -> float:
        """Feed in kg/s: as given, else by the stock."""
        return self.feed or self.stock_weight * self.ration / 86400
