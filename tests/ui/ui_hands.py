"""Hands that drive the window."""

from __future__ import annotations

from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtTest import QTest


def point(spot: QPointF) -> QPoint:
    """A widget point."""
    return QPoint(round(spot.x()), round(spot.y()))


def drag(view, handle, dx: int, dy: int, steps: int = 4, release: bool = True) -> None:
    """Press a handle, move it in steps, let it go."""
    start = point(view.to_screen(handle.at))
    QTest.mousePress(view, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start)
    for i in range(1, steps + 1):
        QTest.mouseMove(view, start + QPoint(dx * i // steps, dy * i // steps))
    if release:
        QTest.mouseRelease(view, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, start + QPoint(dx, dy))


def handle(view, path):
    """The handle of a path."""
    return next(h for h in view.drawing().handles if h.path == path)


def type_into(edit, text: str) -> None:
    """Replace a field's text and press Enter."""
    edit.setFocus()
    edit.selectAll()
    QTest.keyClicks(edit, text)
    QTest.keyClick(edit, Qt.Key.Key_Return)
