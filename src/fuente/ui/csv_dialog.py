"""Reading a CSV file into the log: which column is which, what is new, what is there already, what cannot be read."""

from __future__ import annotations

from collections.abc import Sequence
from pathlib import Path

from PySide6.QtWidgets import QComboBox, QDialog, QDialogButtonBox, QGridLayout, QPlainTextEdit, QVBoxLayout, QWidget

from fuente.errors import FuenteError
from fuente.ui import theme
from fuente.ui.side_panel import small
from fuente.ui.told_panel import plain
from fuente.units import UnitSystem
from fuente.upkeep.csv_log import ReadCsv, columns_of, read_csv, rows_of
from fuente.upkeep.entry import Entry
from fuente.upkeep.places import Places
from fuente.upkeep.typed_line import said

FIELDS = {
    "when": "Day, and time",
    "what": "What was measured",
    "value": "Value",
    "place": "Tank or place",
    "text": "Note",
}
NONE = "(no column)"


class CsvDialog(QDialog):
    """Columns as they were recognised, each to be chosen otherwise; a look at what would be kept."""

    def __init__(
        self,
        path: Path,
        places: Places,
        units: UnitSystem,
        there: Sequence[Entry],
        parent: QWidget | None = None,
    ):
        super().__init__(parent)
        self.path, self.places, self.units, self.there = path, places, units, there
        self.read: ReadCsv | None = None
        heads, _ = rows_of(path)
        found = columns_of(heads)
        self.setWindowTitle(f"Read {path.name}")
        self.resize(theme.px(560), theme.px(460))
        column = QVBoxLayout(self)
        column.addWidget(
            plain("Which column is which. Columns that are called like a measure (no3, ph …) are read too.")
        )
        grid = QGridLayout()
        self.boxes: dict[str, QComboBox] = {}
        for n, (key, label) in enumerate(FIELDS.items()):
            box = QComboBox()
            box.addItem(NONE, "")
            for head in heads:
                box.addItem(head, head)
            if key in found:
                box.setCurrentIndex(box.findData(found[key]))
            box.setAccessibleName(label)
            box.currentIndexChanged.connect(self.look)
            words = plain(label)
            words.setBuddy(box)
            grid.addWidget(words, n, 0)
            grid.addWidget(box, n, 1)
            self.boxes[key] = box
        grid.setColumnStretch(1, 1)
        column.addLayout(grid)
        self.count = small("")
        column.addWidget(self.count)
        self.shown = QPlainTextEdit()
        self.shown.setReadOnly(True)
        self.shown.setTabChangesFocus(True)
        self.shown.setAccessibleName("What would be kept")
        column.addWidget(self.shown, 1)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Cancel)
        self.keep = buttons.addButton("Keep", QDialogButtonBox.ButtonRole.AcceptRole)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)
        self.look()

    def look(self) -> None:
        """Read it so, and show what comes of it."""
        columns = {key: str(box.currentData()) for key, box in self.boxes.items() if box.currentData()}
        try:
            self.read = read_csv(self.path, self.places, self.units, self.there, columns)
        except FuenteError as error:
            self.read = None
            self.count.setText(str(error))
            self.shown.setPlainText("")
            self.keep.setEnabled(False)
            return
        made = self.read
        self.count.setText(
            f"{len(made.entries)} new, {len(made.known)} there already, {len(made.problems)} that cannot be read."
        )
        lines = [*made.problems[:200]]
        lines += [f"{e.when:%Y-%m-%d %H:%M}  {said(e, self.places, self.units)}" for e in made.entries[:300]]
        self.shown.setPlainText("\n".join(lines))
        self.keep.setEnabled(bool(made.entries))
