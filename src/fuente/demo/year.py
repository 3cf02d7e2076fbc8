"""A year of a demo's log, made by a seeded script: one clogging pad, one ageing pump, one heater that drifts.

What is written there follows from the design's own network, so that what is learnt of it can be compared with what
was put in.
"""

from __future__ import annotations

import datetime
import math
import random
from collections.abc import Iterable, Iterator
from dataclasses import dataclass, replace

from fuente.devices.homes import HomeSpec
from fuente.study.analysis import Analysis
from fuente.upkeep.due import done
from fuente.upkeep.entry import Entry
from fuente.upkeep.learned import limit_of
from fuente.upkeep.places import Place, as_new, drop_over, places_of
from fuente.upkeep.stock import dosed
from fuente.upkeep.topup import expected_drying
from fuente.upkeep.upkeep_tasks import tasks_of, volume_of, waters

DAY = datetime.timedelta(days=1)
MG = 1e-3
WORN = 0.93  # of the flow, at the year's end
FROM = 0.55  # of the year, from when the pump ages
DRIFTS = 1.0  # °C that the heater is off in the end
_NOTES = (
    "two eggs on the moss",
    "white clouds at the surface in the evening",
    "cut the marsh plants back",
    "new lid hinge, all quiet",
    "one axolotl refused a pellet, ate the next day",
)


@dataclass(frozen=True)
class Truth:
    """What was put in: when each stretch of the clogging place began and would have been full (moments), the pump's
    share of flow at the end, from when the heater drifts and by how much.
    """

    clogs: str
    full: tuple[datetime.datetime, ...]
    flow: float
    drifts: datetime.datetime
    shift: float


def year_of(study: Analysis, today: datetime.datetime, seed: int = 7) -> tuple[list[Entry], Truth]:
    """Entries of the 330 days before a moment, by their moment, and what is true of them."""
    rng = random.Random(seed)
    places = places_of(study)
    start = (today - 330 * DAY).replace(hour=18, minute=0, second=0, microsecond=0)
    clogging = max(places.gauged(study), key=lambda p: (len(p.clogs), drop_over(study, p, as_new(study))), default=None)
    entries: list[Entry] = []
    full: list[datetime.datetime] = []
    if clogging is not None:
        made, full = _clogging(study, clogging, start, today, rng)
        entries += made
    tank = places.tanks[0]
    drifts = today - 13 * DAY
    entries += _tests(study, tank, start, today, rng)
    entries += _warmth(study, tank, start, today, drifts, rng)
    entries += _flows(study, places.pumps[:1], start, today, rng)
    entries += _weeks(study, tank, start, today, rng)
    entries += _shelf(start, today)
    entries += _tasks(study, tuple(entries), start, today, rng)
    for k, text in enumerate(_NOTES):
        entries.append(Entry(start + (30 + 62 * k) * DAY, "note", "", None, text))
    truth = Truth(clogging.id if clogging else "", tuple(full), WORN, drifts, DRIFTS)
    written = (replace(e, when=e.when.replace(microsecond=0)) for e in entries if e.when <= today)
    return sorted(written, key=lambda e: e.when), truth


def _clogging(
    study: Analysis, place: Place, start: datetime.datetime, today: datetime.datetime, rng: random.Random
) -> tuple[list[Entry], list[datetime.datetime]]:
    """Differences each week or so, growing by a constant share until the pad is rinsed."""
    clean, limit = drop_over(study, place, as_new(study)), limit_of(study, place)
    found: list[Entry] = []
    full: list[datetime.datetime] = []
    begins, parts = start, 4
    usual = (today - start) / (parts - 0.35)
    for k in range(parts):
        low, life = clean * rng.lognormvariate(0.0, 0.08), usual / 0.92 * rng.lognormvariate(0.0, 0.1)
        full.append(begins + life)
        ends = begins + life * rng.uniform(0.86, 0.97) if k < parts - 1 else today + DAY
        at = begins + 3 * DAY
        while at < min(ends, today):
            true = low * (limit / low) ** ((at - begins) / life)
            value = max(rng.gauss(true, math.hypot(0.8e-3, 0.04 * true)), 5e-4)
            found.append(Entry(at, "drop", place.id, round(value, 3)))
            at += rng.uniform(6, 12) * DAY
        if ends <= today:
            found.append(Entry(ends, "cleaned", place.id, None, "rinsed in old tank water"))
        begins = ends
    return found, full


def _tests(
    study: Analysis, tank: Place, start: datetime.datetime, today: datetime.datetime, rng: random.Random
) -> Iterator[Entry]:
    at, k = start, 0
    while at < today:
        grown = min((at - start).days / 35, 1.0)
        yield Entry(at, "ammonia", tank.id, round(max(rng.gauss(0.4 * (1 - grown), 0.02), 0.0), 2) * MG)
        yield Entry(at, "nitrite", tank.id, round(max(rng.gauss(0.5 * grown * (1 - grown) * 2, 0.02), 0.0), 2) * MG)
        saw = 12 + 10 * ((at - start).days % 28) / 28
        yield Entry(at, "nitrate", tank.id, max(round(rng.gauss(saw, 2.0)), 2) * MG)
        yield Entry(at, "ph", tank.id, round(rng.gauss(7.4, 0.08), 1))
        at += (12 + 3 * (k % 2)) * DAY
        k += 1


