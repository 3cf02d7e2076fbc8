"""Fuente's own small signs for the stations, in one line weight, on a 20 × 20 field."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QPainter, QPainterPath, QPen

# Each glyph is strokes: lists of points, or ("o", x, y, r) for a ring.
_STROKES: dict[str, list[Any]] = {
    "tank": [[(2, 4), (2, 17), (18, 17), (18, 4)], [(2, 8), (18, 8)]],
    "weir": [[(11, 18), (11, 8)], [(2, 6), (9, 6), (12, 7), (14, 11), (14, 18)]],
    "standpipe": [[(7, 18), (7, 6)], [(13, 18), (13, 6)], [(2, 9), (7, 9)], [(13, 9), (18, 9)], [(10, 3), (10, 12)]],
    "baffle": [[(10, 18), (10, 6)], [(2, 9), (10, 9)], [(10, 13), (18, 13)]],
    "pad": [[(5, 3), (5, 17), (15, 17), (15, 3), (5, 3)], ("o", 8, 7, 1), ("o", 12, 10, 1), ("o", 8, 13, 1)],
    "sock": [[(5, 4), (5, 13), (8, 17), (12, 17), (15, 13), (15, 4)], [(3, 4), (17, 4)]],
    "carrier": [("o", 7, 12, 3.4), ("o", 14, 7, 2.6), ("o", 14, 15, 1.8)],
    "media": [("o", 6, 14, 2.6), ("o", 13, 14, 2.6), ("o", 9.5, 8, 2.6)],
    "plant": [[(10, 18), (10, 8)], [(10, 12), (5, 8)], [(10, 10), (15, 6)]],
    "heater": [[(8, 3), (8, 16), (12, 16), (12, 3), (8, 3)], [(10, 13), (10, 7)]],
    "trap": [[(5, 17), (5, 7)], [(10, 13), (10, 3)], [(15, 17), (15, 7)]],
    "pump": [("o", 9, 11, 5), [(9, 6), (17, 6)], [(9, 11), (12, 8)]],
    "settle": [[(2, 4), (2, 17), (18, 17), (18, 4)], [(5, 14), (15, 14)], [(7, 11), (13, 11)]],
    "sponge": [
        [(4, 9), (4, 17), (16, 17), (16, 9), (4, 9)],
        [(10, 9), (10, 3), (15, 3)],
        ("o", 7, 13, 1),
        ("o", 13, 14, 1),
    ],
    "bottle": [
        [(6, 18), (6, 7), (8, 4), (8, 2)],
        [(14, 18), (14, 7), (12, 4), (12, 2)],
        [(6, 18), (14, 18)],
        ("o", 9, 14, 1.6),
        ("o", 11.5, 10, 1.6),
    ],
    "plate": [
        [(2, 11), (18, 11)],
        [(4, 11), (4, 15)],
        [(16, 11), (16, 15)],
        ("o", 6, 8, 1),
        ("o", 10, 7, 1),
        ("o", 14, 8, 1),
        [(2, 17), (18, 17)],
    ],
    "ornament": [
        [(5, 18), (5, 10), (3, 9), (8, 5), (8, 3), (12, 3), (12, 5), (17, 9), (15, 10), (15, 18), (5, 18)],
        [(8, 14), (12, 14)],
    ],
    "drum": [
        [(4, 4), (4, 16)],
        [(16, 4), (16, 16)],
        [(4, 4), (7, 2.5), (13, 2.5), (16, 4), (13, 5.5), (7, 5.5), (4, 4)],
        [(4, 16), (7, 17.8), (13, 17.8), (16, 16)],
        [(4, 10), (16, 10)],
    ],
    "canister": [
        [(5, 6), (5, 17), (15, 17), (15, 6), (5, 6)],
        [(4, 6), (16, 6)],
        [(8, 6), (8, 2), (4, 2)],
        [(12, 6), (12, 2), (16, 2)],
        [(5, 11), (15, 11)],
    ],
    "rim_box": [
        [(3, 5), (3, 18)],
        [(6, 8), (6, 14), (17, 14), (17, 5)],
        [(6, 8), (1, 8)],
        [(10, 6), (10, 14)],
        [(13, 6), (13, 14)],
    ],
    "tower": [
        [(5, 3), (15, 3)],
        [(6, 3), (6, 17)],
        [(14, 3), (14, 17)],
        [(8.5, 6), (8.5, 8)],
        [(11.5, 6), (11.5, 8)],
        [(8.5, 11), (8.5, 13)],
        [(11.5, 11), (11.5, 13)],
        [(6, 17), (14, 17)],
    ],
    "sieve": [
        [(2, 4), (2, 17), (18, 17), (18, 4)],
        [(2, 8), (5, 8)],
        [(6.5, 8), (9, 8)],
        [(10.5, 8), (13, 8)],
        [(14.5, 8), (18, 8)],
    ],
    "lamp": [
        [(3, 8), (17, 8), (17, 12), (3, 12), (3, 8)],
        [(6, 5), (6, 3)],
        [(10, 5), (10, 3)],
        [(14, 5), (14, 3)],
        [(6, 15), (6, 17)],
        [(14, 15), (14, 17)],
    ],
    "air": [("o", 7, 13, 3), ("o", 13.5, 9, 2.2), ("o", 9, 5, 1.4)],
    "chamber": [[(2, 4), (2, 17), (18, 17), (18, 4)]],
}


def paint(painter: QPainter, name: str, box: QRectF, colour: QColor) -> None:
    """Draw a glyph into a box."""
    k = box.width() / 20
    pen = QPen(colour, max(1.2, 1.5 * k), Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap, Qt.PenJoinStyle.RoundJoin)
    painter.save()
    painter.setPen(pen)
    painter.setBrush(Qt.BrushStyle.NoBrush)
    for stroke in _STROKES.get(name, _STROKES["chamber"]):
        if isinstance(stroke, tuple):
            _, x, y, r = stroke
            painter.drawEllipse(QPointF(box.x() + x * k, box.y() + y * k), r * k, r * k)
            continue
        path = QPainterPath()
        for i, (x, y) in enumerate(stroke):
            point = QPointF(box.x() + x * k, box.y() + y * k)
            path.lineTo(point) if i else path.moveTo(point)
        painter.drawPath(path)
    painter.restore()


def paint_rank(painter: QPainter, rank: int, centre: QPointF, size: float, colour: QColor) -> None:
    """The sign of a rank: a full diamond for Stop, an open triangle for Fix, a dot for Consider."""
    painter.save()
    painter.setPen(QPen(colour, 1.8))
    if rank == 2:
        painter.setBrush(colour)
        painter.drawEllipse(centre, size * 0.35, size * 0.35)
    else:
        path = QPainterPath()
        shape = [(0, -1), (1, 0), (0, 1), (-1, 0)] if rank == 0 else [(0, -0.95), (1, 0.8), (-1, 0.8)]
        for i, (x, y) in enumerate(shape):
            point = QPointF(centre.x() + x * size * 0.75, centre.y() + y * size * 0.75)
            path.lineTo(point) if i else path.moveTo(point)
        path.closeSubpath()
        painter.setBrush(colour if rank == 0 else Qt.BrushStyle.NoBrush)
        painter.drawPath(path)
    painter.restore()
