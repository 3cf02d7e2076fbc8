"""Alarms in words: what the last tests mean today, and what to do in the next hour."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from fuente.study.analysis import Analysis
from fuente.units import UnitSystem, shown
from fuente.upkeep.entry import Entry
from fuente.upkeep.measures import MG
from fuente.upkeep.places import Place, places_of
from fuente.upkeep.typed_line import concentration
from fuente.water.properties import free_ammonia_fraction, oxygen_saturation

DAY = 86400.0
STALE = 3 * DAY  # s after which a test no longer says what is now
# Free ammonia as nitrogen: 0.02 mg/L is the usual limit for long, 0.1 hurts gills within hours.
FREE_WATCH, FREE_STOP = 0.02 * MG, 0.1 * MG
NITRITE_STOP = 1.0 * MG  # as nitrogen, of what is not salted
_PH, _WARM = 7.5, 4.0  # assumed where nobody tested; °C over what is kept from which heat is told


@dataclass(frozen=True)
class Alarm:
    """What is wrong in a tank, how bad (stop, watch), and what to do in the next hour."""

    tank: str
    rank: str
    head: str
    why: str
    act: str


def alarms(study: Analysis, entries: Sequence[Entry], now: float, units: UnitSystem = UnitSystem.METRIC) -> list[Alarm]:
    """All tanks by their last tests, the worst first. A test that is older than three days says nothing of now."""
    found: list[Alarm] = []
    for place in places_of(study).tanks:
        last = {e.what: e for e in entries if e.place == place.id and e.value is not None and now - e.moment <= STALE}
        found += _tank(study, place, {k: e.value or 0.0 for k, e in last.items()}, units)
    return sorted(found, key=lambda a: (a.rank != "stop", a.tank))


def free_ammonia(total: float, ph: float, temperature: float, salinity: float = 0.0) -> float:
    """Free ammonia in kg/m³ of nitrogen, by today's pH and temperature."""
    return total * free_ammonia_fraction(min(max(ph, 5.0), 11.0), min(max(temperature, 0.5), 39.5), salinity)


def _tank(study: Analysis, place: Place, last: dict[str, float], units: UnitSystem) -> list[Alarm]:
    device = study.system.device(place.id)
    kept = float(getattr(device, "temperature", 20.0))
    warm = last.get("temperature", kept)
    keeping, found = study.system.keeping, []
    said = shown(warm, "temperature", units)
    change = "Change a third of the water now, as warm as the tank's; do not feed today; test again in an hour."
    if "ammonia" in last:
        ph = last.get("ph", _PH)
        free = free_ammonia(last["ammonia"], ph, warm, study.system.salinity)
        assumed = "" if "ph" in last else " (assumed)"
        by = f"{concentration(last['ammonia'])} in all at pH {ph:g}{assumed} and {said}"
        if free >= FREE_STOP:
            act = change + " Keep the pH from rising: no new air stones, no lime, until it is down."
            found.append(Alarm(place.id, "stop", f"Free ammonia {concentration(free)}", by, act))
        elif free >= FREE_WATCH or last["ammonia"] > keeping.ammonia_limit:
            found.append(
                Alarm(place.id, "watch", f"Free ammonia {concentration(free)}", by, "Feed half, and test tomorrow.")
            )
    if "nitrite" in last:
        value = last["nitrite"]
        if value >= NITRITE_STOP:
            act = change + " In fresh water a thousandth of salt by weight holds it off the gills of most fish."
            found.append(Alarm(place.id, "stop", f"Nitrite {concentration(value)}", "as nitrogen", act))
        elif value > keeping.nitrite_limit:
            limit = f"your limit is {concentration(keeping.nitrite_limit)}"
            found.append(Alarm(place.id, "watch", f"Nitrite {concentration(value)}", limit, "Feed half; test again."))
    if "oxygen" in last and last["oxygen"] < keeping.oxygen_limit:
        full = oxygen_saturation(min(max(warm, 0.5), 39.5), study.system.salinity, keeping.altitude) * MG
        act = "Air stone in now, or pour water back from a jug's height; pumps on; do not feed; find what rots."
        words = f"air would give {concentration(full)} at {said}"
        rank = "stop" if last["oxygen"] < 0.7 * keeping.oxygen_limit else "watch"
        found.append(Alarm(place.id, rank, f"Oxygen {concentration(last['oxygen'])}", words, act))
    if "temperature" in last:
        away = warm - kept
        if abs(away) >= _WARM:
            act = (
                "Heater out of its socket; lid open, fan over the water; a fiftieth of the water for cool"
                " water every half hour."
                if away > 0
                else "Look at the heater's plug and lamp; cover the tank; warm it by a degree an hour, no faster."
            )
            found.append(Alarm(place.id, "stop", said, f"it is kept at {shown(kept, 'temperature', units)}", act))
    if "level" in last and place.tank:
        running = study.running
        depth = running.level[place.id] - study.network.cell(place.id).floor
        if depth - last["level"] > 0.05:
            act = "Look under it and behind it for water; pump off if the sump is full; then find the leak."
            words = f"it stands at {shown(depth, 'level', units)} while all runs"
            found.append(Alarm(place.id, "watch", f"Level {shown(last['level'], 'level', units)}", words, act))
    return found
