"""A drawing painted with Qt: for the screen and for the PDF."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QBrush, QColor, QLinearGradient, QPainter, QPen, QPolygonF

from fuente.drawing.primitives import Circle, Dimension, Drawing, Label, Polygon, Polyline
from fuente.ui import ink, theme
from fuente.units import UnitSystem, fill, shown


def paint_drawing(
    painter: QPainter,
    drawing: Drawing,
    frame: tuple[float, float, float],
    units: UnitSystem,
    selected: str = "",
    words: bool = True,
    waters: Sequence[QColor] = (),
) -> None:
    """Paint shapes and labels; frame is (scale, x of the origin, y of the origin); ``waters`` are the colours of each
    water, back to front, where they stand for what it holds.
    """
    scale, left, base = frame
    colours = iter(waters)

    def at(point: tuple[float, float]) -> QPointF:
        return QPointF(left + point[0] * scale, base - point[1] * scale)

    t = theme.current()
    for shape in drawing.shapes:
        if isinstance(shape, Polygon):
            own = next(colours, None) if shape.style == "water" else None
            chosen = bool(selected) and shape.owner == selected
            _polygon(painter, shape, QPolygonF([at(p) for p in shape.points]), t, chosen, own)
        elif isinstance(shape, Polyline):
            _polyline(painter, shape, QPolygonF([at(p) for p in shape.points]), scale, t)
        elif isinstance(shape, Circle):
            brush, pen = ink.circle_of(shape.style, t)
            painter.setPen(pen)
            painter.setBrush(brush)
            radius = shape.radius * scale
            if shape.style in ink.FILLED:  # a number stands in it
                radius = max(radius, theme.px(8))
            painter.drawEllipse(at(shape.centre), radius, radius)
    if not words:
        return
    for shape in drawing.shapes:
        if isinstance(shape, Label):
            _label(painter, shape, at(shape.at), scale, units, t)
        elif isinstance(shape, Dimension):
            _dimension(painter, shape, at(shape.start), at(shape.end), scale, units, t)


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


def _label(painter: QPainter, label: Label, at: QPointF, scale: float, units: UnitSystem, t: theme.Theme) -> None:
    look = {
        "label-strong": (13, theme.BOLD, t.fall_text if t.name == "light" else t.ink),
        "label-small": (11, theme.MEDIUM, t.ink),
        "label-share": (12, theme.MEDIUM, t.ink),
        "label-tag": (11, theme.MEDIUM, t.ink),
        "label-under": (12, theme.MEDIUM, t.muted),
        "label-fall": (12, theme.BOLD, t.fall_text),
        "label-pumped": (12, theme.BOLD, t.pumped_text),
        "label-air": (12, theme.BOLD, t.air),
        "label-mark": (11, theme.MEDIUM, t.ink),
        "label-number": (11, theme.BOLD, t.ground),
        "label-stop": (11, theme.BOLD, t.stop),
    }.get(label.style, (12, theme.MEDIUM, t.ink))
    painter.setFont(theme.font(look[0], look[1]))
    painter.setPen(QColor(look[2]))
    words = fill(label.text, dict(label.values), units)
    fm = painter.fontMetrics()
    width, height = fm.horizontalAdvance(words), fm.height()
    if label.tall and fm.ascent() > label.tall * scale:
        return
    if label.style == "label-share" and fm.horizontalAdvance("000.0" + words[-4:]) > label.room * scale:
        # All of a rack alike: the caption says the unit.
        words = fill(label.text.replace(":flow}", ":flow:bare}"), dict(label.values), units)
        painter.setFont(theme.font(11, theme.MEDIUM))
        width = painter.fontMetrics().horizontalAdvance(words)
        if width > label.room * scale + theme.px(4):
            return
    chip = 6 if label.style == "label-tag" else 0  # a tag's own ground is wider than its words
    if label.room and width + chip > label.room * scale + theme.px(2):
        if label.style == "label-under":
            words = _shorter(words, label.room * scale, fm)
            width = fm.horizontalAdvance(words)
        elif label.style in ("label-small", "label-tag", "label-strong"):
            return
        elif label.style == "label-fall" and label.side and width > label.room * scale + theme.px(6):
            return  # a short pipe among others: its card says it
    if label.rotated:
        if label.room and width > label.room * scale:  # past its pipe it would stand in what is above and below it
            words = words.split(", ")[0]
            width = fm.horizontalAdvance(words)
        painter.save()
        painter.translate(at)
        painter.rotate(-90)
        painter.drawText(QPointF(-width / 2, height * 0.75), words)
        painter.restore()
        return
    x = at.x() - {"left": 0, "middle": width / 2, "right": width}[label.anchor]
    pushed = False
    if label.style in ("label-mark", "label-stop"):  # they stand beside the drawing: not cut off by the view's edge
        most = painter.window().right() - width - 4
        x, pushed = min(x, most), x > most
    if label.style == "label-tag" or pushed:  # over other things: on a ground of its own
        painter.setPen(Qt.PenStyle.NoPen)
        ground = QColor(t.ground)
        ground.setAlpha(215)
        painter.setBrush(ground)
        painter.drawRoundedRect(QRectF(x - 3, at.y() - height * 0.5, width + 6, height), 3, 3)
        painter.setPen(QColor(look[2]))
    y = {0: height * 0.32, 1: -fm.descent() - 2, -1: fm.ascent() + 2}[label.side]
    painter.drawText(QPointF(x, at.y() + y), words)


def _shorter(words: str, room: float, fm: object) -> str:
    """The first word where all do not fit; its start where even that does not."""
    first = words.split()[0]
    if fm.horizontalAdvance(first) <= room + 6:  # type: ignore[attr-defined]
        return first
    return ""  # the station list names it


def _dimension(
    painter: QPainter, shape: Dimension, a: QPointF, b: QPointF, scale: float, units: UnitSystem, t: theme.Theme
) -> None:
    if shape.level:
        _level_dimension(painter, shape, a, b, scale, units, t)
        return
    x = max(a.x(), b.x()) + shape.aside * scale
    painter.setPen(QPen(QColor(t.muted), 1))
    painter.drawLine(QPointF(x, a.y()), QPointF(x, b.y()))
    for y in (a.y(), b.y()):
        painter.drawLine(QPointF(x - 4, y), QPointF(x + 4, y))
    painter.setFont(theme.font(11, theme.MEDIUM))
    painter.setPen(QColor(t.ink if shape.path else t.muted))
    words = shown(shape.value, "length", units)
    fm = painter.fontMetrics()
    painter.save()
    painter.translate(QPointF(x, (a.y() + b.y()) / 2))
    painter.rotate(-90)
    # On the side away from the thing.
    painter.drawText(
        QPointF(-fm.horizontalAdvance(words) / 2, -fm.descent() - 2 if shape.aside < 0 else fm.height()), words
    )
    painter.restore()


def _level_dimension(
    painter: QPainter, shape: Dimension, a: QPointF, b: QPointF, scale: float, units: UnitSystem, t: theme.Theme
) -> None:
    y = min(a.y(), b.y()) - shape.aside * scale
    painter.setPen(QPen(QColor(t.muted), 1))
    painter.drawLine(QPointF(a.x(), y), QPointF(b.x(), y))
    for x in (a.x(), b.x()):
        painter.drawLine(QPointF(x, y - 4), QPointF(x, y + 4))
    painter.setFont(theme.font(11, theme.MEDIUM))
    words = shown(shape.value, "length", units)
    fm = painter.fontMetrics()
    at = y + fm.ascent() + 3 if shape.aside < 0 else y - fm.descent() - 3
    painter.drawText(QPointF((a.x() + b.x() - fm.horizontalAdvance(words)) / 2, at), words)
