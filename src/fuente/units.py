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

from fuente.errors import EntryError
from fuente.unit_factors import FACTORS

if TYPE_CHECKING:
    import pint


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
QUANTITIES: dict[str, Quantity] = {
    q.name: q
    for q in (
        Quantity("length", "m", ("mm", 1e-3, 0), ("in", _IN, None), "32 mm, 3/4 in or 2 ft"),
        Quantity("fine_length", "m", ("mm", 1e-3, 1), ("in", _IN, 3), "10 mm or 3/8 in"),
        Quantity("micron", "m", ("µm", 1e-6, 0), ("µm", 1e-6, 0), "200 micron"),
        Quantity("head", "m", ("m", 1.0, 2), ("ft", 0.3048, 1), "1.8 m or 6 ft"),
        Quantity("run", "m", ("m", 1.0, 2), ("ft", 0.3048, 1), "3.2 m or 10 ft"),
        Quantity("area", "m ** 2", ("m²", 1.0, 2), ("ft²", 0.3048**2, 1), "0.5 m2 or 5 ft2"),
        Quantity("volume", "m ** 3", ("L", 1e-3, None), ("gal", _GAL, None), "40 L or 10 gal"),
        Quantity("flow", "m ** 3 / s", ("L/h", 1e-3 / 3600, None), ("gph", _GAL / 3600, None), "3000 L/h or 900 gph"),
        Quantity("speed", "m / s", ("m/s", 1.0, 2), ("ft/s", 0.3048, 2), "0.5 m/s or 2 ft/s"),
        Quantity("slow_speed", "m / s", ("mm/s", 1e-3, 2), ("in/min", _IN / 60, 1), "1 mm/s"),
        Quantity("time", "s", ("s", 1.0, 1), ("s", 1.0, 1), "12 s or 2 min"),
        Quantity("minutes", "s", ("min", 60.0, 0), ("min", 60.0, 0), "20 min"),
        Quantity("weeks", "s", ("weeks", 604800.0, 0), ("weeks", 604800.0, 0), "6 weeks"),
        Quantity("specific_surface", "1 / m", ("m²/m³", 1.0, 0), ("ft²/ft³", 1 / 0.3048, 0), "500 m2/m3"),
        Quantity("days", "s", ("days", 86400.0, 1), ("days", 86400.0, 1), "5 days"),
        Quantity("temperature", "degC", ("°C", 1.0, 1), ("°F", 5 / 9, 0), "25 degC or 77 degF"),
        Quantity("energy", "J", ("kWh", 3.6e6, 0), ("kWh", 3.6e6, 0), "300 kWh"),
        Quantity("power", "W", ("W", 1.0, 0), ("W", 1.0, 0), "45 W"),
        Quantity("mass", "kg", ("kg", 1.0, 1), ("lb", 0.45359237, 0), "12 kg or 26 lb"),
        Quantity("light_mass", "kg", ("g", 1e-3, 0), ("oz", 0.45359237 / 16, 1), "300 g or 10 oz"),
        Quantity("pressure", "Pa", ("MPa", 1e6, 2), ("psi", 6894.757293168, 0), "7 MPa or 1000 psi"),
        Quantity("air_pressure", "Pa", ("kPa", 1e3, 1), ("psi", 6894.757293168, 2), "20 kPa or 3 psi"),
        Quantity("air_flow", "m ** 3 / s", ("L/min", 1e-3 / 60, 1), ("L/min", 1e-3 / 60, 1), "4 L/min"),
        Quantity("feed", "kg / s", ("g/day", 1e-3 / 86400, 2), ("g/day", 1e-3 / 86400, 2), "12 g/day"),
        Quantity("concentration", "kg / m ** 3", ("mg/L", 1e-3, 2), ("mg/L", 1e-3, 2), "0.5 mg/L"),
        Quantity("density", "kg / m ** 3", ("kg/m³", 1.0, 0), ("kg/m³", 1.0, 0), "1.05 kg/L"),
        Quantity("angle", "deg", ("°", 1.0, 1), ("°", 1.0, 1), "45"),
        Quantity("salinity", "g / kg", ("g/kg", 1.0, 1), ("g/kg", 1.0, 1), "35"),
        Quantity("fraction", "", ("%", 0.01, 0), ("%", 0.01, 0), "50 % or 0.5"),
        Quantity("percent", "", ("%", 0.01, 1), ("%", 0.01, 1), "1.5 %"),
        Quantity("number", "", ("", 1.0, None), ("", 1.0, None), "6"),
        Quantity("per_hour", "1 / s", ("× an hour", 1 / 3600, 1), ("× an hour", 1 / 3600, 1), "6"),
    )
}

