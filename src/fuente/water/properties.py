"""Density, viscosity, oxygen and free ammonia of fresh and salt water."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import lru_cache
from typing import Any

from fuente.errors import FuenteError

GRAVITY = 9.80665  # m/s², standard
HEAT_CAPACITY = 4.17e6  # J/m³K of water near 25 °C


@dataclass(frozen=True)
class Water:
    """Water as the solvers need it: density kg/m³ and dynamic viscosity Pa·s."""

    density: float
    viscosity: float

    @property
    def kinematic(self) -> float:
        """Kinematic viscosity, m²/s."""
        return self.viscosity / self.density


def _check(temperature: float, salinity: float) -> None:
    if not 0 <= temperature <= 60:
        raise FuenteError(f"Water at {temperature:g} °C is outside 0 to 60 °C.")
    if not 0 <= salinity <= 60:
        raise FuenteError(f"Salinity of {salinity:g} g/kg is outside 0 to 60 g/kg.")


@lru_cache(maxsize=256)
def density(temperature: float, salinity: float = 0.0) -> float:
    """Density in kg/m³ at atmospheric pressure. Temperature °C (0–60), salinity g/kg (0–60).

    TEOS-10 through gsw; 0.01 kg/m³.

    Tables give 998.2 kg/m³ at 20 °C.

    >>> round(density(20.0), 1)
    998.2
    """
    _check(temperature, salinity)
    import gsw

    return float(gsw.rho_t_exact(salinity, temperature, 0.0))


@lru_cache(maxsize=256)
def viscosity(temperature: float, salinity: float = 0.0) -> float:
    """Dynamic viscosity in Pa·s. Temperature °C (0–60), salinity g/kg (0–60).

    Sharqawy, Lienhard and Zubair 2010, equations 22 and 23; 1.5 %.

    Tables give 1.002 mPa·s at 20 °C.

    >>> round(viscosity(20.0) * 1000, 3)
    1.002
    """
    _check(temperature, salinity)
    t, s = temperature, salinity / 1000
    fresh = 4.2844e-5 + 1 / (0.157 * (t + 64.993) ** 2 - 91.296)
    a = 1.541 + 1.998e-2 * t - 9.52e-5 * t**2
    b = 7.974 - 7.561e-2 * t + 4.724e-4 * t**2
    return fresh * (1 + a * s + b * s**2)


@lru_cache(maxsize=256)
def water(temperature: float = 25.0, salinity: float = 0.0) -> Water:
    """Density and viscosity together. Temperature °C (0–60), salinity g/kg (0–60)."""
    return Water(density(temperature, salinity), viscosity(temperature, salinity))


def vapour_pressure(temperature: float) -> float:
    """Saturated vapour pressure over water in Pa. Temperature °C (0–60). Buck 1981; 0.1 %.

    Steam tables give 2.34 kPa at 20 °C.

    >>> round(vapour_pressure(20.0) / 1000, 2)
    2.34
    """
    return 611.21 * math.exp((18.678 - temperature / 234.5) * temperature / (257.14 + temperature))


def oxygen_logarithm(kelvin: Any, salinity: float) -> tuple[Any, Any]:
    """ln of the oxygen in mg/L in balance with air at sea level, and its slope by K: of a number or an array.

    Benson and Krause 1984, salinity g/kg.
    """
    r = 1.0 / kelvin  # by Horner's rule: an array's powers cost ten times as much
    value = -139.34411 + r * (1.575701e5 + r * (-6.642308e7 + r * (1.243800e10 - 8.621949e11 * r)))
    value = value - salinity * (1.7674e-2 + r * (-10.754 + 2.1407e3 * r))
    slope = -1.575701e5 + r * (2 * 6.642308e7 + r * (-3 * 1.243800e10 + 4 * 8.621949e11 * r))
    return value, r * r * (slope - salinity * (10.754 - 2 * 2.1407e3 * r))


WARMEST, SALTIEST = 40.0, 40.0  # °C and g/kg up to which it is known how much oxygen water takes


def oxygen_saturation(temperature: float, salinity: float = 0.0, altitude: float = 0.0) -> float:
    """Oxygen in mg/L in balance with air. Temperature °C (0–40), salinity g/kg (0–40), altitude m (0–4000).

    Benson and Krause 1984, with their correction for pressure; 0.2 %.

    Tables give 9.09 g/m³ in fresh water of 20 °C at sea level.

    >>> round(oxygen_saturation(20.0), 2)
    9.09
    """
    if not 0 <= temperature <= WARMEST or not 0 <= salinity <= SALTIEST:
        raise FuenteError("Oxygen saturation is known from 0 to 40 °C and 0 to 40 g/kg.")
    kelvin = temperature + 273.15
    log_c, _ = oxygen_logarithm(kelvin, salinity)
    standard = math.exp(log_c)
    pressure = (1 - 2.25577e-5 * altitude) ** 5.25588  # atm, standard atmosphere
    vapour = math.exp(11.8571 - 3840.70 / kelvin - 216961 / kelvin**2)  # atm
    theta = 9.75e-4 - 1.426e-5 * temperature + 6.436e-8 * temperature**2
    share = (1 - vapour / pressure) * (1 - theta * pressure) / ((1 - vapour) * (1 - theta))
    saturated: float = standard * pressure * share
    return saturated


def free_ammonia_fraction(ph: float, temperature: float, salinity: float = 0.0) -> float:
    """Share of total ammonia that is free (NH₃), 0 to 1. pH 5–11, temperature °C (0–40), salinity g/kg (0–40).

    pKa by Emerson et al. 1975; in salt water raised by 0.003071 per g/kg (Bell et al. 2008). About 2 % fresh,
    5 % salt.

    Emerson's table has 5.38 % at pH 8 and 25 °C.

    >>> round(free_ammonia_fraction(8.0, 25.0), 3)
    0.054
    """
    if not 3 <= ph <= 12:
        raise FuenteError(f"A pH of {ph:g} is outside 3 to 12.")
    _check(temperature, salinity)
    pka = 0.09018 + 2729.92 / (temperature + 273.15) + 0.003071 * salinity
    return 1 / (1 + 10 ** (pka - ph))
