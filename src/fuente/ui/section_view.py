"""The section to scale, with handles that can be taken. It paints a Drawing; it draws nothing of its own."""

from __future__ import annotations

import itertools

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QBrush,
    QColor,
    QFontMetricsF,
    QKeyEvent,
    QLinearGradient,
    QMouseEvent,
    QPainter,
    QPaintEvent,
    QPen,
    QPolygonF,
)
from PySide6.QtWidgets import QWidget

from fuente.devices.base import Change, Edit
from fuente.drawing.primitives import Circle, Dimension, Drawing, Handle, Label, Polygon, Polyline
from fuente.ui import theme
from fuente.units import UnitSystem, fill, shown

GRAB = 11.0  # px


class SectionView(QWidget):
    """Shows a drawing; emits edits as handles move."""

    moving = Signal(object)  # Edit while a handle moves
    moved = Signal(object)  # Edit when it is let go
    cancelled = Signal()
    picked = Signal(str)  # owner under a click
    clicked = Signal()
    typed = Signal(object)  # Dimension or Handle that was double-clicked

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("ground")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Section")
        self.setAccessibleDescription(
            "The system in section, to scale. Tab goes through its handles, arrow keys move one, Enter types a value."
        )
        self.setMinimumSize(320, 240)
        self.editable = True
        self.what, self.legend = "Section", ""
        self.wordless = False  # a small picture: shapes only
        self._drawing = Drawing(())
        self._units = UnitSystem.METRIC
        self._selected = ""
        self._caption = ""
        self._hover: int | None = None
        self._grabbed: int | None = None
        self._start = QPointF()
        self._held: Handle | None = None
        self._focus: int | None = None
        self._last: Edit | None = None

    # -- content --------------------------------------------------------------------------------------------------

    def sizeHint(self) -> QSize:
        """Room for a tank over a sump."""
        return QSize(700, 500)

    def show_drawing(self, drawing: Drawing, units: UnitSystem, selected: str, caption: str) -> None:
        """Show a drawing with one station standing out."""
        self._drawing, self._units, self._selected, self._caption = drawing, units, selected, caption
        if self._focus is not None and self._focus >= len(drawing.handles):
            self._focus = None
        self.update()

    def drawing(self) -> Drawing:
        """What is shown."""
        return self._drawing

    # -- geometry -------------------------------------------------------------------------------------------------

    def _frame(self) -> tuple[float, float, float]:
        """Scale px/mm, and the offset of the drawing's origin in px."""
        x0, y0, x1, y1 = self._drawing.bounds()
        fm = QFontMetricsF(theme.font(12))
        pad_x, top, low = fm.height() * 3.0, fm.height() * 2.6, fm.height() * 1.9
        if self.wordless:
            pad_x = top = low = 6.0
        wide, high = max(self.width() - 2 * pad_x, 50), max(self.height() - top - low, 50)
        scale = min(wide / max(x1 - x0, 1), high / max(y1 - y0, 1))
        left = pad_x + (wide - scale * (x1 - x0)) / 2 - x0 * scale
        base = top + (high - scale * (y1 - y0)) / 2 + y1 * scale
        return scale, left, base

    def to_screen(self, point: tuple[float, float]) -> QPointF:
        """Pixels of a point in mm."""
        scale, left, base = self._frame()
        return QPointF(left + point[0] * scale, base - point[1] * scale)

    def scale_ratio(self) -> float:
        """How many mm of the thing a mm of screen stands for."""
        scale, _, _ = self._frame()
        dpi = self.logicalDpiX() or 96
        return 1 / (scale * 25.4 / dpi)

    def handle_at(self, position: QPointF) -> int | None:
        """The nearest handle within reach."""
        best, found = GRAB * theme.scale(), None
        for i, handle in enumerate(self._drawing.handles):
            gap = self.to_screen(handle.at) - position
            distance = (gap.x() ** 2 + gap.y() ** 2) ** 0.5
            if distance < best:
                best, found = distance, i
        return found

    # -- mouse and keys -------------------------------------------------------------------------------------------

    def mouseMoveEvent(self, event: QMouseEvent) -> None:
        """Move the grabbed handle, or light the one under the pointer."""
        if self._held is not None:
            scale, _, _ = self._frame()
            delta = event.position() - self._start
            mm = delta.x() / scale if self._held.axis == "x" else -delta.y() / scale
            self._last = self.edit_for(self._held, self._held.value + self._held.gain * mm / 1000)
            self.moving.emit(self._last)
            return
        hover = self.handle_at(event.position()) if self.editable else None
        if hover != self._hover:
            self._hover = hover
            if hover is None:
                self.unsetCursor()
                self.setToolTip("")
            else:
                handle = self._drawing.handles[hover]
                vertical = handle.axis == "y"
                self.setCursor(Qt.CursorShape.SizeVerCursor if vertical else Qt.CursorShape.SizeHorCursor)
            self.update()

    def mousePressEvent(self, event: QMouseEvent) -> None:
        """Take a handle, or pick what is under the pointer."""
        if event.button() != Qt.MouseButton.LeftButton:
            return
        self.clicked.emit()
        index = self.handle_at(event.position()) if self.editable else None
        if index is None:
            owner = self._owner_at(event.position())
            if owner:
                self.picked.emit(owner)
            return
        self._grabbed = self._focus = index
        self._held = self._drawing.handles[index]
        self._start = event.position()
        self._last = None
        if self._held.owner:
            self.picked.emit(self._held.owner)
        self.update()

    def mouseReleaseEvent(self, event: QMouseEvent) -> None:
        """Let go: the edit is made."""
        if self._held is None:
            return
        last, self._held, self._grabbed, self._last = self._last, None, None, None
        if last is not None:
            self.moved.emit(last)
        self.update()

    def mouseDoubleClickEvent(self, event: QMouseEvent) -> None:
        """Type the value of a handle or dimension."""
        self._held = self._grabbed = None
        if not self.editable:
            return
        index = self.handle_at(event.position())
        if index is not None:
            self.typed.emit(self._drawing.handles[index])
            return
        for shape in self._drawing.shapes:
            if isinstance(shape, Dimension) and shape.path and self._dimension_box(shape).contains(event.position()):
                self.typed.emit(shape)
                return

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Handles by keyboard: Tab, arrows, Enter, Esc."""
        key = event.key()
        if key == Qt.Key.Key_Escape and self._held is not None:
            self._held = self._grabbed = self._last = None
            self.cancelled.emit()
            self.update()
            return
        if self._focus is None or not self.editable:
            super().keyPressEvent(event)
            return
        handle = self._drawing.handles[self._focus]
        along = {
            Qt.Key.Key_Up: ("y", 1),
            Qt.Key.Key_Down: ("y", -1),
            Qt.Key.Key_Right: ("x", 1),
            Qt.Key.Key_Left: ("x", -1),
        }
        if key in along and along[key][0] == handle.axis:
            step = self._grid(handle)
            if event.modifiers() & Qt.KeyboardModifier.ShiftModifier:
                step *= 10
            way = 1.0 if handle.gain > 0 else -1.0
            self.moved.emit(self.edit_for(handle, handle.value + along[key][1] * step * way))
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.typed.emit(handle)
        else:
            super().keyPressEvent(event)

    def focusNextPrevChild(self, forward: bool) -> bool:
        """Tab walks through the handles before it leaves."""
        count = len(self._drawing.handles) if self.editable else 0
        if not count:
            return super().focusNextPrevChild(forward)
        start = -1 if forward else count
        after = (start if self._focus is None else self._focus) + (1 if forward else -1)
        if 0 <= after < count:
            self._focus = after
            owner = self._drawing.handles[after].owner
            if owner:
                self.picked.emit(owner)
            self.update()
            return True
        self._focus = None
        self.update()
        return super().focusNextPrevChild(forward)

    def edit_for(self, handle: Handle, value: float) -> Edit:
        """The edit that puts a handle to a value, within its limits, on whole millimetres (or sixteenths), or degrees."""
        grid = self._grid(handle)
        value = round(min(max(round(value / grid) * grid, handle.low), handle.high), 6)
        changes = [Change(handle.path, value)]
        if handle.partner:
            path, was = handle.partner
            changes.append(Change(path, round(was - (value - handle.value), 6)))
        verb = "Raise" if value > handle.value else "Lower"
        if handle.axis == "x":
            verb = "Widen" if value > handle.value else "Narrow"
        if handle.quantity == "angle":
            verb = "Close" if value > handle.value else "Open"
        return Edit(f"{verb} {handle.verb}", tuple(changes))

    def _grid(self, handle: Handle) -> float:
        """The step on which a handle's values lie."""
        if handle.quantity == "angle":
            return 1.0
        return 0.001 if self._units == UnitSystem.METRIC else 0.0254 / 16

    def _owner_at(self, position: QPointF) -> str:
        scale, left, base = self._frame()
        x, y = (position.x() - left) / scale, (base - position.y()) / scale
        for shape in reversed(self._drawing.shapes):
            if isinstance(shape, Polygon) and shape.owner and _inside(x, y, shape.points):
                return shape.owner
            if (
                isinstance(shape, Polyline)
                and shape.owner
                and shape.width
                and _near(x, y, shape.points, shape.width / 2 + 8)
            ):
                return shape.owner
        return ""

    # -- painting -------------------------------------------------------------------------------------------------

    def paintEvent(self, event: QPaintEvent) -> None:
        """Shapes, labels, handles."""
        painter = QPainter(self)
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.fillRect(self.rect(), theme.color("ground"))
        if not self._drawing.shapes:
            return
        paint_drawing(painter, self._drawing, self._frame(), self._units, self._selected, not self.wordless)
        if self.wordless:
            painter.end()
            return
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("muted"))
        words = f"{self.what} · 1 : {self.scale_ratio():.0f} · looking at the front"
        words = f"{words} · {self.legend}" if self.legend else words
        painter.drawText(QPointF(theme.px(12), theme.px(20)), f"{self._caption} · {words}" if self._caption else words)
        if self.editable:
            self._paint_handles(painter)
        painter.end()

    def _paint_handles(self, painter: QPainter) -> None:
        size = 4.5 * min(theme.scale(), 1.2)
        lit = self._grabbed if self._grabbed is not None else self._hover if self._hover is not None else self._focus
        for i, handle in enumerate(self._drawing.handles):
            at = self.to_screen(handle.at)
            mine = handle.owner == self._selected
            if handle.quiet and not mine and i != lit:
                continue
            active = i == lit and (self._grabbed is not None or self._hover is not None or self.hasFocus())
            painter.setPen(QPen(theme.color("pumped"), 2.2 if mine or active else 1.3))
            painter.setBrush(theme.color("pumped") if active else theme.color("ground"))
            r = size * (1.35 if active else 1.0 if mine else 0.72)
            if handle.axis == "x":
                painter.drawRoundedRect(QRectF(at.x() - r * 0.6, at.y() - r * 1.2, r * 1.2, r * 2.4), 2, 2)
            else:
                painter.drawEllipse(at, r, r)
        if lit is not None and lit < len(self._drawing.handles):
            handle = self._drawing.handles[lit]
            if self._grabbed is not None or self._hover is not None or self.hasFocus():
                words = f"{handle.name} {shown(handle.value, handle.quantity, self._units)}"
                _bubble(painter, self.to_screen(handle.at), words, self.rect())

    def _dimension_box(self, shape: Dimension) -> QRectF:
        a, b = self.to_screen(shape.start), self.to_screen(shape.end)
        scale, _, _ = self._frame()
        x = max(a.x(), b.x()) + shape.aside * scale
        return QRectF(x - 6, min(a.y(), b.y()), theme.px(64), abs(a.y() - b.y()))


