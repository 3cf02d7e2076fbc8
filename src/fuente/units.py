"""Quantities at the edge: text that a builder types in, text that a builder reads.

Inside Fuente every number is an SI float. Only this module knows pint, and it loads pint on the first
reading of a typed quantity, so that windows and commands start without it.
"""

from __future__ import annotations

import math
import re
from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache
from typing import TYPE_CHECKING

if TYPE_CHECKING:
    pass


class UnitSystem(StrEnum):
    """Which units are shown; both may be typed at any time."""

    METRIC = "metric"
    US = "us"


@dataclass(frozen=True)
class Quantity:
    """A kind of number: its SI unit, the unit that a bare number means, and how it is shown.

    ``metric`` and ``us`` are (label, SI value of one unit, decimals or None for significant figures).
    """

    name: str
    si: str
    metric: tuple[str, float, int | None]
    us: tuple[str, float, int | None]
    examples: str


_IN = 0.0254
_GAL = 0.003785411784
_OZ = 0.45359237 / 16
QUANTITIES: dict[str, Quantity] = {
    q.name: q
    for q in (
        Quantity("length", "m", ("mm", 1e-3, 0), ("in", _IN, None), "32 mm, 3/4 in or 2 ft"),
        Quantity("level", "m", ("mm", 1e-3, 0), ("in", _IN, 2), "32 mm or 1.25 in"),
        Quantity("fine_length", "m", ("mm", 1e-3, 1), ("in", _IN, 3), "10 mm or 3/8 in"),
        Quantity("micron", "m", ("µm", 1e-6, 0), ("micron", 1e-6, 0), "200 micron"),
        Quantity("head", "m", ("m", 1.0, 2), ("ft", 0.3048, 1), "1.8 m or 6 ft"),
        Quantity("run", "m", ("m", 1.0, 2), ("ft", 0.3048, 1), "3.2 m or 10 ft"),
        Quantity("area", "m ** 2", ("m²", 1.0, 2), ("ft²", 0.3048**2, 1), "0.5 m2 or 5 ft2"),
        Quantity("volume", "m ** 3", ("L", 1e-3, None), ("gal", _GAL, None), "40 L or 10 gal"),
        Quantity("flow", "m ** 3 / s", ("L/h", 1e-3 / 3600, None), ("gph", _GAL / 3600, None), "3000 L/h or 900 gph"),
        Quantity("speed", "m / s", ("m/s", 1.0, 2), ("ft/s", 0.3048, 2), "0.5 m/s or 2 ft/s"),
        Quantity("slow_speed", "m / s", ("mm/s", 1e-3, 2), ("in/min", _IN / 60, 1), "1 mm/s"),
        Quantity("time", "s", ("s", 1.0, 1), ("s", 1.0, 1), "12 s or 2 min"),
        Quantity("hours", "s", ("h", 3600.0, 0), ("h", 3600.0, 0), "6 h"),
        Quantity("minutes", "s", ("min", 60.0, 0), ("min", 60.0, 0), "20 min"),
        Quantity("weeks", "s", ("weeks", 604800.0, 0), ("weeks", 604800.0, 0), "6 weeks"),
        Quantity("specific_surface", "1 / m", ("m²/m³", 1.0, 0), ("ft²/ft³", 1 / 0.3048, 0), "500 m2/m3"),
        Quantity("days", "s", ("days", 86400.0, 1), ("days", 86400.0, 1), "5 days"),
        Quantity("temperature", "degC", ("°C", 1.0, 1), ("°F", 5 / 9, 0), "25 degC or 77 degF"),
        Quantity("energy", "J", ("kWh", 3.6e6, 0), ("kWh", 3.6e6, 0), "300 kWh"),
        Quantity("charge", "J", ("Wh", 3600.0, 0), ("Wh", 3600.0, 0), "20 Wh"),
        Quantity("power", "W", ("W", 1.0, 0), ("W", 1.0, 0), "45 W"),
        Quantity("mass", "kg", ("kg", 1.0, 1), ("lb", 0.45359237, 0), "12 kg or 26 lb"),
        Quantity("small_volume", "m ** 3", ("mL", 1e-6, None), ("fl oz", _GAL / 128, None), "12 mL"),
        Quantity("dose", "kg", ("g", 1e-3, None), ("oz", 0.45359237 / 16, None), "3.5 g"),
        Quantity("light_mass", "kg", ("g", 1e-3, 0), ("oz", 0.45359237 / 16, 1), "300 g or 10 oz"),
        Quantity("pressure", "Pa", ("MPa", 1e6, 2), ("psi", 6894.757293168, 0), "7 MPa or 1000 psi"),
        Quantity("air_pressure", "Pa", ("kPa", 1e3, 1), ("psi", 6894.757293168, 2), "20 kPa or 3 psi"),
        Quantity("air_flow", "m ** 3 / s", ("L/min", 1e-3 / 60, 1), ("cfh", 0.3048**3 / 3600, 1), "4 L/min or 8 cfh"),
        Quantity(
            "feed",
            "kg / s",
            ("g/day", 1e-3 / 86400, None),
            ("oz/day", 0.45359237 / 16 / 86400, None),
            "12 g/day or 0.4 oz/day",
        ),
        Quantity("concentration", "kg / m ** 3", ("mg/L", 1e-3, 2), ("ppm", 1e-3, 2), "0.5 mg/L"),
        Quantity(
            "density", "kg / m ** 3", ("kg/m³", 1.0, 0), ("lb/ft³", 0.45359237 / 0.3048**3, 1), "1.05 kg/L or 65 lb/ft3"
        ),
        Quantity("angle", "deg", ("°", 1.0, 1), ("°", 1.0, 1), "45"),
        Quantity("salinity", "g / kg", ("g/kg", 1.0, 1), ("ppt", 1.0, 1), "35"),
        Quantity("fraction", "", ("%", 0.01, 0), ("%", 0.01, 0), "50 %"),
        Quantity("percent", "", ("%", 0.01, 1), ("%", 0.01, 1), "1.5 %"),
        Quantity("number", "", ("", 1.0, None), ("", 1.0, None), "6"),
        Quantity("per_hour", "1 / s", ("× an hour", 1 / 3600, 1), ("× an hour", 1 / 3600, 1), "6"),
    )
}


