"""A line as a builder writes it, ``no3 20, ph 7.4, foam 18 mm, rinsed socks``, read as entries, each with what is
doubtful about it.
"""

from __future__ import annotations

import datetime
import re
from dataclasses import dataclass, replace

from fuente.errors import FuenteError
from fuente.one_line import one_line
from fuente.typed import parse
from fuente.units import UnitSystem, shown
from fuente.upkeep.entry import Entry
from fuente.upkeep.measures import DEGREE, EVENTS, MEASURES, Measure
from fuente.upkeep.places import Place, Places
from fuente.upkeep.typed_when import dated, dated_behind

_NUMBER = re.compile(r"[-+]?(?:\d+(?:[.,]\d+)?|[.,]\d+)(?:\s*/\s*\d+)?")
_SPLIT = re.compile(r"\s*(?:;|\n|,(?!\d)|(?<!\d),|\band\b(?=\s+[^\W\d_]))\s*", re.IGNORECASE)
_PARTS = re.compile(r"[,;:]|\band\b", re.IGNORECASE)
_TIMED = re.compile(r"^(?:bucket|timed|time)?\s*(?P<size>.+?)\s+in\s+(?P<time>.+)$", re.IGNORECASE)
_CLEANED = ("cleaned", "rinsed", "washed", "squeezed", "vacuumed", "brushed", "flushed", "swished", "hosed")
_SWAPPED = ("swapped", "changed", "replaced", "new", "renewed")
_UNIT = re.compile(
    r"\s*(?:mg\s*/\s*l|ppm|ppt|g/kg|°\s*[cf]|°\s*dh|dkh|dgh|%|l\s*/\s*h(?:our)?|l/min|gph|gpm|m3/h|m³/h|deg\s?[cf]"
    r"|[cf](?![a-z])|mm|cm|um|µm|m(?![a-z])|in(?:ch(?:es)?)?(?!\s*[a-z])|\"|ft|ml|l(?:it(?:re|er)s?)?(?![a-z])|gal(?:lons?)?"
    r"|fl\s?oz|oz|mg|kg|g(?![a-z])|lb|kw|w(?:att)?s?(?![a-z]))",
    re.IGNORECASE,
)
_SMALL = re.compile(r"\b(in|at|of|the|to|for|on|over|across|from|by|is|was|reads?|a|an)\b", re.IGNORECASE)
_TELLS = ("cost", "bought", "used", "flow", "arrived", "died")  # whose words belong to them
_ABOUT = {  # a bare unit that a word brings with it
    "dkh": DEGREE,
    "dgh": DEGREE,
    "°dh": DEGREE,
    "dh": DEGREE,
}


@dataclass(frozen=True)
class Read:
    """A piece of a line as it was understood: the entry, in words, and what is doubtful; ``others`` are further places
    that its words may mean.
    """

    entry: Entry
    words: str
    doubt: str = ""
    others: tuple[Place, ...] = ()


def read_line(
    line: str, when: datetime.datetime, places: Places, units: UnitSystem = UnitSystem.METRIC, tank: str = ""
) -> list[Read]:
    """Read a line that was written at a moment; a date before it, as in ``12 nov: no3 20``, stands for another day.

    ``tank`` is meant where none is named. What is not understood is a note, so that nothing typed is lost.
    """
    whole = _whole_names(one_line(line), places)
    month_first = units is UnitSystem.US
    told = dated(whole, when, month_first)
    behind = None if told.words else dated_behind(whole, when, month_first)
    if behind is not None:
        found = _all_of(behind.rest, behind.moment, places, units, tank)
        if found and all(read.entry.what != "note" for read in found):  # a note keeps the words of its day
            return found
    found = _all_of(told.rest, told.moment, places, units, tank)
    if not told.doubt:
        return found
    if found and found[0].entry.what == "note":
        text = f"{told.words}: {found[0].entry.text}"
        found[0] = Read(replace(found[0].entry, text=text), f"note: {text}")
    return [replace(read, doubt="; ".join(filter(None, (told.doubt, read.doubt)))) for read in found]


