"""The line into which the builder types what was seen, with chips of how it is read; and the list of what was kept."""

from __future__ import annotations

import datetime
from collections.abc import Sequence

from PySide6.QtCore import QAbstractTableModel, QModelIndex, QPersistentModelIndex, Qt, Signal
from PySide6.QtWidgets import QComboBox, QLineEdit, QTableView, QVBoxLayout, QWidget

from fuente.ui import theme
from fuente.ui.elided import ElidedLabel
from fuente.ui.flow import flowing
from fuente.ui.label import Label, tip
from fuente.ui.side_panel import small
from fuente.units import UnitSystem
from fuente.upkeep.entry import Entry, now
from fuente.upkeep.places import Place, Places
from fuente.upkeep.typed_line import Read, as_of, day_of, read_line, said

_Index = QModelIndex | QPersistentModelIndex
HINTS = {
    UnitSystem.METRIC: "no3 20, ph 7.4, foam 18 mm, rinsed socks",
    UnitSystem.US: "no3 20, ph 7.4, foam 3/4 in, rinsed socks",
}


class LogLine(QWidget):
    """Enter keeps what the chips say; a chip that may mean several places is a choice."""

    kept = Signal(list)

    def __init__(self, units: UnitSystem = UnitSystem.METRIC, parent: QWidget | None = None):
        super().__init__(parent)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(4))
        self.edit = QLineEdit()
        self.edit.setPlaceholderText(HINTS[units])
        self.edit.setAccessibleName("Write down what you saw")
        self.edit.setMinimumHeight(theme.px(34))
        self.edit.textChanged.connect(self.read_again)
        self.edit.returnPressed.connect(self.keep)
        column.addWidget(self.edit)
        row, self.chips = flowing()
        column.addWidget(row)
        self.error = Label()
        self.error.setObjectName("error")
        self.error.setWordWrap(True)
        self.error.hide()
        column.addWidget(self.error)
        self.places: Places | None = None
        self.units = units
        self.reads: list[Read] = []
        self.choices: dict[int, QComboBox] = {}
        self._hint()

    def show_places(self, places: Places, units: UnitSystem) -> None:
        """By whose names it is read."""
        if places != self.places or units != self.units:
            self.places, self.units = places, units
            self.edit.setPlaceholderText(HINTS[units])
            self.read_again()

    def read_again(self) -> None:
        """Read what is typed, and show how."""
        self.say("")
        while self.chips.count():
            item = self.chips.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.deleteLater()
        self.reads, self.choices = [], {}
        words = self.edit.text().strip()
        if not words or self.places is None:
            self._hint()
            return
        moment = now()
        self.reads = read_line(words, moment, self.places, self.units)
        t = theme.current()
        for n, read in enumerate(self.reads):
            parts = day_of(read.entry, moment.date()), read.words, read.doubt and f"{read.doubt}?"
            label = Label(" · ".join(filter(None, parts)))
            tone = t.pumped_text if read.doubt else t.ink
            label.setStyleSheet(f"background: {t.chosen}; color: {tone}; border-radius: 9px; padding: 2px 9px;")
            label.setToolTip(f"{read.entry.when:%A %-d %B %Y, %H:%M}")
            label.setFixedHeight(theme.px(22))
            self.chips.addWidget(label)
            if read.others and len(read.others) <= 40:
                box = QComboBox()
                first = self.places.by_id(read.entry.place)
                places: list[Place] = [*((first,) if first is not None else ()), *read.others]
                if first is None:
                    box.addItem("in which tank?", "")
                for place in places:
                    box.addItem(place.name, place.id)
                box.setAccessibleName(f"Where: {read.words}")
                self.chips.addWidget(box)
                self.choices[n] = box
        hint = small("Enter keeps it")
        hint.setWordWrap(False)
        self.chips.addWidget(hint)

    def keep(self) -> None:
        """Keep what was read; asks where a tank is not named."""
        if not self.reads:
            return
        found = []
        for n, read in enumerate(self.reads):
            box = self.choices.get(n)
            if box is not None and self.places is not None:
                place = self.places.by_id(str(box.currentData()))
                if place is None:
                    self.say("Say in which tank: choose it beside the chip, or name it in the line.")
                    box.setFocus()
                    return
                read = as_of(read, place)
            found.append(read.entry)
        self.kept.emit(found)

    def took(self) -> None:
        """It is kept: the line is empty again."""
        self.edit.clear()

    def say(self, sentence: str) -> None:
        """Why it was not kept."""
        self.error.setText(sentence)
        self.error.setVisible(bool(sentence))

    def _hint(self) -> None:
        words = ElidedLabel(120)
        words.setObjectName("subheading")
        words.setText("Tests, level differences, buckets, what was cleaned, bought or spent: one line.")
        self.chips.addWidget(words)