_EXACT = frozenset({"length", "level", "fine_length", "run", "temperature", "angle"})


@lru_cache(maxsize=8192)  # a frame asks for some hundred, and most are those of the frame before
def shown(value: float, quantity: str, system: UnitSystem = UnitSystem.METRIC, *, unit: bool = True) -> str:
    """Write an SI value as a builder reads it, with the precision that models have."""
    spec = QUANTITIES[quantity]
    label, size, decimals = spec.us if system == UnitSystem.US else spec.metric
    if not math.isfinite(value):
        return "unlimited" if value > 0 else "none"
    if quantity == "temperature" and system == UnitSystem.US:
        number = f"{value * 9 / 5 + 32:.0f}"
    elif quantity == "length" and system == UnitSystem.US:
        number = _sixteenths(value / size)
    elif quantity in ("length", "level") and system is UnitSystem.METRIC and 0 < abs(value) < 0.00995:
        number = _trim(f"{value / size:.1f}")
    elif quantity in ("flow", "volume") and abs(value / size) < 0.005:
        number = "0"  # what a solver leaves of nothing
    elif quantity == "days" and abs(value / size) >= 9.95:
        number = _group(f"{value / size:.0f}")
    elif decimals is None:
        number = _significant(value / size)
    elif quantity in ("length", "level") and abs(value / size) < 9999.5:
        number = f"{value / size:.{decimals}f}"  # a size on a drawing stands without a gap: 1500
    else:
        number = _group(f"{value / size:.{_fewer(value / size, decimals, quantity)}f}")
    if number.lstrip("-").strip("0.") == "" and number.startswith("-"):
        number = number[1:]
    return f"{number} {label}".rstrip() if unit and label != "°" else (number + label if unit else number)


