"""The section to scale, with handles that can be taken. It paints a Drawing; it draws nothing of its own."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import (
    QFocusEvent,
    QFontMetrics,
    QFontMetricsF,
    QKeyEvent,
    QMouseEvent,
    QPaintEngine,
    QPainter,
    QPaintEvent,
    QPen,
)
from PySide6.QtWidgets import QWidget

from fuente.devices.base import Edit
from fuente.drawing.primitives import Dimension, Drawing, Handle, Polygon, Polyline
from fuente.ui import theme
from fuente.ui.bubble import paint_bubble
from fuente.ui.handle_edit import edit_for, step_of
from fuente.ui.handle_keys import ARROWS, along, first, toward
from fuente.ui.label import tip
from fuente.ui.painted import MANY, Painted, What
from fuente.ui.painting import paint_drawing
from fuente.ui.placing import Left
from fuente.ui.spoken import Told, announce
from fuente.ui.tint import Tint, paint_figures, paint_key, paint_live
from fuente.ui.touched import inside, near
from fuente.ui.zoomed import STEP, Box, ZoomedView
from fuente.units import UnitSystem, shown

GRAB = 11.0  # px


class SectionView(ZoomedView):
    """Shows a drawing; emits edits as handles move."""

    moving = Signal(object)  # Edit while a handle moves
    moved = Signal(object)  # Edit when it is let go
    cancelled = Signal()
    picked = Signal(str)  # owner under a click
    clicked = Signal()
    typed = Signal(object)  # Dimension or Handle that was double-clicked
    draws_itself = True  # Copy takes it as a picture

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("ground")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setMouseTracking(True)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Section")
        self.setAccessibleDescription(
            "The system in section, to scale. Arrow keys go from handle to handle, with Ctrl they move one, Enter types"
            " its value, Space chooses its station."
        )
        self.setMinimumSize(320, 240)
        self.editable = True
        self.what, self.seen, self.legend = "Section", "looking at the front", ""
        self.wordless = False  # a small picture: shapes only
        self.tint: Tint | None = None  # colours of the water by what it holds
        self.live: dict[str, str] = {}  # by cell what an instrument says of its water
        self.waters: Callable[[], list[tuple[str, str, tuple[float, float]]]] = list  # name, level, where in mm
        self.way_back = "F4: all of it"  # how it is left when it is looked at closely
        self.corner = 0  # px at the top right that something stands on
        self.left_out: list[Left] = []  # words that found no room
        self._drawing = Drawing(())
        self._painted = Painted()
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

    def show_same(self, other: SectionView) -> None:
        """Show what another view shows."""
        self.tint, self.live, self.editable = other.tint, other.live, other.editable
        self.show_drawing(other._drawing, other._units, other._selected, other._caption)

    def drawing(self) -> Drawing:
        """What is shown."""
        return self._drawing

    # -- geometry -------------------------------------------------------------------------------------------------

    def _pads(self) -> tuple[float, float, float]:
        """Room in px for what is written beside, over and under the drawing."""
        line = QFontMetricsF(theme.font(12)).height()
        return (
            (6.0, 6.0, 6.0) if self.wordless else (3.0 * line, (2.6 if self.tint is None else 4.4) * line, 1.9 * line)
        )

    def height_for(self, width: float) -> float:
        """The height in px that all of it takes in a view so wide."""
        x0, y0, x1, y1 = self._drawing.bounds()
        pad_x, top, low = self._pads()
        return top + low + (y1 - y0) * max(width - 2 * pad_x, 50) / max(x1 - x0, 1)

    def _fit(self) -> tuple[float, float, float]:
        """All of it, with room for what is written around it."""
        x0, y0, x1, y1 = self._drawing.bounds()
        pad_x, top, low = self._pads()
        wide, high = max(self.width() - 2 * pad_x, 50), max(self.height() - top - low, 50)
        scale = min(wide / max(x1 - x0, 1), high / max(y1 - y0, 1))
        left = pad_x + (wide - scale * (x1 - x0)) / 2 - x0 * scale
        base = top + (high - scale * (y1 - y0)) / 2 + y1 * scale
        return scale, left, base

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
            self._last = edit_for(self._held, self._held.value + self._held.gain * mm / 1000, self._units)
            self.moving.emit(self._last)
            return
        if self.pan_to(event):
            return
        hover = self.handle_at(event.position()) if self.editable else None
        if hover != self._hover:
            self._hover = hover
            if hover is None:
                self.unsetCursor()
            else:
                handle = self._drawing.handles[hover]
                vertical = handle.axis == "y"
                self.setCursor(Qt.CursorShape.SizeVerCursor if vertical else Qt.CursorShape.SizeHorCursor)
            self.update()
        under = [w.text for w in self.left_out if w.box.contains(event.position())] if hover is None else []
        self.setToolTip(tip(under[0]) if under else "")

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
            self.pan_from(event)
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
        self.pan_end()
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
        """Handles by keyboard: arrows, with Ctrl to move one, Enter, Space, Esc."""
        key = event.key()
        if key == Qt.Key.Key_Escape and self._held is not None:
            self._held = self._grabbed = self._last = None
            self.cancelled.emit()
            self.update()
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal, Qt.Key.Key_Minus) and self._zooms():
            self.zoom_by(1 / STEP if key == Qt.Key.Key_Minus else STEP)
        elif self._focus is None or not self.editable or not self._by_key(event, self._drawing.handles[self._focus]):
            super().keyPressEvent(event)

    def _by_key(self, event: QKeyEvent, handle: Handle) -> bool:
        """What a key does with the handle that has the focus; whether it does anything."""
        key, held = event.key(), event.modifiers()
        if key in ARROWS and held & Qt.KeyboardModifier.ControlModifier:
            step = step_of(handle, self._units) * (10 if held & Qt.KeyboardModifier.ShiftModifier else 1)
            way = along(handle, key) * (1.0 if handle.gain > 0 else -1.0)
            if way:
                self.moved.emit(edit_for(handle, handle.value + step * way, self._units))
        elif key in ARROWS and not held & Qt.KeyboardModifier.AltModifier:
            assert self._focus is not None
            self._focus = toward(self._drawing.handles, self._focus, ARROWS[key])
            self._told()
        elif key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.typed.emit(handle)
        elif key == Qt.Key.Key_Space and handle.owner:
            self.picked.emit(handle.owner)
        else:
            return False
        return True

    def focusInEvent(self, event: QFocusEvent) -> None:
        """By the keyboard: at the handle where one was, or at the first of the chosen station."""
        if self.editable and event.reason() not in (Qt.FocusReason.MouseFocusReason, Qt.FocusReason.PopupFocusReason):
            if self._focus is None:
                self._focus = first(self._drawing.handles, self._selected)
            self._told()
        super().focusInEvent(event)

    def _told(self) -> None:
        """The handle that has the focus is in sight, and is said."""
        if self._focus is None:
            return
        handle = self._drawing.handles[self._focus]
        spot = self.to_screen(handle.at)
        if self.zoom > 1.0 and not self.rect().contains(spot.toPoint()):
            self._centre = handle.at
            self.looked.emit()
        announce(self, f"{handle.name} {shown(handle.value, handle.quantity, self._units)}")
        self.update()

    def spoken(self) -> list[Told]:
        """Its waters and its handles, for those who hear it."""
        waters = [Told(name, value, self.to_screen(at)) for name, value, at in self.waters()]
        if not self.editable:
            return waters
        return waters + [
            Told(h.name, shown(h.value, h.quantity, self._units), self.to_screen(h.at), True, i == self._focus)
            for i, h in enumerate(self._drawing.handles)
        ]

    def box_of(self, owner: str) -> Box | None:
        """Where what belongs to a station lies, mm, with its chambers and drums; None where nothing does."""
        points: list[tuple[float, float]] = []
        for shape in self._drawing.shapes:
            if isinstance(shape, Polygon | Polyline) and _of(shape.owner, owner):
                points += shape.points
        points += [h.at for h in self._drawing.handles if _of(h.owner, owner)]
        if not points:
            return None
        xs, ys = [p[0] for p in points], [p[1] for p in points]
        return min(xs), min(ys), max(xs), max(ys)

    def look_at(self, owner: str) -> None:
        """A station as near as it fits, and all of it again the second time."""
        box = self.box_of(owner)
        if self.zoom > 1.0 or box is None:
            self.fit()
        else:
            self.zoom_to(box)

    def _zooms(self) -> bool:
        return not self.wordless

    def _owner_at(self, position: QPointF) -> str:
        scale, left, base = self._frame()
        x, y = (position.x() - left) / scale, (base - position.y()) / scale
        for shape in reversed(self._drawing.shapes):
            if isinstance(shape, Polygon) and shape.owner and inside(x, y, shape.points):
                return shape.owner
            if (
                isinstance(shape, Polyline)
                and shape.owner
                and shape.width
                and near(x, y, shape.points, shape.width / 2 + 8)
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
        colours = self.tint.colours if self.tint is not None else ()
        caption = self._captioned()
        covered = () if self.wordless else self._covered(caption)
        what = What(self._drawing, self._frame(), self._units, self._selected, not self.wordless, colours, covered)
        if len(self._drawing.shapes) > MANY and painter.paintEngine().type() == QPaintEngine.Type.Raster:
            picture, self.left_out = self._painted.of(self, what)
            painter.drawPixmap(0, 0, picture)
        else:
            self.left_out = paint_drawing(painter, *what)
        if self.wordless:
            painter.end()
            return
        if self.zoom > 1.0:  # what is drawn may lie under it
            painter.fillRect(self._covered(caption)[0], theme.color("ground"))
        painter.setFont(theme.font(12))
        painter.setPen(theme.color("muted"))
        painter.drawText(QPointF(theme.px(12), theme.px(20)), caption)
        if self.editable:
            self._paint_handles(painter)
        if self.tint is not None:
            paint_figures(painter, self.tint, self.to_screen)
            paint_key(painter, self.tint, self.rect())
        if self.live:
            paint_live(painter, self._drawing, self.live, self.to_screen)
        painter.end()

    def _captioned(self) -> str:
        """What is seen, its scale, and what else is to be known of it, as far as there is room."""
        nearer = self.way_back if self.zoom > 1.0 else ""
        scale = f"1 : {self.scale_ratio():.0f}"
        words = " · ".join(filter(None, (self._caption, self.what, scale, self.seen, self.legend, nearer)))
        room = self.width() - self.corner - theme.px(18)
        return QFontMetrics(theme.font(12)).elidedText(words, Qt.TextElideMode.ElideRight, room)

    def _covered(self, caption: str) -> list[QRectF]:
        """Where no words of the drawing may stand: under the caption, and under what stands in the corner."""
        tall = theme.px(28)
        wide = QFontMetrics(theme.font(12)).horizontalAdvance(caption) + theme.px(24)
        corner = QRectF(self.width() - self.corner, 0, self.corner, theme.px(36)) if self.corner else None
        return [QRectF(0, 0, wide, tall), *([corner] if corner is not None else [])]

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
                paint_bubble(painter, self.to_screen(handle.at), words, self.rect())

    def _dimension_box(self, shape: Dimension) -> QRectF:
        a, b = self.to_screen(shape.start), self.to_screen(shape.end)
        scale, _, _ = self._frame()
        x = max(a.x(), b.x()) + shape.aside * scale
        return QRectF(x - 6, min(a.y(), b.y()), theme.px(64), abs(a.y() - b.y()))


def _of(part: str, owner: str) -> bool:
    """Whether a part is the station, or one of its own."""
    return part == owner or (bool(owner) and part.startswith(f"{owner}."))
