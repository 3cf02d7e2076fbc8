"""What the builder decides of a manifold."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import FittingCount, Spec, measured
from fuente.devices.contract import Device, End
from fuente.devices.pumping import PumpSpec
from fuente.one_line import Line

LOOP_NAMES = {"steriliser": "Steriliser loop", "plant_bed": "Plant bed", "chiller": "Chiller loop"}


def known_pipe(pipe: str) -> None:
    """Raise ValueError for a size that the catalogue has not."""
    if pipe not in PIPES:
        raise ValueError(f"The catalogue has no pipe “{pipe[:40]}”.")


class Feeder(Spec):
    """A pump in a filter's pump chamber and its own pipe up to the manifold."""

    id: str = Field("pump", max_length=40)
    source: str = Field("sump", max_length=40, description="Id of the filter with the pump.")
    pump: PumpSpec = PumpSpec()
    pipe: str = Field("50-pn10", description="Rising pipe, an id of the catalogue.")
    run: float = measured(1.0, "run", "Sideways run", 0.0, 60.0, "The rise is added from the drawing.")
    fittings: tuple[FittingCount, ...] = (
        FittingCount(kind="elbow", count=2),
        FittingCount(kind="union", count=1),
        FittingCount(kind="ball_valve", count=1),
    )
    valve: Literal["none", "swing_check", "flap_check"] = "swing_check"
    leak: float = measured(0.02, "fraction", "Check-valve leakage", 0.0, 1.0, "Share of the free back-flow.")
    correction: float = Field(1.0, ge=0.1, le=10.0, description="Multiplier on the pipe's losses, from a timed bucket.")

    @model_validator(mode="after")
    def _known(self) -> Feeder:
        known_pipe(self.pipe)
        return self


class Branch(Spec):
    """A tank's own pipe off a row, its ball valve and its outlet or spray bar."""

    tank: str = Field("tank", max_length=40, description="Id of the tank that it feeds.")
    spacing: float = measured(0.45, "length", "From the tee before", 0.0, 20.0, step=0.01)
    pipe: str = Field("hose-12", description="Branch pipe or hose, an id of the catalogue.")
    length: float = measured(0.3, "length", "Branch length", 0.0, 20.0, step=0.05)
    fittings: tuple[FittingCount, ...] = (FittingCount(kind="elbow", count=1),)
    angle: float = measured(0.0, "angle", "Valve turned from open", 0.0, 90.0, "90 is shut.", step=1.0)
    form: Literal["open", "bar"] = Field("open", description="An open end, or a spray bar.")
    holes: int = Field(12, ge=1, le=200, description="Holes of the spray bar.")
    hole_bore: float = measured(0.004, "length", "Hole of the spray bar", 0.001, 0.02, step=0.0005)
    mouth: float = measured(0.26, "length", "Mouth above the tank's floor", 0.0, 3.5, step=0.002)
    correction: float = Field(1.0, ge=0.05, le=20.0, description="Multiplier on its losses, from a timed bucket.")
    air_hole: float = measured(0.0, "length", "Air hole", 0.0, 0.02, "Its diameter; 0 for none.", step=0.001)
    air_height: float = measured(0.28, "length", "Air hole above the tank's floor", 0.0, 3.0, step=0.001)

    @model_validator(mode="after")
    def _known(self) -> Branch:
        known_pipe(self.pipe)
        return self


class SupplyRow(Spec):
    """A pipe along a row of tanks, fed at its start."""

    height: float = measured(1.0, "length", "Row pipe above the room's floor", 0.0, 12.0, step=0.01)
    pipe: str = Field("32-pn10", description="Row pipe, an id of the catalogue.")
    lead: float = measured(0.3, "length", "From the riser to the row", 0.0, 20.0, step=0.05)
    branches: tuple[Branch, ...] = Field((), max_length=80)

    @model_validator(mode="after")
    def _known(self) -> SupplyRow:
        known_pipe(self.pipe)
        return self