def _fewer(value: float, decimals: int, quantity: str) -> int:
    """Decimals of a number of a model's: no more than make three figures. Sizes and what is set keep theirs."""
    if quantity in _EXACT or abs(value) < 9.995:
        return decimals
    return max(min(decimals, 1 if abs(value) < 99.95 else 0), 0)


def unit_label(quantity: str, system: UnitSystem = UnitSystem.METRIC) -> str:
    """The unit in which a quantity is shown."""
    spec = QUANTITIES[quantity]
    return (spec.us if system == UnitSystem.US else spec.metric)[0]


def unit_size(quantity: str, system: UnitSystem = UnitSystem.METRIC) -> float:
    """The SI size of the unit in which a quantity is shown."""
    spec = QUANTITIES[quantity]
    return (spec.us if system == UnitSystem.US else spec.metric)[1]


def _sixteenths(inches: float) -> str:
    steps = round(abs(inches) * 16)
    whole, part = divmod(steps, 16)
    sign = "-" if inches < 0 and steps else ""
    if not part:
        return f"{sign}{whole}"
    divisor = math.gcd(part, 16)
    fraction = f"{part // divisor}/{16 // divisor}"
    return f"{sign}{whole} {fraction}" if whole else f"{sign}{fraction}"


def _significant(value: float, figures: int = 3) -> str:
    if value == 0:
        return "0"
    decimals = figures - 1 - math.floor(math.log10(abs(value)))
    rounded = round(value, decimals)
    return _group(f"{rounded:.0f}") if decimals <= 0 else _trim(_group(f"{rounded:.{decimals}f}"))


def _trim(text: str) -> str:
    return text.rstrip("0").rstrip(".") if "." in text else text


def _group(text: str) -> str:
    """Thin spaces between thousands from five digits on, and at four digits too: 3 240."""
    whole, dot, part = text.partition(".")
    sign = "-" if whole.startswith("-") else ""
    digits = whole.lstrip("-")
    groups: list[str] = []
    while len(digits) > 3:
        groups.insert(0, digits[-3:])
        digits = digits[:-3]
    groups.insert(0, digits)
    return sign + "\u202f".join(groups) + dot + part


_SLOT = re.compile(r"\{([\w.+-]+):(\w+)(:bare)?\}")
_DECIMAL = frozenset(("level", "fine_length"))


def fill(text: str, values: Mapping[str, float], system: UnitSystem) -> str:
    """Replace {name:quantity} slots by shown values; {name:quantity:bare} leaves the unit off; {0.25:length} is a
    value itself.

    A line that tells a water level in decimal inches tells its sizes so too: fractions and decimals do not mix.
    """
    mixed = system == UnitSystem.US and any(m[2] in _DECIMAL for m in _SLOT.finditer(text))

    def said(slot: re.Match[str]) -> str:
        quantity = "level" if mixed and slot[2] == "length" else slot[2]
        if slot[2] not in QUANTITIES:
            return slot[0]
        if slot[1] in values:
            return shown(values[slot[1]], quantity, system, unit=slot[3] is None)
        try:
            own = float(slot[1])
        except ValueError:
            return slot[0]  # braces in somebody's own words
        number = _trim(shown(own, quantity, system, unit=False))  # a rule of thumb has no noughts at its end
        return number if slot[3] else f"{number} {unit_label(quantity, system)}".rstrip()

    return _SLOT.sub(said, text)


_MILLIMETRES = re.compile(r"(\d+(?:\.\d+)?) mm\b(?! PN| pipe)")


def in_units(sentence: str, system: UnitSystem) -> str:
    """A refusal, which is written in millimetres, in the units that are shown."""
    if system != UnitSystem.US:
        return sentence
    return _MILLIMETRES.sub(lambda m: shown(float(m[1]) / 1000, "length", system), sentence)
