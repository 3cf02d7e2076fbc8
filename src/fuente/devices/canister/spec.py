"""What the builder decides of a canister or a lidded bucket."""

from __future__ import annotations

import math
from typing import Any, Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import Outline, Spec, measured, picked
from fuente.devices.contract import Held, Site
from fuente.devices.filtering import FilterSpec, counted, yes_no
from fuente.devices.pumping import PumpSpec
from fuente.one_line import Line

STYLES = {"canister": "a canister", "bucket": "a lidded bucket"}
FLOWS = {"up": "up through it", "down": "down through it"}
HOLDS = {"trays": "trays that seal", "tube": "a sleeve without a way round", "bags": "bags", "loose": "loose"}
PAST = {"trays": 0.05, "tube": 0.0, "bags": 0.2, "loose": 0.3}  # of the flow goes past the media; assumptions


FLOSS_PPI = 60.0  # floss catches dirt before any foam does
SPONGE_WALL = 0.03  # m of foam round a strainer


class Layer(Spec):
    """One layer, in the order from the foot up."""

    medium: str = Field("foam", description="Media of the catalogue, foam, or floss.")
    ppi: float = measured(20.0, "number", "Pores per inch", 8.0, 60.0, "Of foam.", step=5.0)
    thickness: float = measured(0.1, "length", "Thickness", 0.003, 1.5, "Or litres of it.", step=0.01)
    dirt: float = measured(1.0, "number", "Clogging (× clean loss)", 1.0, 500.0, "1 is clean.", step=1.0)
    divider: bool = yes_no(False, "On a divider of its own")

    @property
    def fineness(self) -> float:
        """What tells which layer catches dirt first: pores per inch, floss over all foam, loose media none."""
        return self.ppi if self.medium == "foam" else FLOSS_PPI + 1 if self.medium == "floss" else 0.0


class Canister(FilterSpec):
    """A closed vessel with its pump in the line: hoses from the tank and back."""

    kind: Literal["canister"] = "canister"
    name: Line = Field("Canister", max_length=80)
    style: Literal["canister", "bucket"] = picked("canister", "It is", STYLES)
    stand: float = measured(0.0, "length", "Underside above the room's floor", -2.0, 4.0, step=0.01)
    offset: float = measured(0.3, "length", "Left end from the left of the drawing", -20.0, 60.0, step=0.05)
    diameter: float = measured(0.24, "length", "Bore", 0.06, 1.0, step=0.01)
    height: float = measured(0.36, "length", "Height inside", 0.08, 1.5, step=0.01)
    flow: Literal["up", "down"] = picked("up", "Water goes", FLOWS)
    layers: tuple[Layer, ...] = Field((Layer(), Layer(medium="ring", thickness=0.18)), min_length=1, max_length=8)
    foot: float = measured(0.0, "length", "Void under the layers", 0.0, 0.5, "Where mud settles.", step=0.01)
    drain: bool = yes_no(False, "Drain cock at its foot")
    held: Literal["trays", "tube", "bags", "loose"] = picked("trays", "Media is held by", HOLDS)
    dividers: float = measured(0.05, "fraction", "Taken by trays and dividers", 0.0, 0.5, step=0.01)
    pump: PumpSpec = PumpSpec(name="Canister pump", max_head=1.6, max_flow=900e-3 / 3600, watts=15)
    hose: str = Field("hose-16", description="Hose on the way in, an id of the catalogue.")
    bores: int = counted(1, "Hoses in, side by side", 1, 6)
    length: float = measured(1.2, "run", "Length of the hose in", 0.1, 20.0, step=0.1)
    back: str = Field("", description="Hose on the way back, an id of the catalogue; empty for the same.")
    back_bores: int = counted(0, "Hoses back; 0 for as many", 0, 6)
    back_length: float = measured(0.0, "run", "Length of the hose back; 0 for the same", 0.0, 20.0, step=0.1)
    sponge: float = measured(0.0, "number", "Sponge on the intake, pores per inch", 0.0, 60.0, "0 for none.", step=5.0)
    sponge_long: float = measured(0.1, "length", "Length of that sponge", 0.03, 0.4, step=0.01)
    sponge_dirt: float = measured(1.0, "number", "Clogging of that sponge", 1.0, 500.0, "1 is clean.", step=1.0)
    intake: float = measured(0.08, "length", "Draws above the tank's floor", 0.0, 3.0, step=0.01)
    outlet: float = measured(0.3, "length", "Outlet height above the tank floor", 0.0, 3.2, step=0.01)

    @model_validator(mode="before")
    @classmethod
    def _older(cls, data: Any) -> Any:
        """Layers were shares of the inside, and one figure stood for the dirt of all."""
        if not isinstance(data, dict):
            return data
        layers = data.get("layers")
        old = isinstance(layers, list) and any(isinstance(x, dict) and "share" in x for x in layers)
        if "dirt" not in data and not old:
            return data
        made = {k: v for k, v in data.items() if k != "dirt"}
        height, dirt = data.get("height", cls.model_fields["height"].default), data.get("dirt", 1.0)
        if isinstance(layers, list) and isinstance(height, int | float):
            made["layers"] = [
                {
                    **{k: v for k, v in x.items() if k != "share"},
                    **({"thickness": x["share"] * height} if isinstance(x.get("share"), int | float) else {}),
                    "dirt": x.get("dirt", dirt),
                }
                if isinstance(x, dict)
                else x
                for x in layers
            ]
        return made

    @model_validator(mode="after")
    def _fits(self) -> Canister:
        for hose in (self.hose, self.back):
            if hose and hose not in PIPES:
                raise ValueError(f"The catalogue has no pipe “{hose[:40]}”.")
        if self.sponge and self.sponge < 8.0:
            raise ValueError("A sponge on the intake has 8 pores per inch or more; 0 is none.")
        over = self.foot + sum(layer.thickness for layer in self.layers) - self.height
        if over > 1e-9:
            raise ValueError(
                f"{self.name}: its layers with the void under them are {{{over}:length}} higher than its inside."
            )
        return self

    @property
    def draws(self) -> float:
        """Its pump's."""
        return self.pump.watts

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its round body."""
        return (Outline(self.name, self.offset, 0.0, self.diameter, self.diameter, self.stand, "round"),)

    @property
    def back_hose(self) -> str:
        """Id of the hose on the way back."""
        return self.back or self.hose

    @property
    def backs(self) -> int:
        """Hoses back, side by side."""
        return self.back_bores or self.bores

    @property
    def back_run(self) -> float:
        """Length in m of each of them."""
        return self.back_length or self.length

    @property
    def order(self) -> tuple[int, ...]:
        """Numbers of its layers in the order in which the water meets them."""
        found = tuple(range(len(self.layers)))
        return found if self.flow == "up" else found[::-1]

    @property
    def catches(self) -> int | None:
        """Number of the layer in which dirt is caught: the finest, and of those the first along the water; None where
        a sponge on the intake keeps it out, which is then what clogs.
        """
        if self.sponge:
            return None
        return max(self.order, key=lambda k: self.layers[k].fineness)

    def holds(self) -> tuple[Held, ...]:
        """Its layers."""
        return tuple(Held(layer.medium) for layer in self.layers if layer.medium not in ("foam", "floss"))

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
        return self.area * layer.thickness * (1 - self.dividers)
