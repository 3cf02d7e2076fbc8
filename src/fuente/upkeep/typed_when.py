"""The day and the time of day that a line of the log begins or ends with: ``yesterday``, ``3 days ago``,
``12 nov 18:30``, ``12.11.2026``.
"""

from __future__ import annotations

import calendar
import datetime
import re
from collections.abc import Sequence
from dataclasses import dataclass

_MONTHS = ("jan", "feb", "mar", "apr", "may", "jun", "jul", "aug", "sep", "oct", "nov", "dec")
_DAYS = ("mon", "tue", "wed", "thu", "fri", "sat", "sun")
_SPANS = {"minute": 1 / 1440, "hour": 1 / 24, "day": 1.0, "week": 7.0}
_DAY = (
    r"(?:(?P<iso>\d{4}-\d{1,2}-\d{1,2})(?!\S*\d)"
    r"|(?P<one>\d{1,2})(?P<sign>[./])(?P<two>\d{1,2})(?P=sign)(?P<year3>\d{4}|\d{2})(?![\d.])"
    r"|(?P<ago>\d{1,6}|an?)\s+(?P<span>minute|hour|day|week)s?\s+ago"
    r"|(?P<day>\d{1,2})(?:st|nd|rd|th|\.)?\s+(?P<month>[a-z]{3,9})\.?(?:\s+(?P<year>\d{4}))?(?![\w-])"
    r"|(?P<month2>[a-z]{3,9})\.?\s+(?P<day2>\d{1,2})(?:st|nd|rd|th)?(?:,?\s+(?P<year2>\d{4}))?(?!\S*\d)(?=[:,]?(?:\s|$))"
    r"|(?P<word>today|yesterday|(?:last\s+)?(?:mon|tue|wed|thu|fri|sat|sun)[a-z]*))"
)
_HEAD = re.compile(rf"^(?:on\s+)?{_DAY}\s*[:,]?\s*", re.IGNORECASE)
_TAIL = re.compile(rf"(?:^|[\s,]+)(?:on\s+)?{_DAY}[.\s]*$", re.IGNORECASE)
_SINCE = re.compile(r"\b(?:since|until|till|before|after|from|by|to)(?:\s+\w+)?$", re.IGNORECASE)
_CLOCK = re.compile(r"^(?:at\s+)?(?P<hour>[01]?\d|2[0-3])[:h.](?P<minute>[0-5]\d)\s*(?P<half>am|pm)?\s*[:,]?\s*", re.I)


@dataclass(frozen=True)
class When:
    """What is left of a line without its day, the moment that it tells of, the words that told it, and what is doubtful
    about these.
    """

    rest: str
    moment: datetime.datetime
    words: str = ""
    doubt: str = ""


def dated(line: str, now: datetime.datetime, month_first: bool = False) -> When:
    """A line with a day or a time of day before it. The moment is never one to come: a day that is none or lies ahead
    is doubted, and now stands for it.

    ``month_first`` reads ``11/12/2026`` as the twelfth of November.
    """
    found = _HEAD.match(line)
    day = None if found is None else _day_of(found, now, month_first)
    if found is None or day is None:
        return _clocked(line, now, now, "")
    words, rest = found[0].strip(" :,"), line[found.end() :]
    if isinstance(day, str):
        return When(rest, now, words, day)
    if found["span"]:
        return (
            When(rest, day, words) if found["span"].lower() in ("minute", "hour") else _clocked(rest, day, now, words)
        )
    return _clocked(rest, day, now, words)


def dated_behind(line: str, now: datetime.datetime, month_first: bool = False) -> When | None:
    """A line that ends with its day, as in ``rinsed socks 3 days ago``; None where it does not, or where the day only
    bounds what is told (``dry since monday``).
    """
    found = _TAIL.search(line)
    while found is not None:  # "20 yesterday" looks like a day and its month: the shorter end is tried after it
        before = line[: found.start()].rstrip(" ,")
        day = _day_of(found, now, month_first) if before and not _SINCE.search(before) else None
        if isinstance(day, datetime.datetime):
            short = (found["span"] or "").lower() in ("minute", "hour")
            moment = day if short or day.date() == now.date() else _noon(day)
            return When(before, moment, found[0].strip(" ,.")) if moment <= now else None
        found = _TAIL.search(line, found.start() + 1)
    return None