def _all_of(line: str, moment: datetime.datetime, places: Places, units: UnitSystem, tank: str) -> list[Read]:
    found: list[Read] = []
    for piece in _pieces(line):
        made = _read(piece, moment, places, units, tank)
        if found and made.entry.what == found[-1].entry.what == "note":  # one remark with a comma in it
            text = f"{found[-1].entry.text}, {made.entry.text}"
            found[-1] = Read(replace(made.entry, text=text), f"note: {text}")
        else:
            found.append(made)
    return found


def _whole_names(line: str, places: Places) -> str:
    """The line with names that have a comma in them in one piece: a name is known by its words alone."""
    for place in places.all:
        if _PARTS.search(place.name):
            plain = " ".join(_PARTS.sub(" ", place.name).split())
            line = re.sub(re.escape(place.name), plain.replace("\\", ""), line, flags=re.IGNORECASE)
    return line


def _pieces(line: str) -> list[str]:
    """A line at its commas, but not at a decimal comma."""
    return [p for p in (piece.strip() for piece in _SPLIT.split(line)) if p]


def _read(piece: str, when: datetime.datetime, places: Places, units: UnitSystem, tank: str) -> Read:
    """One piece."""
    for reader in (_event, _bucket, _measured, _placed):
        made = reader(piece, when, places, units, tank)
        if made is not None:
            return made
    return Read(Entry(when, "note", "", None, piece), f"note: {piece}")


# -- measured ---------------------------------------------------------------------------------------------------------


def _measured(piece: str, when: datetime.datetime, places: Places, units: UnitSystem, tank: str) -> Read | None:
    """A measure by one of its names, with a number before or behind: ``no3 20``, ``nitrate: 20 mg/l``, ``20 ppm no3``,
    ``topped up 6 L``.
    """
    lower = piece.lower()
    best: tuple[int, Measure, str] | None = None
    for measure in MEASURES.values():
        for name in measure.called:
            found = re.search(rf"(?<![\w/]){re.escape(name)}(?![\w/])", lower)
            if found and (best is None or len(name) > best[0]):
                best = len(name), measure, piece[: found.start()] + " " + piece[found.end() :]
    if best is None:
        return None
    _, measure, rest = best
    number = _value_in(rest)
    if number is None:
        return None
    text, value_words = number
    return _made(measure, value_words, text, piece, when, places, units, tank, lower)


def _value_in(rest: str) -> tuple[str, str] | None:
    """What is left of some words without their first number and its unit, and these."""
    found = _NUMBER.search(rest)
    return None if found is None else _cut(rest, found)


def _cut(rest: str, found: re.Match[str]) -> tuple[str, str]:
    unit = _UNIT.match(rest[found.end() :])
    end = found.end() + (unit.end() if unit else 0)
    left = (rest[: found.start()] + " " + rest[end:]).replace(":", " ").replace("=", " ")
    return " ".join(left.split()), rest[found.start() : end].strip()


def _made(
    measure: Measure,
    words: str,
    left: str,
    piece: str,
    when: datetime.datetime,
    places: Places,
    units: UnitSystem,
    tank: str,
    lower: str,
) -> Read | None:
    value, share = _number_of(measure, words, units, lower)
    if value is None:
        return None
    place, others, rest = _where(left, places, measure, tank)
    doubt = _doubt(measure, value, share) or _left_over(measure, rest)
    text = rest
    if share:
        text = f"{value:.0%}".replace("%", " %") + (f" {rest}" if rest else "")
    entry = Entry(when, measure.key, place, value, text)
    return Read(entry, said(entry, places, units), doubt, others)


