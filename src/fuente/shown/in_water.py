"""What is shown of what stands in the water: rows of a card, and a colour's scale on the section. No Qt."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, replace

from fuente.devices.base import Reading, Station
from fuente.devices.keeping import Keeping
from fuente.drawing.primitives import Drawing, Polygon
from fuente.shown.carrying import concentration, held_nitrate
from fuente.study.standing import Standing
from fuente.units import UnitSystem, shown
from fuente.water.properties import SALTIEST, WARMEST, oxygen_saturation

NAMES: Mapping[str, str] = {
    "ammonia": "Ammonia (N)",
    "nitrite": "Nitrite (N)",
    "nitrate": "Nitrate (NO₃)",
    "oxygen": "Oxygen",
    "temperature": "Temperature",
}
_NARROW = 2.0  # °C that a scale of temperatures spans at least
_SURE = {"temperature": "±1 °C; walls and cover count most", "oxygen": "±30 %; surfaces count most"}


def figure(what: str, value: float, units: UnitSystem) -> str:
    """One of what is held, with its unit."""
    if what == "temperature":
        return shown(value, "temperature", units)
    return held_nitrate(value, units) if what == "nitrate" else concentration(value, units)


@dataclass(frozen=True)
class Scale:
    """From ``low``, at the colour of good water, to ``high``, at that of the builder's limit; beyond it is over."""

    what: str
    low: float
    high: float
    limited: bool  # whether the high end is a limit

    def share(self, value: float) -> float:
        """0 at the good end, 1 at the limit, more beyond."""
        span = self.high - self.low
        return max((value - self.low) / span, 0.0) if span else 0.0

    def words(self, units: UnitSystem) -> tuple[str, str]:
        """What stands at either end."""
        return figure(self.what, self.low, units), figure(self.what, self.high, units)


def scale_of(what: str, standing: Standing, keeping: Keeping, salinity: float) -> Scale:
    """Up to the builder's limit; of oxygen down to it from all that water takes, of warmth from coldest to warmest."""
    if what == "temperature":
        values = standing.values[what].values()
        low, high = min(values), max(values)
        spare = max(_NARROW - (high - low), 0.0) / 2
        return Scale(what, low - spare, high + spare, False)
    if what == "oxygen":
        # Its end is that of the nearest water for which it is known: a heater may be set to far more than 40 °C.
        warm = min(max(min(standing.values["temperature"].values()), 0.0), WARMEST)
        full = 1e-3 * oxygen_saturation(warm, min(salinity, SALTIEST), keeping.altitude)
        return Scale(what, full, keeping.oxygen_limit, True)
    limit: float = getattr(keeping, f"{what}_limit")
    return Scale(what, 0.0, limit, True)


def held_in(
    drawing: Drawing, standing: Standing, what: str, owned: Mapping[str, tuple[str, ...]]
) -> list[tuple[Polygon, float | None]]:
    """Each water of a drawing, back to front, with what it holds; None where that is not known. ``owned`` is what a
    device's cells are, for water that says none.
    """
    found = []
    for shape in drawing.shapes:
        if isinstance(shape, Polygon) and shape.style == "water":
            cells = (shape.cell,) if shape.cell else owned.get(shape.owner, ())
            found.append((shape, standing.of(what, cells)))
    return found


def bare(what: str, value: float, units: UnitSystem) -> str:
    """The same without its unit, which the key says."""
    words = figure(what, value, units)
    return words.split(" ")[0] if words[0].isdigit() else words


def with_water(station: Station, standing: Standing, units: UnitSystem) -> Station:
    """A station whose card says what stands in its water; of several cells their mean."""
    if standing.after is None:
        why = "In the long run, water changes spread over time, with everything grown to its feed."
    else:
        why = f"{standing.after / 3600:.0f} h after it began, with everything grown to its feed before."
    rows = []
    for what, name in NAMES.items():
        value = standing.of(what, station.cells)
        if value is not None:
            text = figure(what, value, units)
            rows.append(Reading(name, text, why=why, sure=_SURE.get(what, "±40 %")))
    return replace(station, readings=(*station.readings, *rows)) if rows else station
