"""What is due as an iCalendar file."""

from __future__ import annotations

import datetime
import hashlib
from collections.abc import Sequence

from fuente.units import UnitSystem, shown
from fuente.upkeep.due import Due

_ID = "-//Fuente//Upkeep//EN"


def as_calendar(name: str, rows: Sequence[Due], now: datetime.datetime, units: UnitSystem) -> bytes:
    """Each task as an all-day event of its next day, with its checklist; what has passed stands today."""
    from icalendar import Alarm, Calendar, Event

    calendar = Calendar()
    calendar.add("prodid", _ID)
    calendar.add("version", "2.0")
    calendar.add("x-wr-calname", name)
    for row in rows:
        task = row.task
        event = Event()
        key = hashlib.sha256(f"{name}\x00{task.id}".encode()).hexdigest()[:24]
        event.add("uid", f"{key}@fuente")
        event.add("dtstamp", now.astimezone(datetime.UTC))
        day = max(row.day, now.date())
        event.add("dtstart", day)
        event.add("dtend", day + datetime.timedelta(days=1))
        event.add("summary", task.name)
        event.add("description", "\n".join(told(row, units)))
        event.add("transp", "TRANSPARENT")
        alarm = Alarm()
        alarm.add("action", "DISPLAY")
        alarm.add("description", task.name)
        alarm.add("trigger", datetime.timedelta(hours=9))
        event.add_component(alarm)
        calendar.add_component(event)
    return bytes(calendar.to_ical())


def told(row: Due, units: UnitSystem) -> list[str]:
    """A task in lines: why now, how long, with what, and its steps."""
    task = row.task
    lines = [f"{row.why}. {task.why}" if row.why else task.why]
    if row.moved:
        lines.append(row.moved)
    work = f"{task.minutes:.0f} minutes"
    if task.litres > 0:
        work += f", {shown(task.litres, 'volume', units)} of water"
    if task.tools:
        work += f"; at hand: {', '.join(task.tools)}"
    lines.append(work)
    lines += [f"- {step}" for step in task.how]
    return lines
