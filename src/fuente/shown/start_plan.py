"""The days of a start: what to dose, test and change on each, as rows and as a calendar. No Qt."""

from __future__ import annotations

import datetime
from typing import TYPE_CHECKING, NamedTuple

from fuente.life.dosing import dose_of
from fuente.shown.carrying import concentration
from fuente.study.weeks import DAY, Weeks
from fuente.units import UnitSystem, shown

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

_EVERY = 7  # days between tests while nothing moves, and
_SOON = 2  # after a dose


class PlanDay(NamedTuple):
    """One thing to do: on which day after the start, in a few words, and why."""

    day: int
    title: str
    why: str


def plan(study: Analysis, made: Weeks, units: UnitSystem) -> tuple[PlanDay, ...]:
    """What a start that was followed wants, day by day; expected days, which tests correct."""
    tanks = {t.id: t.name for t in study.system.tanks}
    found = []
    for when, by_tank in made.doses:
        for tank, nitrogen in by_tank.items():
            litres, salt = dose_of(nitrogen)
            what = f"{shown(litres, 'small_volume', units)} of ammonia solution (10 %)"
            where = f", {tanks[tank]}" if len(tanks) > 1 else ""
            why = f"or {shown(salt, 'dose', units)} of ammonium chloride, to {concentration(made.start.dose, units)}"
            found.append(PlanDay(round(when / DAY), f"Dose {what}{where}", why))
    for when in made.changes:
        first = made.start.way == "fishless" and made.ready is not None and abs(when - made.ready) < 1.0
        if made.start.way == "fishless" and not first and (made.ready is None or when > made.ready):
            continue  # what is usual from then on
        share = "most" if first else "half" if made.start.way == "fishless" else "the usual share"
        why = "before animals come" if first else "alkalinity, nitrate"
        found.append(PlanDay(round(when / DAY), f"Change {share} of the water", why))
    found += _ahead(made, units)
    slow = round(study.system.keeping.slow / DAY)
    if slow > 0 and made.start.way != "mature":
        until = f"for {slow} days" if slow > 1 else "for a day"
        counted = "the curve counts its flow" if made.slowed else "the curve does not count it"
        found.append(PlanDay(0, f"Turn the pump low {until}", f"films hold better; {counted}"))
        found.append(PlanDay(slow, "Turn the pump up", "to its usual flow"))
    last = int((made.ready if made.ready is not None else made.times[-1]) / DAY)
    tests = set(range(_EVERY, last + 1, _EVERY))
    tests |= {round(when / DAY) + _SOON for when, _ in made.doses if when / DAY + _SOON <= last}
    found += [PlanDay(day, "Test ammonia and nitrite", "write it down: the curve follows") for day in sorted(tests)]
    if made.ready is not None and made.ready > 0:
        words = "First animals, if tests agree" if made.start.way == "fishless" else "It holds, if tests agree"
        found.append(PlanDay(round(made.ready / DAY), words, "times are ±50 %; raise the feed in steps of a third"))
    return tuple(sorted(found, key=lambda d: (d.day, d.title)))


def _ahead(made: Weeks, units: UnitSystem) -> list[PlanDay]:
    """What a bucket wants before the first day, by days before it; media that are moved, on it."""
    if made.start.way == "seeded":
        why = (
            "keep them wet and cool; whatever their animals carry comes with them: quarantine first where you doubt it"
        )
        return [PlanDay(0, "Move mature media over", why)]
    if made.bucket is None:
        return []
    bucket, found = made.bucket, []
    first = round((bucket.ready if bucket.ready is not None else 150 * DAY) / DAY)
    for n, (when, nitrogen) in enumerate(bucket.doses):
        litres, salt = dose_of(nitrogen)
        what = f"Dose the bucket {shown(litres, 'small_volume', units)} of ammonia solution (10 %)"
        why = f"or {shown(salt, 'dose', units)} of ammonium chloride"
        if n == 0:
            why += "; a trace of phosphate, air, and a handful of old media or filter mulm as a seed"
        found.append(PlanDay(round(when / DAY) - first, what, why))
    found += [PlanDay(round(w / DAY) - first, "Change half the bucket's water", "alkalinity") for w in bucket.changes]
    found.append(PlanDay(0, "Strain the media and move them wet", "their age goes with them; leave the bucket's water"))
    return found


def as_calendar(days: tuple[PlanDay, ...], started: str, name: str) -> str:
    """An iCalendar of all-day events (RFC 5545)."""
    from icalendar import Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", "-//Fuente//Start//EN")
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    made = datetime.datetime.now(datetime.UTC)
    for n, each in enumerate(days):
        event = Event()
        event.add("uid", f"{n}-{each.day}-{started or 'start'}@fuente")
        event.add("dtstamp", made)
        event.add("summary", f"{each.title} ({name})")
        event.add("description", each.why)
        event.add("dtstart", _date(each, started))
        event.add("dtend", _date(each, started) + datetime.timedelta(days=1))
        calendar.add_component(event)
    return str(calendar.to_ical().decode("utf-8"))


def _date(each: PlanDay, started: str) -> datetime.date:
    first = datetime.date.fromisoformat(started) if started else datetime.date.today()
    return first + datetime.timedelta(days=each.day)
