"""How upkeep goes: own tasks, how far apart living places are cleaned, when a pad is due, chemical media, sweeps."""

from __future__ import annotations

import re

from PySide6.QtWidgets import (
    QComboBox,
    QDialog,
    QDialogButtonBox,
    QDoubleSpinBox,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QListWidget,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from fuente.catalogue import consumables
from fuente.devices.base import Change, Edit
from fuente.document.system import System
from fuente.document.upkeep import Dosed, OwnTask
from fuente.ui import theme
from fuente.ui.side_panel import section
from fuente.ui.told_panel import plain

_DAY = 86400.0


class UpkeepDialog(QDialog):
    """Everything of it; one edit when it is taken."""

    def __init__(self, system: System, parent: QWidget | None = None):
        super().__init__(parent)
        self.upkeep = system.upkeep
        self.own: list[OwnTask] = list(system.upkeep.own)
        self.setWindowTitle("How upkeep goes")
        self.setMinimumWidth(theme.px(480))
        column = QVBoxLayout(self)
        grid = QGridLayout()
        self.apart = _days(round(self.upkeep.apart / _DAY), 0, 90, "Days between two living places")
        self.full = QDoubleSpinBox()
        self.full.setRange(1.1, 200.0)
        self.full.setDecimals(1)
        self.full.setValue(self.upkeep.full)
        self.full.setSuffix(" × clean loss")
        self.full.setAccessibleName("A pad is due at")
        self.sweep = _days(round(self.upkeep.sweep / 3600.0), 0, 48, "Hours of a sweep")
        self.sweep.setSuffix(" h, 0 for never")
        rows = (
            ("Two living places are cleaned apart by", self.apart),
            ("A pad is due at", self.full),
            ("Circulation pumps sweep in turn every", self.sweep),
        )
        for n, (label, box) in enumerate(rows):
            words = plain(label)
            words.setBuddy(box)
            grid.addWidget(words, n, 0)
            grid.addWidget(box, n, 1)
        grid.setColumnStretch(0, 1)
        column.addLayout(grid)
        column.addWidget(section("Chemical media, renewed by halves"))
        self.tank = QComboBox()
        for tank in system.tanks:
            self.tank.addItem(tank.name, tank.id)
        self.tank.setAccessibleName("For the water of")
        self.media: dict[str, QPushButton] = {}
        line = QHBoxLayout()
        there = {d.medium for d in self.upkeep.dosed}
        for stuff in consumables():
            if stuff.dose > 0:
                button = QPushButton(stuff.name)
                button.setObjectName("choice")
                button.setCheckable(True)
                button.setChecked(stuff.id in there)
                self.media[stuff.id] = button
        column.addLayout(line)
        for button in self.media.values():
            column.addWidget(button)
        if len(system.tanks) > 1:
            column.addWidget(self.tank)
        column.addWidget(section("Tasks of your own"))
        self.list = QListWidget()
        self.list.setAccessibleName("Tasks of your own")
        self.list.setMaximumHeight(theme.px(110))
        column.addWidget(self.list)
        add = QHBoxLayout()
        self.name = QLineEdit()
        self.name.setPlaceholderText("Wipe the lid")
        self.name.setAccessibleName("Name of the task")
        self.every = _days(30, 1, 3650, "Every")
        self.minutes = _days(10, 1, 600, "Minutes")
        self.minutes.setSuffix(" min")
        self.add = QPushButton("Add")
        self.add.clicked.connect(self._add)
        self.remove = QPushButton("Remove")
        self.remove.clicked.connect(self._remove)
        for widget in (self.name, self.every, self.minutes, self.add, self.remove):
            add.addWidget(widget)
        column.addLayout(add)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)
        self._show()

    def _show(self) -> None:
        self.list.clear()
        for task in self.own:
            self.list.addItem(f"{task.name}, every {task.every / _DAY:.0f} days, {task.minutes:.0f} min")

    def _add(self) -> None:
        words = " ".join(self.name.text().split())[:120]
        if not words:
            self.name.setFocus()
            return
        stem = re.sub(r"[^a-z0-9]+", "-", words.lower()).strip("-")[:30] or "task"
        taken = {t.id for t in self.own}
        made = next(k for k in (stem, *(f"{stem}-{n}" for n in range(2, 999))) if k not in taken)
        task = OwnTask(id=made, name=words, every=self.every.value() * _DAY, minutes=float(self.minutes.value()))
        self.own.append(task)
        self.name.clear()
        self._show()

    def _remove(self) -> None:
        row = self.list.currentRow()
        if 0 <= row < len(self.own):
            del self.own[row]
            self._show()

    def edit(self) -> Edit | None:
        """The edit that it comes to; None where nothing is other."""
        tank = str(self.tank.currentData())
        kept = {d.medium: d for d in self.upkeep.dosed}
        chosen = [key for key, button in self.media.items() if button.isChecked()]
        dosed = tuple(kept.get(key, Dosed(medium=key, tank=tank)) for key in chosen)
        values = {
            "apart": self.apart.value() * _DAY,
            "full": round(self.full.value(), 1),
            "sweep": self.sweep.value() * 3600.0,
            "own": tuple(self.own),
            "dosed": dosed,
        }
        changes = tuple(Change(("upkeep", k), v) for k, v in values.items() if v != getattr(self.upkeep, k))
        return Edit("Change upkeep", changes) if changes else None


def _days(value: int, low: int, high: int, name: str) -> QSpinBox:
    box = QSpinBox()
    box.setRange(low, high)
    box.setValue(value)
    box.setSuffix(" days")
    box.setAccessibleName(name)
    return box
