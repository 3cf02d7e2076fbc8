"""What words of widgets cover, and whether they are all there: for tests of every page."""

from __future__ import annotations

from collections.abc import Iterator

from PySide6.QtCore import QPoint, QRect, QSize, Qt
from PySide6.QtWidgets import (
    QAbstractButton,
    QAbstractScrollArea,
    QCheckBox,
    QComboBox,
    QLabel,
    QLineEdit,
    QPushButton,
    QRadioButton,
    QToolButton,
    QWidget,
)

from fuente.ui.elided import ElidedLabel

SAYS = (QLabel, QAbstractButton, QComboBox, QLineEdit)


def words_of(widget: QWidget) -> str:
    """What it says; empty where it says nothing."""
    if isinstance(widget, QComboBox):
        return widget.currentText()
    if isinstance(widget, QLabel | QAbstractButton | QLineEdit):
        return widget.text()
    return ""


def seen(widget: QWidget, page: QWidget) -> QRect:
    """The part of it that is seen, in px of the page: what a scroll area cuts off is not."""
    box = QRect(widget.mapTo(page, QPoint(0, 0)), widget.size())
    at = widget.parentWidget()
    while at is not None:
        box &= QRect(at.mapTo(page, QPoint(0, 0)), at.size())
        if at is page:
            break
        at = at.parentWidget()
    return box


def saying(page: QWidget) -> Iterator[QWidget]:
    """Every widget of a page that says something, as far as it is seen."""
    for widget in page.findChildren(QWidget):
        if isinstance(widget, SAYS) and widget.isVisible() and words_of(widget).strip():
            if isinstance(widget.parentWidget(), QComboBox):
                continue  # it is its own line
            if not seen(widget, page).isEmpty():
                yield widget


def overlaps(page: QWidget) -> list[str]:
    """Pairs that cover each other by more than a pixel; what stands in another, as a button's own label, does not."""
    rows = [(w, seen(w, page).adjusted(1, 1, -1, -1)) for w in saying(page)]
    found = []
    for i, (one, box) in enumerate(rows):
        for other, its in rows[i + 1 :]:
            if box.intersects(its) and not one.isAncestorOf(other) and not other.isAncestorOf(one):
                found.append(f"“{words_of(one)[:40]}” {box.getRect()} on “{words_of(other)[:40]}” {its.getRect()}")
    return found


def needed(widget: QWidget) -> QSize:
    """The least that its words take, px."""
    if isinstance(widget, QLabel):
        if widget.wordWrap():
            return QSize(0, widget.heightForWidth(widget.width()))
        return widget.sizeHint()
    if isinstance(widget, QPushButton | QToolButton | QCheckBox | QRadioButton):
        if not widget.text().strip():
            return QSize(0, 0)
        wide = max(widget.fontMetrics().horizontalAdvance(line) for line in widget.text().splitlines())
        return QSize(wide, widget.fontMetrics().height())
    if isinstance(widget, QLineEdit) and any(c.isdigit() for c in widget.text()):
        return QSize(widget.fontMetrics().horizontalAdvance(widget.text()), widget.fontMetrics().height())
    return QSize(0, 0)


def cut(page: QWidget) -> list[str]:
    """Words that have less room than they take; those that end in dots by intent say all in their tooltip."""
    found = []
    for widget in saying(page):
        if isinstance(widget, ElidedLabel):
            if (
                widget.text()
                and widget.fontMetrics().horizontalAdvance(widget.text()) > widget.width()
                and not (widget.toolTip())
            ):
                found.append(f"“{words_of(widget)[:50]}” ends in dots and has no tooltip")
            continue
        wanted = needed(widget)
        if wanted.width() > widget.width() + 1 or wanted.height() > widget.height() + 1:
            found.append(f"“{words_of(widget)[:60]}” takes {wanted.toTuple()}, has {widget.size().toTuple()}")
        visible = seen(widget, page)
        if _scrolls(widget, page):
            continue
        if visible.size() != widget.size():
            found.append(f"“{words_of(widget)[:60]}” is cut to {visible.size().toTuple()} of {widget.size().toTuple()}")
    return found


def _scrolls(widget: QWidget, page: QWidget) -> bool:
    """Whether what is not seen of it comes by scrolling down."""
    at = widget.parentWidget()
    while at is not None and at is not page:
        if (
            isinstance(at, QAbstractScrollArea)
            and at.verticalScrollBarPolicy() != Qt.ScrollBarPolicy.ScrollBarAlwaysOff
        ):
            return True
        at = at.parentWidget()
    return False