# A bare number in a length field of a builder means millimetres (or inches where US units are shown).
_BARE: dict[str, tuple[str, str]] = {
    "length": ("mm", "in"),
    "fine_length": ("mm", "in"),
    "micron": ("um", "um"),
    "head": ("m", "ft"),
    "run": ("m", "ft"),
    "area": ("m**2", "ft**2"),
    "volume": ("L", "gal"),
    "flow": ("L/h", "gph"),
    "speed": ("m/s", "ft/s"),
    "slow_speed": ("mm/s", "in/min"),
    "time": ("s", "s"),
    "minutes": ("min", "min"),
    "weeks": ("week", "week"),
    "specific_surface": ("1/m", "1/ft"),
    "days": ("day", "day"),
    "temperature": ("degC", "degF"),
    "power": ("W", "W"),
    "energy": ("kWh", "kWh"),
    "mass": ("kg", "lb"),
    "light_mass": ("g", "oz"),
    "pressure": ("MPa", "psi"),
    "air_pressure": ("kPa", "psi"),
    "air_flow": ("L/min", "L/min"),
    "feed": ("g/day", "g/day"),
    "concentration": ("mg/L", "mg/L"),
    "density": ("kg/m**3", "kg/m**3"),
    "angle": ("deg", "deg"),
    "salinity": ("g/kg", "g/kg"),
    "fraction": ("", ""),
    "percent": ("", ""),
    "number": ("", ""),
    "per_hour": ("1/hour", "1/hour"),
}

# Only the units of this trade: pint's whole list takes a second to load.
_DEFINITIONS = """
milli- = 1e-3 = m-
centi- = 1e-2 = c-
kilo- = 1e3 = k-
mega- = 1e6 = M-
metre = [length] = m = meter
micrometre = 1e-6 * metre = um = micron = micrometer
second = [time] = s = sec
minute = 60 * second = min
hour = 3600 * second = h = hr
day = 24 * hour = d
week = 7 * day
kilogram = [mass] = kg
gram = 1e-3 * kilogram = g
milligram = 1e-6 * kilogram = mg
pound = 0.45359237 * kilogram = lb = lbs
ounce = pound / 16 = oz
radian = []
degree = 3.141592653589793 / 180 * radian = deg = °
percent = 0.01 = %
inch = 0.0254 * metre = in = inches
foot = 12 * inch = ft = feet
yard = 3 * foot = yd
litre = 1e-3 * metre ** 3 = L = l = liter = lt
gallon = 231 * inch ** 3 = gal = gallons
imperial_gallon = 4.54609 * litre = impgal
quart = gallon / 4 = qt
cubic_foot = foot ** 3 = cuft
gph = gallon / hour
gpm = gallon / minute
lph = litre / hour = Lph
lpm = litre / minute = Lpm
newton = kilogram * metre / second ** 2 = N
pascal = newton / metre ** 2 = Pa
bar = 1e5 * pascal
kilopascal = 1e3 * pascal = kPa
psi = 6894.757293168 * pascal
joule = newton * metre = J
watt = joule / second = W
kilowatt_hour = 3.6e6 * joule = kWh
kelvin = [temperature]; offset: 0 = K
degree_Celsius = kelvin; offset: 273.15 = degC = °C = celsius
degree_Fahrenheit = 5 / 9 * kelvin; offset: 233.15 + 200 / 9 = degF = °F = fahrenheit
"""

