"""What is due in a month, as a page to print."""

from __future__ import annotations

import calendar
import datetime
from collections.abc import Sequence
from pathlib import Path

from PySide6.QtCore import QRectF, Qt
from PySide6.QtGui import QColor, QPen

from fuente.ui.paper import INK, QUIET, RULE, Page, Size, paper
from fuente.upkeep.due import Due

FOOT = "days follow what is written into the log: print it anew when it has changed"
_DAYS = ("Mon", "Tue", "Wed", "Thu", "Fri", "Sat", "Sun")


def days_of(rows: Sequence[Due], first: datetime.date, today: datetime.date) -> dict[datetime.date, list[str]]:
    """Tasks by the day of the month that begins with ``first``: each at its next day, and again by its interval."""
    last = first.replace(day=calendar.monthrange(first.year, first.month)[1])
    found: dict[datetime.date, list[str]] = {}
    for row in rows:
        day = max(row.day, today)
        every = max(round(min(row.task.interval, 3650 * 86400.0) / 86400.0), 1)
        if row.task.interval == float("inf"):
            every = 100_000
        while day <= last:
            if day >= first:
                found.setdefault(day, []).append(row.task.name)
            day += datetime.timedelta(days=every)
    return found


def export_month(name: str, rows: Sequence[Due], first: datetime.date, path: Path, size: Size = "A4") -> None:
    """Write it. Raises FuenteError where it cannot be written."""
    with paper(path, name, size, FOOT) as page:
        month_page(page, name, days_of(rows, first, datetime.datetime.now().astimezone().date()), first)


def month_page(page: Page, name: str, days: dict[datetime.date, list[str]], first: datetime.date) -> None:
    """Weeks as rows, from Monday; what does not fit into a day follows under the table."""
    page.text(f"{first:%B %Y}", 16, True)
    page.text(name, 10, colour=QUIET)
    weeks = calendar.Calendar().monthdatescalendar(first.year, first.month)
    p = page.painter
    left, top = 0.0, page.y + page.mm(4)
    wide, tall = page.width / 7, min(page.mm(34), (page.room - page.mm(20)) / len(weeks))
    p.setFont(page.font(8, True))
    p.setPen(QColor(QUIET))
    for k, name_of_day in enumerate(_DAYS):
        p.drawText(QRectF(left + k * wide, top, wide, page.mm(5)), Qt.AlignmentFlag.AlignLeft, name_of_day)
    top += page.mm(6)
    rest: list[str] = []
    for r, week in enumerate(weeks):
        for k, day in enumerate(week):
            cell = QRectF(left + k * wide, top + r * tall, wide, tall)
            p.setPen(QPen(QColor(RULE), page.mm(0.2)))
            p.drawRect(cell)
            if day.month != first.month:
                continue
            p.setPen(QColor(INK))
            p.setFont(page.font(9, True))
            p.drawText(cell.adjusted(page.mm(1), page.mm(0.8), 0, 0), Qt.AlignmentFlag.AlignLeft, str(day.day))
            p.setFont(page.font(6.5))
            inner = cell.adjusted(page.mm(1), page.mm(5), -page.mm(1), -page.mm(0.5))
            names = days.get(day, [])
            kept = list(names)
            flags = int(Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap)
            while kept:
                words = "\n".join(f"□ {n}" for n in kept) + ("\n…" if len(kept) < len(names) else "")
                if p.boundingRect(inner, flags, words).height() <= inner.height():
                    p.drawText(inner, flags, words)
                    break
                kept.pop()
            rest += [f"{day.day} {day:%b}: {n}" for n in names[len(kept) :]]
    page.y = top + len(weeks) * tall + page.mm(4)
    for line in rest:
        page.text(line, 8)
