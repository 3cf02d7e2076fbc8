"""Plants with their roots or leaves in the water."""

from __future__ import annotations

_DAY = 86400.0
# Nitrogen that a m² of growing plants takes in a day under good light, g: wide, by kind, light and season.
UPTAKE = {"marsh": 0.4, "herbs": 0.5, "floating": 0.6, "stems": 0.3, "rosettes": 0.12, "mosses": 0.04, "none": 0.0}
GROUPS = {
    "none": "no plants",
    "floating": "floating",
    "stems": "stems under water",
    "rosettes": "rosettes, rooted",
    "mosses": "ferns and mosses",
    "marsh": "marsh plants, leaves in air",
}
LIGHT = {"dim": 0.3, "fair": 1.0, "bright": 1.8}  # of what they take; typical, as how fast they grow
LIGHTS = {"dim": "dim", "fair": "fair", "bright": "bright"}
_CARBON = 10.0  # kg by kg of nitrogen in green plants, 8 to 15
_BREATHED = 0.3  # of what they bind by day they breathe by night and day alike, 0.2 to 0.5
_OXYGEN = 32.0 / 12.011  # kg by kg of carbon
UNDER_WATER = frozenset({"stems", "rosettes", "mosses"})  # whose leaves give their oxygen to the water
DARK = _CARBON * _BREATHED * _OXYGEN  # kg of oxygen breathed for each kg of nitrogen that they take


def plant_uptake(area: float, kind: str = "marsh", light: str = "fair") -> float:
    """Nitrogen in kg/s that so many m² take while they grow, over a day's mean; ±60 %.

    A m² of marsh plants: 0.4 g a day.

    >>> round(plant_uptake(1.0) * 86400e3, 3)
    0.4
    """
    return UPTAKE[kind] * LIGHT[light] * 1e-3 / _DAY * area


def given_by_day(kind: str) -> float:
    """Oxygen in kg that comes into the water with each kg of nitrogen that plants take, over a day's mean: what binding
    their carbon sets free, and what they breathe besides; of leaves in air nothing. A factor of two.

    Stems bind 10 kg of carbon with a kg of nitrogen: 27 kg of oxygen, and the 8 kg that they breathe.

    >>> round(given_by_day("stems")), given_by_day("marsh")
    (35, 0.0)
    """
    return _CARBON * _OXYGEN + DARK if kind in UNDER_WATER else 0.0


def breathed_in_the_dark(takes: float) -> float:
    """Oxygen in kg/s that plants use by day and night alike, for nitrogen in kg/s that they take over a day's mean; a
    factor of two. Leaves that stand in air count as well: their roots breathe the water.

    A gram of nitrogen a day: 8 g of oxygen a day.

    >>> round(breathed_in_the_dark(1.0))
    8
    """
    return DARK * takes
