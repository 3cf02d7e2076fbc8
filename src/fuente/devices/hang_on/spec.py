"""What the builder decides of a hang-on overflow."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import FittingCount, measured
from fuente.devices.contract import Device, End


class HangOn(Device):
    """A weir into a box in the tank, a tube over the rim into a box behind it, and a drain from there."""

    kind: Literal["hang_on"] = "hang_on"
    id: str = Field("hang-on", max_length=40)
    tank: str = Field("tank", max_length=40, description="Id of the tank that it hangs on.")
    into: str = Field("sump", max_length=40, description="Id of the filter that it feeds.")
    chamber: str = Field("", max_length=40, description="Id of the chamber there; empty for the first.")
    crest: float = measured(0.45, "length", "Crest above the tank's floor", 0.02, 3.0, step=0.001)
    weir: float = measured(0.15, "length", "Weir length", 0.02, 2.0)
    teeth: float = measured(0.4, "fraction", "Taken by teeth", 0.0, 0.9)
    box_length: float = measured(0.08, "length", "Each box along the wall", 0.02, 1.0, step=0.005)
    box_width: float = measured(0.15, "length", "Each box off the wall", 0.02, 0.5, step=0.005)
    tube: str = Field("25-pn16", description="Tube over the rim, an id of the catalogue.")
    tubes: int = Field(1, ge=1, le=4, description="How many tubes.")
    tube_end: float = measured(0.12, "length", "Tube ends below the crest", 0.02, 1.0, step=0.005)
    stand: float = measured(0.05, "length", "Outer drain's mouth below the crest", 0.005, 1.0, step=0.005)
    pipe: str = Field("32-pn10", description="Drain from the outer box, an id of the catalogue.")
    run: float = measured(0.3, "length", "Sideways run", 0.0, 20.0)
    fittings: tuple[FittingCount, ...] = (FittingCount(kind="elbow_45", count=2),)
    release: float = measured(0.25, "length", "Drain ends above the sump's floor", 0.0, 3.0)

    @model_validator(mode="after")
    def _known(self) -> HangOn:
        for pipe in (self.pipe, self.tube):
            if pipe not in PIPES:
                raise ValueError(f"The catalogue has no pipe “{pipe[:40]}”.")
        return self

    @property
    def box(self) -> float:
        """Plan of each box, m²."""
        return self.box_length * self.box_width

    @property
    def restarts(self) -> bool:
        """Whether both boxes keep the tube's ends under water once the pump stops, so that the siphon waits there."""
        return self.stand < self.tube_end - 0.005

    @property
    def title(self) -> str:
        """It has no name of its own."""
        return f"The drain “{self.id}”"

    @property
    def home(self) -> str:
        """Its tank."""
        return self.tank

    def ends(self) -> tuple[End, ...]:
        """It hangs on its tank and falls into a vessel."""
        return (
            End(self.tank, "stands", "water"),
            End(self.into, "drains", self.chamber or "inlet", PIPES[self.pipe].area, 1),
        )

    def falls(self) -> tuple[tuple[str, float], ...]:
        """The weir."""
        return ((self.tank, self.crest),)