_ALIASES = {
    '"': "in",
    "”": "in",
    "″": "in",
    "'": "ft",
    "′": "ft",
    "C": "degC",
    "°C": "degC",
    "°F": "degF",
    "F": "degF",
    "mic": "um",
    "µm": "um",
    "μm": "um",
    "lit": "L",
    "litres": "L",
    "liters": "L",
    "litre": "L",
    "l/hr": "L/h",
    "g/h": "gph",
    "gal/h": "gph",
    "m2": "m**2",
    "m²": "m**2",
    "ft2": "ft**2",
    "ft²": "ft**2",
    "m3": "m**3",
    "m³": "m**3",
    "m3/h": "m**3/h",
    "m³/h": "m**3/h",
    "ft3": "ft**3",
    "m2/m3": "1/m",
    "m²/m³": "1/m",
    "ft2/ft3": "1/ft",
    "ft²/ft³": "1/ft",
    "kg/m3": "kg/m**3",
    "kg/m³": "kg/m**3",
    "days": "day",
    "weeks": "week",
    "hours": "hour",
    "minutes": "minute",
    "seconds": "second",
    "watts": "W",
    "ppt": "g/kg",
    "× an hour": "1/hour",
    "x an hour": "1/hour",
    "/h": "1/hour",
}

_NUMBER = (
    r"[-+]?(?:\d+\s+\d+/\d+|\d+-\d+/\d+|\d+/\d+|0,\d+|\d{1,3}(?:[\s\u202f\u00a0,]\d{3})+(?:\.\d+)?"
    r"|\d+(?:[.,]\d+)?(?:[eE][-+]?\d+)?|\.\d+(?:[eE][-+]?\d+)?)"
)
# What a unit may be written with; anything else never reaches the parser.
_UNIT = re.compile(r"[A-Za-z°%µμ_]+(?:\*\*[23])?(?:/[A-Za-z°_]+(?:\*\*[23])?)?|1/hour|1/m|1/ft")
_TERM = re.compile(
    rf"\s*({_NUMBER})(?![\d.,])\s*([^\d\s+\-.][^\d\s]*(?:\s?an hour|[23](?![\d])(?:/\w+)?)?(?:/\w+)?)?\s*"
)


@lru_cache(maxsize=1)
def registry() -> pint.UnitRegistry[float]:
    """The pint registry with this trade's units only."""
    import pint

    ureg: pint.UnitRegistry[float] = pint.UnitRegistry(None)
    ureg.load_definitions([line for line in _DEFINITIONS.splitlines() if line.strip()])
    return ureg


def _number(text: str) -> float:
    text = text.strip()
    mixed = re.fullmatch(r"([-+]?\d+)[\s-]+(\d+)/(\d+)", text)
    if mixed:
        whole, top, bottom = (int(part) for part in mixed.groups())
        if bottom == 0:
            raise EntryError(f"“{text}” divides by zero.")
        return whole + math.copysign(top / bottom, whole)
    if "/" in text:
        top_text, bottom_text = text.split("/")
        if int(bottom_text) == 0:
            raise EntryError(f"“{text}” divides by zero.")
        return int(top_text) / int(bottom_text)
    plain = re.sub(r"[\s\u202f\u00a0]", "", text)
    if re.fullmatch(r"[-+]?0,\d+", plain):  # nothing is parted into thousands after a nought
        plain = plain.replace(",", ".")
    elif re.fullmatch(r"[-+]?\d{1,3}(,\d{3})+(\.\d+)?", plain):
        plain = plain.replace(",", "")
    elif re.fullmatch(r"[-+]?\d+,(?:\d{1,2}|\d{4,})", plain):
        plain = plain.replace(",", ".")  # a decimal comma, as much of Europe writes it
    return float(plain)


def parse(text: str, quantity: str, system: UnitSystem = UnitSystem.METRIC) -> float:
    """Read a typed quantity as an SI float (temperature in °C, angle in degrees).

    Takes ``32 mm``, ``3/4 in``, ``1 1/2"``, ``2 ft 3 in``, ``900 gph``, ``50 %``; a bare number takes the
    unit that is shown. A comma before three digits parts thousands, as in ``3,240 L/h``; before one or two digits, or
    after a
    nought, it is a decimal comma, as in ``1,5 m`` and ``0,125 m``. Raises EntryError with what would have been taken.
    """
    spec = QUANTITIES[quantity]
    bare = _BARE[quantity][system == UnitSystem.US]
    source = str(text).strip()
    if len(source) > 80:
        raise EntryError(f"That is too long for a number; type {spec.examples}.")
    refusal = EntryError(f"“{source}” is not a {_words(quantity)}; type {spec.examples}.")
    if not source:
        raise EntryError(f"Nothing was typed; type {spec.examples}.")
    total = 0.0
    position = 0
    terms = 0
    while position < len(source):
        match = _TERM.match(source, position)
        if not match or match.end() == position:
            raise refusal
        try:
            value = _number(match[1])
        except (ValueError, OverflowError):
            raise refusal from None
        unit = (match[2] or bare).strip()
        if terms and not match[2]:
            raise refusal
        total += _to_si(value, unit, spec, refusal)
        position = match.end()
        terms += 1
        if terms > 1 and quantity not in ("length", "fine_length", "head", "run", "time", "mass"):
            raise refusal
    if not math.isfinite(total):
        raise refusal
    return total