def _inside(x: float, y: float, points: tuple[tuple[float, float], ...]) -> bool:
    inside = False
    for (x0, y0), (x1, y1) in zip(points, (*points[1:], points[0]), strict=True):
        if (y0 > y) != (y1 > y) and x < (x1 - x0) * (y - y0) / (y1 - y0) + x0:
            inside = not inside
    return inside


def _near(x: float, y: float, points: tuple[tuple[float, float], ...], reach: float) -> bool:
    for (x0, y0), (x1, y1) in itertools.pairwise(points):
        length = (x1 - x0) ** 2 + (y1 - y0) ** 2
        t = 0.0 if not length else max(0.0, min(1.0, ((x - x0) * (x1 - x0) + (y - y0) * (y1 - y0)) / length))
        if (x - x0 - t * (x1 - x0)) ** 2 + (y - y0 - t * (y1 - y0)) ** 2 < reach**2:
            return True
    return False


def _bubble(painter: QPainter, at: QPointF, words: str, room: object) -> None:
    painter.setFont(theme.font(12, theme.BOLD))
    fm = painter.fontMetrics()
    width, height = fm.horizontalAdvance(words) + theme.px(18), fm.height() + theme.px(8)
    bounds = QRectF(room)  # type: ignore[call-overload]
    x = min(max(at.x() - width / 2, bounds.left() + 4), bounds.right() - width - 4)
    y = at.y() - height - theme.px(14)
    if y < bounds.top() + 2:
        y = at.y() + theme.px(14)
    painter.setPen(Qt.PenStyle.NoPen)
    painter.setBrush(theme.color("bar"))
    painter.drawRoundedRect(QRectF(x, y, width, height), theme.px(5), theme.px(5))
    painter.setPen(theme.color("bar_ink"))
    painter.drawText(QRectF(x, y, width, height), Qt.AlignmentFlag.AlignCenter, words)


