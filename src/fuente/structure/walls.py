"""Flanges on curved walls, and frames that sag."""

from __future__ import annotations

import math

PVC_E = 2.8e9  # Pa


def sagitta(diameter: float, flange: float) -> float:
    """How far a round wall falls away under a flange, m: r − √(r² − (d/2)²)."""
    radius = diameter / 2
    return radius - math.sqrt(radius**2 - (flange / 2) ** 2)


def largest_flange(diameter: float, gasket: float) -> float:
    """The widest flange in m that seats on a round wall: its sagitta is a third of the gasket's thickness at most."""
    radius, takes = diameter / 2, gasket / 3
    return min(2 * math.sqrt(max(radius**2 - (radius - takes) ** 2, 0.0)), diameter)


def tube_sag(load: float, span: float, outside: float, wall: float, modulus: float = PVC_E) -> float:
    """Sag in m of a tube over its span: 5wL⁴/(384EI). load N/m, sizes m, modulus Pa."""
    inner = max(outside - 2 * wall, 0.0)
    inertia = math.pi / 64 * (outside**4 - inner**4)
    return 5 * load * span**4 / (384 * modulus * inertia)