def _to_si(value: float, unit: str, spec: Quantity, refusal: EntryError) -> float:
    if spec.name in ("fraction", "percent"):
        if unit == "":
            return value
        if unit in ("%", "percent"):
            return value / 100
        raise refusal
    unit = _ALIASES.get(unit, unit)
    if unit == "":
        return value
    if spec.name == "salinity" and unit == "g/kg":
        return value
    if not _UNIT.fullmatch(unit):
        raise refusal
    size = FACTORS.get(unit)
    if size is not None and size[0] == spec.si:
        return float(f"{value * size[1]:.15g}")
    import pint

    try:
        quantity = registry().Quantity(value, unit)
        # fifteen figures: 3/4 in is 0.01905, not 0.019049999999999997
        return float(f"{quantity.to(spec.si or '').magnitude:.15g}")
    except (
        pint.PintError,
        SyntaxError,
        ArithmeticError,
        AttributeError,
        TypeError,
        ValueError,
        LookupError,
        AssertionError,
    ):
        raise refusal from None


def _words(quantity: str) -> str:
    return {"fine_length": "length", "run": "length", "light_mass": "mass", "per_hour": "turnover", "days": "time"}.get(
        quantity, quantity.replace("_", " ")
    )


def parse_dimensions(text: str, count: int = 3, system: UnitSystem = UnitSystem.METRIC) -> tuple[float, ...]:
    """Read ``1500x600x550`` or ``4 ft x 18 in x 20 in`` as lengths in metres."""
    parts = re.split(r"\s*[x×*]\s*", text.strip())
    if len(parts) != count:
        raise EntryError(f"“{text.strip()[:60]}” has {len(parts)} sizes; type {count}, such as 1500x600x550.")
    # One unit after the last size counts for all, as people write it.
    tail = re.search(r"[^\d\s./,\-]+\s*$", parts[-1])
    if tail and not any(re.search(r"[a-zA-Z\"'″′”]", part) for part in parts[:-1]):
        parts = [*(f"{part} {tail[0].strip()}" for part in parts[:-1]), parts[-1]]
    return tuple(parse(part, "length", system) for part in parts)


@lru_cache(maxsize=8192)  # a frame asks for some hundred, and most are those of the frame before
def shown(value: float, quantity: str, system: UnitSystem = UnitSystem.METRIC, *, unit: bool = True) -> str:
    """Write an SI value as a builder reads it, with the precision that models have."""
    spec = QUANTITIES[quantity]
    label, size, decimals = spec.us if system == UnitSystem.US else spec.metric
    if not math.isfinite(value):
        return "no end" if value > 0 else "none"
    if quantity == "temperature" and system == UnitSystem.US:
        number = f"{value * 9 / 5 + 32:.0f}"
    elif quantity == "length" and system == UnitSystem.US:
        number = _sixteenths(value / size)
    elif quantity == "length" and system is UnitSystem.METRIC and 0 < abs(value) < 0.00995:
        number = _trim(f"{value / size:.1f}")
    elif quantity in ("flow", "volume") and abs(value / size) < 0.005:
        number = "0"  # what a solver leaves of nothing
    elif decimals is None:
        number = _significant(value / size)
    elif quantity == "length" and abs(value / size) < 9999.5:
        number = f"{value / size:.{decimals}f}"  # a size on a drawing stands without a gap: 1500
    else:
        number = _group(f"{value / size:.{decimals}f}")
    if number.lstrip("-").strip("0.") == "" and number.startswith("-"):
        number = number[1:]
    return f"{number} {label}".rstrip() if unit and label != "°" else (number + label if unit else number)


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


def fill(text: str, values: Mapping[str, float], system: UnitSystem) -> str:
    """Replace {name:quantity} slots by shown values; {name:quantity:bare} leaves the unit off."""
    return re.sub(r"\{(\w+):(\w+)(:bare)?\}", lambda m: shown(values[m[1]], m[2], system, unit=m[3] is None), text)
