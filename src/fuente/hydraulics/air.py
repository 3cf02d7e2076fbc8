"""Air pumps, airlines and diffusers: who gets how much of one pump's air."""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from fuente.errors import FuenteError
from fuente.hydraulics.pipes import friction_factor
from fuente.hydraulics.pumps import bracketed_root
from fuente.water.properties import GRAVITY

AIR_DENSITY = 1.2  # kg/m³ at room temperature
AIR_VISCOSITY = 1.81e-5  # Pa·s
AIRLINE = 0.004  # m, the usual bore
DIFFUSER_PRESSURE = 1500.0  # Pa, an air stone, typical
OPEN_VALVE = 8.0  # loss of a small air valve fully open, on its line's bore; typical
OPEN_K = 1.5  # an open line's entrance and exit


@dataclass(frozen=True)
class AirPump:
    """Pressure in Pa at no flow, flow in m³/s at no pressure; straight between, as membrane pumps are, ±20 %."""

    max_pressure: float
    max_flow: float

    def flow(self, pressure: float) -> float:
        """Flow in m³/s against a pressure in Pa."""
        return self.max_flow * max(1 - pressure / self.max_pressure, 0.0)


@dataclass(frozen=True)
class Drop:
    """A line from the manifold to an injector: depth m under water, length m, bore m, valve's K, diffuser's pressure
    Pa.
    """

    depth: float
    length: float = 1.5
    bore: float = AIRLINE
    valve_k: float = 0.0
    diffuser: float = 0.0
    name: str = ""

    @property
    def threshold(self) -> float:
        """Pressure in Pa under which nothing comes."""
        return 1000 * GRAVITY * self.depth + self.diffuser

    def loss(self, flow: float) -> float:
        """Pressure in Pa lost in line and valve at a flow in m³/s; Darcy–Weisbach, air as if it did not expand."""
        if flow <= 0:
            return 0.0
        area = math.pi / 4 * self.bore**2
        speed = flow / area
        reynolds = AIR_DENSITY * speed * self.bore / AIR_VISCOSITY
        f = friction_factor(reynolds, 1.5e-6 / self.bore)
        return (f * self.length / self.bore + OPEN_K + self.valve_k) * AIR_DENSITY * speed**2 / 2

    def flow(self, pressure: float) -> float:
        """Flow in m³/s at a pressure in Pa in the manifold."""
        spare = pressure - self.threshold
        if spare <= 0:
            return 0.0
        area = math.pi / 4 * self.bore**2
        high = area * math.sqrt(2 * spare / (AIR_DENSITY * OPEN_K))
        return float(bracketed_root(lambda q: self.loss(q) - spare, 0.0, high * 1.01))


def share_air(pump: AirPump, drops: Sequence[Drop]) -> tuple[float, list[float]]:
    """Pressure in Pa in the manifold, and each drop's flow in m³/s: what the pump gives is what the drops take.

    The shallow drop takes the air until it is throttled. ±20 %.
    """
    if not drops:
        raise FuenteError("An air pump needs a line.")

    def surplus(pressure: float) -> float:
        return pump.flow(pressure) - sum(d.flow(pressure) for d in drops)

    low = min(d.threshold for d in drops)
    if pump.flow(low) <= 0:
        return pump.max_pressure, [0.0] * len(drops)
    pressure = float(bracketed_root(surplus, low, pump.max_pressure))
    return pressure, [d.flow(pressure) for d in drops]
