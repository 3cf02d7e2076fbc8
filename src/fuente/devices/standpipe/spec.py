"""What the builder decides of a tank's standpipe."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import FittingCount, measured
from fuente.devices.contract import Device, End


class StandpipeSpec(Device):
    """A pipe that takes a tank's water over its mouth, through the floor or the wall."""

    kind: Literal["standpipe"] = "standpipe"
    id: str = Field("standpipe", max_length=40)
    tank: str = Field("tank", max_length=40, description="Id of the tank that it stands in.")
    into: str = Field("sump", max_length=40, description="Id of the filter or the header that it falls into.")
    chamber: str = Field("", max_length=40, description="Id of the chamber there; empty for the first.")
    pipe: str = Field("32-pn10", description="Pipe size, an id of the catalogue.")
    mouth: float = measured(0.25, "length", "Mouth above the tank's floor", 0.02, 3.0, step=0.002)
    run: float = measured(0.2, "length", "Sideways run", 0.0, 20.0, "The fall is added from the drawing.")
    fittings: tuple[FittingCount, ...] = (FittingCount(kind="elbow", count=1),)
    emergency: bool = Field(False, description="Whether it stays dry until the other drain is blocked.")
    strainer: bool = Field(True, description="Whether a strainer keeps fish out.")
    release: float = measured(0.25, "length", "Ends above the sump's floor", 0.0, 3.0, "Only where it ends in a sump.")

    @model_validator(mode="after")
    def _known(self) -> StandpipeSpec:
        if self.pipe not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.pipe[:40]}”.")
        return self

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
        falls = End(self.into, "drains", self.chamber or "inlet", PIPES[self.pipe].area, 1)
        return (End(self.tank, "stands", "water"), falls)

    def falls(self) -> tuple[tuple[str, float], ...]:
        """Its mouth."""
        return ((self.tank, self.mouth),)
