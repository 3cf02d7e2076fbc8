"""SI sizes of the units that are typed most, so that an ordinary entry needs no unit library at all.

Every size is what pint makes of the unit; a test compares them. What is not here goes to pint.
"""

from __future__ import annotations

_GALLON = 0.003785411784
_MINUTE, _HOUR, _DAY = 60.0, 3600.0, 86400.0

# Unit → its SI unit, as units.QUANTITIES writes it, and its size in that.
FACTORS: dict[str, tuple[str, float]] = {
    "m": ("m", 1.0),
    "cm": ("m", 0.01),
    "mm": ("m", 0.001),
    "um": ("m", 1e-6),
    "in": ("m", 0.0254),
    "ft": ("m", 0.3048),
    "L": ("m ** 3", 0.001),
    "mL": ("m ** 3", 1e-6),
    "qt": ("m ** 3", _GALLON / 4),
    "floz": ("m ** 3", _GALLON / 128),
    "m**3": ("m ** 3", 1.0),
    "gal": ("m ** 3", _GALLON),
    "L/h": ("m ** 3 / s", 0.001 / _HOUR),
    "L/min": ("m ** 3 / s", 0.001 / _MINUTE),
    "m**3/h": ("m ** 3 / s", 1 / _HOUR),
    "gph": ("m ** 3 / s", _GALLON / _HOUR),
    "gpm": ("m ** 3 / s", _GALLON / _MINUTE),
    "cfh": ("m ** 3 / s", 0.3048**3 / _HOUR),
    "s": ("s", 1.0),
    "min": ("s", _MINUTE),
    "h": ("s", _HOUR),
    "day": ("s", _DAY),
    "week": ("s", 7 * _DAY),
    "kg": ("kg", 1.0),
    "g": ("kg", 0.001),
    "lb": ("kg", 0.45359237),
    "oz": ("kg", 0.45359237 / 16),
    "W": ("W", 1.0),
    "1/hour": ("1 / s", 1 / _HOUR),
}
