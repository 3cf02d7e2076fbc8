"""Ammonia by the bottle and by the spoon."""

from __future__ import annotations


def dose_of(nitrogen: float, strength: float = 0.10) -> tuple[float, float]:
    """What holds so much nitrogen in kg as ammonia: m³ of a solution of so much ammonia by weight, and kg of ammonium
    chloride.

    A gram: 12.7 mL of 10 % (0.957 kg/L, 14.007/17.031 of it nitrogen), or 3.8 g of the salt (14.007/53.49).

    >>> [round(v, 1) for v in (dose_of(1e-3)[0] * 1e6, dose_of(1e-3)[1] * 1e3)]
    [12.7, 3.8]
    """
    density = 998.0 - 410.0 * strength  # kg/m³ at 20 °C, up to 25 %
    return nitrogen * 17.031 / 14.007 / (strength * density), nitrogen * 53.49 / 14.007
