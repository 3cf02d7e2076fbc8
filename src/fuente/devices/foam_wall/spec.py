"""What the builder decides of a foam wall."""

from __future__ import annotations

import math
from typing import Literal

from pydantic import Field, model_validator

from fuente.devices.base import Outline, measured, picked
from fuente.devices.contract import Held, Site
from fuente.devices.filtering import counted
from fuente.devices.pocket import PocketSpec
from fuente.one_line import Line

SHAPES = {"flat": "flat across the tank", "corner": "round a corner"}
TWIN = {
    "single": "one pad",
    "twin": "two in a row",
    "beside": "two side by side",
}
DAMS = {"over": "on its dam", "before": "before its dam"}
BENDS = 2.0  # times its thickness: the inner radius down to which foam bends without folding
VEE = 0.006  # m, the width of a wedge that is cut out behind
RAIL, RAIL_THICK = 0.015, 0.005  # m, a strip that holds the foam


class FoamWall(PocketSpec):
    """Foam held by rails across a tank or round a corner; water goes through it and is lifted back from behind it."""

    kind: Literal["foam_wall"] = "foam_wall"
    name: Line = Field("Foam wall", max_length=80)
    shape: Literal["flat", "corner"] = picked("flat", "It stands", SHAPES)
    thickness: float = measured(0.05, "length", "Foam's thickness", 0.01, 0.3, "Of each pad.", step=0.005)
    ppi: float = measured(20.0, "number", "Pores per inch", 8.0, 60.0, step=5.0)
    twin: Literal["single", "twin", "beside"] = picked("single", "Cartridge", TWIN)
    second: float = measured(30.0, "number", "Second pad, pores per inch", 8.0, 60.0, "Behind the first.", step=5.0)
    height: float = measured(0.3, "length", "Top of the foam above the floor", 0.03, 3.0, step=0.005)
    dam: float = measured(0.0, "length", "Dam under the foam", 0.0, 0.5, "Holds the substrate back.", step=0.005)
    dam_at: Literal["over", "before"] = picked("over", "Foam stands", DAMS)
    behind: float = measured(0.06, "length", "Room behind it", 0.01, 2.0, "Kept by spacers.", step=0.005)
    reach: float = measured(
        0.2, "length", "Reach along either wall", 0.04, 2.0, "Of a corner wall, to its outer face.", step=0.01
    )
    across: float = measured(
        0.3, "length", "Wall's length across the tank", 0.03, 4.0, "The tank's inner width.", step=0.005
    )
    walls: int = counted(1, "Walls one after the other", 1, 6)
    spacing: float = measured(0.2, "length", "Between two walls", 0.02, 3.0, "Of dividers along the tank.", step=0.01)
    medium: str = Field("ring", description="Media in bags behind it, an id of the catalogue.")
    media: float = measured(0.0, "volume", "Media in bags behind it", 0.0, 0.5, "0 for none.", step=5e-4)
    squeeze: float = measured(
        0.015, "percent", "Cut larger by", 0.0, 0.1, "So that no water passes its edges.", step=0.005
    )

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Across the tank, or round its corner; and the rails that hold it."""
        if self.shape == "flat":
            return (*self._within(site, self.across), *self._rails(site))
        return (*self._within(site, self.reach, "corner"), *self._rails(site))

    def _rails(self, site: Site) -> tuple[Outline, ...]:
        """Strips upright on the glass: beside a corner's arc, or before and behind each flat pad at both its ends."""
        tank = site.tank
        x0 = tank.offset + tank.thickness + self.span_inside[0]
        back, reach = tank.thickness, self.reach
        spots: tuple[tuple[float, float, float, float], ...]
        if self.shape == "corner":
            spots = ((x0, back + reach, RAIL_THICK, RAIL), (x0 + reach, back, RAIL, RAIL_THICK))
        else:
            ends = (back, back + self.across - RAIL_THICK)
            faces = (at for k in range(self.walls) for at in self._faces(k))
            spots = tuple((x0 + x, y, RAIL, RAIL_THICK) for x in faces for y in ends)
        return tuple(Outline("", x, y, long, wide, tank.floor, inside=True) for x, y, long, wide in spots)

    def _faces(self, k: int) -> tuple[float, float]:
        """Left ends in m, from the end wall, of the rails behind and before the k-th flat wall."""
        left = self.behind + k * (self.deep + self.spacing)
        return left - RAIL, left + self.deep

    @model_validator(mode="after")
    def _fits(self) -> FoamWall:
        if self.dam >= self.height - 0.02:
            raise ValueError("The dam leaves no foam over it.")
        if self.shape == "corner" and self.deep >= self.reach:
            raise ValueError("The foam is thicker than the corner is deep; take a larger reach.")
        if self.shape == "corner" and self.walls > 1:
            raise ValueError("Corner walls stand alone; dividers are flat.")
        return self

    def holds(self) -> tuple[Held, ...]:
        """What lies in bags behind it."""
        return (Held(self.medium),) if self.media > 0 else ()

    @property
    def pads(self) -> tuple[float, ...]:
        """Pores per inch of the pads in the water's order; of two side by side the one."""
        return (self.ppi, self.second) if self.twin == "twin" else (self.ppi,)

    @property
    def beside(self) -> int:
        """Pads side by side."""
        return 2 if self.twin == "beside" else 1

    @property
    def deep(self) -> float:
        """All pads together, m."""
        return self.thickness * len(self.pads)

    @property
    def foam_height(self) -> float:
        """m, of the pad: it stands on its dam, or on the floor before it."""
        return self.height - (self.dam if self.dam_at == "over" else 0.0)

    @property
    def open_height(self) -> float:
        """m over the dam, where water comes through."""
        return self.height - self.dam

    @property
    def inner(self) -> float:
        """Radius in m of a corner wall's inner face."""
        return self.reach - self.deep

    @property
    def dam_length(self) -> float:
        """m: across the tank; in a corner the chord of the arc that stands on it, or of the inner face behind which it
        stands.
        """
        if self.shape == "flat":
            return self.across
        return math.sqrt(2) * (self.reach - self.deep / 2 if self.dam_at == "over" else self.inner)

    @property
    def fits(self) -> float:
        """Diameter in m of the largest upright thing that fits behind it: between two faces, or in the corner's quarter
        of a circle, touching both walls and the foam.
        """
        return self.behind if self.shape == "flat" else 2 * self.inner / (1 + math.sqrt(2))

    @property
    def wedges(self) -> int:
        """Wedges to cut out of the inner side of each pad of a corner wall, so that it bends: the inner face is shorter
        than the middle by as much as foam takes, and what is over is cut away.
        """
        if self.shape == "flat" or self.inner > BENDS * self.thickness - 1e-9:
            return 0
        middle = self.inner + self.thickness / 2
        takes = 0.5 / (BENDS + 0.5)  # strain of the inner face where it just bends
        over = math.pi / 2 * (self.thickness / 2 - takes * middle)
        return max(math.ceil(over / VEE), 1)

    @property
    def face(self) -> float:
        """Length of the wall's middle line, m."""
        return self.across if self.shape == "flat" else math.pi / 2 * (self.reach - self.deep / 2)

    @property
    def bulk(self) -> float:
        """Foam, m³."""
        return self.face * self.deep * self.foam_height * self.walls

    @property
    def long(self) -> float:
        """Room along the tank, m."""
        if self.shape == "corner":
            return self.reach
        return self.behind + self.walls * self.deep + (self.walls - 1) * self.spacing