# -- painting a drawing, also for the PDF --------------------------------------------------------------------------


def paint_drawing(
    painter: QPainter,
    drawing: Drawing,
    frame: tuple[float, float, float],
    units: UnitSystem,
    selected: str = "",
    words: bool = True,
) -> None:
    """Paint shapes and labels; frame is (scale, x of the origin, y of the origin)."""
    scale, left, base = frame

    def at(point: tuple[float, float]) -> QPointF:
        return QPointF(left + point[0] * scale, base - point[1] * scale)

    t = theme.current()
    for shape in drawing.shapes:
        if isinstance(shape, Polygon):
            _polygon(
                painter, shape, QPolygonF([at(p) for p in shape.points]), t, bool(selected) and shape.owner == selected
            )
        elif isinstance(shape, Polyline):
            _polyline(painter, shape, QPolygonF([at(p) for p in shape.points]), scale, t)
        elif isinstance(shape, Circle):
            painter.setPen(QPen(QColor(t.living if shape.style == "carrier" else t.pumped), 1.2))
            painter.setBrush(QColor(t.ground))
            painter.drawEllipse(at(shape.centre), shape.radius * scale, shape.radius * scale)
    if not words:
        return
    for shape in drawing.shapes:
        if isinstance(shape, Label):
            _label(painter, shape, at(shape.at), scale, units, t)
        elif isinstance(shape, Dimension):
            _dimension(painter, shape, at(shape.start), at(shape.end), scale, units, t)


