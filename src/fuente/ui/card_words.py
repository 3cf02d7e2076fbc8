"""A card's figures and choices in words."""

from __future__ import annotations

from typing import Any

from fuente.catalogue import PIPES
from fuente.devices.base import Choice, Reading
from fuente.units import UnitSystem, fill, shown


def reading_text(reading: Reading, units: UnitSystem) -> str:
    """A reading's value as shown."""
    if isinstance(reading.value, str):
        return reading.value
    return shown(reading.value, reading.quantity, units)


def offered(choice: Choice, units: UnitSystem) -> tuple[tuple[Any, str], ...]:
    """What can be chosen, by the sizes that are sold where these units are used, and what stands there now."""
    return tuple(
        (key, fill(name, {}, units))
        for key, name in choice.options
        if units != UnitSystem.US or key == choice.value or key not in PIPES or PIPES[key].family != "metric"
    )
