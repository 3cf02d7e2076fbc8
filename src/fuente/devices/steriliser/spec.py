"""What the builder decides of a steriliser's loop."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import Outline, measured
from fuente.devices.contract import Site
from fuente.devices.filtering import FilterSpec
from fuente.devices.pumping import PumpSpec
from fuente.one_line import Line


class Steriliser(FilterSpec):
    """A lamp in a closed chamber, with a small pump in the tank and two hoses."""

    kind: Literal["steriliser"] = "steriliser"
    name: Line = Field("Steriliser", max_length=80)
    stand: float = measured(0.3, "length", "Underside above the room's floor", -2.0, 4.0, step=0.01)
    offset: float = measured(0.3, "length", "Left end from the left of the drawing", -20.0, 60.0, step=0.05)
    length: float = measured(0.35, "length", "Chamber's length", 0.1, 2.0, step=0.05)
    diameter: float = measured(0.075, "length", "Chamber's bore", 0.03, 0.3, step=0.005)
    sleeve: float = measured(0.025, "length", "Lamp sleeve's outside", 0.01, 0.1, step=0.005)
    watts: float = measured(11.0, "power", "Lamp", 1, 400)
    age: float = measured(0.0, "days", "Lamp has burnt for", 0.0, 3650 * 86400.0, step=30 * 86400.0)
    loss: float = measured(
        3.0, "number", "Loss of the chamber", 0.0, 100.0, "Coefficient on the hose's bore.", step=0.5
    )
    pump: PumpSpec = PumpSpec(name="Small pump", max_head=1.5, max_flow=600e-3 / 3600, watts=8)
    hose: str = Field("hose-16", description="Hose, an id of the catalogue.")
    run: float = measured(1.0, "run", "Hose each way", 0.1, 20.0, step=0.1)
    intake: float = measured(0.05, "length", "Draws above the tank's floor", 0.0, 3.0, step=0.01)
    outlet: float = measured(0.3, "length", "Outlet height above the tank floor", 0.0, 3.2, step=0.01)

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its chamber."""
        return (Outline(self.name, self.offset, 0.0, self.length, self.diameter, self.stand),)

    @model_validator(mode="after")
    def _fits(self) -> Steriliser:
        if self.hose not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.hose[:40]}”.")
        if self.sleeve >= self.diameter:
            raise ValueError("The lamp's sleeve is as wide as its chamber.")
        return self

    @property
    def draws(self) -> float:
        """Its pump's and its lamp's."""
        return self.pump.watts + self.watts

    @property
    def water(self) -> float:
        """In the chamber, m³."""
        return 0.7854 * (self.diameter**2 - self.sleeve**2) * self.length