def _polygon(painter: QPainter, shape: Polygon, polygon: QPolygonF, t: theme.Theme, chosen: bool) -> None:
    style = shape.style
    pen: QPen | Qt.PenStyle = Qt.PenStyle.NoPen
    if style == "water":
        box = polygon.boundingRect()
        gradient = QLinearGradient(box.topLeft(), box.bottomLeft())
        gradient.setColorAt(0, QColor(t.water_top))
        gradient.setColorAt(1, QColor(t.water_low))
        brush = QBrush(gradient)
    elif style == "nappe":
        brush = QBrush(QColor(t.water_top))
    elif style in ("glass", "baffle"):
        brush = QBrush(QColor(t.line))
    elif style == "acrylic":
        brush = QBrush(QColor(t.muted))
    elif style in ("teeth", "plate"):
        brush = QBrush(QColor(t.muted), Qt.BrushStyle.Dense3Pattern)
    elif style.startswith("pad"):
        base = QColor(t.ground)
        base.setAlpha(70)
        painter.setPen(QPen(QColor(t.muted), 1))
        painter.setBrush(base)
        painter.drawPolygon(polygon)
        pattern = {
            "pad-coarse": Qt.BrushStyle.Dense7Pattern,
            "pad-medium": Qt.BrushStyle.Dense6Pattern,
            "pad-fine": Qt.BrushStyle.Dense5Pattern,
        }[style]
        brush = QBrush(QColor(t.line), pattern)
    elif style == "sock":
        soft = QColor(t.ground)
        soft.setAlpha(200)
        brush = QBrush(soft)
        pen = QPen(QColor(t.muted), 1.2)
    elif style == "gravel":
        brush = QBrush(QColor("#B9B09A" if t.name == "light" else "#6E6754"))
    elif style == "media":
        brush = QBrush(QColor(t.living), Qt.BrushStyle.Dense6Pattern)
        pen = QPen(QColor(t.living), 1.2)
    elif style == "heater":
        brush = QBrush(QColor("#F3D9C6" if t.name == "light" else "#6A4630"))
        pen = QPen(QColor(t.stop), 1.2)
    elif style == "bar-room":
        brush = QBrush(QColor(t.panel2))
        pen = QPen(QColor(t.muted), 0.8)
    elif style in ("bar", "bar-least", "bar-most"):
        brush = QBrush(QColor({"bar": t.surface, "bar-least": t.stop, "bar-most": t.pumped}[style]))
    elif style == "pump":
        brush = QBrush(QColor(t.ground))
        pen = QPen(QColor(t.pumped), 2)
    else:
        brush = QBrush(QColor(t.panel2))
        pen = QPen(QColor(t.line), 1)
    painter.setPen(pen)
    painter.setBrush(brush)
    painter.drawPolygon(polygon)
    if chosen and style == "water":
        glow = QColor(t.accent)
        glow.setAlpha(60)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.setBrush(glow)
        painter.drawPolygon(polygon)


