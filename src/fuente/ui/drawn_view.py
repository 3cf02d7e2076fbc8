"""A drawing of the build room, fitted to its place, with its scale."""

from __future__ import annotations

from PySide6.QtCore import QRectF, QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent
from PySide6.QtWidgets import QWidget

from fuente.drawing.primitives import Drawing
from fuente.ui import theme
from fuente.ui.painting import paint_drawing
from fuente.units import UnitSystem


class DrawnView(QWidget):
    """Shows a drawing to scale, or says why there is none."""

    draws_itself = True  # Copy takes it as a picture

    def __init__(self, name: str, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("ground")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setMinimumSize(theme.px(240), theme.px(150))
        self.setAccessibleName(name)
        self._drawing: Drawing | None = None
        self._units = UnitSystem.METRIC
        self.words = ""

    def sizeHint(self) -> QSize:
        """Room for a sheet."""
        return QSize(theme.px(640), theme.px(360))

    def show_drawing(self, drawing: Drawing | None, units: UnitSystem, words: str) -> None:
        """A drawing and what stands under it; without one the words alone."""
        self._drawing, self._units, self.words = drawing, units, words
        self.setAccessibleDescription(words)
        self.update()

    def drawing(self) -> Drawing | None:
        """What is shown."""
        return self._drawing

    def paintEvent(self, event: QPaintEvent) -> None:
        """The drawing in the middle, words and scale under it."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.fillRect(self.rect(), theme.color("ground"))
        p.setFont(theme.font(12))
        if self._drawing is None or not self._drawing.shapes:
            p.setPen(theme.color("muted"))
            flags = int(Qt.AlignmentFlag.AlignCenter | Qt.TextFlag.TextWordWrap)
            room = QRectF(self.rect()).adjusted(theme.px(30), 0, -theme.px(30), 0)
            p.drawText(room, flags, self.words)
            p.end()
            return
        x0, y0, x1, y1 = self._drawing.bounds()
        foot, side, top = theme.px(40), theme.px(56), theme.px(16)
        room_w, room_h = max(self.width() - 2 * side, 40), max(self.height() - foot - 2 * top, 40)
        scale = min(room_w / max(x1 - x0, 1e-6), room_h / max(y1 - y0, 1e-6))
        scale = min(scale, self.logicalDpiX() / 25.4)  # never larger than it is
        left = (self.width() - (x1 - x0) * scale) / 2 - x0 * scale
        base = top + (room_h - (y1 - y0) * scale) / 2 + y1 * scale
        paint_drawing(p, self._drawing, (scale, left, base), self._units)
        p.setPen(theme.color("muted"))
        p.setFont(theme.font(12))
        ratio = (self.logicalDpiX() / 25.4) / scale
        said = f"{self.words} · 1 : {ratio:.3g}" if self.words else f"1 : {ratio:.3g}"
        place = QRectF(theme.px(8), self.height() - foot + theme.px(8), self.width() - theme.px(16), foot)
        p.drawText(place, int(Qt.AlignmentFlag.AlignHCenter | Qt.AlignmentFlag.AlignTop), said)
        p.end()
