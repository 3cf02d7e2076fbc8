"""What the builder says of a tank."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.devices.base import Outline, measured
from fuente.devices.contract import Site
from fuente.devices.homes import HomeSpec


class Tank(HomeSpec):
    """A rectangular tank. Outside sizes; x runs along its length, z up from the room's floor."""

    kind: Literal["tank"] = "tank"
    id: str = Field("tank", max_length=40)
    length: float = measured(1.5, "length", "Length outside", 0.15, 10)
    width: float = measured(0.6, "length", "Width outside", 0.1, 4)
    height: float = measured(0.55, "length", "Height outside", 0.1, 3)
    thickness: float = measured(0.012, "length", "Wall thickness", 0.003, 0.06, step=0.001)
    bottom: float = measured(0.012, "length", "Bottom thickness", 0.003, 0.06, step=0.001)
    material: Literal["glass", "acrylic", "plywood"] = "glass"
    braced: bool = Field(False, description="Whether a brace holds the top edges.")
    strip: float = measured(
        0.0, "length", "Strips along the rim, wide", 0.0, 0.4, "As thick as the walls; 0 for none.", step=0.01
    )
    battens: float = measured(
        0.0,
        "length",
        "Upright battens, apart",
        0.0,
        2.0,
        "Behind plywood walls, middle to middle; 0 for none.",
        step=0.05,
    )
    full_bed: bool = Field(True, description="Whether its bottom lies on a full, flat bed.")
    stand: float = measured(0.8, "length", "Underside above the floor", 0.0, 4, "The stand with its mat.")

    @model_validator(mode="after")
    def _walls_fit(self) -> Tank:
        if self.inner_length < 0.05 or self.inner_width < 0.05 or self.inner_height < 0.05:
            raise ValueError("The tank's walls leave no room inside.")
        if self.gravel > 0.6 * self.inner_length * self.inner_width * self.inner_height:
            raise ValueError("The gravel and rock fill more than 60 % of the tank.")
        return self

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its four walls."""
        return (Outline(self.name, self.offset, 0.0, self.length, self.width, self.stand, wall=self.thickness),)

    @property
    def framed(self) -> bool:
        """Whether upright battens stand behind its walls; only plywood has them."""
        return self.material == "plywood" and self.battens > 0

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
