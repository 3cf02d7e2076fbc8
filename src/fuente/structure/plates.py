"""Thin rectangular plates under water: stress and bending of walls, bottoms and baffles.

Lévy's series: the two upright edges are simply supported, the foot too, and the top is free (rimless) or supported
(braced). Timoshenko and Woinowsky-Krieger, Theory of Plates and Shells, chapter 6.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

from fuente.errors import FuenteError
from fuente.water.properties import GRAVITY


@dataclass(frozen=True)
class Material:
    """Sheet material: Young's modulus Pa, Poisson's ratio, density kg/m³, allowable stress Pa, deflection limit."""

    name: str
    modulus: float
    poisson: float
    density: float
    strength: float
    safety: float
    deflection_share: float  # of the span, or none

    @property
    def allowable(self) -> float:
        """Stress in Pa to design for."""
        return self.strength / self.safety


MATERIALS = {
    # 19.2 MPa over a safety of 3.8 is common workshop practice for annealed glass.
    "glass": Material("glass", 72e9, 0.22, 2500.0, 19.2e6, 3.8, math.inf),
    # Acrylic creeps: 5 MPa in the long run, and it bows before it breaks.
    "acrylic": Material("acrylic", 3.0e9, 0.37, 1190.0, 5.0e6, 1.0, 1 / 200),
    # Softwood plywood under epoxy or a liner, both ways alike: typical bending strength of its face grain, a quarter of
    # it for years of load in damp. Boards differ widely.
    "plywood": Material("plywood", 6.0e9, 0.2, 600.0, 24.0e6, 4.0, 1 / 250),
}
# Schools of allowable stress in glass, Pa: a workshop's safety of 3.8 on 19.2 MPa, or the long-duration value of
# annealed glass.
ALLOWED = {"workshop": 19.2e6 / 3.8, "long": 7.0e6}


@dataclass(frozen=True)
class PlateFactors:
    """Greatest stress σ = beta·p₀·b²/t² and deflection w = alpha·p₀·b⁴/(E·t³); b the height (or short side)."""

    alpha: float
    beta: float
    centre_deflection: float  # w·D/(p₀·b⁴) in the middle
    centre_moment: float  # the greater moment in the middle over p₀·b²
    rim_curve: float = 0.0  # greatest curvature of the top edge along it, times D/(p₀·b²)


@lru_cache(maxsize=512)
def plate_factors(
    ratio: float, top_free: bool, poisson: float, uniform: bool = False, strip: float = 0.0
) -> PlateFactors:
    """Factors of a plate with length / height = ratio (0.1 to 20), under water to its top or a uniform load.

    ``strip`` stiffens a free top by a beam along it: its EI over the plate's D and height; 0 leaves it free, and a very
    stiff one holds it.

    By the greatest principal moment, bending and twist together: in a long panel with a free top it lies at the top
    corners. Independent checks: Timoshenko's tables for four supported edges. 1e-3 relative in the series.
    """
    if not 0.05 <= ratio <= 40:
        raise FuenteError("A plate this long and narrow is outside the model; check its sizes.")
    x = np.linspace(0, 0.5, 41) * ratio  # half of it: the other half mirrors
    y = np.linspace(0, 1, 81)
    w = np.zeros((y.size, x.size))
    mx, my, twist = np.zeros_like(w), np.zeros_like(w), np.zeros_like(w)
    rim = np.zeros(x.size)
    for m in range(1, 80, 2):
        a = m * math.pi / ratio
        load = 4 / (m * math.pi)
        part, part_slope = (load / a**4, 0.0) if uniform else (load / a**4, -load / a**4)
        c = _edges(a, part, part_slope, top_free, poisson, uniform, strip)
        up, down = np.exp(-a * y), np.exp(-a * (1 - y))
        ay, az = a * y, a * (1 - y)
        own, own_slope = (part, 0.0) if uniform else (part * (1 - y), -part)
        shape = c[0] * up + c[1] * ay * up + c[2] * down + c[3] * az * down
        lean = a * (-c[0] * up + c[1] * (1 - ay) * up + c[2] * down + c[3] * (az - 1) * down) + own_slope
        bend = a * a * (c[0] * up + c[1] * (ay - 2) * up + c[2] * down + c[3] * (az - 2) * down)
        shape = shape + own
        sine = np.sin(a * x)
        rim += a * a * shape[-1] * sine
        w += np.outer(shape, sine)
        mx += np.outer(a * a * shape - poisson * bend, sine)
        my += np.outer(-bend + poisson * a * a * shape, sine)
        twist += np.outer((1 - poisson) * a * lean, np.cos(a * x))
    greatest = (mx + my) / 2 + np.sqrt(((mx - my) / 2) ** 2 + twist**2)
    centre = y.size // 2
    return PlateFactors(
        alpha=float(w.max()) * 12 * (1 - poisson**2),
        beta=6 * float(greatest.max()),
        centre_deflection=float(w[centre, -1]),
        centre_moment=float(max(mx[centre, -1], my[centre, -1])),
        rim_curve=float(np.abs(rim).max()),
    )


def _edges(
    a: float, part: float, part_slope: float, top_free: bool, poisson: float, uniform: bool, strip: float
) -> np.ndarray:
    """Coefficients (4,) of one term of the series, by what holds its foot and its top.

    Its basis is e^(−ay), ay·e^(−ay), e^(−a(1−y)), a(1−y)·e^(−a(1−y)), which never overflows.
    """
    e, v, top = math.exp(-a), poisson, part if uniform else 0.0
    foot = [[1.0, 0.0, e, a * e], [1.0, -2.0, e, (a - 2) * e]]
    if not top_free:
        rows = [*foot, [e, a * e, 1.0, 0.0], [e, (a - 2) * e, 1.0, -2.0]]
        return np.linalg.solve(np.array(rows), np.array([-part, 0.0, -top, 0.0]))
    bent = [(1 - v) * e, ((1 - v) * a - 2) * e, 1 - v, -2.0]
    # Y''' − (2−ν)a²Y' = 0; the first derivative of the load's own part stays on the right.
    sheared = [(-1 + (2 - v)) * e, ((3 - a) - (2 - v) * (1 - a)) * e, 1 - (2 - v), -3 + (2 - v)]
    right = [-part, 0.0, v * top, (2 - v) * part_slope / a]
    if strip > 0:  # what the edge pushes is what bends the beam: Y‴ − (2−ν)a²Y′ = λ·a⁴·Y
        sheared = [s - strip * a * y for s, y in zip(sheared, (e, a * e, 1.0, 0.0), strict=True)]
        right[3] += strip * a * top
    return np.linalg.solve(np.array([*foot, bent, sheared]), np.array(right))


@dataclass(frozen=True)
class PlateResult:
    """Thickness needed m, stress Pa, deflection m and safety at a thickness, with the load's height m."""

    needed: float
    stress: float
    deflection: float
    safety: float