class LogModel(QAbstractTableModel):
    """Entries, the latest first."""

    def __init__(self) -> None:
        super().__init__()
        self.rows: list[Entry] = []
        self.places: Places | None = None
        self.units = UnitSystem.METRIC

    def show_entries(self, entries: Sequence[Entry], places: Places, units: UnitSystem) -> None:
        """Show them."""
        self.beginResetModel()
        self.rows, self.places, self.units = list(reversed(entries)), places, units
        self.endResetModel()

    def rowCount(self, parent: _Index | None = None) -> int:
        """All of them: only those that are seen are written out."""
        return 0 if parent is not None and parent.isValid() else len(self.rows)

    def columnCount(self, parent: _Index | None = None) -> int:
        """Day, words, source."""
        return 3

    def data(self, index: _Index, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """Words of a cell."""
        if not index.isValid() or self.places is None:
            return None
        entry = self.rows[index.row()]
        if role == Qt.ItemDataRole.DisplayRole:
            if index.column() == 0:
                return _day(entry.when)
            if index.column() == 1:
                return said(entry, self.places, self.units)
            return "" if entry.source in ("hand",) or entry.source.startswith("task ") else entry.source
        if role == Qt.ItemDataRole.ToolTipRole:
            return tip(
                f"{entry.when:%A %-d %B %Y, %H:%M}\n{said(entry, self.places, self.units)}\n{entry.text}".strip()
            )
        if role == Qt.ItemDataRole.AccessibleTextRole:
            return f"{_day(entry.when)}: {said(entry, self.places, self.units)}"
        return None

    def headerData(self, section: int, orientation: Qt.Orientation, role: int = Qt.ItemDataRole.DisplayRole) -> object:
        """Heads."""
        if orientation == Qt.Orientation.Horizontal and role == Qt.ItemDataRole.DisplayRole:
            return ("Day", "What", "From")[section]
        return None


def _day(when: datetime.datetime) -> str:
    year = f" {when.year}" if when.year != datetime.datetime.now().year else ""
    return f"{when:%a} {when.day} {when:%b}{year}"


def log_table() -> tuple[QTableView, LogModel]:
    """The list of entries."""
    view, model = QTableView(), LogModel()
    view.setModel(model)
    view.setAccessibleName("What was written down")
    view.verticalHeader().hide()
    view.horizontalHeader().hide()
    view.setShowGrid(False)
    view.setSelectionBehavior(QTableView.SelectionBehavior.SelectRows)
    view.setTabKeyNavigation(False)
    view.setSelectionMode(QTableView.SelectionMode.SingleSelection)
    view.setWordWrap(False)
    view.verticalHeader().setDefaultSectionSize(theme.px(25))
    view.setColumnWidth(0, theme.px(108))
    view.setColumnWidth(2, theme.px(90))
    from PySide6.QtWidgets import QHeaderView

    view.horizontalHeader().setSectionResizeMode(1, QHeaderView.ResizeMode.Stretch)
    return view, model