def _number_of(measure: Measure, words: str, units: UnitSystem, lower: str) -> tuple[float | None, bool]:
    """Its value in SI, and whether it is a share of a tank's water."""
    text = words.strip().lower().replace("−", "-")
    if measure.key == "change" and text.endswith("%"):
        return _plain(text[:-1], 0.01), True
    for unit, size in _ABOUT.items():
        if text.endswith(unit):
            return _plain(text[: -len(unit)], size), False
    if measure.key in ("alkalinity", "hardness") and re.fullmatch(_NUMBER.pattern, text):
        called = re.search(r"\b(d?kh|d?gh)\b", lower)
        return _plain(text, DEGREE if called else 1e-3), False
    if measure.quantity == "number":
        return _plain(text, 1.0), False
    text = re.sub(r"\bppm\b", "mg/L", text)
    text = re.sub(r"mg\s*/\s*l", "mg/L", text)
    if measure.quantity == "temperature":
        text = re.sub(r"(?<=\d)\s*(?:°|deg)?\s*([cf])$", lambda m: f" deg{m.group(1).upper()}", text)
    if measure.quantity == "salinity":
        text = re.sub(r"\s*(ppt|‰)$", " g/kg", text)
    text = re.sub(r"(?<=\d),(?=\d)", ".", text)
    if re.fullmatch(_NUMBER.pattern, text) is None:
        text = re.sub(r"(?<=[\d\s])l(?=$|/)", "L", text)
        text = re.sub(r"\s*/\s*", "/", text)
    try:
        return parse(text, measure.quantity, units), False
    except FuenteError:
        return None, False


def _plain(text: str, size: float) -> float | None:
    try:
        return float(text.strip().replace(",", ".")) * size
    except ValueError:
        return None


def _doubt(measure: Measure, value: float, share: bool) -> str:
    if share:
        return "" if 0 < value <= 1 else "more than all of the water"
    if not measure.low - 1e-12 <= value <= measure.high + 1e-12:
        return "far outside what is usual"
    if measure.whole and abs(value - round(value)) > 1e-9:
        return "counted in whole numbers"
    return ""


def _left_over(measure: Measure, rest: str) -> str:
    """A second number beside a measure's own, which no place has in its name: ``no3 20 5``."""
    number = None if measure.key in _TELLS else re.search(r"(?<!\S)[-+]?\d[\d.,]*(?!\S)", rest)
    return "" if number is None else f"what is {number[0]}"


def _where(left: str, places: Places, measure: Measure, tank: str) -> tuple[str, tuple[Place, ...], str]:
    """The place that is named, further ones that may be meant, and what is left of the words."""
    words = _SMALL.sub(" ", left)
    words = " ".join(words.replace(":", " ").split())
    if measure.key in ("cost", "bought", "used"):
        return "", (), words
    named = places.named(words, clogs=measure.key == "drop") if words else ()
    if named:
        return named[0].id, named[1:], ""
    if measure.key in ("flow", "power"):
        pumps = places.pumps
        return (pumps[0].id, pumps[1:], words) if pumps else ("", (), words)
    if measure.key == "drop":
        clogging = places.clogging
        return (clogging[0].id, clogging[1:], words) if clogging else ("", (), words)
    tanks = places.tanks
    if tank or len(tanks) == 1:
        return tank or tanks[0].id, (), words
    return "", tanks, words


# -- levels, buckets, what was done -----------------------------------------------------------------------------------


def _placed(piece: str, when: datetime.datetime, places: Places, units: UnitSystem, tank: str) -> Read | None:
    """A place and a length: the difference of levels across it. A place and a flow, a temperature or a power alone."""
    for found in reversed(list(_NUMBER.finditer(piece))):  # a place may have a number in its name
        made = _placed_by(*_cut(piece, found), piece, when, places, units, tank)
        if made is not None:
            return made
    return None


def _placed_by(
    left: str, words: str, piece: str, when: datetime.datetime, places: Places, units: UnitSystem, tank: str
) -> Read | None:
    for key in ("drop", "flow", "temperature", "power", "topup"):
        measure = MEASURES[key]
        bare = re.fullmatch(_NUMBER.pattern, words) is not None
        if bare and key != "drop":
            continue
        named = places.named(_SMALL.sub(" ", left), clogs=key == "drop")
        if not named and (left or key == "drop"):
            continue
        value, _ = _number_of(measure, words, units, piece.lower())
        if value is None:
            continue
        place, others, rest = _where(left, places, measure, tank)
        entry = Entry(when, key, place, value, rest)
        return Read(entry, said(entry, places, units), _doubt(measure, value, False), others)
    return None


