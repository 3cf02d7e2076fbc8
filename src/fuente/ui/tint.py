"""The water's colour by what it holds, its figures, and the key to both."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from PySide6.QtCore import QPointF, QRect, QRectF, Qt
from PySide6.QtGui import QColor, QLinearGradient, QPainter, QPen, QPolygonF

from fuente.drawing.primitives import Drawing, Point, Polygon
from fuente.shown.in_water import Scale
from fuente.ui import theme
from fuente.units import UnitSystem

_OVER = 1.0  # share from which water is over the limit
_KEY = 132  # px


@dataclass(frozen=True)
class Tint:
    """Colours of every water back to front, figures with the water that they stand in, and the key to both."""

    colours: tuple[QColor, ...]
    figures: tuple[tuple[Polygon, str], ...]
    scale: Scale
    words: str
    units: UnitSystem


def colour_of(share: float) -> QColor:
    """From clear water over the colour of caution at the limit to that of a stop beyond it."""
    t = theme.current()
    if share < 0:
        return QColor(t.panel2)
    if share > _OVER:
        return QColor(t.stop)
    good, bad = QColor(t.water_top), QColor(t.pumped)
    mix = [a + share * (b - a) for a, b in zip(good.getRgb()[:3], bad.getRgb()[:3], strict=True)]  # type: ignore[index]
    return QColor(*(round(v) for v in mix))


def paint_figures(painter: QPainter, tint: Tint, to_screen: Callable[[Point], QPointF]) -> None:
    """What every water holds, over its foot, where there is room for it: a column of pads once."""
    painter.setFont(theme.font(11, theme.BOLD))
    fm = painter.fontMetrics()
    taken: list[QRectF] = []
    for shape, words in tint.figures:
        area = QPolygonF([to_screen(p) for p in shape.points]).boundingRect()
        wide, tall = fm.horizontalAdvance(words) + theme.px(6), float(fm.height())
        chip = QRectF(area.center().x() - wide / 2, area.bottom() - 2.1 * tall, wide, tall)
        if wide > area.width() or 2.3 * tall > area.height() or any(chip.intersects(t) for t in taken):
            continue
        taken.append(chip)
        ground = theme.color("ground")
        ground.setAlpha(215)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(ground)
        painter.drawRoundedRect(chip, 3, 3)
        painter.setPen(theme.color("ink"))
        painter.drawText(chip, Qt.AlignmentFlag.AlignCenter, words)


def paint_live(
    painter: QPainter, drawing: Drawing, live: Mapping[str, str], to_screen: Callable[[Point], QPointF]
) -> None:
    """What instruments say of a water, just under its surface, with a dot for what is live."""
    painter.setFont(theme.font(11, theme.BOLD))
    fm = painter.fontMetrics()
    done: set[str] = set()
    for shape in drawing.shapes:
        if not isinstance(shape, Polygon) or shape.style != "water":
            continue
        key = shape.cell or shape.owner
        if key not in live or key in done:
            continue
        done.add(key)
        words = live[key]
        area = QPolygonF([to_screen(p) for p in shape.points]).boundingRect()
        wide, tall = fm.horizontalAdvance(words) + theme.px(20), fm.height() + theme.px(4)
        chip = QRectF(area.center().x() - wide / 2, area.top() + theme.px(4), wide, tall)
        painter.setPen(QPen(theme.color("accent"), 1))
        painter.setBrush(theme.color("ground"))
        painter.drawRoundedRect(chip, tall / 2, tall / 2)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(theme.color("living"))
        painter.drawEllipse(QPointF(chip.left() + theme.px(8), chip.center().y()), 3, 3)
        painter.setPen(theme.color("ink"))
        painter.drawText(chip.adjusted(theme.px(10), 0, 0, 0), Qt.AlignmentFlag.AlignCenter, words)


def paint_key(painter: QPainter, tint: Tint, room: QRect) -> None:
    """A bar of colours under the choice, with its ends in words."""
    painter.setFont(theme.font(11))
    fm = painter.fontMetrics()
    low, high = tint.scale.words(tint.units)
    high = f"limit {high}" if tint.scale.limited else high
    wide, tall = float(theme.px(_KEY)), float(fm.height())
    over = theme.px(14) if tint.scale.limited else 0
    y = float(theme.px(40))
    end = room.width() - theme.px(10) - fm.horizontalAdvance(high) - theme.px(6)
    x = end - wide - over
    bar = QRectF(x, y + 0.2 * tall, wide, 0.6 * tall)
    gradient = QLinearGradient(QPointF(bar.left(), 0), QPointF(bar.right(), 0))
    gradient.setColorAt(0, colour_of(0.0))
    gradient.setColorAt(1, colour_of(_OVER))
    painter.setPen(QPen(theme.color("rule"), 1))
    painter.setBrush(gradient)
    painter.drawRect(bar)
    if over:
        painter.setBrush(colour_of(2.0))
        painter.drawRect(QRectF(bar.right(), bar.top(), over, bar.height()))
    painter.setPen(theme.color("ink"))
    middle = Qt.AlignmentFlag.AlignVCenter
    painter.drawText(QRectF(end + theme.px(6), y, 400, tall), middle, high)
    said = fm.horizontalAdvance(low)
    painter.drawText(QRectF(x - said - theme.px(6), y, said + 2, tall), middle, low)
    words = fm.horizontalAdvance(tint.words)
    if x - said - theme.px(18) - words > theme.px(12):
        painter.setPen(theme.color("muted"))
        painter.drawText(QRectF(x - said - theme.px(18) - words, y, words + 2, tall), middle, tint.words)
