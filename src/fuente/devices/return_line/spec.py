"""What the builder decides of a return."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import FittingCount, Spec, measured
from fuente.devices.contract import Device, End
from fuente.devices.lamps import LampSpec
from fuente.devices.pumping import PumpSpec
from fuente.one_line import Line


class OutletSpec(Spec):
    """One return outlet in the tank."""

    name: Line = Field("Outlet", max_length=60)
    pipe: str = Field("25-pn16", description="Its pipe or hose, an id of the catalogue.")
    form: Literal["open", "bar"] = Field("open", description="An open end, or a spray bar.")
    holes: int = Field(20, ge=1, le=400, description="Holes of the spray bar.")
    hole_bore: float = measured(0.006, "length", "Hole of the spray bar", 0.001, 0.03, step=0.0005)
    height: float = measured(0.45, "length", "Mouth above the tank's floor", 0.0, 3.0, step=0.002)
    hole: float = measured(0.0, "length", "Air hole", 0.0, 0.03, "Its diameter; 0 for none.", step=0.001)
    hole_height: float = measured(0.5, "length", "Air hole above the tank's floor", 0.0, 3.0, step=0.001)

    @model_validator(mode="after")
    def _known(self) -> OutletSpec:
        if self.pipe not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.pipe[:40]}”.")
        return self


class ReturnSpec(Device):
    """Pump in a filter's pump chamber, pipe, check valve, outlets in a tank."""

    kind: Literal["return_line"] = "return_line"
    id: str = Field("return", max_length=40)
    source: str = Field("sump", max_length=40, description="Id of the filter with the pump.")
    tank: str = Field("tank", max_length=40, description="Id of the tank, or of the vessel, that it gives to.")
    chamber: str = Field("", max_length=40, description="Id of the chamber of a vessel; empty for a tank.")
    pump: PumpSpec = PumpSpec()
    pipe: str = Field("32-pn10", description="Rising pipe, an id of the catalogue.")
    run: float = measured(1.6, "run", "Sideways run", 0.0, 60.0, "The rise is added from the drawing.")
    fittings: tuple[FittingCount, ...] = (
        FittingCount(kind="elbow", count=3),
        FittingCount(kind="union", count=1),
        FittingCount(kind="ball_valve", count=1),
    )
    valve: Literal["none", "swing_check", "flap_check"] = "swing_check"
    leak: float = measured(0.02, "fraction", "Check-valve leakage", 0.0, 1.0, "Share of the free back-flow.")
    outlets: tuple[OutletSpec, ...] = (OutletSpec(),)
    lamp: LampSpec | None = Field(None, description="A steriliser in the line; none for none.")
    correction: float = Field(1.0, ge=0.1, le=10.0, description="Multiplier on the pipe's losses, from a timed bucket.")

    @model_validator(mode="after")
    def _whole(self) -> ReturnSpec:
        if self.pipe not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.pipe[:40]}”.")
        if not 1 <= len(self.outlets) <= 8:
            raise ValueError("A return has one to eight outlets.")
        return self

    @property
    def title(self) -> str:
        """By its pump; it has no name of its own."""
        return self.pump.name

    @property
    def home(self) -> str:
        """The water that it gives to: a tank's, or none's."""
        return self.tank

    @property
    def warms(self) -> float:
        """The pump's, and a lamp's."""
        return self.pump.watts + (self.lamp.watts if self.lamp else 0.0)

    def ends(self) -> tuple[End, ...]:
        """From a pump chamber to a tank, or to a chamber of another vessel."""
        return (End(self.source, "draws", "pump"), End(self.tank, "gives", self.chamber or "water"))