def _bucket(piece: str, when: datetime.datetime, places: Places, units: UnitSystem, tank: str) -> Read | None:
    """A volume in a time: ``bucket 10 L in 12 s``."""
    found = _TIMED.match(piece)
    if found is None:
        return None
    number = _value_in(found["size"])
    if number is None:
        return None
    left, words = number
    volume, _ = _number_of(MEASURES["topup"], words, units, piece.lower())
    try:
        took = parse(re.sub(r"(?<=\d),(?=\d)", ".", found["time"].strip()), "time", units)
    except FuenteError:
        return None
    if volume is None or took <= 0 or volume <= 0:
        return None
    left = re.sub(r"\b(bucket|timed|flow|return)\b", " ", left, flags=re.IGNORECASE)
    place, others, _ = _where(left, places, MEASURES["flow"], tank)
    text = f"{shown(volume, 'volume', units)} in {shown(took, 'time', units)}"
    entry = Entry(when, "flow", place, volume / took, text)
    return Read(entry, said(entry, places, units), _doubt(MEASURES["flow"], volume / took, False), others)


def _event(piece: str, when: datetime.datetime, places: Places, units: UnitSystem, tank: str) -> Read | None:
    """Something done at a place: ``rinsed socks``, ``foam cleaned``, ``new floss``. Needs a place that is there."""
    lower = piece.lower()
    if _value_in(piece) is not None:
        return None
    for what, verbs in (("cleaned", _CLEANED), ("swapped", _SWAPPED)):
        verb = next((v for v in verbs if re.search(rf"\b{v}\b", lower)), None)
        if verb is None:
            continue
        left = re.sub(rf"\b({verb}|the|all|both|some|old|with|for)\b", " ", lower)
        named = places.named(" ".join(left.split()))
        if named:
            entry = Entry(when, what, named[0].id, None, "" if verb in ("cleaned", "swapped") else piece)
            return Read(entry, said(entry, places, units), "", named[1:])
    if re.fullmatch(r"(all|everything)?\s*(ok|okay|fine|well)", lower):
        return Read(Entry(when, "note", "", None, piece), f"note: {piece}")
    return None


# -- words ------------------------------------------------------------------------------------------------------------


def said(entry: Entry, places: Places, units: UnitSystem) -> str:
    """An entry in words, as the list shows it."""
    where = places.name(entry.place) if entry.place else ""
    measure = MEASURES.get(entry.what)
    if measure is None:
        if entry.what == "note":
            return f"note: {entry.text}"
        if entry.what in ("cleaned", "swapped"):
            return f"{where or entry.place} {EVENTS[entry.what].lower()}" + (f" ({entry.text})" if entry.text else "")
        words = EVENTS.get(entry.what, entry.what)
        return f"{words}: {entry.text or where}" if entry.text or where else words
    shares = entry.what == "change" and entry.text.endswith("%") and entry.value is not None and entry.value <= 1
    if shares:
        value = entry.text
    elif measure.quantity == "number":
        value = f"{entry.value:g}" if entry.value is not None else ""
    elif measure.quantity == "concentration" and entry.value is not None:
        value = concentration(entry.value)
    else:
        value = shown(entry.value or 0.0, measure.quantity, units)
    several = len(places.tanks) > 1
    at = f", {where}" if where and (measure.placed or several) and entry.place else ""
    extra = f" {entry.text}" if entry.text and not shares else ""
    return f"{measure.name} {value}{extra if entry.what in _TELLS else ''}{at}"


def day_of(entry: Entry, today: datetime.date) -> str:
    """The day that an entry tells of, where it is not today: ``12 November``, with its year where that is another."""
    day = entry.when.date()
    if day == today:
        return ""
    return f"{day:%-d %B}" if day.year == today.year else f"{day:%-d %B %Y}"


def concentration(value: float) -> str:
    """mg/L with as many digits as a test has."""
    number = value * 1e3
    if number >= 9.95:
        return f"{number:.0f} mg/L"
    return f"{number:.2f}".rstrip("0").rstrip(".") + " mg/L"


def as_of(read: Read, place: Place) -> Read:
    """The same at another of the places that its words may mean."""
    return replace(read, entry=replace(read.entry, place=place.id))