def _warmth(
    study: Analysis,
    tank: Place,
    start: datetime.datetime,
    today: datetime.datetime,
    drifts: datetime.datetime,
    rng: random.Random,
) -> Iterator[Entry]:
    """Each third day; from a day on the heater is off by more and more."""
    device = study.system.device(tank.id)
    aim = device.temperature if isinstance(device, HomeSpec) else 20.0
    at = start
    yield Entry(at, "setpoint", tank.id, aim)
    while at < today:
        off = DRIFTS * min(max((at - drifts) / (5 * DAY), 0.0), 1.0)
        yield Entry(at + datetime.timedelta(minutes=5), "temperature", tank.id, round(rng.gauss(aim + off, 0.14), 1))
        at += (1 if at > today - 30 * DAY else 3) * DAY


def _flows(
    study: Analysis, pumps: Iterable[Place], start: datetime.datetime, today: datetime.datetime, rng: random.Random
) -> Iterator[Entry]:
    """A bucket each month; the pump ages in the second half."""
    for pump in pumps:
        usual = abs(study.running.flow.get(pump.pump, 0.0))
        at = start + 5 * DAY
        while at < today and usual > 0:
            age = max(((at - start) / (today - start) - FROM) / (1 - FROM), 0.0)
            flow = usual * (1 - (1 - WORN) * min(1.6 * age, 1.0)) * rng.gauss(1.0, 0.012)
            litres = 10.0
            yield Entry(at, "flow", pump.id, flow, f"{litres:.0f} L in {litres * 1e-3 / flow:.1f} s")
            at += 21 * DAY


def _weeks(
    study: Analysis, tank: Place, start: datetime.datetime, today: datetime.datetime, rng: random.Random
) -> Iterator[Entry]:
    """Water changes as they are kept, top-ups, feed, socks."""
    group = next((g for g in waters(study) if tank.id in g), (tank.id,))
    keeping = study.system.keeping
    litres = keeping.share * volume_of(study, group)
    dries = expected_drying(study)
    device = study.system.device(tank.id)
    fed = (device.fed if isinstance(device, HomeSpec) else 0.0) * 86400.0
    socks = next((p for p in places_of(study).clogging if "socks" in p.called), None)
    at, week = start + 2 * DAY, 0
    interval = datetime.timedelta(seconds=max(keeping.interval, 3 * 86400.0))
    while at < today:
        if litres > 0:
            yield Entry(at, "change", tank.id, round(litres * rng.gauss(1.0, 0.04), 3))
        if dries > 0:
            volume = dries * interval.total_seconds() * rng.gauss(1.05, 0.1)
            yield Entry(at - 2 * DAY, "topup", tank.id, round(volume, 4))
        if fed > 0 and week % 2 == 0:
            yield Entry(at - DAY, "fed", tank.id, round(7 * fed * rng.gauss(1.0, 0.05), 4), "of the week")
        if socks is not None:
            yield Entry(at + DAY, "swapped", socks.id)
        at += interval
        week += 1


def _tasks(
    study: Analysis, written: Iterable[Entry], start: datetime.datetime, today: datetime.datetime, rng: random.Random
) -> Iterator[Entry]:
    """Everything else done about when it was due; the pump was last looked at long ago, which is why it ages."""
    known = {
        way for place in places_of(study).clogging if any(e.place == place.id for e in written) for way in place.clogs
    }
    for task in tasks_of(study):
        if set(task.clogs) & known or task.id.endswith((".change", ".test")):
            continue
        every = datetime.timedelta(seconds=task.interval)
        at = start + every * rng.uniform(0.9, 1.0)
        until = start + 0.4 * (today - start) if task.does == "cleaned" and task.minutes == 25 else today - 0.1 * every
        while at < until:
            yield done(task, at)
            at += every * rng.uniform(0.95, 1.12)
    for each in study.system.upkeep.dosed:
        made = dosed(study, each)
        at = start + 3 * DAY
        while made is not None and at < today - 6 * DAY:
            yield Entry(at, "done", each.tank, None, made.stuff.name, f"task dose.{each.medium}.{each.tank}")
            at += datetime.timedelta(seconds=made.stuff.life / (2 if each.halves else 1))


def _shelf(start: datetime.datetime, today: datetime.datetime) -> Iterator[Entry]:
    yield Entry(start, "bought", "", 8, "socks")
    yield Entry(start, "bought", "", 50, "water tests")
    yield Entry(start, "bought", "", 33, "carbon")
    yield Entry(start, "cost", "", 46.0, "socks, tests, carbon")
    for k, (price, what) in enumerate(((12.0, "feed"), (8.5, "feed"), (14.0, "a new airline and valves"))):
        yield Entry(start + (60 + 90 * k) * DAY, "cost", "", price, what)
    yield Entry(start + 150 * DAY, "bought", "", 90, "socks")
    yield Entry(start + 150 * DAY, "cost", "", 34.0, "socks")
