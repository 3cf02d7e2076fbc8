"""Another widget in a scroll area, while the one that was there may still be asking for it."""

from __future__ import annotations

from PySide6.QtWidgets import QScrollArea, QWidget


def put_in(area: QScrollArea, widget: QWidget) -> None:
    """Show a widget in an area. What was there goes when the event that it may be in the middle of is over: a field
    whose Enter builds its own card anew must not be gone when it returns.
    """
    old = area.takeWidget()
    area.setWidget(widget)
    if old is not None:
        old.hide()
        old.deleteLater()
