"""Ultraviolet lamps in a closed chamber: in a loop of their own, or in a return line."""

from __future__ import annotations

from collections.abc import Iterable
from typing import Protocol

from pydantic import model_validator

from fuente.devices.base import Change, Edit, Finding, Path, Rank, Spec, measured

UVC = 0.30  # of a lamp's watts come out as short ultraviolet; typical of low-pressure lamps
CLEAR = 0.7  # of it that clear water and sleeve let through on the mean; an assumption
ALGAE, GERMS = 150.0, 450.0  # J/m²: what clears green water, and what most germs want; typical
LAMP_LIFE = 270 * 86400.0  # s until it gives about six tenths


class Chamber(Protocol):
    """A lamp in a sleeve in a round chamber, m, W, and s that it has burnt."""

    @property
    def length(self) -> float: ...
    @property
    def diameter(self) -> float: ...
    @property
    def sleeve(self) -> float: ...
    @property
    def watts(self) -> float: ...
    @property
    def age(self) -> float: ...
    @property
    def water(self) -> float: ...


class LampSpec(Spec):
    """A steriliser in a line: all that the line moves goes past its lamp."""

    length: float = measured(0.5, "length", "Lamp chamber's length", 0.1, 2.0, step=0.05)
    diameter: float = measured(0.09, "length", "Lamp chamber's bore", 0.03, 0.3, step=0.005)
    sleeve: float = measured(0.025, "length", "Lamp sleeve's outside", 0.01, 0.1, step=0.005)
    watts: float = measured(36.0, "power", "Lamp", 1, 400)
    age: float = measured(0.0, "days", "Lamp has burnt for", 0.0, 3650 * 86400.0, step=30 * 86400.0)
    loss: float = measured(3.0, "number", "Loss of the lamp chamber", 0.0, 100.0, "On the pipe's bore.", step=0.5)

    @model_validator(mode="after")
    def _fits(self) -> LampSpec:
        if self.sleeve >= self.diameter:
            raise ValueError("The lamp's sleeve is as wide as its chamber.")
        return self

    @property
    def water(self) -> float:
        """In the chamber, m³."""
        return 0.7854 * (self.diameter**2 - self.sleeve**2) * self.length


def dose(lamp: Chamber, flow: float) -> float:
    """Dose in J/m² (0.1 mJ/cm²): lamp's ultraviolet over the chamber's wall, for as long as water stays in it.

    Irradiance of a line source at the annulus's mean diameter; the lamp loses four tenths over its life.
    A factor of two.
    """
    if flow <= 0:
        return 0.0
    left = max(1 - 0.4 * lamp.age / LAMP_LIFE, 0.3)
    mean = (lamp.diameter + lamp.sleeve) / 2
    irradiance = UVC * CLEAR * left * lamp.watts / (3.1416 * mean * lamp.length)
    return irradiance * lamp.water / flow


def lamp_old(lamp: Chamber, owner: str, path: Path) -> Iterable[Finding]:
    """A lamp that still glows and does little."""
    if lamp.age > LAMP_LIFE:
        yield Finding(
            "lamp-old",
            Rank.CONSIDER,
            "The lamp has burnt for {age:days}.",
            "It still glows and gives little ultraviolet. Change it every nine months.",
            owner,
            {"age": lamp.age},
            "Changed it",
            Edit("Change lamp", (Change((*path, "age"), 0.0),)),
        )
