"""What the builder decides of a filter that hangs on the rim."""

from __future__ import annotations

from typing import Literal

from pydantic import Field, model_validator

from fuente.catalogue import PIPES
from fuente.devices.base import measured, picked
from fuente.devices.contract import Held
from fuente.devices.filtering import FilterSpec, counted
from fuente.devices.pumping import PumpSpec
from fuente.one_line import Line

DRIVES = {"pump": "a small pump", "air": "an airlift"}
INLETS = {"deep": "from below", "skim": "from the surface"}
SKIMS = 0.02  # m under the water at which a skimming inlet draws


class RimBox(FilterSpec):
    """A box that hangs outside on the tank's rim: lifted into it, water goes through a block and back over a lip."""

    kind: Literal["rim_box"] = "rim_box"
    name: Line = Field("Hang-on filter", max_length=80)
    end: Literal["left", "right"] = picked("right", "Hangs on the tank's", {"left": "left end", "right": "right end"})
    off: float = measured(0.14, "length", "Inside, off the tank's wall", 0.04, 0.6, step=0.01)
    wide: float = measured(0.3, "length", "Inside, along the tank's wall", 0.05, 2.0, step=0.01)
    height: float = measured(0.24, "length", "Height inside", 0.06, 1.0, step=0.01)
    lip: float = measured(0.2, "length", "Lip above its floor", 0.03, 0.95, "Where water goes back.", step=0.005)
    spout: float = measured(0.15, "length", "Length of the lip", 0.02, 2.0, step=0.01)
    over: float = measured(0.01, "length", "Lip above the tank's rim", 0.0, 0.3, step=0.005)
    ppi: float = measured(20.0, "number", "Block, pores per inch", 8.0, 60.0, step=5.0)
    thickness: float = measured(0.06, "length", "Block's thickness", 0.01, 0.5, step=0.005)
    block: float = measured(0.22, "length", "Top of the block above its floor", 0.03, 1.0, step=0.005)
    medium: str = Field("ring", description="Media in a bag behind the block, an id of the catalogue.")
    media: float = measured(0.0, "volume", "Media in a bag behind the block", 0.0, 0.1, "0 for none.", step=5e-4)
    drive: Literal["pump", "air"] = picked("pump", "Driven by", DRIVES)
    inlet: Literal["deep", "skim"] = picked("deep", "Draws", INLETS)
    intake: float = measured(0.05, "length", "Draws, or air enters, above the tank's floor", 0.0, 3.0, step=0.01)
    hose: str = Field("hose-16", description="Tube up into it, an id of the catalogue.")
    tubes: int = counted(1, "Tubes up into it", 1, 6)
    pump: PumpSpec = PumpSpec(name="Small pump", max_head=0.8, max_flow=600e-3 / 3600, watts=5)
    dirt: float = measured(1.0, "number", "Clogging (× clean loss)", 1.0, 500.0, "1 is clean.", step=1.0)

    @model_validator(mode="after")
    def _fits(self) -> RimBox:
        if self.hose not in PIPES:
            raise ValueError(f"The catalogue has no pipe “{self.hose[:40]}”.")
        if self.lip > self.height - 0.01:
            raise ValueError(f"{self.name}: its lip is as high as its walls.")
        if self.thickness > self.off - 0.02:
            raise ValueError(f"{self.name}: its block fills the box; water wants room before and behind it.")
        if self.spout > self.wide + 1e-9:
            raise ValueError(f"{self.name}: its lip is longer than the box.")
        if self.block > self.height:
            raise ValueError(f"{self.name}: its block stands over its walls.")
        if self.media > 0.5 * self.wide * (self.off - self.thickness) * self.lip:
            raise ValueError(f"{self.name} has no room for so much media behind its block.")
        return self

    def holds(self) -> tuple[Held, ...]:
        """What is in the bag."""
        return (Held(self.medium),) if self.media > 0 else ()

    @property
    def draws(self) -> float:
        """Its pump's, where none blows air into it."""
        return 0.0 if self.on_air else self.pump.watts

    @property
    def on_air(self) -> bool:
        """Where an airlift drives it."""
        return self.drive == "air"

    @property
    def air_tube(self) -> float:
        """Its tube's bore."""
        return PIPES[self.hose].bore

    @property
    def bulk(self) -> float:
        """Foam, m³."""
        return self.wide * self.thickness * self.block
