"""What settles in quiet water: overflow rate against a particle's fall."""

from __future__ import annotations

import math

from fuente.errors import FuenteError
from fuente.water.properties import Water

DIRT = 1050.0  # kg/m³; fish dirt is 1 020 to 1 100
PARTICLE = 100e-6  # m


def fall_speed(particle: float, density: float, water: Water) -> float:
    """Terminal speed in m/s of a round particle of a size in m and a density in kg/m³ [fluids v_terminal].

    Stokes: 9.81 · (20 µm)² · 102 kg/m³ / (18 · 1.002 mPa·s) = 0.0221 mm/s.

    >>> round(fall_speed(20e-6, 1100.0, water(20.0)) * 1000, 4)
    0.0221
    """
    if density <= water.density:
        raise FuenteError("The particle is no heavier than water: it does not settle.")
    from fluids.drag import v_terminal

    return float(v_terminal(D=particle, rhop=density, rho=water.density, mu=water.viscosity))


def smallest_kept(rate: float, density: float, water: Water) -> float:
    """Size in m of the smallest particle that all stay down at an overflow rate in m/s (flow by plan)."""
    low, high = 1e-6, 0.02
    for _ in range(60):
        middle = math.sqrt(low * high)
        low, high = (middle, high) if fall_speed(middle, density, water) < rate else (low, middle)
    return high
