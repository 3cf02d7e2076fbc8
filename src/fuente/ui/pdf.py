"""The plan as PDF: section to scale, list, cautions; A4."""

from __future__ import annotations

from pathlib import Path

from PySide6.QtCore import QMarginsF, QPointF, QRectF, QSizeF, Qt
from PySide6.QtGui import QColor, QFont, QPageLayout, QPageSize, QPainter, QPdfWriter, QPen

from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.shown.section import section
from fuente.study.analysis import Analysis
from fuente.ui import theme
from fuente.ui.application import application
from fuente.ui.painting import paint_drawing
from fuente.workshop.bill import bill, table
from fuente.workshop.export import shown_situation

_DPI = 96 * 4
_SCALES = (1, 2, 5, 8, 10, 12, 15, 20, 25, 40, 50)


class _Page:
    """A cursor down the page, which turns it when it is full."""

    def __init__(self, writer: QPdfWriter, painter: QPainter, title: str):
        self.writer, self.painter, self.title = writer, painter, title
        size = QSizeF(writer.width(), writer.height())
        self.width, self.height = size.width(), size.height()
        self.y = 0.0
        self.number = 1
        self._foot()

    def font(self, points: float, bold: bool = False) -> QFont:
        made = QFont(theme.FAMILY)
        made.setPointSizeF(points)
        made.setWeight(QFont.Weight.DemiBold if bold else QFont.Weight.Normal)
        made.setFeature(QFont.Tag("calt"), 0)
        return made

    def mm(self, length: float) -> float:
        return length / 25.4 * _DPI

    def _foot(self) -> None:
        p = self.painter
        p.setFont(self.font(7.5))
        p.setPen(QColor("#5B6A73"))
        words = f"{self.title} · page {self.number} · estimates for planning, not an engineer's certificate"
        p.drawText(QRectF(0, self.height - self.mm(5), self.width, self.mm(5)), Qt.AlignmentFlag.AlignLeft, words)

    def turn(self) -> None:
        self.writer.newPage()
        self.number += 1
        self.y = 0.0
        self._foot()

    def text(
        self, words: str, points: float = 9, bold: bool = False, colour: str = "#22303A", gap: float = 1.2
    ) -> None:
        p = self.painter
        p.setFont(self.font(points, bold))
        p.setPen(QColor(colour))
        flags = Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap
        box = p.boundingRect(QRectF(0, 0, self.width, 1e6), int(flags), words)
        if self.y + box.height() > self.height - self.mm(9):
            self.turn()
            p.setFont(self.font(points, bold))
            p.setPen(QColor(colour))
        p.drawText(QRectF(0, self.y, self.width, box.height()), int(flags), words)
        self.y += box.height() + self.mm(gap)

    def row(self, cells: tuple[str, ...], widths: tuple[float, ...], bold: bool = False) -> None:
        p = self.painter
        p.setFont(self.font(8, bold))
        flags = int(Qt.AlignmentFlag.AlignLeft | Qt.TextFlag.TextWordWrap)
        boxes = [
            p.boundingRect(QRectF(0, 0, w * self.width - self.mm(2), 1e6), flags, c)
            for c, w in zip(cells, widths, strict=True)
        ]
        height = max(b.height() for b in boxes)
        if self.y + height > self.height - self.mm(9):
            self.turn()
            p.setFont(self.font(8, bold))
        p.setPen(QColor("#22303A"))
        x = 0.0
        for cell, width in zip(cells, widths, strict=True):
            p.drawText(QRectF(x, self.y, width * self.width - self.mm(2), height), flags, cell)
            x += width * self.width
        self.y += height + self.mm(0.6)
        p.setPen(QPen(QColor("#D3DCDA"), 1))
        p.drawLine(QPointF(0, self.y), QPointF(self.width, self.y))
        self.y += self.mm(0.6)


def export_pdf(analysis: Analysis, path: Path) -> None:
    """Write the plan. Raises FuenteError when the file cannot be written."""
    application()
    try:
        with path.open("ab"):
            pass
    except OSError as error:
        raise FuenteError(f"“{path.name}” cannot be written: {error.strerror or error}.") from None
    with theme.on_paper(_DPI / 96 * 0.8):
        _write(analysis, path)


def _write(analysis: Analysis, path: Path) -> None:
    system = analysis.system
    writer = QPdfWriter(str(path))
    writer.setTitle(system.name)
    writer.setCreator("Fuente")
    writer.setResolution(_DPI)
    writer.setPageLayout(
        QPageLayout(
            QPageSize(QPageSize.PageSizeId.A4),
            QPageLayout.Orientation.Portrait,
            QMarginsF(14, 12, 14, 10),
            QPageLayout.Unit.Millimeter,
        )
    )
    painter = QPainter()
    if not painter.begin(writer):
        raise FuenteError(f"“{path.name}” cannot be written.")
    page = _Page(writer, painter, system.name)
    page.text(system.name, 17, True)
    page.text(" · ".join(filter(None, (system.place, shown_situation(analysis).title.lower()))), 9, colour="#5B6A73")
    _section(page, analysis)
    units = system.units
    page.text("What Fuente would change", 11, True)
    found = findings(analysis)
    for each in found:
        page.text(f"{each.rank.word}: {each.filled(units)}", 8.5)
    if not found:
        page.text("Nothing: every situation leaves the margins that were asked for.", 8.5)
    page.text("What each situation leaves", 11, True)
    for name in analysis.names():
        case = analysis.try_situation(name)
        words = str(case) if isinstance(case, FuenteError) else f"{case.title}: {case.verdict.filled(units)}"
        page.text(words, 8.5, gap=0.6)
    page.turn()
    page.text("To order and cut", 13, True)
    widths = (0.09, 0.28, 0.27, 0.36)
    total = bill(analysis)
    group = ""
    for kind, count, what, size, note in table(total, units):
        if kind != group:
            group = kind
            page.y += page.mm(1.5)
            page.text(kind, 9.5, True, gap=0.6)
        page.row((count, what, size, note), widths)
    page.y += page.mm(3)
    page.text("Before you cut, drill and fill", 11, True)
    for caution in total.cautions:
        page.text("• " + caution, 8.5, gap=0.8)
    painter.end()


def _section(page: _Page, analysis: Analysis) -> None:
    drawing = section(analysis, shown_situation(analysis))
    x0, y0, x1, y1 = drawing.bounds()
    room_w, room_h = page.width - page.mm(34), page.mm(120)
    fit = max((x1 - x0) / (room_w / _DPI * 25.4), (y1 - y0) / (room_h / _DPI * 25.4))
    ratio = next((s for s in _SCALES if s >= fit), _SCALES[-1])
    scale = _DPI / 25.4 / ratio
    left = page.mm(15) - x0 * scale
    base = page.y + page.mm(8) + y1 * scale
    paint_drawing(page.painter, drawing, (scale, left, base), analysis.system.units)
    page.y = base - y0 * scale + page.mm(9)
    page.text(f"Section at 1 : {ratio}. This bar is 100 mm on the thing:", 8.5, gap=0.8)
    p = page.painter
    p.setPen(QPen(QColor("#22303A"), page.mm(0.5)))
    p.drawLine(QPointF(0, page.y + page.mm(1)), QPointF(100 * scale, page.y + page.mm(1)))
    page.y += page.mm(5)
