"""What the builder decides of an air pump with its manifold and drops."""

from __future__ import annotations

import itertools
from typing import Literal

from pydantic import Field, model_validator

from fuente.devices.base import Spec, measured, picked
from fuente.devices.contract import Device, End, place_of
from fuente.devices.filtering import counted, yes_no
from fuente.one_line import Line

PRESSURE, VOLUME = "membrane", "blower"


class AirPumpSpec(Spec):
    """An air pump by the two numbers on its box, or by its curve's points."""

    name: Line = Field("Air pump", max_length=80)
    max_pressure: float = measured(20e3, "air_pressure", "Pressure at no flow", 500.0, 2e5, step=1e3)
    max_flow: float = measured(20e-3 / 60, "air_flow", "Air at no pressure", 1e-6, 0.1, step=1e-3 / 60)
    points: tuple[tuple[float, float], ...] = Field(
        (), max_length=60, description="(flow m³/s, pressure Pa), rising flow."
    )
    watts: float = measured(18.0, "power", "Power", 0, 5000)
    wear: float = measured(1.0, "fraction", "Pressure left of new", 0.1, 1.0, "Membranes tire.", step=0.05)

    @model_validator(mode="after")
    def _falls(self) -> AirPumpSpec:
        flows, pressures = [q for q, _ in self.points], [p for _, p in self.points]
        if self.points and (
            len(self.points) < 2 or any(b <= a for a, b in itertools.pairwise(flows)) or min(flows) < 0
        ):
            raise ValueError("An air pump's points need rising flow, two or more of them.")
        if any(b >= a for a, b in itertools.pairwise(pressures)):
            raise ValueError("An air pump's pressure must fall as its flow rises.")
        return self

    @property
    def curve(self) -> tuple[tuple[float, float], ...]:
        """(flow m³/s, pressure Pa): straight between the box's two numbers, as membrane pumps are."""
        return self.points or ((0.0, self.max_pressure), (self.max_flow, 0.0))


class DropSpec(Spec):
    """A line from the manifold to one filter."""

    to: str = Field(max_length=40, description="Id of the filter, or of the sump.")
    chamber: str = Field("", max_length=40, description="Id of the chamber that it blows into; empty for a filter.")
    spacing: float = measured(0.3, "length", "Manifold before its tap", 0.0, 30.0, step=0.05)
    length: float = measured(1.2, "run", "Airline", 0.05, 30.0, step=0.1)
    bore: float = measured(0.004, "fine_length", "Airline's bore", 0.002, 0.03, step=0.0005)
    opening: float = measured(1.0, "percent", "Valve open", 0.0, 1.0, step=0.05)
    end: Literal["open", "diffuser"] = picked("open", "Ends in", {"open": "an open line", "diffuser": "a diffuser"})
    check: bool = yes_no(True, "Check valve")

    @property
    def place(self) -> str:
        """Id of the place that it blows into: a filter, or a station of a sump."""
        return place_of(self.to, self.chamber)


class AirSupplySpec(Device):
    """An air pump, its manifold, and the drops along it in their order."""

    kind: Literal["air_supply"] = "air_supply"
    id: str = Field("air", max_length=40)
    name: Line = Field("Air", max_length=80)
    pump: AirPumpSpec = AirPumpSpec()
    height: float = measured(1.2, "length", "Air pump above the room's floor", -2.0, 6.0, step=0.05)
    loop: float = measured(
        0.0, "length", "Loop above the water", 0.0, 2.0, "Line led over the rim before it goes down.", step=0.05
    )
    bore: float = measured(0.016, "fine_length", "Manifold's bore", 0.003, 0.1, step=0.002)
    pumps: int = counted(1, "Air pumps side by side", 1, 6)
    drops: tuple[DropSpec, ...] = Field((), max_length=400)

    @model_validator(mode="after")
    def _each_once(self) -> AirSupplySpec:
        ends = [d.place for d in self.drops]
        if len(set(ends)) != len(ends):
            raise ValueError("Two drops lead to the same place.")
        return self

    @property
    def draws(self) -> float:
        """All its pumps'."""
        return self.pump.watts * self.pumps

    def ends(self) -> tuple[End, ...]:
        """A line to each device that it blows into."""
        return tuple(End(d.to, "blows", d.chamber or "air") for d in self.drops)

    def past(self, gone: Device) -> AirSupplySpec | None:
        """Without the line to what goes; a pump that then blows nowhere goes too."""
        drops = tuple(d for d in self.drops if d.to != gone.id)
        if len(drops) == len(self.drops):
            return self
        return self.model_copy(update={"drops": drops}) if drops else None
