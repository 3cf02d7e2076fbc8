"""Whole boxes of water: every wall, the bottom, the ring of strips at the rim, and what carries them all.

Estimates for planning, not an engineer's certificate.
"""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from typing import Literal

from fuente.errors import EntryError
from fuente.structure.plates import MATERIALS, PlateResult, bottom, plate_factors, wall
from fuente.water.properties import GRAVITY

Rim = Literal["rimless", "ring", "braced"]
Bed = Literal["full", "edges"]


@dataclass(frozen=True)
class Ring:
    """A ring of strips glued flat along the rim inside: width and thickness in m."""

    width: float
    thickness: float


@dataclass(frozen=True)
class Vessel:
    """Every panel of a box under water to its brim, and its strip of most stress; safety is strength over stress."""

    long: PlateResult
    short: PlateResult
    bottom: PlateResult
    strip_stress: float = 0.0
    strip_safety: float = math.inf

    @property
    def safety(self) -> float:
        """Of its weakest part."""
        return min(self.long.safety, self.short.safety, self.bottom.safety, self.strip_safety)

    @property
    def weakest(self) -> str:
        """Which part that is."""
        parts = {
            "long wall": self.long.safety,
            "short wall": self.short.safety,
            "bottom": self.bottom.safety,
            "strip": self.strip_safety,
        }
        return min(parts, key=lambda k: parts[k])


def vessel(
    length: float,
    width: float,
    depth: float,
    thickness: float,
    base: float | None = None,
    *,
    material: str = "glass",
    rim: Rim = "rimless",
    ring: Ring | None = None,
    bed: Bed = "full",
    density: float = 1000.0,
    allowable: float | None = None,
) -> Vessel:
    """A box of inside sizes in m under water to its brim; ``base`` is its bottom's thickness, the walls' unless given.

    A rimless wall's top is free, a braced one's held; a ring stiffens it as a beam along the top of each wall, held at
    its corners (Lévy's series with an elastic edge). Thin plates, ±10 % for the model; glass scatters far more.
    """
    if min(length, width, depth, thickness) <= 0:
        raise EntryError("A box needs sizes above nothing.")
    if rim == "ring" and (ring is None or min(ring.width, ring.thickness) <= 0):
        raise EntryError("Say how wide and thick the strips at the rim are.")
    walls: list[PlateResult] = []
    stress = 0.0
    for span in (max(length, width), min(length, width)):
        if rim == "ring" and ring is not None:
            found, own = _ringed(span, depth, thickness, material, ring, density, allowable)
            stress = max(stress, own)
        else:
            found = wall(
                span, depth, thickness, material=material, braced=rim == "braced", density=density, allowable=allowable
            )
        walls.append(found)
    floor = bottom(
        length,
        width,
        depth,
        base or thickness,
        material=material,
        full_bed=bed == "full",
        density=density,
        allowable=allowable,
    )
    strength = MATERIALS[material].strength
    return Vessel(walls[0], walls[1], floor, stress, strength / stress if stress > 0 else math.inf)


def long_wall(
    length: float,
    width: float,
    depth: float,
    thickness: float,
    *,
    material: str = "glass",
    braced: bool = False,
    strip: float = 0.0,
    allowable: float | None = None,
) -> PlateResult:
    """The long wall of a box of inside sizes in m: braced, rimless, or with strips of a width in m round its rim, as
    thick as its walls; its safety is then the strip's own where that is less.
    """
    if braced or strip <= 0:
        return wall(length, depth, thickness, material=material, braced=braced, allowable=allowable)
    ring = Ring(strip, thickness)
    box = vessel(length, width, depth, thickness, material=material, rim="ring", ring=ring, allowable=allowable)
    return replace(box.long, safety=min(box.long.safety, box.strip_safety))