def wall(
    length: float,
    depth: float,
    thickness: float | None = None,
    *,
    material: str = "glass",
    braced: bool = False,
    density: float = 1000.0,
    allowable: float | None = None,
) -> PlateResult:
    """A wall under water to its top: length and depth in m. ``needed`` is the thickness in m for the allowable stress,
    which is the material's own unless one is given, Pa.

    Thin-plate theory, ±10 % for the model; the strength of glass scatters far more, hence the safety factor.
    """
    stuff = _material(material)
    load = density * GRAVITY * depth
    factors = plate_factors(round(length / depth, 3), not braced, stuff.poisson)
    return _result(stuff, load, depth, max(length, depth), factors, thickness, allowable)


def bottom(
    length: float,
    width: float,
    depth: float,
    thickness: float | None = None,
    *,
    material: str = "glass",
    full_bed: bool = False,
    density: float = 1000.0,
    allowable: float | None = None,
) -> PlateResult:
    """A bottom panel on its frame (four edges), or on a full bed, which carries all. Sizes in m."""
    stuff = _material(material)
    if full_bed:
        return PlateResult(0.0, 0.0, 0.0, math.inf)
    short, long = sorted((length, width))
    factors = plate_factors(round(long / short, 3), False, stuff.poisson, True)
    return _result(stuff, density * GRAVITY * depth, short, long, factors, thickness, allowable)


def _material(name: str) -> Material:
    try:
        return MATERIALS[name]
    except KeyError:
        raise FuenteError(f"“{name[:30]}” is not a sheet material; choose glass, acrylic or plywood.") from None


def _result(
    stuff: Material,
    load: float,
    height: float,
    span: float,
    factors: PlateFactors,
    thickness: float | None,
    allowable: float | None = None,
) -> PlateResult:
    by_stress = height * math.sqrt(factors.beta * load / (allowable or stuff.allowable))
    needed = by_stress
    if math.isfinite(stuff.deflection_share):
        limit = stuff.deflection_share * span
        needed = max(needed, (factors.alpha * load * height**4 / (stuff.modulus * limit)) ** (1 / 3))
    t = thickness if thickness is not None else needed
    stress = factors.beta * load * height**2 / t**2
    return PlateResult(
        needed, stress, factors.alpha * load * height**4 / (stuff.modulus * t**3), stuff.strength / stress
    )