def _polyline(painter: QPainter, shape: Polyline, line: QPolygonF, scale: float, t: theme.Theme) -> None:
    painter.setBrush(Qt.BrushStyle.NoBrush)
    style = shape.style
    if shape.width:
        width = max(shape.width * scale, 3.0)
        edge = {"pipe-fall": t.surface, "pipe-pumped": t.pumped_text, "pipe-back": t.pumped, "pipe-still": t.muted}.get(
            style, t.muted
        )
        body = {"pipe-fall": t.fall, "pipe-pumped": t.pumped, "pipe-back": t.ground, "pipe-still": t.panel2}.get(
            style, t.ground
        )
        outer = QPen(QColor(edge), width, Qt.PenStyle.SolidLine, Qt.PenCapStyle.FlatCap, Qt.PenJoinStyle.MiterJoin)
        painter.setPen(outer)
        painter.drawPolyline(line)
        inner = QPen(
            QColor(body),
            max(width - 2.4, 1.0),
            Qt.PenStyle.SolidLine,
            Qt.PenCapStyle.FlatCap,
            Qt.PenJoinStyle.MiterJoin,
        )
        painter.setPen(inner)
        painter.drawPolyline(line)
        if style == "pipe-back":
            dash = QPen(QColor(t.pumped), max(width - 2.4, 1.0), Qt.PenStyle.CustomDashLine, Qt.PenCapStyle.FlatCap)
            dash.setDashPattern([1.2, 1.0])
            painter.setPen(dash)
            painter.drawPolyline(line)
        return
    if style == "surface":
        painter.setPen(QPen(QColor(t.surface), 2))
    elif style == "mark":
        painter.setPen(QPen(QColor(t.muted), 1.3, Qt.PenStyle.DashLine))
    elif style == "mark-stop":
        painter.setPen(QPen(QColor(t.stop), 1.8, Qt.PenStyle.DashLine))
    elif style == "plant":
        painter.setPen(QPen(QColor(t.living), 2))
    elif style == "chosen":
        painter.setPen(QPen(QColor(t.accent), 2.2))
    elif style == "valve-handle":
        painter.setPen(QPen(QColor(t.pumped), 2.2, Qt.PenStyle.SolidLine, Qt.PenCapStyle.RoundCap))
    else:
        painter.setPen(QPen(QColor(t.line), 1))
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
        "label-mark": (11, theme.MEDIUM, t.ink),
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
    if label.room and width > label.room * scale + theme.px(2):
        if label.style == "label-under":
            words = _shorter(words, label.room * scale, fm)
            width = fm.horizontalAdvance(words)
        elif label.style in ("label-small", "label-tag"):
            return
    if label.rotated:
        painter.save()
        painter.translate(at)
        painter.rotate(-90)
        painter.drawText(QPointF(-width / 2, height * 0.75), words)
        painter.restore()
        return
    if label.style == "label-tag":
        chip = QRectF(at.x() - width / 2 - 3, at.y() - height * 0.5, width + 6, height)
        painter.setPen(Qt.PenStyle.NoPen)
        ground = QColor(t.ground)
        ground.setAlpha(215)
        painter.setBrush(ground)
        painter.drawRoundedRect(chip, 3, 3)
        painter.setPen(QColor(look[2]))
    x = at.x() - {"left": 0, "middle": width / 2, "right": width}[label.anchor]
    painter.drawText(QPointF(x, at.y() + height * 0.32), words)


def _shorter(words: str, room: float, fm: object) -> str:
    """The first word where all do not fit; its start where even that does not."""
    first = words.split()[0]
    if fm.horizontalAdvance(first) <= room + 6:  # type: ignore[attr-defined]
        return first
    return ""  # the station list names it


def _dimension(
    painter: QPainter, shape: Dimension, a: QPointF, b: QPointF, scale: float, units: UnitSystem, t: theme.Theme
) -> None:
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


__all__ = ["SectionView", "paint_drawing"]
