"""What the builder decides of fresh water."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import measured
from fuente.devices.contract import Device, End
from fuente.one_line import Line


class TopUp(Device):
    """A float valve, or a drip, into a pump chamber or any other water; and the overflow to waste that a drip needs, or
    that alone.
    """

    kind: Literal["top_up"] = "top_up"
    id: str = Field("top-up", max_length=40)
    name: Line = Field("Top-up", max_length=80)
    into: str = Field("sump", max_length=40, description="Id of the filter or the tank.")
    chamber: str = Field("", max_length=40, description="Id of the chamber there; empty for the pump's, or for all.")
    source: Literal["reservoir", "mains", "drip", "none"] = "reservoir"
    volume: float = measured(0.02, "volume", "Reservoir holds", 0.001, 5.0, step=0.005)
    level: float = measured(0.25, "length", "Float shuts above the floor", 0.02, 2.0, step=0.005)
    band: float = measured(0.01, "length", "Float opens over", 0.002, 0.1, step=0.001)
    most: float = measured(60e-3 / 3600, "flow", "Lets in at most", 1e-8, 1e-3, step=5e-3 / 3600)
    drip: float = measured(20e-3 / 86400, "flow", "Drip", 0.0, 1e-4, step=1e-3 / 86400)
    waste: bool = Field(False, description="Whether an overflow takes what is too much to waste.")
    waste_mouth: float = measured(0.3, "length", "Overflow to waste above the floor", 0.02, 2.0, step=0.005)
    waste_pipe: str = Field("32-pn10", description="Overflow pipe, an id of the catalogue.")

    @model_validator(mode="after")
    def _whole(self) -> TopUp:
        if self.waste_pipe not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.waste_pipe[:40]}”.")
        if self.source == "none" and not self.waste:
            raise ValueError(f"{self.name} lets nothing in and nothing out: fit its overflow to waste, or take it out.")
        if self.source == "drip" and self.drip > 0 and not self.waste:
            raise ValueError("A constant drip needs an overflow to waste, or the sump fills over its rim.")
        return self

    def ends(self) -> tuple[End, ...]:
        """Into a pump chamber, or what is chosen."""
        return (End(self.into, "gives", self.chamber),)
