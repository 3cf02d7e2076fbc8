"""Fuente's own mark: two stepped waters and the fall between them, drawn at any size."""

from __future__ import annotations

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QIcon, QImage, QPainter, QPainterPath, QPen, QPixmap

SIZES = (16, 24, 32, 48, 64, 128, 256)
_GROUND, _WATER, _DEEP, _RISE = "#22303A", "#63ABBD", "#3E8FA3", "#B5652B"


def image(size: int) -> QImage:
    """The mark, size by size px."""
    made = QImage(size, size, QImage.Format.Format_ARGB32_Premultiplied)
    made.fill(Qt.GlobalColor.transparent)
    painter = QPainter(made)
    painter.setRenderHint(QPainter.RenderHint.Antialiasing)
    painter.scale(size / 64.0, size / 64.0)
    paint(painter)
    painter.end()
    return made


def paint(painter: QPainter) -> None:
    """In a square of 64."""
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QColor(_GROUND))
    painter.drawRoundedRect(QRectF(2, 2, 60, 60), 13, 13)
    painter.setBrush(QColor(_WATER))
    painter.drawRoundedRect(QRectF(11, 15, 27, 17), 2, 2)
    painter.setBrush(QColor(_DEEP))
    painter.drawRoundedRect(QRectF(26, 40, 27, 13), 2, 2)
    fall = QPainterPath(QPointF(36, 20))
    fall.cubicTo(QPointF(43, 20), QPointF(43, 26), QPointF(43, 43))
    painter.setBrush(Qt.BrushStyle.NoBrush)
    painter.setPen(QPen(QColor(_WATER), 5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    painter.drawPath(fall)
    rise = QPainterPath(QPointF(18, 49))
    rise.lineTo(QPointF(18, 37))
    painter.setPen(QPen(QColor(_RISE), 4.5, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    painter.drawPath(rise)
    painter.drawLine(QPointF(18, 49), QPointF(26, 49))


def icon() -> QIcon:
    """For windows and the desktop."""
    made = QIcon()
    for size in SIZES:
        made.addPixmap(QPixmap.fromImage(image(size)))
    return made
