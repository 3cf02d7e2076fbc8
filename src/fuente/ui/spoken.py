"""The drawing for those who hear it: waters and handles as children with names and values; what changes is said."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass

import shiboken6
from PySide6.QtCore import QObject, QPointF, QRect, QRectF
from PySide6.QtGui import QAccessible, QAccessibleAnnouncementEvent, QAccessibleInterface
from PySide6.QtWidgets import QAccessibleWidget, QWidget


@dataclass(frozen=True)
class Told:
    """A part of the drawing: its name, its value in words, where it is in the view's px, whether it can be moved."""

    name: str
    value: str
    at: QPointF
    handle: bool = False
    lit: bool = False


class _Part(QAccessibleInterface):
    """One child."""

    def __init__(self, of: _Section, number: int):
        super().__init__()
        self._of, self._number = of, number

    def _told(self) -> Told | None:
        parts = self._of.parts()
        return parts[self._number] if self._number < len(parts) else None

    def isValid(self) -> bool:
        return shiboken6.isValid(self._of) and self._of.isValid() and self._told() is not None

    def object(self) -> QObject | None:  # type: ignore[override]
        return None

    def window(self):  # type: ignore[no-untyped-def]
        return self._of.window()

    def parent(self) -> QAccessibleInterface:
        return self._of

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]
        return None

    def childAt(self, x: int, y: int) -> QAccessibleInterface | None:  # type: ignore[override]
        return None

    def childCount(self) -> int:
        return 0

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return -1

    def setText(self, text: QAccessible.Text, words: str) -> None:
        """Values are typed in the view."""

    def text(self, text: QAccessible.Text) -> str:
        told = self._told()
        if told is None:
            return ""
        if text == QAccessible.Text.Name:
            return told.name if told.handle else f"{told.name}: {told.value}"
        return told.value if text == QAccessible.Text.Value else ""

    def rect(self) -> QRect:
        told = self._told()
        if told is None:
            return QRect()
        spot = self._of.view.mapToGlobal(told.at)
        return QRectF(spot.x() - 8, spot.y() - 8, 16, 16).toRect()

    def role(self) -> QAccessible.Role:
        told = self._told()
        return QAccessible.Role.Slider if told is not None and told.handle else QAccessible.Role.StaticText

    def state(self) -> QAccessible.State:
        state = QAccessible.State()
        told = self._told()
        if told is None:
            return state
        state.focusable = told.handle
        state.focused = told.lit and self._of.view.hasFocus()
        state.readOnly = not told.handle
        return state


class _Section(QAccessibleWidget):
    """The view with its parts as children."""

    def __init__(self, view: QWidget, parts: Callable[[], list[Told]]):
        super().__init__(view, QAccessible.Role.Grouping, view.accessibleName())
        self.view, self._parts = view, parts
        self._made: dict[int, _Part] = {}

    def parts(self) -> list[Told]:
        """What the view has now; nothing once it is gone."""
        return self._parts() if shiboken6.isValid(self.view) else []

    def childCount(self) -> int:
        return len(self.parts())

    def child(self, index: int) -> QAccessibleInterface | None:  # type: ignore[override]
        if not 0 <= index < self.childCount():
            return None
        if index not in self._made:
            self._made[index] = _Part(self, index)
            _PARTS.append(self._made[index])
        return self._made[index]

    def indexOfChild(self, child: QAccessibleInterface) -> int:
        return next((n for n, made in self._made.items() if made is child), -1)

    def focusChild(self) -> QAccessibleInterface | None:  # type: ignore[override]
        lit = next((n for n, told in enumerate(self.parts()) if told.lit), None)
        return self.child(lit) if lit is not None and self.view.hasFocus() else None


_PARTS: list[_Part] = []  # who listens may hold one for as long as it likes, and nobody says when it lets go
_KEPT: dict[int, _Section] = {}  # Qt holds no reference to what Python made
_MADE: list[bool] = []


def _factory(_: str, what: QObject) -> QAccessibleInterface | None:
    parts = getattr(what, "spoken", None)
    if parts is None or not isinstance(what, QWidget):
        return None
    key = id(what)
    if key not in _KEPT:
        _KEPT[key] = _Section(what, parts)
        what.destroyed.connect(lambda *_: _KEPT.pop(key, None))
    return _KEPT[key]


def install() -> None:
    """Let Qt ask for the parts of what has a ``spoken``; once for the application."""
    if not _MADE:
        _MADE.append(True)
        QAccessible.installFactory(_factory)


def announce(widget: QWidget, words: str) -> None:
    """Say what changed, where somebody listens."""
    if QAccessible.isActive() and words:
        QAccessible.updateAccessibility(QAccessibleAnnouncementEvent(widget, words))
