"""F6: from one part of a page to the next, in the order in which one reads."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QAbstractItemView, QAbstractScrollArea, QWidget

from fuente.ui.drawn_view import DrawnView
from fuente.ui.situation_strip import SituationStrip
from fuente.ui.zoomed import ZoomedView

_PARTS = (QAbstractScrollArea, ZoomedView, DrawnView, SituationStrip)


def parts(page: QWidget) -> list[QWidget]:
    """The parts of a page that are seen and can take the focus: lists, drawings, charts, panels."""
    found: list[QWidget] = []
    for widget in page.findChildren(QWidget):
        if not isinstance(widget, _PARTS) or not widget.isVisible() or first_in(widget) is None:
            continue
        if any(outer.isAncestorOf(widget) for outer in found):
            continue
        found = [inner for inner in found if not widget.isAncestorOf(inner)]
        found.append(widget)
    corner = {w: w.mapTo(page, w.rect().topLeft()) for w in found}
    return sorted(found, key=lambda w: (corner[w].x() // 24, corner[w].y()))


def first_in(part: QWidget) -> QWidget | None:
    """What takes the focus when one comes to a part."""
    own = part.focusPolicy() & Qt.FocusPolicy.TabFocus
    if own and isinstance(part, ZoomedView | QAbstractItemView):
        return part
    inside = [w for w in part.findChildren(QWidget) if _takes(w)]
    return min(inside, key=lambda w: _at(part, w), default=part if own and not inside else None)


def _takes(widget: QWidget) -> bool:
    tab = bool(widget.focusPolicy() & Qt.FocusPolicy.TabFocus)
    return tab and widget.isVisible() and widget.isEnabled() and not isinstance(widget, QAbstractScrollArea)


def _at(part: QWidget, widget: QWidget) -> tuple[int, int]:
    spot = widget.mapTo(part, widget.rect().topLeft())
    return spot.y(), spot.x()


def walk(page: QWidget, way: int) -> QWidget | None:
    """Put the focus on the next part, or the one before; the part."""
    found: Sequence[QWidget] = parts(page)
    if not found:
        return None
    focus = page.window().focusWidget()
    inside = [i for i, part in enumerate(found) if focus is not None and (part is focus or part.isAncestorOf(focus))]
    start = inside[0] if inside else (-1 if way > 0 else 0)
    part = found[(start + way) % len(found)]
    target = first_in(part)
    if target is not None:
        target.setFocus(Qt.FocusReason.TabFocusReason)
    return part
