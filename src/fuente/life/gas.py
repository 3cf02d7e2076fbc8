"""Oxygen between water and air: at the surface, where water falls, and from bubbles."""

from __future__ import annotations

import numpy as np

from fuente.water.properties import oxygen_logarithm

_DAY = 86400.0
STILL, STIRRED = 0.5 / _DAY, 2.0 / _DAY  # m/s through a surface at 20 °C: at rest, and with water that turns over
THETA = 1.024  # by °C
_IN_AIR = 0.279  # kg of oxygen in a m³ of air at 20 °C
COARSE, FINE = 0.02, 0.05  # of a bubble's oxygen that a metre of water takes up
_FILM = 2.0  # by metre, of water that trickles through packing
_CLEAN = 1.2  # of water that animals live in, 1.8 for clean and 1.0 for slightly polluted water


def surface_transfer(area: float, stirred: bool, temperature: float = 20.0) -> float:
    """K·A in m³/s of an open surface in m²: oxygen comes as K·A·(saturation − there is).

    Half a metre a day at rest and two with water that turns over, of 0.3 to 1 and 1 to 6; ±100 %.
    """
    return float(area * (STIRRED if stirred else STILL) * THETA ** (temperature - 20.0))


def bubble_transfer(air: float, depth: float, saturation: float, fine: bool = False) -> float:
    """K·A in m³/s of air in m³/s let in at a depth in m; saturation kg/m³. 2 % a metre for coarse bubbles, 5 % for
    fine; ±50 %.
    """
    return air * _IN_AIR * (FINE if fine else COARSE) * max(depth, 0.0) / saturation


def fall_share(height: float, temperature: float = 20.0, film: bool = False) -> float:
    """Share of what it lacks that water takes up where it falls so many m freely, or trickles down packing.

    Deficit ratio r = 1 + 0.38·a·b·h·(1 − 0.11·h)·(1 + 0.046·T), free fall (b = 1), a = 1.2 (Water Research Laboratory
    1973); ±30 %.

    Half a metre at 20 °C takes up three tenths.

    >>> round(fall_share(0.5), 2)
    0.29
    """
    if height <= 0:
        return 0.0
    if film:
        return float(1.0 - np.exp(-_FILM * height))
    h = min(height, 4.0)
    ratio = 1.0 + 0.38 * _CLEAN * h * (1.0 - 0.11 * h) * (1.0 + 0.046 * temperature)
    return 1.0 - 1.0 / ratio


def saturation(temperature: np.ndarray, salinity: float, pressure: float = 1.0) -> tuple[np.ndarray, np.ndarray]:
    """Oxygen in balance with air, kg/m³, and its slope by °C: arrays of one shape. Salinity g/kg; ``pressure`` is the
    share of the saturation at sea level. As water.oxygen_saturation (Benson and Krause 1984).
    """
    ln_c, slope = oxygen_logarithm(temperature + 273.15, salinity)
    value = np.exp(ln_c) * 1e-3 * pressure
    return value, value * slope