class SideLoop(Spec):
    """A loop off the manifold that takes a share of the flow through some apparatus and back to a filter."""

    id: str = Field("loop", max_length=40)
    kind: Literal["steriliser", "plant_bed", "chiller"] = "steriliser"
    into: str = Field("sump", max_length=40, description="Id of the filter that it runs back to.")
    chamber: str = Field("", max_length=40, description="Id of the chamber there; empty for the first.")
    share: float = measured(0.1, "fraction", "Share of the flow wanted", 0.01, 0.9, step=0.01)
    pipe: str = Field("25-pn16", description="Its pipe, an id of the catalogue.")
    length: float = measured(3.0, "run", "Length there and back", 0.1, 60.0)
    loss: float = measured(4.0, "number", "Loss coefficient of the apparatus", 0.0, 500.0, "On the pipe's bore.")
    angle: float = measured(0.0, "angle", "Valve turned from open", 0.0, 90.0, "90 is shut.", step=1.0)
    height: float = measured(0.3, "length", "Ends above the filter's floor", 0.0, 3.0, step=0.005)

    @model_validator(mode="after")
    def _known(self) -> SideLoop:
        known_pipe(self.pipe)
        return self


class Manifold(Device):
    """Pumps, a riser, rows, branches, side loops."""

    kind: Literal["manifold"] = "manifold"
    id: str = Field("manifold", max_length=40)
    name: Line = Field("Manifold", max_length=80)
    feeders: tuple[Feeder, ...] = Field((Feeder(),), min_length=1, max_length=8)
    riser: str = Field("40-pn10", description="Riser between the rows, an id of the catalogue.")
    rows: tuple[SupplyRow, ...] = Field(min_length=1, max_length=40)
    loops: tuple[SideLoop, ...] = Field((), max_length=8)

    @model_validator(mode="after")
    def _whole(self) -> Manifold:
        known_pipe(self.riser)
        if not any(row.branches for row in self.rows):
            raise ValueError(f"{self.name} feeds no tank.")
        ids = [f.id for f in self.feeders] + [x.id for x in self.loops]
        if len(set(ids)) != len(ids):
            raise ValueError(f"Two pumps or loops of {self.name} have the same id.")
        tanks = [b.tank for row in self.rows for b in row.branches]
        if len(set(tanks)) != len(tanks):
            raise ValueError(f"{self.name} feeds a tank twice.")
        return self

    def place(self, tank: str) -> tuple[int, int] | None:
        """Row and position of a tank's branch."""
        for i, row in enumerate(self.rows):
            for k, branch in enumerate(row.branches):
                if branch.tank == tank:
                    return i, k
        return None

    @property
    def warms(self) -> float:
        """All its pumps'."""
        return sum(f.pump.watts for f in self.feeders)

    def ends(self) -> tuple[End, ...]:
        """From pump chambers to tanks, and by loops to vessels."""
        pumps = (End(f.source, "draws", "pump") for f in self.feeders)
        tanks = (End(b.tank, "gives", "water") for row in self.rows for b in row.branches)
        loops = (End(x.into, "gives", x.chamber or "inlet") for x in self.loops)
        return (*pumps, *tanks, *loops)

    def past(self, gone: Device) -> Manifold | None:
        """Without the branch to a tank that goes; the tees after it keep their places."""
        if all(e.to != gone.id for e in self.ends()):
            return self
        rows = []
        for row in self.rows:
            kept, left = [], 0.0
            for branch in row.branches:
                if branch.tank == gone.id:
                    left += branch.spacing
                else:
                    kept.append(branch.model_copy(update={"spacing": branch.spacing + left}))
                    left = 0.0
            rows.append(row.model_copy(update={"branches": tuple(kept)}))
        if any(f.source == gone.id for f in self.feeders) or not any(row.branches for row in rows):
            return None
        loops = tuple(x for x in self.loops if x.into != gone.id)
        return self.model_copy(update={"rows": tuple(rows), "loops": loops})
