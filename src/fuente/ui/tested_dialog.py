"""A dialog for what tests said of a tank's water on a day."""

from __future__ import annotations

import datetime

from PySide6.QtCore import QDate
from PySide6.QtWidgets import QDateEdit, QDialog, QDialogButtonBox, QGridLayout, QVBoxLayout, QWidget

from fuente.document.record import Tested
from fuente.ui import theme
from fuente.ui.fields import QuantityEdit
from fuente.ui.label import Label
from fuente.units import UnitSystem

FIELDS = (("ammonia", "Ammonia (N)"), ("nitrite", "Nitrite (N)"), ("nitrate", "Nitrate (NO₃)"))
MOST = {"ammonia": 1.0, "nitrite": 1.0, "nitrate": 5.0}  # kg/m³


class TestedDialog(QDialog):
    """A day and up to three values; ``made`` is the entry after it was accepted."""

    def __init__(self, tank: str, name: str, units: UnitSystem, parent: QWidget | None = None):
        super().__init__(parent)
        self.setWindowTitle(f"A test of {name}")
        self.tank = tank
        self.made: Tested | None = None
        self.typed: dict[str, float] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(20), theme.px(16), theme.px(20), theme.px(16))
        words = Label(
            "Kits that read NH₄ or NO₂ say more than its nitrogen: times 0.78 and 0.30. Leave out what was not tested."
        )
        words.setObjectName("subheading")
        words.setWordWrap(True)
        column.addWidget(words)
        grid = QGridLayout()
        grid.setVerticalSpacing(theme.px(6))
        today = datetime.date.today()
        self.day = QDateEdit(QDate(today.year, today.month, today.day))
        self.day.setCalendarPopup(True)
        self.day.setDisplayFormat("yyyy-MM-dd")
        self.day.setMaximumDate(self.day.date())
        self.day.setAccessibleName("Day of the test")
        grid.addWidget(Label("Day"), 0, 0)
        grid.addWidget(self.day, 0, 1)
        self.fields: dict[str, QuantityEdit] = {}
        for n, (key, label) in enumerate(FIELDS, 1):
            box = QuantityEdit("concentration", 0.0, units)
            box.clear()
            box.setPlaceholderText("not tested")
            box.setAccessibleName(label)
            box.committed.connect(lambda v, k=key: self._take(k, v))
            box.failed.connect(self._say)
            head = Label(label)
            head.setBuddy(box)
            grid.addWidget(head, n, 0)
            grid.addWidget(box, n, 1)
            self.fields[key] = box
        column.addLayout(grid)
        self.error = Label()
        self.error.setObjectName("error")
        self.error.setWordWrap(True)
        self.error.hide()
        column.addWidget(self.error)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)

    def _take(self, key: str, value: float) -> None:
        self._say("")
        if not 0 <= value <= MOST[key]:
            self._say("No water holds so much of it.")
            return
        self.typed[key] = value

    def _say(self, sentence: str) -> None:
        self.error.setText(sentence)
        self.error.setVisible(bool(sentence))

    def accept(self) -> None:
        """Take it, or say what is missing."""
        for box in self.fields.values():
            box.clearFocus()  # commits what is being typed
        if self.error.isVisible() and self.error.text():
            return
        if not self.typed:
            self._say("Type what a test read, or Cancel.")
            return
        self.made = Tested(date=self.day.date().toString("yyyy-MM-dd"), tank=self.tank, **self.typed)
        super().accept()
