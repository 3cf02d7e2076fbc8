"""A drawing painted with Qt: for the screen and for the PDF."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QLinearGradient, QPainter, QPen, QPolygonF

from fuente.drawing.primitives import Circle, Dimension, Drawing, Polygon, Polyline
from fuente.ui import ink, theme
from fuente.ui.placing import Left, Words, placed
from fuente.units import UnitSystem


def paint_drawing(
    painter: QPainter,
    drawing: Drawing,
    frame: tuple[float, float, float],
    units: UnitSystem,
    selected: str = "",
    words: bool = True,
    waters: Sequence[QColor] = (),
    blocked: Sequence[QRectF] = (),
    room: QRectF | None = None,
) -> list[Left]:
    """Paint shapes and labels; frame is (scale, x of the origin, y of the origin); ``waters`` are the colours of each
    water, back to front, where they stand for what it holds; ``blocked`` is what other words cover, ``room`` what there
    is for words where it is not all that the painter has. What found no room.
    """
    scale, left, base = frame
    colours = iter(waters)

    def at(point: tuple[float, float]) -> QPointF:
        return QPointF(left + point[0] * scale, base - point[1] * scale)

    def line(points: Sequence[tuple[float, float]]) -> QPolygonF:
        return QPolygonF([QPointF(left + x * scale, base - y * scale) for x, y in points])

    t = theme.current()
    for shape in drawing.shapes:
        if isinstance(shape, Polygon):
            own = next(colours, None) if shape.style == "water" else None
            chosen = bool(selected) and shape.owner == selected
            _polygon(painter, shape, line(shape.points), t, chosen, own)
        elif isinstance(shape, Polyline):
            _polyline(painter, shape, line(shape.points), scale, t)
        elif isinstance(shape, Circle):
            brush, pen = ink.circle_of(shape.style, t)
            painter.setPen(pen)
            painter.setBrush(brush)
            radius = shape.radius * scale
            if shape.style in ink.FILLED:  # a number stands in it
                radius = max(radius, theme.px(8))
            painter.drawEllipse(at(shape.centre), radius, radius)
    if not words:
        return []
    for shape in drawing.shapes:
        if isinstance(shape, Dimension):
            _dimension(painter, shape, at(shape.start), at(shape.end), scale, t)
    found, lost = placed(drawing, frame, units, (room or QRectF(painter.window())).adjusted(2, 2, -2, -2), blocked)
    for each in found:
        _words(painter, each, t)
    return lost


def _polygon(
    painter: QPainter, shape: Polygon, polygon: QPolygonF, t: theme.Theme, chosen: bool, own: QColor | None = None
) -> None:
    if shape.style != "water":
        for brush, pen in ink.fill_of(shape.style, t):
            painter.setPen(pen)
            painter.setBrush(brush)
            painter.drawPolygon(polygon)
        return
    box = polygon.boundingRect()
    gradient = QLinearGradient(box.topLeft(), box.bottomLeft())
    gradient.setColorAt(0, QColor(t.water_top))
    gradient.setColorAt(1, QColor(t.water_low))
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(QBrush(gradient) if own is None else own)
    painter.drawPolygon(polygon)
    if chosen and own is not None:  # its colour says something
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.setPen(QPen(QColor(t.accent), 2.5))
        painter.drawPolygon(polygon)
    elif chosen:
        glow = QColor(t.accent)
        glow.setAlpha(60)
        painter.setBrush(glow)
        painter.drawPolygon(polygon)


def _polyline(painter: QPainter, shape: Polyline, line: QPolygonF, scale: float, t: theme.Theme) -> None:
    painter.setBrush(Qt.BrushStyle.NoBrush)
    wide = max(shape.width * scale, 3.0) if shape.width else 0.0
    for pen in ink.pipe_pens(shape.style, t, wide) if wide else (ink.stroke_of(shape.style, t),):
        painter.setPen(pen)
        painter.drawPolyline(line)


def _words(painter: QPainter, words: Words, t: theme.Theme) -> None:
    if words.grounded:  # over other things
        painter.setPen(Qt.PenStyle.NoPen)
        ground = QColor(t.ground)
        ground.setAlpha(215)
        painter.setBrush(ground)
        aside = 0 if words.box.left() < words.start.x() else 3
        painter.drawRoundedRect(words.box.adjusted(-aside, 0, aside, 0), 3, 3)
    painter.setFont(words.font)
    painter.setPen(QColor(getattr(t, words.tone)))
    if not words.rotated:
        painter.drawText(words.start, words.text)
        return
    painter.save()
    painter.translate(words.start)
    painter.rotate(-90)
    painter.drawText(QPointF(0, 0), words.text)
    painter.restore()


def _dimension(painter: QPainter, shape: Dimension, a: QPointF, b: QPointF, scale: float, t: theme.Theme) -> None:
    """Its line with an end at each point; the number is placed with the other words."""
    painter.setPen(QPen(QColor(t.muted), 1))
    if shape.level:
        y = min(a.y(), b.y()) - shape.aside * scale
        painter.drawLine(QPointF(a.x(), y), QPointF(b.x(), y))
        for x in (a.x(), b.x()):
            painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
        return
    x = max(a.x(), b.x()) + shape.aside * scale
    painter.drawLine(QPointF(x, a.y()), QPointF(x, b.y()))
    for y in (a.y(), b.y()):
        painter.drawLine(QPointF(x - 4, y), QPointF(x + 4, y))
