"""Flanges on curved walls, and frames that sag."""

from __future__ import annotations

import math

PVC_E = 2.8e9  # Pa
SKIN_STRAIN = 0.01  # that a soft wall bears for years under a flange; an assumption
FLATTENS = 2 / 3  # of its diameter, the most of a soft wall that a flange may flatten; an assumption


def sagitta(diameter: float, flange: float) -> float:
    """How far a round wall falls away under a flange, m: r − √(r² − (d/2)²)."""
    radius = diameter / 2
    return radius - math.sqrt(radius**2 - (flange / 2) ** 2)


def drawn_flat(diameter: float, soft: float) -> float:
    """Diameter in m that a round wall has under a tightened flange: a soft wall ``soft`` m thick (polyethylene,
    polypropylene) flattens until its skin is strained by 1 %, an assumption for years; 0 for a stiff wall, which keeps
    its curve. Infinite where it lies flat.

    >>> drawn_flat(0.4, 0.0), round(drawn_flat(0.3, 0.003), 2), drawn_flat(0.4, 0.004)
    (0.4, inf, inf)
    >>> round(drawn_flat(0.2, 0.003), 2)
    0.6
    """
    if soft <= 0:
        return diameter
    left = 2 / diameter - 2 * SKIN_STRAIN / soft
    return 2 / left if left > 1e-9 else math.inf


def stands_off(diameter: float, flange: float, soft: float = 0.0) -> float:
    """How far a round wall falls away under a flange that is tightened on it, m; ``soft`` as in drawn_flat."""
    curve = drawn_flat(diameter, soft)
    return sagitta(curve, flange) if math.isfinite(curve) else 0.0


def largest_flange(diameter: float, gasket: float, soft: float = 0.0) -> float:
    """The widest flange in m that seats on a round wall: its sagitta is a third of the gasket's thickness at most. A
    soft wall (its thickness in m) takes up to two thirds of its drum's diameter: more of it does not flatten.
    """
    curve, takes = drawn_flat(diameter, soft), gasket / 3
    most = FLATTENS * diameter if soft > 0 else diameter
    if not math.isfinite(curve):
        return most
    radius = curve / 2
    return min(2 * math.sqrt(max(radius**2 - (radius - takes) ** 2, 0.0)), most)


def tube_sag(load: float, span: float, outside: float, wall: float, modulus: float = PVC_E) -> float:
    """Sag in m of a tube over its span: 5wL⁴/(384EI). load N/m, sizes m, modulus Pa."""
    inner = max(outside - 2 * wall, 0.0)
    inertia = math.pi / 64 * (outside**4 - inner**4)
    return 5 * load * span**4 / (384 * modulus * inertia)
