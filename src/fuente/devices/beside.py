"""What a builder decides of a filter beside a tank: where it stands, and how water comes to it and leaves it."""

from __future__ import annotations

from typing import Any, ClassVar, Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES, pipe_size
from fuente.devices.base import Spec, measured, picked
from fuente.devices.contract import Device, End
from fuente.devices.filtering import FilterSpec, counted, yes_no
from fuente.devices.pumping import PumpSpec

FEEDS = {
    "level": "a pipe under water",
    "fall": "a pipe that falls into it",
    "float": "a pipe with a float valve",
    "pump": "its own pump",
    "air": "an airlift",
    "fed": "what falls into it",
}
DRAINS = {"level": "a pipe under water", "fall": "a pipe that falls", "pump": "its own pump"}


class LineSpec(Spec):
    """A pipe, several alike, or a pump with its pipe."""

    height: float = measured(0.3, "length", "Hole above the floor it leaves", 0.0, 3.0, "Its middle.", step=0.01)
    release: float = measured(
        0.3, "length", "Discharges above the receiving floor", 0.0, 3.0, "Of a fall or a pump.", step=0.01
    )
    pipe: str = Field("50-pn10", description="Pipe, an id of the catalogue.")
    count: int = counted(1, "Pipes alike, side by side", 1, 8)
    length: float = measured(1.0, "run", "Pipe", 0.02, 60.0, step=0.1)
    bends: int = counted(2, "Bends", 0, 20)
    intake: float = measured(0.03, "length", "Pump's intake above the floor it stands on", 0.0, 3.0, step=0.01)
    pump: PumpSpec = PumpSpec(name="Pump", max_head=2.5, max_flow=4000e-3 / 3600, watts=35)
    valve: bool = yes_no(True, "Check valve")

    @model_validator(mode="after")
    def _known(self) -> LineSpec:
        if self.pipe not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.pipe[:40]}”.")
        return self


class FeedSpec(LineSpec):
    """How water comes in."""

    way: Literal["level", "fall", "float", "pump", "air", "fed"] = picked("level", "Water comes by", FEEDS)
    source: str = Field("tank", max_length=40, description="Id of the water that it draws from.")
    hold: float = measured(
        0.3, "length", "Float holds the water at", 0.02, 3.0, "Above the floor it reaches.", step=0.01
    )


class DrainSpec(LineSpec):
    """How water goes out."""

    way: Literal["level", "fall", "pump"] = picked("pump", "Water leaves by", DRAINS)
    into: str = Field("tank", max_length=40, description="Id of the water that it reaches.")
    chamber: str = Field("", max_length=40, description="Id of the chamber there; empty for the first.")
    spare: float = measured(
        0.0,
        "length",
        "A second pipe out, so much higher",
        0.0,
        1.0,
        "0 is none; it takes over where the first is blocked.",
        step=0.01,
    )


class BesideSpec(FilterSpec):
    """A filter with vessels of its own, beside or under its tank."""

    rim_field: ClassVar[str] = ""  # name of the field that raises its rim, where there is one

    stand: float = measured(0.0, "length", "Underside above the room's floor", -3.0, 4.0, step=0.01)
    offset: float = measured(1.0, "length", "Left end from the left of the drawing", -20.0, 60.0, step=0.05)
    dirt: float = measured(1.0, "number", "Clogging (× clean loss)", 1.0, 500.0, "1 is clean.", step=1.0)
    feed: FeedSpec = FeedSpec()
    drain: DrainSpec = DrainSpec()

    @property
    def draws(self) -> float:
        """Its pumps', in and out."""
        return sum(line.pump.watts for line in (self.feed, self.drain) if line.way == "pump")

    @property
    def on_air(self) -> bool:
        """Where an airlift feeds it."""
        return self.feed.way == "air"

    @property
    def air_tube(self) -> float:
        """Its riser's bore."""
        return pipe_size(self.feed.pipe).bore

    def ports(self) -> tuple[str, ...]:
        """Where others lead water in, and draw it."""
        return ("inlet", "outlet", *super().ports())

    def ends(self) -> tuple[End, ...]:
        """What its lines draw from and lead to."""
        draws = () if self.feed.way == "fed" else (End(self.feed.source, "draws"),)
        return (*super().ends(), *draws, End(self.drain.into, "gives", self.drain.chamber))

    def past(self, gone: Device) -> BesideSpec | None:
        """Pipes that led to a filter that goes lead to where its own led."""
        if self.tank == gone.id:
            return None
        update: dict[str, Any] = {}
        other = gone if isinstance(gone, BesideSpec) else None
        if self.feed.source == gone.id:
            update["feed"] = self.feed.model_copy(update={"source": other.feed.source if other else gone.home})
        if self.drain.into == gone.id:
            update["drain"] = self.drain.model_copy(
                update={
                    "into": other.drain.into if other else gone.home,
                    "chamber": other.drain.chamber if other else "",
                }
            )
        return self.model_copy(update=update) if update else self

    def falls(self) -> tuple[tuple[str, float], ...]:
        """The way in, where it is a fall."""
        return ((self.feed.source, self.feed.height),) if self.feed.way == "fall" else ()
