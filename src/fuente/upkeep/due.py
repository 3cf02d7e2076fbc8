"""What is due and when: by what was done last, how fast it clogs, how much is fed, and what must keep apart."""

from __future__ import annotations

import datetime
import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace

from fuente.devices.base import Task
from fuente.errors import FuenteError
from fuente.one_line import within
from fuente.study.analysis import Analysis
from fuente.study.situation import Situation
from fuente.units import UnitSystem, shown
from fuente.upkeep.entry import Entry
from fuente.upkeep.learned import Learned
from fuente.upkeep.measures import WORKED
from fuente.upkeep.places import Place
from fuente.upkeep.upkeep_tasks import tasks_of

DAY = 86400.0
SOON = 7  # days that count as this week
_FED = (0.5, 2.0)  # of the planned feed, within which intervals follow it
_ONCE = 30 * DAY


@dataclass(frozen=True)
class Due:
    """A task with its day: when it was done last (None for never), the day it is due with the early and late day of an
    80 % band where it is learnt, the reason in words, and why it was moved where it was.
    """

    task: Task
    last: datetime.date | None
    day: datetime.date
    early: datetime.date | None
    late: datetime.date | None
    why: str
    moved: str = ""
    postponed: bool = False

    def left(self, today: datetime.date) -> int:
        """Days until it is due; below nothing where it is over."""
        return (self.day - today).days

    def when(self, today: datetime.date) -> str:
        """``today``, ``week`` or ``later``."""
        left = self.left(today)
        return "today" if left <= 0 else "week" if left <= SOON else "later"


def due(learned: Learned, units: UnitSystem = UnitSystem.METRIC) -> list[Due]:
    """Every task, the soonest first."""
    study, today = learned.study, learned.today
    rows = _turns([_due(task, learned, units) for task in tasks_of(study)], learned)
    rows = _apart(rows, study.system.upkeep.apart, today.date(), learned)
    rows += _doses(study, learned, units)
    rows += _trials(study, learned)
    return sorted(rows, key=lambda d: (d.day, -d.task.minutes, d.task.id))


def done(
    task: Task, when: datetime.datetime, text: str = "", value: float | None = None, differently: bool = False
) -> Entry:
    """The entry of a task that was done, as it says or otherwise."""
    what = "done" if differently else task.does
    return Entry(when, what, task.place, value, text or task.name, f"task {task.id}")


def postponed(task: Task, when: datetime.datetime, days: float) -> Entry:
    """The entry of a task that waits for some days more."""
    return Entry(when, "postponed", task.place, days * DAY, task.name, f"task {task.id}")


def last_done(task: Task, learned: Learned) -> Entry | None:
    """When it was done last: as a task, or by a line that says so of its place or of what that is part of."""
    part_of = {task.place}
    for place in learned.places.clogging:
        if task.clogs and set(task.clogs) <= set(place.clogs):
            part_of.add(place.id)
    found = None
    for entry in learned.entries:
        mine = entry.source == f"task {task.id}" and entry.what in WORKED
        at_it = task.does != "done" and entry.what == task.does and entry.place in part_of
        at_it = at_it or (entry.what == "change" and task.id == f"{task.place}.change" and entry.place == task.place)
        at_it = at_it or (entry.what in ("ammonia", "nitrite", "nitrate") and task.id == f"{task.place}.test")
        if (mine or at_it) and (found is None or entry.moment >= found.moment):
            found = entry
    return found


def _due(task: Task, learned: Learned, units: UnitSystem) -> Due:
    last = last_done(task, learned)
    start = last.moment if last is not None else learned.begins
    day, early, late, why = _by_clogging(task, learned, units)
    if day is None:
        interval, why = _interval(task, learned)
        day = start + interval
    held = [e for e in learned.entries if e.what == "postponed" and e.source == f"task {task.id}" and e.moment >= start]
    if held:
        day = max(day, held[-1].moment + (held[-1].value or 0.0))
        why = f"postponed on {_day(held[-1].moment, learned):%-d %B}; {why}"
    date = _day(day, learned)
    return Due(
        task,
        last.day if last is not None else None,
        date,
        _day(early, learned) if early is not None else None,
        _day(late, learned) if late is not None else None,
        why,
        "",
        bool(held),
    )


