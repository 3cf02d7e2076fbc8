"""What the builder decides of a join."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import FittingCount, measured
from fuente.devices.contract import Device, End
from fuente.devices.site import Site
from fuente.one_line import Line


class JoinSpec(Device):
    """Water's way between chambers of two filters."""

    kind: Literal["join"] = "join"
    id: str = Field("join", max_length=40)
    name: Line = Field("Joining line", max_length=80)
    first: str = Field("sump", max_length=40, description="Id of the filter that it leaves.")
    chamber: str = Field("pump", max_length=40, description="Id of the chamber there.")
    second: str = Field("sump-2", max_length=40, description="Id of the filter that it enters.")
    entry: str = Field("pump", max_length=40, description="Id of the chamber there.")
    style: Literal["level", "fall"] = Field("level", description="Below water, either way; or over a mouth and down.")
    pipe: str = Field("50-pn10", description="Its bore, an id of the catalogue.")
    count: int = Field(1, ge=1, le=8, description="How many side by side.")
    height: float = measured(0.1, "length", "Centre, or mouth, above the first floor", 0.01, 3.0, step=0.005)
    release: float = measured(0.2, "length", "Fall ends above the second floor", 0.0, 3.0, step=0.005)
    length: float = measured(0.1, "length", "Length", 0.0, 20.0)
    fittings: tuple[FittingCount, ...] = ()

    @model_validator(mode="after")
    def _known(self) -> JoinSpec:
        if self.pipe not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.pipe[:40]}”.")
        if self.first == self.second and self.chamber == self.entry:
            raise ValueError(f"{self.name} joins a chamber to itself.")
        return self

    @property
    def levels(self) -> bool:
        """Below water it goes either way."""
        return self.style == "level"

    def ends(self) -> tuple[End, ...]:
        """From one chamber to another."""
        return (End(self.first, "draws", self.chamber), End(self.second, "gives", self.entry))

    def drills(self, site: Site, vessel_id: str) -> tuple[tuple[Literal["left", "right"], float, float, int], ...]:
        """Where it leaves, and where it enters below water."""
        first, second = site.vessels[self.first], site.vessels[self.second]
        right = first.left <= second.left
        saw = site.shop.fitting_for(self.pipe).saw
        found: list[tuple[Literal["left", "right"], float, float, int]] = []
        if vessel_id == first.id:
            found.append(("right" if right else "left", self.height, saw, self.count))
        if vessel_id == second.id and self.style == "level":
            found.append(("left" if right else "right", self.height + first.floor - second.floor, saw, self.count))
        return tuple(found)
