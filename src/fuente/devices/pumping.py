"""Pumps and air holes, as returns and manifolds share them."""

from __future__ import annotations

import itertools

from pydantic import Field, model_validator

from fuente.devices.base import Choice, Path, Spec, measured
from fuente.hydraulics.pumps import PumpCurve

BACKWARDS_K = 3.0  # a standing centrifugal pump, on the pipe's bore; typical


class PumpSpec(Spec):
    """A pump by the two numbers on its box, or by its curve's points."""

    name: str = Field("Submersible pump", max_length=80)
    max_head: float = measured(3.0, "head", "Greatest head", 0.2, 60)
    max_flow: float = measured(1.2e-3, "flow", "Flow at no head", 5e-6, 0.05)
    points: tuple[tuple[float, float], ...] = Field((), max_length=60, description="(flow m³/s, head m), rising flow.")
    watts: float = measured(40, "power", "Power", 0, 5000)
    speed: float = measured(1.0, "fraction", "Speed", 0.2, 1.0, step=0.05)
    wear: float = measured(1.0, "fraction", "Head left of new", 0.2, 1.0, "What wear and lime have left.", step=0.05)
    stages: int = Field(1, ge=1, le=4, description="Equal pumps one behind the other.")

    @model_validator(mode="after")
    def _curve_falls(self) -> PumpSpec:
        flows = [q for q, _ in self.points]
        heads = [h for _, h in self.points]
        rising = any(b <= a for a, b in itertools.pairwise(flows))
        if self.points and (len(self.points) < 2 or rising or min(flows) < 0):
            raise ValueError("A pump's points need rising flow, two or more of them.")
        if any(b >= a for a, b in itertools.pairwise(heads)):
            raise ValueError("A pump's head must fall as its flow rises.")
        return self


def pump_curve(pump: PumpSpec) -> PumpCurve:
    """The curve of a pump, or of several in a row: their heads add up."""
    n = pump.stages
    if pump.points:
        made = PumpCurve.from_points(tuple((q, h * n) for q, h in pump.points))
        return PumpCurve(made.max_head, made.max_flow, made.points, pump.speed, pump.wear)
    return PumpCurve(pump.max_head * n, pump.max_flow, (), pump.speed, pump.wear)


def pump_power(pump: PumpSpec) -> float:
    """Power in W: the box's watts by the cube of the speed, for every stage."""
    return pump.watts * pump.speed**3 * pump.stages


def pump_choices(pump: PumpSpec, path: Path, label: str = "Pump") -> tuple[list[Choice], list[Choice]]:
    """Fields of a pump: those that stand on the card, and those that fold away."""
    front = [
        Choice((*path, "max_head"), f"{label}, greatest head", "head", pump.max_head, step=0.1),
        Choice((*path, "max_flow"), f"{label}, flow at no head", "flow", pump.max_flow, step=100e-3 / 3600),
        Choice((*path, "speed"), f"{label} speed", "fraction", pump.speed, step=0.05),
    ]
    folded = [
        Choice((*path, "watts"), f"{label} power", "power", pump.watts, fold=True),
        Choice((*path, "wear"), f"{label}, head left of new", "fraction", pump.wear, step=0.05, fold=True),
        Choice((*path, "stages"), f"{label}s in a row", "count", pump.stages, fold=True),
        Choice((*path, "name"), f"{label} is called", "text", pump.name, fold=True),
        Choice((*path, "points"), "Curve, L/h : m", "curve", pump.points, fold=True),
    ]
    return (front[2:] if pump.points else front), folded
