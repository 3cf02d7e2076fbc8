"""What is said beside a drawing of the build room."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QFrame, QHBoxLayout, QLabel, QScrollArea, QVBoxLayout, QWidget

from fuente.ui import theme
from fuente.ui.label import Label
from fuente.ui.side_panel import clear, label_of, panel, small
from fuente.workshop.told import Told

WIDTH, MOST = 300, 372  # px, and with large text


def plain(words: str, name: str = "") -> QLabel:
    """Words that are never markup."""
    label = Label(words)
    label.setWordWrap(True)
    if name:
        label.setObjectName(name)
    return label


class ToldPanel(QWidget):
    """Heading, figures, rows, why; what else belongs there goes into ``more``."""

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.area: QScrollArea
        self.area, column = panel(min(theme.px(WIDTH), MOST), self)
        whole = QVBoxLayout(self)
        whole.setContentsMargins(0, 0, 0, 0)
        whole.addWidget(self.area)
        self.heading = plain("", "heading")
        self.sub = plain("", "subheading")
        column.addWidget(self.heading)
        column.addWidget(self.sub)
        self._figures = QHBoxLayout()
        self._figures.setSpacing(theme.px(8))
        column.addLayout(self._figures)
        self._rows = QVBoxLayout()
        self._rows.setSpacing(theme.px(3))
        column.addLayout(self._rows)
        self.why = plain("", "why")
        column.addSpacing(theme.px(6))
        column.addWidget(self.why)
        self.more = QVBoxLayout()
        self.more.setSpacing(theme.px(6))
        column.addLayout(self.more)
        column.addStretch(1)
        self.said = Told("")

    def show_told(self, said: Told) -> None:
        """Show words in the units they come in."""
        self.said = said
        self.heading.setText(said.heading)
        self.sub.setText(said.sub)
        self.sub.setVisible(bool(said.sub))
        clear(self._figures)
        for number, unit, what in said.figures:
            self._figures.addWidget(_tile(number, unit, what, self.area.widget()))
        clear(self._rows)
        for name, value in said.rows:
            self._rows.addWidget(_row(name, value, self.area.widget()))
        self.why.setText(said.why)
        self.why.setVisible(bool(said.why))


def _tile(number: str, unit: str, what: str, parent: QWidget | None) -> QFrame:
    """A figure in large type, with what it is under it."""
    tile = QFrame(parent)
    tile.setObjectName("tile")
    column = QVBoxLayout(tile)
    column.setContentsMargins(theme.px(10), theme.px(8), theme.px(10), theme.px(8))
    column.setSpacing(0)
    row = QHBoxLayout()
    row.setSpacing(theme.px(4))
    big = plain(number, "big")
    big.setWordWrap(False)
    row.addWidget(big)
    if unit:
        row.addWidget(plain(unit, "value"))
    row.addStretch(1)
    column.addLayout(row)
    column.addWidget(small(what))
    return tile


def _row(name: str, value: str, parent: QWidget | None) -> QWidget:
    made = QWidget(parent)
    line = QHBoxLayout(made)
    line.setContentsMargins(0, 0, 0, 0)
    line.setSpacing(theme.px(8))
    words = label_of(name)
    line.addWidget(words, 1)
    says = plain(value, "value")
    says.setAlignment(Qt.AlignmentFlag.AlignRight | Qt.AlignmentFlag.AlignVCenter)
    says.setWordWrap(len(value) > 18)
    line.addWidget(says)
    return made
