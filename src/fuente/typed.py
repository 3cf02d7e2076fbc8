"""Quantities as a builder types them. This module alone knows pint, and loads it on the first unit that it
has no size of.
"""

from __future__ import annotations

import math
import re
from functools import lru_cache
from typing import TYPE_CHECKING

from fuente.errors import EntryError
from fuente.unit_factors import FACTORS

if TYPE_CHECKING:
    import pint
from fuente.units import QUANTITIES, Quantity, UnitSystem

# A bare number in a length field of a builder means millimetres (or inches where US units are shown).
_BARE: dict[str, tuple[str, str]] = {
    "length": ("mm", "in"),
    "level": ("mm", "in"),
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
    "hours": ("hour", "hour"),
    "minutes": ("min", "min"),
    "weeks": ("week", "week"),
    "specific_surface": ("1/m", "1/ft"),
    "days": ("day", "day"),
    "temperature": ("degC", "degF"),
    "power": ("W", "W"),
    "energy": ("kWh", "kWh"),
    "charge": ("Wh", "Wh"),
    "mass": ("kg", "lb"),
    "light_mass": ("g", "oz"),
    "dose": ("g", "oz"),
    "small_volume": ("mL", "floz"),
    "pressure": ("MPa", "psi"),
    "air_pressure": ("kPa", "psi"),
    "air_flow": ("L/min", "cfh"),
    "feed": ("g/day", "oz/day"),
    "concentration": ("mg/L", "mg/L"),
    "density": ("kg/m**3", "lb/ft**3"),
    "angle": ("deg", "deg"),
    "salinity": ("g/kg", "g/kg"),
    "fraction": ("%", "%"),
    "percent": ("%", "%"),
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
pint = gallon / 8 = pt
fluid_ounce = gallon / 128 = floz
cubic_foot = foot ** 3 = cuft
gph = gallon / hour
gpm = gallon / minute
gpd = gallon / day
cfh = foot ** 3 / hour
cfm = foot ** 3 / minute
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
watt_hour = 3600 * joule = Wh
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
    "c": "degC",
    "f": "degF",
    "degc": "degC",
    "degf": "degF",
    "lb/ft3": "lb/ft**3",
    "lb/ft³": "lb/ft**3",
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
    "ppm": "mg/L",
    "gallons": "gal",
    "gallon": "gal",
    "quarts": "qt",
    "inches": "in",
    "inch": "in",
    "feet": "ft",
    "foot": "ft",
    "pounds": "lb",
    "pound": "lb",
    "lbs": "lb",
    "ounces": "oz",
    "fl oz": "floz",
    "fl. oz": "floz",
    "ml": "mL",
    "ounce": "oz",
    "/hour": "1/hour",
    "/hr": "1/hour",
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


_FRACTIONS = {
    "¼": "1/4",
    "½": "1/2",
    "¾": "3/4",
    "⅛": "1/8",
    "⅜": "3/8",
    "⅝": "5/8",
    "⅞": "7/8",
    "⅓": "1/3",
    "⅔": "2/3",
}
_GLUED = re.compile(
    r"(?<=[a-z])(?=\d+(?:[.,]\d+|\s+\d+/\d+|/\d+)?\s*(?:in|inch|inches|cm|mm|oz|g|min|s)\b)", re.IGNORECASE
)


def _plain(text: str) -> str:
    """What is written in other ways, in the one that is read: 5½″, 2'3", 2ft3in, 5 US gal, 17 fl oz, 5 per hour."""
    for sign, words in _FRACTIONS.items():
        text = re.sub(rf"(?<=\d)\s*{sign}", f" {words}", text).replace(sign, words)
    text = re.sub(r"['′](?=\s*\d)", "ft ", text)
    text = re.sub(r"\bU\.?\s?S\.?\s+(?=gal|qt|quart|pint|pt|fl|oz)", "", text, flags=re.IGNORECASE)
    text = re.sub(r"\bfl\.?\s*oz\.?|\bfluid ounces?\b", "floz", text, flags=re.IGNORECASE)
    text = re.sub(
        r"(?:\s*[×x]\s*(?=per|an?\b)|\s*\btimes\b)?\s*\b(?:per|an?)\s+(?=hour|hr\b|min|day|d\b|h\b)",
        "/",
        text,
        flags=re.IGNORECASE,
    )
    return _GLUED.sub(" ", text)


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

    Takes ``32 mm``, ``3/4 in``, ``1 1/2"``, ``2 ft 3 in``, ``900 gph``, ``50 %``; a bare number takes the unit that is
    shown. A comma before three digits parts thousands, as in ``3,240 L/h``; before one or two digits, or after a
    nought, it is a decimal comma, as in ``1,5 m`` and ``0,125 m``. Raises EntryError with what would have been taken.
    """
    spec = QUANTITIES[quantity]
    bare = _BARE[quantity][system == UnitSystem.US]
    source = _plain(str(text).strip()[:200])
    if len(source) > 80:
        raise EntryError(f"That is too long for a number; type {spec.examples}.")
    refusal = EntryError(f"“{str(text).strip()}” is not a {_words(quantity)}; type {spec.examples}.")
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
        if terms > 1 and quantity not in ("length", "level", "fine_length", "head", "run", "time", "mass"):
            raise refusal
    if not math.isfinite(total):
        raise refusal
    return total


def parse_bulk(text: str, density: float, system: UnitSystem = UnitSystem.METRIC) -> float:
    """Media in m³, typed as a volume or as a dry weight by a bulk density in kg/m³ above zero: ``12 L`` or ``6 kg``."""
    try:
        return parse(text, "volume", system)
    except EntryError as error:
        try:
            return parse(text, "mass", system) / density
        except EntryError:
            raise error from None


def parse_layer(text: str, plan: float, system: UnitSystem = UnitSystem.METRIC) -> float:
    """A layer's thickness in m, typed as one or as a volume on a plan in m² above zero: ``60 mm`` or ``2.5 L``."""
    try:
        return parse(text, "length", system)
    except EntryError as error:
        try:
            return parse(text, "volume", system) / plan
        except EntryError:
            raise error from None


def _to_si(value: float, unit: str, spec: Quantity, refusal: EntryError) -> float:
    if spec.name in ("fraction", "percent"):
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
    size = FACTORS.get(unit) or FACTORS.get(unit := _ALIASES.get(unit.lower(), _as_written(unit)))
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


def _as_written(unit: str) -> str:
    """A unit in capitals, as it is written in small letters: GPH, IN, Lb; what only differs by them stays."""
    low = unit.lower()
    return low if low in FACTORS else next((known for known in FACTORS if known.lower() == low), unit)


def _words(quantity: str) -> str:
    return {
        "fine_length": "length",
        "level": "length",
        "run": "length",
        "light_mass": "mass",
        "per_hour": "turnover",
        "days": "time",
        "hours": "time",
    }.get(quantity, quantity.replace("_", " "))


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
