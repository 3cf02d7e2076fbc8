"""What is on the shelf, when to buy, and what a year costs."""

from __future__ import annotations

import datetime
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass

from fuente.catalogue import Consumable, consumables
from fuente.document.upkeep import Dosed
from fuente.study.analysis import Analysis
from fuente.upkeep.entry import Entry
from fuente.upkeep.upkeep_tasks import tasks_of, volume_of, waters

DAY = 86400.0
YEAR = 365.25 * DAY
ORDER = 14  # days before it is empty that something is to be ordered
_NAMES = {"sock": "Socks", "test": "Water tests", "floss": "Floss", "fleece": "Fleece"}


@dataclass(frozen=True)
class Dose:
    """A chemical medium for a tank's water, m³ of it."""

    stuff: Consumable
    volume: float


@dataclass(frozen=True)
class Kept:
    """Something on the shelf: pieces left (None where nobody wrote how many), used in a year, the day it is empty and
    the day to order.
    """

    key: str
    name: str
    left: float | None
    a_year: float
    empty: datetime.date | None
    order: datetime.date | None


def dosed(study: Analysis, each: Dosed) -> Dose | None:
    """What a dose is; None for what is no chemical medium or a tank that is there no more."""
    stuff = next((c for c in consumables() if c.id == each.medium and c.dose > 0), None)
    group = next((g for g in waters(study) if each.tank in g), None)
    return Dose(stuff, stuff.dose * volume_of(study, group)) if stuff and group else None


def left_of(entries: Iterable[Entry], key: str, name: str = "") -> float | None:
    """Pieces left by what was bought and used; None where nothing was ever bought or counted."""
    words = {key, key.rstrip("s"), key + "s", *(w for w in (name.lower(),) if w)}
    left: float | None = None
    for entry in entries:
        said = entry.text.lower().strip()
        if entry.what == "bought" and any(w and w in said for w in words):
            left = (left or 0.0) + (entry.value or 0.0)
        elif left is not None and entry.what == "used" and any(w and w in said for w in words):
            left -= entry.value or 0.0
    return max(left, 0.0) if left is not None else None


def used_by(study: Analysis, entries: Sequence[Entry]) -> list[Entry]:
    """Entries of what tasks took from the shelf, where they were done and nobody wrote it down apart."""
    uses = {f"task {t.id}": t.uses for t in tasks_of(study) if t.uses and t.uses[0][0] != "test"}
    uses |= {f"task dose.{d.medium}.{d.tank}": ((d.medium, 1.0),) for d in study.system.upkeep.dosed}
    swaps = [t for t in tasks_of(study) if t.uses and t.does == "swapped"]
    by_what: dict[tuple[str, str], tuple[tuple[str, float], ...]] = {(t.does, t.place): t.uses for t in swaps}
    found = []
    tested: set[tuple[str, datetime.date]] = set()
    for entry in entries:
        if entry.what == "ammonia" and (entry.place, entry.day) not in tested:  # one of the kit, all four colours
            tested.add((entry.place, entry.day))
            found.append(Entry(entry.when, "used", "", 1.0, "test", "task"))
        taken = uses.get(entry.source) or (by_what.get((entry.what, entry.place)) if entry.what == "swapped" else None)
        for key, count in taken or ():
            found.append(Entry(entry.when, "used", "", count, key, "task"))
    return found


def shelf(study: Analysis, entries: Sequence[Entry], today: datetime.date) -> list[Kept]:
    """All that is used up, by tasks and by what was bought."""
    a_year: dict[str, float] = {}
    names = dict(_NAMES)
    for task in tasks_of(study):
        for key, count in task.uses:
            a_year[key] = a_year.get(key, 0.0) + count * YEAR / task.interval
    for each in study.system.upkeep.dosed:
        made = dosed(study, each)
        if made is not None:
            every = made.stuff.life / (2 if each.halves else 1)
            a_year[each.medium] = a_year.get(each.medium, 0.0) + YEAR / every
            names[each.medium] = f"{made.stuff.name}, {'half ' if each.halves else ''}doses"
    everything = sorted([*entries, *used_by(study, entries)], key=lambda e: e.moment)
    found = []
    for key, count in a_year.items():
        left = left_of(everything, key, names.get(key, key).lower())
        empty = order = None
        if left is not None and count > 0:
            days = min(left / count * 365.25, 20 * 365)
            empty = today + datetime.timedelta(days=math.floor(days))
            order = empty - datetime.timedelta(days=ORDER)
        found.append(Kept(key, names.get(key, key.capitalize()), left, count, empty, order))
    return found


@dataclass(frozen=True)
class Costs:
    """A year in the builder's money: behind as it was written down, ahead as it is expected; power by device."""

    power_behind: float
    used_behind: float
    power_ahead: float
    used_ahead: float
    ready_made: float
    by_device: tuple[tuple[str, float], ...]
    unpriced: int


def costs(study: Analysis, entries: Sequence[Entry], today: datetime.datetime) -> Costs:
    """Power by what each device draws; what is used up by its price; the year behind by the log's own."""
    price = study.system.space.price
    watts = [(d.title, d.draws) for d in study.system.devices if d.draws > 0]
    by_device = tuple((name, w * YEAR / 3.6e6 * price) for name, w in watts)
    ahead = sum(cost for _, cost in by_device)
    year = [e for e in entries if today.timestamp() - e.moment <= YEAR]
    span = today.timestamp() - min((e.moment for e in entries), default=today.timestamp())
    spent = sum(e.value or 0.0 for e in year if e.what == "cost")
    sold = {c.id: c for c in consumables()}
    shop = {p.what.lower(): p.amount for p in study.system.shop.prices}
    used, unpriced = 0.0, 0
    for kept in shelf(study, entries, today.date()):
        own = next((amount for what, amount in shop.items() if kept.key in what), None)
        each = own
        if each is None and kept.key in sold:
            stuff = sold[kept.key]
            dose = next((dosed(study, d) for d in study.system.upkeep.dosed if d.medium == kept.key), None)
            halves = next((d.halves for d in study.system.upkeep.dosed if d.medium == kept.key), False)
            each = (
                stuff.cost / stuff.sold * dose.volume * (0.5 if halves else 1.0) if dose is not None else stuff.cost / 8
            )
        if each is None:
            unpriced += 1
        else:
            used += kept.a_year * each
    water = study.system.keeping
    litres = sum(volume_of(study, g) for g in waters(study)) * water.share * YEAR / water.interval
    used += litres * water.water_price
    return Costs(
        ahead * min(span / YEAR, 1.0),
        spent,
        ahead,
        used,
        study.system.shop.ready_made,
        by_device,
        unpriced,
    )
