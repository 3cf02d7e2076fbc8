"""What the builder decides of a canister or a lidded bucket."""

from __future__ import annotations

import math
from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import Spec, measured
from fuente.devices.contract import Held
from fuente.devices.filtering import FilterSpec, counted, picked
from fuente.devices.pumping import PumpSpec

STYLES = {"canister": "a canister", "bucket": "a lidded bucket"}
FLOWS = {"up": "up through it", "down": "down through it"}
HOLDS = {"trays": "trays that seal", "tube": "a sleeve without a way round", "bags": "bags", "loose": "loose"}
PAST = {"trays": 0.05, "tube": 0.0, "bags": 0.2, "loose": 0.3}  # of the flow goes past the media; assumptions


class Layer(Spec):
    """One layer, in the order from the foot up."""

    medium: str = Field("foam", description="Media of the catalogue, or foam.")
    ppi: float = measured(20.0, "number", "Pores per inch", 8.0, 60.0, "Of foam.", step=5.0)
    share: float = measured(0.3, "fraction", "Of the inside", 0.02, 1.0, step=0.05)


class Canister(FilterSpec):
    """A closed vessel with its pump in the line: hoses from the tank and back."""

    kind: Literal["canister"] = "canister"
    name: str = Field("Canister", max_length=80)
    style: Literal["canister", "bucket"] = picked("canister", "It is", STYLES)
    stand: float = measured(0.0, "length", "Underside above the room's floor", -2.0, 4.0, step=0.01)
    offset: float = measured(0.3, "length", "Left end from the left of the drawing", -20.0, 60.0, step=0.05)
    diameter: float = measured(0.24, "length", "Bore", 0.06, 1.0, step=0.01)
    height: float = measured(0.36, "length", "Height inside", 0.08, 1.5, step=0.01)
    flow: Literal["up", "down"] = picked("up", "Water goes", FLOWS)
    layers: tuple[Layer, ...] = Field((Layer(), Layer(medium="ring", share=0.5)), min_length=1, max_length=8)
    held: Literal["trays", "tube", "bags", "loose"] = picked("trays", "Media is held by", HOLDS)
    dividers: float = measured(0.05, "fraction", "Taken by trays and dividers", 0.0, 0.5, step=0.01)
    pump: PumpSpec = PumpSpec(name="Canister pump", max_head=1.6, max_flow=900e-3 / 3600, watts=15)
    hose: str = Field("hose-16", description="Hose, an id of the catalogue.")
    bores: int = counted(1, "Hoses alike, each way", 1, 6)
    length: float = measured(1.2, "run", "Hose each way", 0.1, 20.0, step=0.1)
    intake: float = measured(0.08, "length", "Draws above the tank's floor", 0.0, 3.0, step=0.01)
    outlet: float = measured(0.3, "length", "Outlet height above the tank floor", 0.0, 3.2, step=0.01)
    dirt: float = measured(1.0, "number", "Clogging (× clean loss)", 1.0, 500.0, "1 is clean.", step=1.0)

    @model_validator(mode="after")
    def _fits(self) -> Canister:
        if self.hose not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.hose[:40]}”.")
        if sum(layer.share for layer in self.layers) > 1.0 + 1e-9:
            raise ValueError("The layers are more than the inside.")
        return self

    def holds(self) -> tuple[Held, ...]:
        """Its layers."""
        return tuple(Held(layer.medium) for layer in self.layers if layer.medium != "foam")

    @property
    def inside(self) -> float:
        """m³."""
        return math.pi / 4 * self.diameter**2 * self.height

    @property
    def area(self) -> float:
        """Plan, m²."""
        return math.pi / 4 * self.diameter**2

    def bulk(self, layer: Layer) -> float:
        """Of a layer, m³."""
        return self.inside * layer.share * (1 - self.dividers)
