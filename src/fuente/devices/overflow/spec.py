"""What the builder decides of an overflow."""

from __future__ import annotations

from typing import Any, Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import FittingCount, Outline, Spec, measured
from fuente.devices.contract import Device, End, Site

DrainRole = Literal["siphon", "open", "emergency"]
ROLE_NAMES = {"siphon": "Siphon", "open": "Open channel", "emergency": "Emergency"}


class Drain(Spec):
    """One upright drain pipe in the box."""

    role: DrainRole = "open"
    pipe: str = Field("32-pn10", description="Pipe size, an id of the catalogue.")
    mouth: float = measured(0.4, "length", "Mouth above the tank's floor", 0.0, 3.0, step=0.002)
    run: float = measured(0.3, "length", "Sideways run", 0.0, 20.0, "The fall is added from the drawing.")
    fittings: tuple[FittingCount, ...] = (FittingCount(kind="elbow_45", count=2),)
    valve: float | None = Field(
        None, ge=0.02, le=1.0, description="Opening of its gate valve, share; none for no valve."
    )
    vent: float = measured(0.04, "length", "Vent floods above the mouth by", 0.005, 0.5)

    @model_validator(mode="after")
    def _known(self) -> Drain:
        if self.pipe not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.pipe[:40]}”.")
        return self


class Overflow(Device):
    """A box at one end of the tank behind a weir, and its drains."""

    kind: Literal["overflow"] = "overflow"
    id: str = Field("overflow", max_length=40)
    tank: str = Field("tank", max_length=40, description="Id of the tank that it stands in.")
    into: str = Field("sump", max_length=40, description="Id of the filter that it feeds.")
    chamber: str = Field("", max_length=40, description="Id of the chamber there; empty for the first.")
    side: Literal["left", "right"] = "left"
    crest: float = measured(0.5, "length", "Crest above the tank's floor", 0.02, 3.0, step=0.001)
    weir: float = measured(0.5, "length", "Weir length", 0.02, 6.0)
    teeth: float = measured(0.4, "fraction", "Taken by teeth", 0.0, 0.9)
    screen: float = measured(
        0.0, "fraction", "Taken by a plant screen", 0.0, 0.9, "Mesh or bars before the crest; 0 for none."
    )
    screen_opening: float = measured(0.005, "fine_length", "Screen openings", 0.0005, 0.03, step=0.0005)
    box_length: float = measured(0.16, "length", "Box along the tank, inside", 0.03, 2.0)
    box_width: float = measured(0.3, "length", "Box across the tank, inside", 0.03, 4.0)
    wall: float = measured(0.006, "length", "Box wall", 0.002, 0.03, step=0.001)
    drains: tuple[Drain, ...] = (Drain(),)
    release: float = measured(0.25, "length", "Drain ends above the sump's floor", 0.0, 3.0)

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its box within the tank."""
        return (
            Outline("Overflow box", *self._corner(site), self.box_length, self.box_width, site.tank.floor, inside=True),
        )

    def _corner(self, site: Site) -> tuple[float, float]:
        """Its left end and its back, m."""
        tank = site.tank
        right = tank.length - tank.thickness - self.box_length
        return tank.offset + (tank.thickness if self.side == "left" else right), tank.thickness

    @model_validator(mode="after")
    def _drains_fit(self) -> Overflow:
        if not 1 <= len(self.drains) <= 6:
            raise ValueError("An overflow box takes one to six drains.")
        taken = sum(PIPES[d.pipe].outside for d in self.drains)
        if taken > max(self.box_length, self.box_width) * 1.0:
            raise ValueError("The drains do not fit side by side in the overflow box; make it larger.")
        return self

    @property
    def free_weir(self) -> float:
        """Weir length in m less its teeth, and less the bars of a screen that stands close before it."""
        return self.weir * (1 - self.teeth) * (1 - self.screen)

    @property
    def outer_area(self) -> float:
        """Plan area in m² that the tank loses: box and two walls, at least."""
        return (self.box_length + self.wall) * (self.box_width + self.wall)

    @property
    def title(self) -> str:
        """It has no name of its own."""
        return f"The drain “{self.id}”"

    @property
    def home(self) -> str:
        """Its tank."""
        return self.tank

    def ends(self) -> tuple[End, ...]:
        """It stands in its tank and falls into a vessel."""
        area = sum(PIPES[d.pipe].area for d in self.drains)
        return (
            End(self.tank, "stands", "water"),
            End(self.into, "drains", self.chamber or "inlet", area, len(self.drains)),
        )

    def walled(self, tank: Any) -> tuple[float, float]:
        """The box with its wall."""
        if self.side == "left":
            return tank.thickness, tank.thickness + self.box_length + self.wall
        return tank.length - tank.thickness - self.box_length - self.wall, tank.length - tank.thickness

    def falls(self) -> tuple[tuple[str, float], ...]:
        """The weir."""
        return ((self.tank, self.crest),)