def _day(moment: float, learned: Learned) -> datetime.date:
    """The day of a moment, where the builder is; nothing beyond the calendar."""
    top = learned.today.timestamp() + 30 * 365 * DAY
    return datetime.datetime.fromtimestamp(min(max(moment, 0.0), top), learned.today.tzinfo).date()


def place_read(task: Task, learned: Learned) -> Place | None:
    """The place whose difference of levels tells of a task: its own, else the chamber's for its finest pad."""
    if not task.clogs:
        return None
    own = next((p for p in learned.places.clogging if set(p.clogs) == set(task.clogs)), None)
    if own is not None and learned.series("drop", own.id).rows:
        return own
    wider = next(
        (
            p
            for p in learned.places.clogging
            if set(task.clogs) < set(p.clogs) and learned.series("drop", p.id).rows and p.clogs[-1] in task.clogs
        ),
        None,
    )
    return wider


def _by_clogging(
    task: Task, learned: Learned, units: UnitSystem
) -> tuple[float | None, float | None, float | None, str]:
    """When it is full, by what was read of it."""
    place = place_read(task, learned)
    found = learned.clog(place) if place is not None else None
    if found is None or found.due is None:
        return None, None, None, ""
    stretch = found.stretches[-1]
    now = f"{shown(float(stretch.drops[-1]), 'level', units)} now, " if stretch.drops.size else ""
    why = f"{now}due at {shown(found.limit, 'level', units)}"
    return found.due, found.early, found.late, why


def _interval(task: Task, learned: Learned) -> tuple[float, str]:
    """Its interval: the builder's own, or the usual one by how much is fed."""
    own = {i.task: i.every for i in learned.study.system.upkeep.intervals}
    if task.id in own:
        return own[task.id], f"every {_span(own[task.id])}, as you set it"
    share = fed_share(learned) if task.clogs else None
    if share is None:
        return task.interval, f"every {_span(task.interval)}"
    factor = min(max(1.0 / share, _FED[0]), _FED[1])
    if abs(factor - 1) < 0.1:
        return task.interval, f"every {_span(task.interval)}"
    more = f"{abs(100 * (share - 1)):.0f} % {'more' if share > 1 else 'less'} is fed than planned"
    return task.interval * factor, f"every {_span(task.interval * factor)}: {more}"


def fed_share(learned: Learned) -> float | None:
    """What is fed by what was planned, over the last 60 days; None where the log does not say."""
    now = learned.today.timestamp()
    rows = [e for e in learned.entries if e.what == "fed" and e.value is not None and now - e.moment <= 60 * DAY]
    planned = sum(t.fed for t in learned.study.system.tanks)
    if len(rows) < 5 or planned <= 0:
        return None
    span = max(rows[-1].moment - rows[0].moment, 7 * DAY)
    return sum(e.value or 0.0 for e in rows) / (planned * span * (1 + 1 / max(len(rows) - 1, 1)))


def _span(seconds: float) -> str:
    days = seconds / DAY
    if days < 1.5:
        return "day" if days > 0.9 else f"{24 * days:.0f} hours"
    if days < 21 or (days % 7 >= 1 and days < 60):
        return f"{days:.0f} days"
    return f"{days / 7:.0f} weeks" if days < 180 else f"{days / 30.4:.0f} months"


def _turns(rows: Sequence[Due], learned: Learned) -> list[Due]:
    """Of a pair only the one whose turn it is: the other than was done last; where a line does not say which it was,
    they are counted.
    """
    pairs: dict[str, list[Due]] = {}
    for row in rows:
        if row.task.pair:
            pairs.setdefault(row.task.pair, []).append(row)
    gone: set[str] = set()
    for twins in pairs.values():
        ids = [row.task.id for row in twins]
        first = twins[0].task
        done_ = [e for e in learned.entries if e.what == first.does and e.place == first.place]
        done_ += [e for e in learned.entries if e.source in {f"task {k}" for k in ids} and e not in done_]
        done_ = sorted((e for e in done_ if e.what in WORKED), key=lambda e: e.moment)
        named = done_[-1].source.removeprefix("task ") if done_ else ""
        turn = (ids.index(named) + 1 if named in ids else len(done_)) % len(ids)
        gone |= {k for n, k in enumerate(ids) if n != turn}
    return [row for row in rows if row.task.id not in gone]


