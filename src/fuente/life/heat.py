"""Evaporation and heat of still water in rooms."""

from __future__ import annotations

import math

from fuente.water.properties import vapour_pressure

_LATENT = 2450.0  # kJ/kg
_STILL = 0.5  # activity of a pool without bathers
_AIR_FILM = 5.8  # W/m²K, still air and radiation near 20 °C
_CONDUCTS = {"glass": 1.0, "acrylic": 0.19, "plywood": 0.13}  # W/mK, handbook values
GLASS_U = 5.5  # W/m²K, 6–15 mm glass in still air


LATENT = 2.45e6  # J/kg near 20 °C
FAN = 2.0  # m/s of air that a small fan blows along a surface


def blown(speed: float) -> float:
    """By how much more an open surface evaporates in air of so many m/s than in still air: 0.089 + 0.0782·v (ASHRAE).

    A small fan: not quite three times.

    >>> round(blown(FAN), 2)
    2.76
    """
    return (0.089 + 0.0782 * speed) / 0.089


def evaporation(area: float, water: float, air: float, humidity: float) -> float:
    """Water lost from a free surface in m³/s.

    area m², temperatures °C, humidity 0–1. ASHRAE's pool equation in still air, (p_w − p_a)·0.089/Y with an activity
    of 0.5; ±40 %. Never below zero: water colder than the dew point gains nothing here.
    """
    gap = (vapour_pressure(water) - humidity * vapour_pressure(air)) / 1000
    return max(0.0, area * gap * 0.089 / _LATENT * _STILL / 1000)


def wall_u(material: str, thickness: float) -> float:
    """Heat through a wall of a material and thickness in m between water and still air, W/m²K.

    The film of air, 5.8 W/m²K with radiation, and the wall's own conduction in a row; ±15 %.

    >>> round(wall_u("glass", 0.01), 1), round(wall_u("acrylic", 0.01), 1), round(wall_u("plywood", 0.018), 1)
    (5.5, 4.4, 3.2)
    """
    return 1.0 / (1.0 / _AIR_FILM + thickness / _CONDUCTS.get(material, 0.4))


def cooling_time(capacity: float, per_kelvin: float, start: float, rest: float, fall: float) -> float:
    """Seconds until water of a heat capacity in J/K that loses ``per_kelvin`` W/K has fallen by ``fall`` K from
    ``start`` °C, where it would end at ``rest`` °C; infinite where it never falls so far.
    """
    whole = start - rest
    if whole <= fall or per_kelvin <= 0:
        return math.inf
    return capacity / per_kelvin * math.log(whole / (whole - fall))


def heat_loss_per_kelvin(glass: float, surface: float) -> float:
    """Heat in W per K lost through wetted glass m² and free surface m² (convection and evaporation about 15 W/m²K)."""
    return GLASS_U * glass + 15.0 * surface


def surface_loss(open_area: float, cover: float) -> float:
    """Heat in W/K from water whose open part is so many m² and whose covered share is ``cover``: convection and
    evaporation about 15 W/m²K where it is open, a fifth of that under a cover; ±40 %.
    """
    covered = open_area * cover / (1 - cover) if cover < 0.999 else 0.0
    return 15.0 * (open_area + 0.2 * covered)


def rise_with(watts: float, per_kelvin: float) -> float:
    """How far in K over the room a heater of so many W carries the water in the end."""
    return watts / per_kelvin if per_kelvin > 0 else math.inf