def _clocked(rest: str, day: datetime.datetime, now: datetime.datetime, words: str) -> When:
    """With the time of day that follows, or noon of a day that is over."""
    clock = _CLOCK.match(rest)
    if clock is None or re.match(r"\s*(mm|cm|l|g|%|mg)", rest[clock.end() :], re.IGNORECASE):
        return When(rest, day if day.date() == now.date() else _noon(day), words)
    hour, half = int(clock["hour"]), (clock["half"] or "").lower()
    if half == "pm":
        hour = hour % 12 + 12
    elif half == "am" and hour == 12:
        hour = 0
    if hour > 23:
        return When(rest, day, words)
    moment = day.replace(hour=hour, minute=int(clock["minute"]), second=0)
    rest, words = rest[clock.end() :], f"{words} {clock[0].strip(' :,')}".strip()
    if moment > now + datetime.timedelta(minutes=1):
        return When(rest, now, words, f"{words} lies ahead; kept as of now")
    return When(rest, min(moment, now), words)


def _noon(day: datetime.datetime) -> datetime.datetime:
    return day.replace(hour=12, minute=0, second=0)


def _day_of(found: re.Match[str], now: datetime.datetime, month_first: bool) -> datetime.datetime | str | None:
    """The same time of that day; a doubt where the words tell a day that is none or lies ahead; None where they tell
    something else.
    """
    words = found[0].strip(" :,.")
    try:
        if found["span"]:
            count = float(found["ago"]) if found["ago"][0].isdigit() else 1.0
            return now - datetime.timedelta(days=count * _SPANS[found["span"].lower()])
        if found["word"]:
            return _named_day(found["word"].lower(), now)
        told = _told(found, month_first)
        if told is None:
            return None
        year, month, number = told
        made = now.replace(year=now.year if year is None else year, month=month, day=number)
        if made > now and year is None:
            made = made.replace(year=now.year - 1)
    except (ValueError, OverflowError):
        return f"{words} is no day; kept as of now"
    return made if made.date() <= now.date() else f"{words} lies ahead; kept as of now"


def _told(found: re.Match[str], month_first: bool) -> tuple[int | None, int, int] | None:
    """Year, month and day as they are written; None where no month is named."""
    if found["iso"]:
        year, month, number = (int(part) for part in found["iso"].split("-"))
        return year, month, number
    if found["one"]:
        year = int(found["year3"]) + (2000 if len(found["year3"]) == 2 else 0)
        first, second = int(found["one"]), int(found["two"])
        return (year, first, second) if month_first and found["sign"] == "/" else (year, second, first)
    name = (found["month"] or found["month2"]).lower()
    if not _is_month(name):
        return None
    written = found["year"] or found["year2"]
    return int(written) if written else None, _MONTHS.index(name[:3]) + 1, int(found["day"] or found["day2"])


def _named_day(word: str, now: datetime.datetime) -> datetime.datetime | None:
    word = word.removeprefix("last").strip()
    if word in ("today", "yesterday"):
        return now - datetime.timedelta(days=word == "yesterday")
    if word not in _weekdays():
        return None
    return now - datetime.timedelta(days=(now.weekday() - _DAYS.index(word[:3])) % 7 or 7)


def _weekdays() -> Sequence[str]:
    full = ("monday", "tuesday", "wednesday", "thursday", "friday", "saturday", "sunday")
    return (*full, *_DAYS, "tues", "thurs", "thur")


def _is_month(name: str) -> bool:
    return name in _MONTHS or name in [m.lower() for m in calendar.month_name[1:]] or name == "sept"
