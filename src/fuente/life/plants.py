"""Plants with their roots in the water."""

from __future__ import annotations

_DAY = 86400.0
# Nitrogen that a m² of growing plants takes in a day, g: wide, by light and season.
UPTAKE = {"marsh": 0.4, "herbs": 0.5, "floating": 0.6, "none": 0.0}


def plant_uptake(area: float, kind: str = "marsh") -> float:
    """Nitrogen in kg/s that so many m² take while they grow, over a day's mean; ±60 %.

    A m² of marsh plants: 0.4 g a day.

    >>> round(plant_uptake(1.0) * 86400e3, 3)
    0.4
    """
    return UPTAKE[kind] * 1e-3 / _DAY * area