def _ringed(
    span: float, depth: float, thickness: float, material: str, ring: Ring, density: float, allowable: float | None
) -> tuple[PlateResult, float]:
    """A wall with a strip along its top, and the strip's own stress in Pa."""
    stuff = MATERIALS[material]
    load = density * GRAVITY * depth
    inertia = ring.thickness * ring.width**3 / 12
    # What is needed depends on the plate's own stiffness, and that on its thickness: a few rounds settle it.
    needed = _at(span, depth, thickness, stuff.poisson, inertia)[0]
    t = depth * math.sqrt(needed * load / (allowable or stuff.allowable))
    for _ in range(12):
        beta = _at(span, depth, t, stuff.poisson, inertia)[0]
        t = depth * math.sqrt(beta * load / (allowable or stuff.allowable))
    beta, alpha, curve = _at(span, depth, thickness, stuff.poisson, inertia)
    stress = beta * load * depth**2 / thickness**2
    plate = stuff.modulus * thickness**3 / (12 * (1 - stuff.poisson**2))
    own = stuff.modulus * ring.width / 2 * curve * load * depth**2 / plate
    bows = alpha * load * depth**4 / (stuff.modulus * thickness**3)
    if math.isfinite(stuff.deflection_share):
        limit = stuff.deflection_share * max(span, depth)
        t = max(t, (alpha * load * depth**4 / (stuff.modulus * limit)) ** (1 / 3))
    return PlateResult(t, stress, bows, stuff.strength / stress), own


def _at(span: float, depth: float, thickness: float, poisson: float, inertia: float) -> tuple[float, float, float]:
    """Factors of stress and deflection, and of the rim's curvature, with a strip of a second moment in m⁴."""
    stiff = inertia * 12 * (1 - poisson**2) / thickness**3 / depth
    f = plate_factors(round(span / depth, 3), True, poisson, strip=float(f"{stiff:.6g}"))
    return f.beta, f.alpha, f.rim_curve


def beam_sag(load: float, span: float, modulus: float, inertia: float, ends: str = "free") -> float:
    """Greatest sag in m of a beam under an even load in N/m over a span in m: 5wL⁴/(384EI) on free ends, a fifth of it
    where both ends are held fast.

    >>> round(beam_sag(100.0, 1.0, 2.8e9, 1e-8) * 1000, 1)
    46.5
    """
    return (5.0 if ends == "free" else 1.0) * load * span**4 / (384 * modulus * inertia)


def box_inertia(width: float, height: float, wall_thick: float = 0.0) -> float:
    """Second moment in m⁴ of a bar, or of a box profile with a wall, bent over its height."""
    whole = width * height**3 / 12
    if not wall_thick:
        return whole
    return whole - (width - 2 * wall_thick) * max(height - 2 * wall_thick, 0.0) ** 3 / 12


@dataclass(frozen=True)
class Weight:
    """Masses in kg; on each leg and on each m² of its footprint."""

    water: float
    glass: float
    bed: float
    stand: float
    legs: int
    area: float

    @property
    def total(self) -> float:
        """kg."""
        return self.water + self.glass + self.bed + self.stand

    @property
    def per_leg(self) -> float:
        """kg on the leg that bears most, where the load is not even: half as much again as the mean."""
        return 1.5 * self.total / self.legs

    @property
    def per_area(self) -> float:
        """kg/m² of its footprint."""
        return self.total / self.area


def wet_weight(
    length: float,
    width: float,
    depth: float,
    thickness: float,
    *,
    height: float | None = None,
    material: str = "glass",
    gravel: float = 0.0,
    stand: float = 0.0,
    legs: int = 4,
    density: float = 1000.0,
) -> Weight:
    """A tank of outside sizes in m with water to a depth over its floor, gravel of a depth (1 550 kg/m³ dry, two fifths
    of it voids), its stand in kg and its legs.
    """
    if min(length, width, depth, thickness) <= 0 or legs < 1:
        raise EntryError("A tank needs sizes above nothing, and a stand one leg at least.")
    inner = (length - 2 * thickness) * (width - 2 * thickness)
    if inner <= 0:
        raise EntryError("The walls leave no room inside.")
    tall = height or depth + 0.03
    walls = 2 * (length + width - 2 * thickness) * tall + length * width
    water = inner * (depth - 0.6 * min(gravel, depth)) * density
    mass = walls * thickness * MATERIALS[material].density
    return Weight(water, mass, inner * gravel * 1550.0, stand, legs, length * width)
