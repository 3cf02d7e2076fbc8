"""Evaporation and heat of still water in rooms."""

from __future__ import annotations

import math

from fuente.water.properties import vapour_pressure

_LATENT = 2450.0  # kJ/kg near 20 °C
_STILL = 0.5  # activity of a pool without bathers
GLASS_U = 5.5  # W/m²K, 6–15 mm glass in still air


def evaporation(area: float, water: float, air: float, humidity: float) -> float:
    """Water lost from a free surface in m³/s.

    area m², temperatures °C, humidity 0–1. ASHRAE's pool equation in still air, (p_w − p_a)·0.089/Y with an activity
    of 0.5; ±40 %. Never below zero: water colder than the dew point gains nothing here.
    """
    gap = (vapour_pressure(water) - humidity * vapour_pressure(air)) / 1000
    return max(0.0, area * gap * 0.089 / _LATENT * _STILL / 1000)


def heat_loss_per_kelvin(glass: float, surface: float) -> float:
    """Heat in W per K lost through wetted glass m² and free surface m² (convection and evaporation about 15 W/m²K)."""
    return GLASS_U * glass + 15.0 * surface


def rise_with(watts: float, per_kelvin: float) -> float:
    """How far in K over the room a heater of so many W carries the water in the end."""
    return watts / per_kelvin if per_kelvin > 0 else math.inf
