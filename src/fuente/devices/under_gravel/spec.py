"""What the builder decides of an under-gravel plate."""

from __future__ import annotations

from typing import Literal

from pydantic import Field

from fuente.devices.base import Outline, measured
from fuente.devices.contract import Site
from fuente.devices.pocket import PocketSpec
from fuente.one_line import Line


class UnderGravel(PocketSpec):
    """A slotted plate on feet under gravel, with lift tubes through it."""

    kind: Literal["under_gravel"] = "under_gravel"
    name: Line = Field("Under-gravel filter", max_length=80)
    length: float = measured(0.5, "length", "Plate's length", 0.05, 6.0, step=0.01)
    width: float = measured(0.3, "length", "Plate's width", 0.05, 3.0, step=0.01)
    gap: float = measured(0.02, "length", "Room under the plate", 0.005, 0.1, step=0.005)
    gravel: float = measured(0.06, "length", "Gravel over it", 0.01, 0.3, step=0.01)
    grain: float = measured(0.004, "fine_length", "Grain of the gravel", 0.0005, 0.02, step=0.001)
    void: float = measured(0.4, "fraction", "Void of the gravel", 0.25, 0.6, step=0.01)

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """Its plate."""
        return self._within(site, self.width)

    @property
    def area(self) -> float:
        """Of the plate, m²."""
        return self.length * self.width

    @property
    def bed(self) -> float:
        """Bulk of the gravel, m³."""
        return self.area * self.gravel

    @property
    def long(self) -> float:
        """Room along the tank, m."""
        return self.length
