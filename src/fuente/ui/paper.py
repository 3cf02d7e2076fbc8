"""Pages of a PDF: a cursor down the page, words, rows, drawings at a scale."""

from __future__ import annotations

from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Literal

from PySide6.QtCore import QMarginsF, QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QColor, QFont, QPageLayout, QPageSize, QPainter, QPdfWriter, QPen
from PySide6.QtWidgets import QApplication

from fuente.drawing.primitives import Drawing
from fuente.errors import FuenteError
from fuente.ui import theme
from fuente.ui.application import application
from fuente.ui.painting import paint_drawing
from fuente.units import UnitSystem

DPI = 96 * 4
SCALES = (1, 2, 5, 8, 10, 12, 15, 20, 25, 40, 50, 75, 100)
INK, QUIET, RULE = "#22303A", "#5B6A73", "#D3DCDA"
ESTIMATE = "estimates for planning, not an engineer's certificate"
Size = Literal["A4", "Letter"]
_SIZES = {"A4": QPageSize.PageSizeId.A4, "Letter": QPageSize.PageSizeId.Letter}


class Page:
    """A cursor down the page, which turns it when it is full."""

    def __init__(self, writer: QPdfWriter, painter: QPainter, title: str, foot: str = ESTIMATE):
        self.writer, self.painter, self.title, self._words = writer, painter, title, foot
        size = QSizeF(writer.width(), writer.height())
        self.width, self.height = size.width(), size.height()
        self.y = 0.0
        self.number = 1
        self._foot()

    @property
    def room(self) -> float:
        """What is left of the page, in its own units."""
        return self.height - self.mm(9) - self.y

    def font(self, points: float, bold: bool = False) -> QFont:
        """The page's font."""
        made = QFont(theme.FAMILY)
        made.setPointSizeF(points)
        made.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
        made.setFeature(QFont.Tag("calt"), 0)
        return made

    def mm(self, length: float) -> float:
        """mm of paper in the page's own units."""
        return length / 25.4 * DPI

    def _foot(self) -> None:
        p = self.painter
        p.setFont(self.font(7.5))
        p.setPen(QColor(QUIET))
        words = f"{self.title} · page {self.number} · {self._words}"
        p.drawText(QRectF(0, self.height - self.mm(5), self.width, self.mm(5)), Qt.AlignmentFlag.AlignLeft, words)

    def turn(self) -> None:
        """A new page."""
        self.writer.newPage()
        self.number += 1
        self.y = 0.0
        self._foot()

    def keep(self, height: float) -> None:
        """Turn the page where less than a height in mm is left."""
        if self.room < self.mm(height):
            self.turn()

    def text(self, words: str, points: float = 9, bold: bool = False, colour: str = INK, gap: float = 1.2) -> None:
        """A paragraph; words are never markup."""
        p = self.painter
        p.setFont(self.font(points, bold))
        p.setPen(QColor(colour))
        flags = Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap
        box = p.boundingRect(QRectF(0, 0, self.width, 1e6), int(flags), words)
        if box.height() > self.room:
            self.turn()
            p.setFont(self.font(points, bold))
            p.setPen(QColor(colour))
        p.drawText(QRectF(0, self.y, self.width, box.height()), int(flags), words)
        self.y += box.height() + self.mm(gap)

    def row(self, cells: tuple[str, ...], widths: tuple[float, ...], bold: bool = False) -> None:
        """A row of a table, with a rule under it; widths are shares of the page."""
        p = self.painter
        p.setFont(self.font(8, bold))
        flags = int(Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap)
        boxes = [
            p.boundingRect(QRectF(0, 0, w * self.width - self.mm(2), 1e6), flags, c)
            for c, w in zip(cells, widths, strict=True)
        ]
        height = max(b.height() for b in boxes)
        if height > self.room:
            self.turn()
            p.setFont(self.font(8, bold))
        p.setPen(QColor(INK))
        x = 0.0
        for cell, width in zip(cells, widths, strict=True):
            p.drawText(QRectF(x, self.y, width * self.width - self.mm(2), height), flags, cell)
            x += width * self.width
        self.y += height + self.mm(0.6)
        p.setPen(QPen(QColor(RULE), 1))
        p.drawLine(QPointF(0, self.y), QPointF(self.width, self.y))
        self.y += self.mm(0.6)

    def drawing(self, drawing: Drawing, units: UnitSystem, most: float, bar: bool = False, words: str = "") -> None:
        """A drawing at the largest even scale within a height in mm, with that scale and a bar under it where asked."""
        x0, y0, x1, y1 = drawing.bounds()
        self.keep(min(most, 60) + 14)
        room_w, room_h = self.width - self.mm(34), min(self.mm(most), self.room - self.mm(16))
        fit = max((x1 - x0) / (room_w / DPI * 25.4), (y1 - y0) / (room_h / DPI * 25.4))
        ratio = next((s for s in SCALES if s >= fit), SCALES[-1])
        scale = DPI / 25.4 / ratio
        left = self.mm(15) - x0 * scale
        base = self.y + self.mm(8) + y1 * scale
        paint_drawing(self.painter, drawing, (scale, left, base), units)
        self.y = base - y0 * scale + self.mm(9)
        said = f"{words} at 1 : {ratio}" if words else f"1 : {ratio}"
        self.text(f"{said}. This bar is 100 mm on the thing:" if bar else f"{said}.", 8.5, gap=0.8)
        if bar:
            self.bar(100 * scale)

    def bar(self, length: float) -> None:
        """A thick line of a length in the page's own units."""
        p = self.painter
        p.setPen(QPen(QColor(INK), self.mm(0.5), Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap))
        p.drawLine(QPointF(0, self.y + self.mm(1)), QPointF(length, self.y + self.mm(1)))
        self.y += self.mm(5)


@contextmanager
def paper(path: Path, title: str, size: Size = "A4", foot: str = ESTIMATE) -> Iterator[Page]:
    """A PDF to write on. Raises FuenteError when the file cannot be written."""
    if QApplication.instance() is None:  # from the shell; a window keeps the style that it has
        application()
    try:
        with path.open("ab"):
            pass
    except OSError as error:
        raise FuenteError(f"“{path.name}” cannot be written: {error.strerror or error}.") from None
    with theme.on_paper(DPI / 96 * 0.8):
        writer = QPdfWriter(str(path))
        writer.setTitle(title)
        writer.setCreator("Fuente")
        writer.setResolution(DPI)
        writer.setPageLayout(
            QPageLayout(
                QPageSize(_SIZES[size]),
                QPageLayout.Orientation.Portrait,
                QMarginsF(14, 12, 14, 10),
                QPageLayout.Unit.Millimeter,
            )
        )
        painter = QPainter()
        if not painter.begin(writer):
            raise FuenteError(f"“{path.name}” cannot be written.")
        try:
            yield Page(writer, painter, title, foot)
        finally:
            painter.end()
