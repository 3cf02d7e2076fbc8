"""The day and the time of day that a line of the log begins with: ``yesterday``, ``3 days ago``, ``12 nov 18:30``."""

from __future__ import annotations

import calendar
import datetime
import re
from collections.abc import Sequence

_MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
_DATE = re.compile(
    r"^(?:(?P<iso>\d{4}-\d{2}-\d{2})|(?P<ago>\d+)\s+days?\s+ago|(?P<day>\d{1,2})\.?\s+(?P<month>[a-z]{3,9})\.?(?:\s+(?P<year>\d{4}))?"
    r"|(?P<month2>[a-z]{3,9})\.?\s+(?P<day2>\d{1,2})(?:st|nd|rd|th)?(?:\s+(?P<year2>\d{4}))?(?!\S)"
    r"|(?P<word>today|yesterday|(?:last\s+)?(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*))\s*[:,]?\s*",
    re.IGNORECASE,
)
_CLOCK = re.compile(r"^(?:at\s+)?(?P<hour>[01]?\d|2[0-3])[:h.](?P<minute>[0-5]\d)\s*(?P<half>am|pm)?\s*[:,]?\s*", re.I)


def dated(line: str, when: datetime.datetime) -> tuple[str, datetime.datetime]:
    """The line without the day and the time of day before it, and the moment that they say; never one to come."""
    day, rest = when.date(), line
    found = _DATE.match(rest)
    if found is not None:
        made = _day_of(found, day)
        if made is not None:
            day, rest = made, rest[found.end() :]
    clock = _CLOCK.match(rest)
    moment = when
    if clock is not None and not re.match(r"\s*(mm|cm|l|g|%|mg)", rest[clock.end() :], re.IGNORECASE):
        hour = int(clock["hour"]) % 12 + 12 if (clock["half"] or "").lower() == "pm" else int(clock["hour"])
        if (clock["half"] or "").lower() == "am" and hour == 12:
            hour = 0
        moment = moment.replace(hour=hour, minute=int(clock["minute"]), second=0)
        rest = rest[clock.end() :]
    elif day != when.date():
        moment = moment.replace(hour=12, minute=0, second=0)
    moment = moment.replace(year=day.year, month=day.month, day=day.day)
    return (rest, moment) if moment <= when + datetime.timedelta(minutes=1) else (line, when)


def _day_of(found: re.Match[str], today: datetime.date) -> datetime.date | None:
    try:
        if found["iso"]:
            return datetime.date.fromisoformat(found["iso"])
        if found["ago"]:
            return today - datetime.timedelta(days=int(found["ago"]))
        if found["word"]:
            word = found["word"].lower().removeprefix("last").strip()
            if word in ("today", "yesterday"):
                return today - datetime.timedelta(days=word == "yesterday")
            if word not in (d for d in _weekdays()):
                return None
            back = (today.weekday() - _DAYS.index(word[:3])) % 7 or 7
            return today - datetime.timedelta(days=back)
        number, name, year = (
            found["day"] or found["day2"],
            found["month"] or found["month2"],
            found["year"] or found["year2"],
        )
        if name is None or name.lower()[:3] not in _MONTHS or not _is_month(name.lower()):
            return None
        month = _MONTHS.index(name.lower()[:3]) + 1
        made = datetime.date(int(year) if year else today.year, month, int(number))
        return made if year or made <= today else made.replace(year=today.year - 1)
    except (ValueError, OverflowError):
        return None


def _weekdays() -> Sequence[str]:
    full = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")
    return (*full, *_DAYS, "tues", "thurs", "thur")


def _is_month(name: str) -> bool:
    return name in _MONTHS or name in [m.lower() for m in calendar.month_name[1:]] or name == "sept"
