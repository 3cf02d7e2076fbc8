"""Inputs for bench hands: numbers typed as builders say them."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QEvent, QObject, QPointF, Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent, QPainter, QPaintEvent, QPen
from PySide6.QtWidgets import (
    QComboBox,
    QWidget,
)

from fuente.errors import EntryError
from fuente.typed import parse, parse_bulk, parse_layer
from fuente.ui import theme
from fuente.ui.pending import PendingEdit
from fuente.units import UnitSystem, shown

# What an arrow key adds, in SI: metric and US.
_STEPS = {
    "length": (0.005, 0.0254 / 4),
    "fine_length": (0.0005, 0.0254 / 32),
    "head": (0.1, 0.1524),
    "run": (0.1, 0.3048),
    "volume": (0.001, 0.003785411784 / 4),
    "flow": (50e-3 / 3600, 0.003785411784 * 10 / 3600),
    "fraction": (0.05, 0.05),
    "percent": (0.005, 0.005),
    "temperature": (0.5, 5 / 9),
    "power": (5, 5),
    "number": (1, 1),
    "micron": (25e-6, 25e-6),
    "per_hour": (0.5 / 3600, 0.5 / 3600),
    "salinity": (1, 1),
    "angle": (1, 1),
    "feed": (1e-3 / 86400, 1e-3 / 86400),
    "concentration": (1e-4, 1e-4),
    "air_flow": (1e-3 / 60, 1e-3 / 60),
    "air_pressure": (1e3, 1e3),
}


class QuantityEdit(PendingEdit):
    """A number with its unit. Enter commits, Esc restores, arrows nudge, a bad entry says what it would take."""

    committed = Signal(float)
    nudged = Signal(float)
    failed = Signal(str)

    def __init__(
        self, quantity: str, value: float, units: UnitSystem, step: float | None = None, parent: QWidget | None = None
    ):
        super().__init__(parent=parent)
        self.quantity = quantity
        self.density = 0.0  # kg/m³ of a volume that may be typed as a weight too
        self.plan = 0.0  # m² of a thickness that may be typed as a volume too
        self.step = step
        self._value = value
        self._units = units
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self.textEdited.connect(lambda _: self._mark(False))
        self._write()

    def value(self) -> float:
        """The committed value, SI."""
        return self._value

    def show_value(self, value: float, units: UnitSystem) -> None:
        """Follow the document, unless something is being typed."""
        self._value, self._units = value, units
        if not self.isModified() or not self.hasFocus():
            self._write()

    def _write(self) -> None:
        self.setText(shown(self._value, self.quantity, self._units))
        self.setModified(False)
        self._mark(False)

    def _mark(self, bad: bool) -> None:
        if bool(self.property("bad")) != bad:
            self.setProperty("bad", bad)
            self.style().unpolish(self)
            self.style().polish(self)

    def enter(self) -> bool:
        """Take what is typed; False, and ``failed``, where it cannot be read."""
        if not self.isModified():
            return True
        try:
            value = self._read(self.text())
        except EntryError as error:
            self._mark(True)
            self.failed.emit(str(error))
            return False
        self.setModified(False)
        self._mark(False)
        self.failed.emit("")
        self._value = value
        self.committed.emit(value)
        if not self.isModified():
            self._write()
        return True

    def _read(self, text: str) -> float:
        if self.density > 0 and self.quantity == "volume":
            return parse_bulk(text, self.density, self._units)
        if self.plan > 0 and self.quantity == "length":
            return parse_layer(text, self.plan, self._units)
        return parse(text, self.quantity, self._units)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter, Esc and arrows."""
        key = event.key()
        if key in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            if self.enter():
                self.selectAll()
        elif key == Qt.Key.Key_Escape and self.isModified():
            self.failed.emit("")
            self._write()
            self.selectAll()
        elif key in (Qt.Key.Key_Up, Qt.Key.Key_Down):
            self._nudge(1 if key == Qt.Key.Key_Up else -1, bool(event.modifiers() & Qt.KeyboardModifier.ShiftModifier))
        else:
            super().keyPressEvent(event)

    def _nudge(self, way: int, fast: bool) -> None:
        if self.isModified() and not self.enter():
            return
        us = self._units == UnitSystem.US
        usual = _STEPS.get(self.quantity, (1, 1))[us]
        step = usual if us or self.step is None else self.step
        if us and self.step is not None and self.quantity == "length":
            step = min(usual, 0.0254 / 16)
        value = self._value + way * step * (10 if fast else 1)
        if self.quantity in ("length", "micron"):  # land on whole steps
            value = round(value / step) * step
        self.nudged.emit(round(value, 9))

    def focusInEvent(self, event: QFocusEvent) -> None:
        """Typing replaces."""
        super().focusInEvent(event)
        if event.reason() in (
            Qt.FocusReason.TabFocusReason,
            Qt.FocusReason.BacktabFocusReason,
            Qt.FocusReason.MouseFocusReason,
        ):
            self.selectAll()

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Leaving commits what can be read; what cannot is put back, and said."""
        if self.isModified() and not self.enter():
            self._write()
        super().focusOutEvent(event)

    def mouseReleaseEvent(self, event: Any) -> None:
        """First click selects all."""
        super().mouseReleaseEvent(event)
        if not self.hasSelectedText() and not self.isModified():
            self.selectAll()


class CountEdit(QuantityEdit):
    """A whole number."""

    def __init__(self, value: int, units: UnitSystem, parent: QWidget | None = None):
        super().__init__("number", value, units, 1, parent)


class ChoiceBox(QComboBox):
    """A choice of named values. The wheel scrolls the page unless the box has the focus."""

    chosen = Signal(object)

    def __init__(self, options: tuple[tuple[Any, str], ...], value: Any, parent: QWidget | None = None):
        super().__init__(parent)
        self._options = options
        for _, name in options:
            self.addItem(name)
        self.show_value(value)
        self.setSizeAdjustPolicy(QComboBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.setMinimumContentsLength(10)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.activated.connect(lambda i: self.chosen.emit(self._options[i][0]))
        self.installEventFilter(self)

    def value(self) -> Any:
        """What stands in it."""
        i = self.currentIndex()
        return self._options[i][0] if i >= 0 else None

    def set_options(self, options: tuple[tuple[Any, str], ...], value: Any) -> None:
        """Other options to choose from."""
        if options != self._options:
            self._options = options
            self.clear()
            for _, name in options:
                self.addItem(name)
        self.show_value(value)

    def show_value(self, value: Any) -> None:
        """Follow the document."""
        for i, (key, _) in enumerate(self._options):
            if key == value:
                self.setCurrentIndex(i)
                return
        self.setCurrentIndex(-1)

    def paintEvent(self, event: QPaintEvent) -> None:
        """The box, and the sign that it opens."""
        super().paintEvent(event)
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        p.setPen(QPen(theme.color("muted"), 1.6))
        x, y, r = self.width() - theme.px(13), self.height() / 2 - 1, theme.px(3.5)
        p.drawPolyline([QPointF(x - r, y - r / 2), QPointF(x, y + r / 2 + 1), QPointF(x + r, y - r / 2)])
        p.end()

    def eventFilter(self, watched: QObject, event: QEvent) -> bool:
        """Leave the wheel to the page."""
        if event.type() == QEvent.Type.Wheel and not self.hasFocus():
            event.ignore()
            return True
        return super().eventFilter(watched, event)


class TextEdit(PendingEdit):
    """Words. Enter or leaving commits, Esc restores."""

    committed = Signal(str)

    def __init__(self, value: str, parent: QWidget | None = None):
        super().__init__(value, parent)
        self._value = value
        self.editingFinished.connect(self.enter)

    def show_value(self, value: str) -> None:
        """Follow the document."""
        self._value = value
        if not self.isModified():
            self.setText(value)
            self.setCursorPosition(0)

    def enter(self) -> bool:
        """Take what is typed."""
        if self.isModified() and self.text() != self._value:
            self.setModified(False)
            self.committed.emit(self.text())
        return True

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Esc restores."""
        if event.key() == Qt.Key.Key_Escape and self.isModified():
            self.setText(self._value)
            self.setModified(False)
        else:
            super().keyPressEvent(event)
