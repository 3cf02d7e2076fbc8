"""What the builder decides of a train of drums."""

from __future__ import annotations

import math
from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import bulkhead_for, pipe_size
from fuente.devices.base import Outline, Spec, measured, picked
from fuente.devices.beside import BesideSpec
from fuente.devices.contract import Held, Site
from fuente.devices.filtering import counted
from fuente.one_line import Line

ROLES = {
    "settle": "settling cone",
    "brush": "brushes",
    "foam": "foam",
    "media": "standing media",
    "stirred": "media, stirred and flushed",
    "moving": "moving bed",
    "pump": "pump drum",
}
SEALS = {"bulkhead": "bulkheads", "grommet": "rubber seals"}
FLOWS = {"up": "up through it", "down": "down through it"}


class Drum(Spec):
    """One upright drum and the bulkheads that lead out of it."""

    role: Literal["settle", "brush", "foam", "media", "stirred", "moving", "pump"] = picked("media", "It holds", ROLES)
    diameter: float = measured(0.48, "length", "Bore", 0.15, 3.0, step=0.01)
    height: float = measured(0.9, "length", "Height", 0.2, 3.0, step=0.01)
    flow: Literal["up", "down"] = picked("up", "Water goes", FLOWS)
    medium: str = Field("scrubber", description="Media, an id of the catalogue.")
    media: float = measured(0.06, "volume", "Media in it", 0.0, 10.0, step=0.005)
    ppi: float = measured(20.0, "number", "Foam, pores per inch", 8.0, 60.0, step=5.0)
    foam: float = measured(0.1, "length", "Foam's thickness", 0.0, 1.0, step=0.01)
    grid: float = measured(0.25, "length", "Grid under it above the floor", 0.02, 2.0, step=0.01)
    outlet: float = measured(
        0.7,
        "length",
        "Bulkhead out above the floor",
        0.02,
        2.9,
        "Its middle; of the last drum, the filter's own way out counts.",
        step=0.01,
    )
    pipe: str = Field("50-pn10", description="Bulkhead's pipe, an id of the catalogue.")
    count: int = counted(1, "Bulkheads out", 1, 8)
    mesh: float = measured(
        0.006, "fine_length", "Screen over the way out", 0.0, 0.05, "Its opening; 0 for none.", step=0.001
    )
    flush: float = measured(0.3, "fraction", "Share drained per flush", 0.0, 1.0, step=0.05)

    @model_validator(mode="after")
    def _fits(self) -> Drum:
        if self.outlet + pipe_size(self.pipe).bore / 2 > self.height:
            raise ValueError("A drum's bulkhead is above its rim.")
        if self.role in ("media", "stirred", "moving") and self.media > 0.9 * self.area * (self.height - self.grid):
            raise ValueError("A drum holds more media than fits over its grid.")
        bulkhead_for(pipe_size(self.pipe))
        return self

    @property
    def area(self) -> float:
        """Plan, m²."""
        return math.pi / 4 * self.diameter**2

    @property
    def holds_media(self) -> bool:
        """Whether there is media in it."""
        return self.role in ("media", "stirred", "moving") and self.media > 0


class DrumTrain(BesideSpec):
    """One to six upright drums in a row."""

    kind: Literal["drum_train"] = "drum_train"
    name: Line = Field("Drum train", max_length=80)
    drums: tuple[Drum, ...] = Field((Drum(),), min_length=1, max_length=6)
    seal: Literal["bulkhead", "grommet"] = picked("bulkhead", "Drums are joined by", SEALS)
    gap: float = measured(0.12, "length", "Between two drums", 0.02, 3.0, step=0.01)
    flush_pipe: str = Field("50-pn10", description="Flush valve and its pipe, an id of the catalogue.")
    flush_run: float = measured(2.0, "run", "Flush pipe", 0.1, 60.0, step=0.5)
    flush_every: float = measured(7 * 86400.0, "days", "Flushed every", 3600.0, 365 * 86400.0, step=86400.0)
    soft: float = measured(
        0.0,
        "fine_length",
        "Soft walls, thick",
        0.0,
        0.012,
        "Polyethylene or polypropylene that gives under a flange; 0 for stiff walls.",
        step=0.0005,
    )
    bag: float = measured(
        0.0, "micron", "Test sock on its outlet", 0.0, 1e-3, "A test of what passes; 0 for none.", step=25e-6
    )

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Every drum."""
        return tuple(
            Outline(f"Drum {k + 1}", self.offset + x, 0.0, d.diameter, d.diameter, self.stand, "round")
            for k, (d, x) in enumerate(zip(self.drums, self.lefts(), strict=True))
        )

    def holds(self) -> tuple[Held, ...]:
        """What lies in its drums."""
        return tuple(Held(drum.medium) for drum in self.drums)

    def lefts(self) -> list[float]:
        """Left inner edge of each drum from the train's left end, m."""
        found, at = [], 0.0
        for drum in self.drums:
            found.append(at)
            at += drum.diameter + self.gap
        return found

    @property
    def wide(self) -> float:
        """Of all drums, m."""
        return sum(d.diameter for d in self.drums) + self.gap * (len(self.drums) - 1)
