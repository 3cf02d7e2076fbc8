"""How the water is kept: what stands in it, how it is started, new water, limits, and tests that are written down."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import QDate, QObject, QSignalBlocker, Qt, Signal
from PySide6.QtWidgets import QDateEdit, QGridLayout, QLabel, QPushButton, QScrollArea, QWidget

from fuente.devices.base import Change, Edit
from fuente.document.record import Tested
from fuente.study.weeks import WAYS
from fuente.ui import theme
from fuente.ui.fields import ChoiceBox, QuantityEdit
from fuente.ui.side_panel import field_of, panel, section
from fuente.ui.tested_dialog import TestedDialog
from fuente.ui.workspace import Workspace
from fuente.units import shown

WIDTH, MOST = 236, 300  # px, and with large text
_NOT_YET = QDate(2000, 1, 1)
_FIELDS: tuple[tuple[str, tuple[tuple[str, str, str], ...]], ...] = (
    (
        "New water",
        (
            ("share", "Change", "fraction"),
            ("interval", "Every", "days"),
            ("nitrate", "Nitrate (NO₃)", "concentration"),
            ("alkalinity", "Alkalinity", "concentration"),
            ("cold", "It comes with", "temperature"),
            ("water_price", "Price of water", "number"),
        ),
    ),
    (
        "Limits in the tanks",
        (
            ("ammonia_limit", "Ammonia (N)", "concentration"),
            ("nitrite_limit", "Nitrite (N)", "concentration"),
            ("nitrate_limit", "Nitrate (NO₃)", "concentration"),
            ("oxygen_limit", "Oxygen, least", "concentration"),
        ),
    ),
)


# What a start asks: its label, its quantity, and the ways that ask it.
_START: dict[str, tuple[str, str, tuple[str, ...]]] = {
    "dose": ("Dosed to (N)", "concentration", ("fishless", "bucket")),
    "moved": ("Film moved over", "fraction", ("seeded",)),
    "media": ("Media in the bucket", "fraction", ("bucket",)),
    "bucket": ("Water in the bucket", "volume", ("bucket",)),
    "bucket_warm": ("Bucket kept at", "temperature", ("bucket",)),
    "stood": ("Out of its water for", "hours", ("seeded", "bucket")),
    "slow": ("Pump turned low for", "days", ("fishless", "seeded", "bucket", "fish")),
}


class KeepingPanel(QObject):
    """The left panel of the living water; ``area`` is its widget. ``again`` says that what is shown is not what is
    asked for any more, ``said`` what could not be taken.
    """

    again = Signal()
    said = Signal(str)

    def __init__(self, workspace: Workspace, parent: QWidget):
        super().__init__(parent)
        self.workspace = workspace
        self.area: QScrollArea
        self.area, column = panel(min(theme.px(WIDTH), MOST), parent)
        self.tank = ChoiceBox((("", ""),), "")
        self.tank.setAccessibleName("Which tank is shown")
        self.tank.chosen.connect(lambda _: self.again.emit())
        column.addWidget(section("In the water, in the long run"))
        column.addWidget(self.tank)
        self.water = QGridLayout()
        self.water.setVerticalSpacing(theme.px(4))
        column.addLayout(self.water)
        column.addWidget(section("Start"))
        keeping = self.workspace.system.keeping
        self.way = ChoiceBox(tuple(WAYS.items()), keeping.start)
        self.way.setAccessibleName("How it is started")
        self.way.chosen.connect(self._way_chosen)
        column.addWidget(self.way)
        units = self.workspace.units
        self.dose = QuantityEdit("concentration", keeping.dose, units, 0.5e-3)
        self.moved = QuantityEdit("fraction", keeping.moved, units, 0.05)
        self._rows: dict[str, QWidget] = {}
        self.boxes = {"dose": self.dose, "moved": self.moved}
        for key, (label, quantity, _) in _START.items():
            if key not in self.boxes:
                self.boxes[key] = QuantityEdit(quantity, getattr(keeping, key), units)
            box = self.boxes[key]
            box.setAccessibleName(label)
            box.committed.connect(lambda v, k=key, w=label: self._typed(k, w, v))
            box.failed.connect(self.said)
            self._rows[key] = field_of(label, box)
            column.addWidget(self._rows[key])
        self.started = QDateEdit()
        self.started.setCalendarPopup(True)
        self.started.setDisplayFormat("yyyy-MM-dd")
        self.started.setMinimumDate(_NOT_YET)
        self.started.setSpecialValueText("not yet")
        self.started.setAccessibleName("Started on")
        self.started.setFixedWidth(theme.px(116))
        self.started.dateChanged.connect(self._started_on)
        column.addWidget(field_of("Started on", self.started))
        self.test = QPushButton("Write down a test …")
        self.test.setObjectName("link")
        self.test.clicked.connect(self._ask_test)
        column.addWidget(self.test, alignment=Qt.AlignmentFlag.AlignLeft)
        self.fields: dict[str, QuantityEdit] = {}
        self._labels: dict[str, Any] = {}
        for head, fields in _FIELDS:
            column.addWidget(section(head))
            for name, label, quantity in fields:
                box = QuantityEdit(quantity, getattr(self.workspace.system.keeping, name), units)
                box.committed.connect(lambda v, n=name, w=label: self._typed(n, w, v))
                box.failed.connect(self.said)
                self.fields[name] = box
                row = field_of(label, box)
                column.addWidget(row)
                self._labels[name] = row.findChild(QLabel)
        column.addStretch(1)

    def _typed(self, name: str, label: str, value: float) -> None:
        self.said.emit("")
        self.workspace.edit(Edit(f"{label}", (Change(("keeping", name), value),)))

    def _way_chosen(self, way: Any) -> None:
        self.said.emit("")
        self.workspace.edit(Edit(f"Start: {WAYS[way]}", (Change(("keeping", "start"), way),)))

    def _started_on(self, day: QDate) -> None:
        text = "" if day == _NOT_YET else day.toString("yyyy-MM-dd")
        if text != self.workspace.system.keeping.started:
            self.workspace.edit(Edit("Day of the start", (Change(("keeping", "started"), text),)))

    def _ask_test(self) -> None:
        tank = self.tank.value()
        dialog = TestedDialog(tank, self.workspace.system.tank(tank).name, self.workspace.units, self.area)
        if dialog.exec() and dialog.made is not None:
            self.write_down(dialog.made)

    def write_down(self, test: Tested) -> None:
        """A test into the record; the chart goes through it from then on."""
        if not self.workspace.system.keeping.started:
            self.said.emit("Say on which day it was started, so that tests find their place.")
        self.workspace.write_down(test)
        self.again.emit()

    def _show_start(self) -> None:
        units, keeping = self.workspace.units, self.workspace.system.keeping
        self.way.show_value(keeping.start)
        for key, box in self.boxes.items():
            box.show_value(getattr(keeping, key), units)
            self._rows[key].setVisible(keeping.start in _START[key][2])
        with QSignalBlocker(self.started):
            day = QDate.fromString(keeping.started, "yyyy-MM-dd") if keeping.started else _NOT_YET
            self.started.setDate(day)

    def refresh(self) -> None:
        """Follow the workspace."""
        system, units = self.workspace.system, self.workspace.units
        options = tuple((t.id, t.name) for t in system.tanks)
        chosen = self.tank.value() if self.tank.value() in dict(options) else options[0][0]
        self.tank.set_options(options, chosen)
        self.tank.setVisible(len(options) > 1)
        self._labels["water_price"].setText(
            ", ".join(filter(None, (f"Price of {shown(1.0, 'volume', units)}", system.shop.currency)))
        )  # as water is sold: by the cubic metre
        for name, box in self.fields.items():
            box.show_value(getattr(system.keeping, name), units)
        self._show_start()
