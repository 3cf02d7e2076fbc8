"""F1: every shortcut in one place, those of the menus as the menus have them."""

from __future__ import annotations

from collections.abc import Iterator
from typing import TYPE_CHECKING

from PySide6.QtCore import Qt
from PySide6.QtGui import QAction, QKeySequence
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QGridLayout, QHBoxLayout, QScrollArea, QVBoxLayout, QWidget

from fuente.ui import theme
from fuente.ui.label import Label
from fuente.ui.menus import menus_of, plain

if TYPE_CHECKING:
    from fuente.ui.window import MainWindow

# Keys that belong to what has the focus and to no menu.
ELSEWHERE = (
    (
        "In the section",
        (
            ("Arrow keys", "To the next handle that way"),
            ("Ctrl with an arrow", "Move it by 1 mm or 1/16 in; with Shift ten times that"),
            ("Enter, double click", "Type its value; Esc leaves it"),
            ("Space", "Choose its station"),
            ("+, −, wheel, pinch", "Nearer, farther; drag the sheet while it is nearer"),
            ("Esc while dragging", "Put it back"),
        ),
    ),
    (
        "In a number",
        (
            ("Enter", "Take it: 32 mm, 3/4 in, 2 ft 3 in, 900 gph"),
            ("Esc", "Keep the old value"),
            ("↑, ↓", "A sensible step more or less; with Shift ten steps"),
        ),
    ),
    (
        "Elsewhere",
        (
            ("Space in the wet test", "Play, pause"),
            ("←, →, Space in bench mode", "Back, on, done"),
            ("F in a chart", "All of it"),
        ),
    ),
)


def keys_of(window: MainWindow) -> Iterator[tuple[str, list[tuple[str, str]]]]:
    """Each menu with its shortcuts and what they do."""
    for menu in menus_of(window):
        rows = [
            (a.shortcut().toString(QKeySequence.SequenceFormat.NativeText), _words(a))
            for a in menu.actions()
            if not a.shortcut().isEmpty()
        ]
        if rows:
            yield plain(menu.title()), rows


def _words(action: QAction) -> str:
    return ": ".join(filter(None, (plain(action.text()).removesuffix("…"), action.whatsThis())))


def _listed(parts: list[tuple[str, list[tuple[str, str]]]]) -> QGridLayout:
    """One column of the list: heads, keys and what they do."""
    grid = QGridLayout()
    grid.setHorizontalSpacing(theme.px(18))
    grid.setVerticalSpacing(theme.px(3))
    grid.setColumnStretch(1, 1)
    row = 0
    for title, rows in parts:
        head = Label(title)
        head.setObjectName("section")
        head.setContentsMargins(0, theme.px(12 if row else 0), 0, 0)
        grid.addWidget(head, row, 0, 1, 2)
        row += 1
        for key, what in rows:
            left = Label(key)
            left.setFont(theme.font(13, theme.MEDIUM))
            grid.addWidget(left, row, 0, Qt.AlignmentFlag.AlignTop)
            grid.addWidget(Label(what), row, 1, Qt.AlignmentFlag.AlignTop)
            row += 1
    grid.setRowStretch(row, 1)
    return grid


class HelpDialog(QDialog):
    """Lists the keys in columns."""

    def __init__(self, window: MainWindow):
        super().__init__(window)
        self.setWindowTitle("Keyboard shortcuts")
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(8), theme.px(8), theme.px(8), theme.px(12))
        parts = [*keys_of(window), *((title, list(rows)) for title, rows in ELSEWHERE)]
        half = sum(len(rows) + 2 for _, rows in parts) / 2
        sheet = QWidget()
        beside = QHBoxLayout(sheet)
        beside.setContentsMargins(theme.px(16), theme.px(8), theme.px(16), theme.px(8))
        beside.setSpacing(theme.px(36))
        columns: list[list[tuple[str, list[tuple[str, str]]]]] = [[], []]
        so_far = 0
        for part in parts:
            columns[so_far + len(part[1]) / 2 > half].append(part)
            so_far += len(part[1]) + 2
        for each in columns:
            beside.addLayout(_listed(each))
        area = QScrollArea()
        area.setWidgetResizable(True)
        area.setFrameShape(QScrollArea.Shape.NoFrame)
        area.setWidget(sheet)
        column.addWidget(area)
        room = sheet.sizeHint()
        self.resize(min(room.width() + theme.px(40), 1240), min(room.height() + theme.px(80), 760))
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)
