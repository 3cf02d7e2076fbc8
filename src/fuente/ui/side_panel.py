"""Side panels: headings, rows of a label with a value or a field."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QScrollArea, QVBoxLayout, QWidget

from fuente.shown.carrying import Row
from fuente.ui import theme
from fuente.ui.fields import QuantityEdit
from fuente.ui.label import Label


def panel(width: int, parent: QWidget | None = None) -> tuple[QScrollArea, QVBoxLayout]:
    """A side panel of a width in px, and the column to fill."""
    area = QScrollArea(parent)
    area.setObjectName("panel")
    area.setWidgetResizable(True)
    area.setFixedWidth(width)
    area.setFrameShape(QFrame.Shape.NoFrame)
    area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
    page = QWidget(area.viewport())
    page.setObjectName("panel")
    column = QVBoxLayout(page)
    column.setContentsMargins(theme.px(14), theme.px(8), theme.px(14), theme.px(12))
    column.setSpacing(theme.px(4))
    area.setWidget(page)
    return area, column


def middle(parent: QWidget | None = None) -> tuple[QWidget, QVBoxLayout]:
    """The ground between the side panels, and the column to fill."""
    ground = QWidget(parent)
    ground.setObjectName("ground")
    ground.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
    column = QVBoxLayout(ground)
    column.setContentsMargins(theme.px(16), theme.px(10), theme.px(16), theme.px(12))
    column.setSpacing(theme.px(6))
    return ground, column


def upright(parent: QWidget | None = None) -> QFrame:
    """A thin rule between columns."""
    line = QFrame(parent)
    line.setFixedWidth(1)
    line.setStyleSheet(f"background: {theme.current().rule}; max-height: 16777215px;")
    return line


def section(text: str) -> QLabel:
    """A small heading."""
    label = Label(text)
    label.setObjectName("section")
    label.setWordWrap(True)
    label.setContentsMargins(0, theme.px(8), 0, 0)
    return label


def small(text: str) -> QLabel:
    """Words under something."""
    label = Label(text)
    label.setObjectName("subheading")
    label.setWordWrap(True)
    return label


def label_of(text: str) -> QLabel:
    """A plain label that wraps."""
    label = Label(text)
    label.setWordWrap(True)
    return label


def value_of(row: Row) -> QLabel:
    """A row's value, marked where a limit is passed."""
    label = Label(f"{row.value} ◆" if row.bad else row.value)
    label.setObjectName("value")
    label.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
    if row.bad:
        label.setStyleSheet(f"color: {theme.current().stop};")
        label.setToolTip("Past its limit.")
    return label


def field_of(label: str, box: QWidget, parent: QWidget | None = None) -> QWidget:
    """A label with what belongs to it at its right."""
    made = QWidget(parent)
    line = QHBoxLayout(made)
    line.setContentsMargins(0, 0, 0, 0)
    line.setSpacing(theme.px(8))
    words = label_of(label)
    if isinstance(box, QuantityEdit):
        box.setAccessibleName(label)
        box.setFixedWidth(theme.px(104))
        words.setBuddy(box)
    line.addWidget(words, 1)
    line.addWidget(box)
    return made


def clear(layout: Any) -> None:
    """Take all out of a layout."""
    while layout.count():
        item = layout.takeAt(0)
        if item.widget() is not None:
            item.widget().hide()  # it goes when Qt comes to it, which may be after the next frame
            item.widget().deleteLater()


def side_width(width: int) -> int:
    """A side's width in px: in large text it grows by less than the text, so that the middle keeps its room."""
    return round(width * (theme.scale() if theme.scale() < theme.LARGE else 1 + 0.55 * (theme.scale() - 1)))