def _apart(rows: Sequence[Due], apart: float, today: datetime.date, learned: Learned) -> list[Due]:
    """Living places one after the other: what falls too near another is moved on, but not past its band."""
    days = round(apart / DAY)
    if days <= 0:
        return list(rows)
    done_days = [d.last for d in rows if d.task.living and d.last is not None]
    taken: list[tuple[datetime.date, str]] = [(day, "") for day in done_days if (today - day).days < days]
    found: list[Due] = []
    for row in sorted(rows, key=lambda d: (max(d.day, today), d.late or d.day, d.task.id)):
        if not row.task.living:
            found.append(row)
            continue
        day, held = max(row.day, today), ""
        for other, name in sorted(taken):
            if abs((day - other).days) < days and other != row.last:
                day, held = other + datetime.timedelta(days=days), name
        if day > max(row.day, today):
            if row.late is not None and day > row.late:
                held = (held or "another place") + "; it may overflow before that: look at its level"
            why = f"moved by {(day - max(row.day, today)).days} days: never two living places within {days}"
            row = replace(row, day=day, moved=why + (f" ({held})" if held else ""))
        taken.append((max(row.day, today), within(row.task.name)))
        found.append(row)
    return found


def _doses(study: Analysis, learned: Learned, units: UnitSystem) -> Iterable[Due]:
    """Chemical media by halves, with what is left of them."""
    from fuente.upkeep.stock import dosed, left_of, used_by

    everything = sorted([*learned.entries, *used_by(study, learned.entries)], key=lambda e: e.moment)
    for each in study.system.upkeep.dosed:
        made = dosed(study, each)
        if made is None:
            continue
        amount = made.volume / 2 if each.halves else made.volume
        every = made.stuff.life / 2 if each.halves else made.stuff.life
        left = left_of(everything, each.medium, made.stuff.name.lower())
        rest = f"{left:.0f} left" if left is not None else "stock not written down"
        task = Task(
            f"dose.{each.medium}.{each.tank}",
            f"{made.stuff.name}: renew {'half' if each.halves else 'all'}, {shown(amount, 'volume', units)}",
            every,
            "Half at a time, so that water does not swing and what is fresh works on.",
            each.tank,
            each.tank,
            minutes=5,
            tools=("net bag", "bucket"),
            how=("Rinse the new half in the bucket until no dust comes", "Take the older bag out, put the new one in"),
            does="done",
            uses=((each.medium, 1.0),),
        )
        yield replace(_due(task, learned, units), why=f"every {_span(every)} · {rest}")


def _trials(study: Analysis, learned: Learned) -> Iterable[Due]:
    """The day from which a new filter may be judged, told until a month after it."""
    started = study.system.keeping.started
    if not started:
        return
    for device in study.system.filters:
        held = [h.medium for h in device.holds() if h.medium]
        weeks = [study.system.catalogue.media[m].matures for m in held if m in study.system.catalogue.media]
        span = max([w * 7 for w in weeks if w < 60] or [42])
        day = datetime.date.fromisoformat(started) + datetime.timedelta(days=round(span + 14))
        if day + datetime.timedelta(days=30) < learned.today.date():
            continue
        task = Task(
            f"{device.id}.trial",
            f"{device.title} may be judged",
            math.inf,
            "Until its media are mature and it was left alone for two weeks, a verdict is about the start alone.",
            device.id,
            device.id,
            minutes=10,
        )
        if last_done(task, learned) is None:
            yield Due(task, None, day, None, None, "mature by then, and left alone for two weeks")


def meanwhile(study: Analysis, task: Task, units: UnitSystem) -> str:
    """What stands where while a task's room is emptied, and what must not run dry; empty where none is."""
    rooms = {r.id for r in study.rooms()}
    if task.room not in rooms:
        return ""
    found = study.try_situation("cleaning", task.room)
    if isinstance(found, FuenteError) or not isinstance(found, Situation):
        return ""
    return found.verdict.filled(units)


def minutes_of(rows: Iterable[Due]) -> float:
    """Minutes of all of them."""
    return sum(d.task.minutes for d in rows)
