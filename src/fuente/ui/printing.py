"""A page of the window on paper: as it stands, under the design's name and the day."""

from __future__ import annotations

import datetime

from PySide6.QtCore import QMarginsF, QPoint, QRectF, Qt
from PySide6.QtGui import QFont, QPageLayout, QPageSize, QPainter
from PySide6.QtPrintSupport import QPrinter
from PySide6.QtWidgets import QWidget

from fuente.ui import theme
from fuente.units import UnitSystem

HEAD = 26.0  # points


def printer_for(units: UnitSystem) -> QPrinter:
    """A printer lying across, on the paper of these units."""
    made = QPrinter(QPrinter.PrinterMode.HighResolution)
    size = QPageSize.PageSizeId.Letter if units == UnitSystem.US else QPageSize.PageSizeId.A4
    margins = QMarginsF(12, 12, 12, 12)
    made.setPageLayout(
        QPageLayout(QPageSize(size), QPageLayout.Orientation.Landscape, margins, QPageLayout.Unit.Millimeter)
    )
    return made


def print_widget(widget: QWidget, printer: QPrinter, title: str, today: datetime.date) -> bool:
    """Paint a page of the window onto one of the printer's; whether the printer began."""
    printer.setDocName(title)
    painter = QPainter()
    if not painter.begin(printer):
        return False
    point = printer.resolution() / 72
    room = QRectF(printer.pageRect(QPrinter.Unit.DevicePixel))
    room.moveTo(0, 0)
    font = QFont(theme.FAMILY)  # its plain figures: a PDF is searched for them
    font.setFeature(QFont.Tag("calt"), 0)
    font.setPointSizeF(11)
    painter.setFont(font)
    head = QRectF(0, 0, room.width(), HEAD * point)
    painter.drawText(head, int(Qt.AlignmentFlag.AlignLeft), title)
    painter.drawText(head, int(Qt.AlignmentFlag.AlignRight), f"{today:%-d %B %Y}")
    scale = min(room.width() / widget.width(), (room.height() - head.height()) / widget.height())
    painter.translate(0, head.height())
    painter.scale(scale, scale)
    widget.render(painter, QPoint(0, 0))
    painter.end()
    return True
