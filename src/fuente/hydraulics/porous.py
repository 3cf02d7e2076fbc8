"""Water through foam, felt and packed media."""

from __future__ import annotations

import itertools
import math
from dataclasses import dataclass

from fuente.errors import FuenteError
from fuente.water.properties import GRAVITY, Water

# Permeability, m², of clean open-cell foam by pores per inch.
_FOAM = ((10, 1.7e-7), (20, 1.0e-7), (30, 6e-8), (45, 3e-8))


@dataclass(frozen=True)
class Porous:
    """A Darcy–Forchheimer medium: permeability m², inertia 1/m. Δp/L = μv/K + ρCv²."""

    permeability: float
    inertia: float

    def dirty(self, factor: float) -> Porous:
        """The same medium with its loss multiplied by a factor ≥ 1."""
        return Porous(self.permeability / factor, self.inertia * factor)

    def speed(self, gradient: float, water: Water) -> tuple[float, float]:
        """Approach speed in m/s at a head gradient (m of water per m ≥ 0), and its slope by the gradient."""
        a = water.viscosity / self.permeability
        b = water.density * self.inertia
        push = water.density * GRAVITY * gradient
        root = math.sqrt(a * a + 4 * b * push)
        return 2 * push / (a + root), water.density * GRAVITY / root


def foam(ppi: float) -> Porous:
    """Clean open-cell foam of 8 to 60 pores per inch; log interpolation of typical values, ±30 %."""
    if not 8 <= ppi <= 60:
        raise FuenteError(f"Foam of {ppi:g} ppi is outside 8 to 60 ppi.")
    points = _FOAM
    for (p0, k0), (p1, k1) in itertools.pairwise(points):
        if ppi <= p1 or (p1, k1) == points[-1]:
            share = math.log(ppi / p0) / math.log(p1 / p0)
            k = k0 * (k1 / k0) ** share
            return Porous(k, 0.08 / math.sqrt(k))
    raise AssertionError("unreachable")


def felt(micron: float, void: float = 0.8, tortuosity: float = 3.0) -> Porous:
    """Felt or woven sock by its rating in m (25e-6 to 1e-3).

    A bundle of winding capillaries, K = ε·d²/(32·τ); ±50 %. Socks are rated by makers in different ways.
    """
    if not 1e-6 <= micron <= 2e-3:
        raise FuenteError("A sock's rating is between 1 and 2000 micron.")
    k = void * micron**2 / (32 * tortuosity)
    return Porous(k, 0.08 / math.sqrt(k))


def packed(size: float, void: float) -> Porous:
    """Packed grains, rings or balls of a size in m with a void share (0.2 to 0.97). Ergun 1952; ±25 %."""
    if not 0.2 <= void <= 0.97 or size <= 0:
        raise FuenteError("Packed media needs a size above zero and a void share of 0.2 to 0.97.")
    k = void**3 * size**2 / (150 * (1 - void) ** 2)
    return Porous(k, 1.75 * (1 - void) / (void**3 * size))


def wall_flow(
    upstream: float, downstream: float, width: float, height: float, thickness: float, medium: Porous, water: Water
) -> tuple[float, float, float]:
    """Flow in m³/s sideways through an upright pad, and its derivatives by both levels.

    Levels in m above the pad's foot, upstream ≥ downstream. The wetted face is the mean of the two depths, up to the
    pad's height: exact for slow flow (Dupuit) down to a third of the depth before it. ±30 %, as the permeability.
    """
    if upstream <= 0.0 or upstream < downstream:
        return 0.0, 0.0, 0.0
    wet_up, wet_up_slope = (upstream, 1.0) if upstream < height else (height, 0.0)
    # A fast pad chokes at its outflow face: below a third of the depth before it, the far water no longer matters.
    held = (2 * upstream - wet_up) / 3
    if downstream >= held:
        low, low_slope, held_slope = downstream, 1.0, 0.0
    else:
        low, low_slope, held_slope = held, 0.0, (2 - wet_up_slope) / 3
    wet_low, wet_low_slope = (low, 1.0) if low < height else (height, 0.0)
    area = width * (wet_up + wet_low) / 2
    speed, slope = medium.speed((upstream - low) / thickness, water)
    push = area * slope / thickness
    by_low = speed * width * wet_low_slope / 2 - push
    d_up = speed * width * wet_up_slope / 2 + push + by_low * held_slope
    return speed * area, d_up, by_low * low_slope


def sheet_flow(drop: float, area: float, thickness: float, medium: Porous, water: Water) -> tuple[float, float]:
    """Flow in m³/s through a sheet of fixed area m² at a drop in m, and its slope."""
    if drop < 0:
        return 0.0, 0.0
    speed, slope = medium.speed(drop / thickness, water)
    return speed * area, slope * area / thickness
