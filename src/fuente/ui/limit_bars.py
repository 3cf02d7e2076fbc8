"""What sets the pace of each place with living surface: a bar for each thing that it needs."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import QAbstractButton, QWidget

from fuente.study.limits import FULL, IDLE, Pace, said
from fuente.ui import theme
from fuente.ui.label import tip
from fuente.units import UnitSystem, shown

NAMES = {
    "ammonia": "Ammonia",
    "oxygen": "Oxygen",
    "surface": "Surface",
    "contact": "Contact",
    "temperature": "Warmth",
    "ph": "pH",
}


class LimitBars(QAbstractButton):
    """One place: its name, its surface and its part of the work, and six bars. The longest sets the pace; a mark and
    bold type say so besides its colour. Pressed, it is among those that are cleaned on one day.
    """

    def __init__(self, pace: Pace, units: UnitSystem, home: str = "", parent: QWidget | None = None):
        super().__init__(parent)
        self.pace, self.units, self.home = pace, units, home
        self.setCheckable(True)
        self.setCursor(Qt.CursorShape.PointingHandCursor)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setToolTip(
            tip(f"{said(pace, units)} Press it to see what cleaning it does, alone or with others on one day.")
        )
        self.setAccessibleName(f"{pace.place.title}: {said(pace, units)}")

    def sizeHint(self) -> QSize:
        """See QWidget."""
        return QSize(theme.px(210), theme.px(42 + 17 * len(NAMES)))

    def minimumSizeHint(self) -> QSize:
        """See QWidget."""
        return QSize(theme.px(170), theme.px(42 + 17 * len(NAMES)))

    def held_back(self) -> dict[str, float]:
        """How much each thing holds it back, 0 to 1: of what it could, what it does not for want of ammonia; else by
        how much more it would do with more of that thing, as far as it is at work at all.
        """
        pace = self.pace
        waits = pace.limit == "ammonia"
        works = min(pace.used / IDLE, 1.0) if waits else 1.0
        found = {need: works * min(gain / FULL[need], 1.0) for need, gain in pace.gains.items()}
        found["ammonia"] = max(1.0 - pace.used, 0.0) if waits or pace.used >= IDLE else 0.0
        return found

    def paintEvent(self, event: QPaintEvent) -> None:
        """See QWidget."""
        t, pace = theme.current(), self.pace
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.translate(theme.px(6), theme.px(3))  # room for its frame
        wide = self.width() - theme.px(12)
        painter.setFont(theme.font(13, theme.MEDIUM))
        painter.setPen(QColor(t.ink))
        name = painter.fontMetrics().elidedText(pace.place.title, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(QRectF(0, 0, wide, theme.px(18)), Qt.AlignmentFlag.AlignVCenter, name)
        painter.setFont(theme.font(11))
        painter.setPen(QColor(t.muted))
        words = f"{shown(pace.place.area, 'area', self.units)}, {100 * pace.share:.0f} % of the work"
        words = f"{self.home} · {words}" if self.home else words
        words = f"✓ cleaned · {words}" if self.isChecked() else words
        words = painter.fontMetrics().elidedText(words, Qt.TextElideMode.ElideRight, wide)
        painter.drawText(QRectF(0, theme.px(18), wide, theme.px(16)), Qt.AlignmentFlag.AlignVCenter, words)
        left, top = theme.px(62), theme.px(40)
        for n, (need, length) in enumerate((k, self.held_back().get(k, 0.0)) for k in NAMES):
            y = top + n * theme.px(17)
            chosen = need == pace.limit
            painter.setFont(theme.font(11, theme.MEDIUM if chosen else QFont.Weight.Normal))
            painter.setPen(QColor(t.ink if chosen else t.muted))
            painter.drawText(QRectF(0, y, left, theme.px(14)), Qt.AlignmentFlag.AlignVCenter, NAMES[need])
            painter.setPen(Qt.PenStyle.NoPen)
            painter.setBrush(QColor(t.panel2))
            room = wide - left
            painter.drawRoundedRect(QRectF(left, y + theme.px(3), room, theme.px(9)), 2, 2)
            painter.setBrush(QColor(t.pumped if chosen else t.water_top))
            if length > 0.005:
                painter.drawRoundedRect(QRectF(left, y + theme.px(3), max(room * length, 2), theme.px(9)), 2, 2)
        if self.isChecked() or self.hasFocus():
            pen = QPen(QColor(t.accent), 2.0 if self.isChecked() else 1.0)
            painter.resetTransform()
            painter.setPen(pen)
            painter.setBrush(Qt.BrushStyle.NoBrush)
            painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 4, 4)
        painter.end()
