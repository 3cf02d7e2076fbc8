"""What the builder decides of a common drain."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import FittingCount, measured
from fuente.devices.contract import Device, End
from fuente.one_line import Line


class HeaderSpec(Device):
    """A header pipe or a gutter, and the pipe that falls from its low end."""

    kind: Literal["header"] = "header"
    id: str = Field("header", max_length=40)
    name: Line = Field("Common drain", max_length=80)
    into: str = Field("sump", max_length=40, description="Id of the filter, or of the header, that it falls into.")
    chamber: str = Field("", max_length=40, description="Id of the chamber there; empty for the first.")
    form: Literal["pipe", "gutter"] = "pipe"
    pipe: str = Field("75-pn10", description="Header pipe, an id of the catalogue.")
    gutter_width: float = measured(0.1, "length", "Gutter width", 0.02, 1.0)
    gutter_height: float = measured(0.08, "length", "Gutter height", 0.02, 1.0)
    length: float = measured(2.4, "length", "Length", 0.1, 40.0)
    slope: float = Field(0.01, ge=0.001, le=0.2, description="Fall over its length, m/m.")
    low_end: float = measured(0.6, "length", "Low end above the room's floor", 0.0, 10.0)
    down: str = Field("63-pn10", description="Pipe that falls from its low end, an id of the catalogue.")
    run: float = measured(0.3, "length", "Sideways run of the fall", 0.0, 20.0)
    fittings: tuple[FittingCount, ...] = (FittingCount(kind="elbow", count=2),)
    release: float = measured(0.25, "length", "Ends above the sump's floor", 0.0, 3.0)

    @model_validator(mode="after")
    def _known(self) -> HeaderSpec:
        for pipe in (self.pipe, self.down):
            if pipe not in PIPES:
                raise ValueError(f"The catalogue has no pipe “{pipe[:40]}”.")
        return self

    @property
    def depth(self) -> float:
        """Bore or gutter height, m."""
        return PIPES[self.pipe].bore if self.form == "pipe" else self.gutter_height

    @property
    def passes_to(self) -> str:
        """Where it falls."""
        return self.into

    def ports(self) -> tuple[str, ...]:
        """Drains come in anywhere along it."""
        return ("inlet",)

    def ends(self) -> tuple[End, ...]:
        """It falls into a vessel, or into another gutter."""
        return (End(self.into, "drains", self.chamber or "inlet", PIPES[self.down].area, 1),)
