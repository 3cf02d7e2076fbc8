"""Break something: a chip for every fault that this design can have, and a line with moment and number for each."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLayout, QPushButton, QVBoxLayout, QWidget

from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.faults import KINDS, fits
from fuente.ui import theme
from fuente.ui.fields import QuantityEdit
from fuente.ui.label import Label
from fuente.units import UnitSystem, shown


def emptied(layout: QLayout) -> None:
    """Take every widget out of a layout and let it go."""
    while layout.count():
        item = layout.takeAt(0)
        widget = item.widget() if item else None
        if widget:
            widget.hide()
            widget.deleteLater()


class FaultPanel(QWidget):
    """The faults of a run: which, when, how much."""

    changed = Signal()
    said = Signal(str)  # why something was not taken, or nothing

    def __init__(self, moment: Callable[[], float], until: Callable[[], float], parent: QWidget | None = None):
        """``moment`` is the time in s that is shown, at which a new fault happens; ``until`` where the run ends."""
        super().__init__(parent)
        self._moment, self._until = moment, until
        self._units = UnitSystem.METRIC
        self.faults: list[Fault] = []
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        self.chip_grid = QGridLayout()
        self.chip_grid.setSpacing(theme.px(6))
        self.chips: dict[str, QPushButton] = {}
        ink = "#FFFFFF" if theme.current().name == "light" else "#1A1210"
        for kind in KINDS.values():
            chip = QPushButton(kind.title, self)
            chip.setCheckable(True)
            chip.setStyleSheet(
                f"QPushButton {{ padding: {theme.px(5)}px {theme.px(6)}px; }}"
                f"QPushButton:checked {{ background: {theme.current().stop}; color: {ink}; border: none; }}"
            )
            chip.clicked.connect(lambda on, k=kind.name: self.set_fault(k, on))
            self.chips[kind.name] = chip
        column.addLayout(self.chip_grid)
        self.rows = QVBoxLayout()
        self.rows.setSpacing(theme.px(3))
        column.addLayout(self.rows)

    def arrange(self, analysis: Analysis) -> None:
        """Only what this system has can break."""
        there = [key for key in self.chips if fits(analysis, key)]
        for key, chip in self.chips.items():
            self.chip_grid.removeWidget(chip)
            chip.setVisible(key in there)
        columns = 4 if len(there) <= 12 else 3
        for i, key in enumerate(there):
            self.chip_grid.addWidget(self.chips[key], i // columns, i % columns)

    def show_faults(self, faults: list[Fault], units: UnitSystem) -> None:
        """Show these faults, without telling anybody."""
        self.faults, self._units = list(faults), units
        emptied(self.rows)
        for name, chip in self.chips.items():
            chip.setChecked(any(f.kind == name for f in self.faults))
        for fault in sorted(self.faults, key=lambda f: f.time):
            self.rows.addWidget(self._line(fault))

    def set_fault(self, kind: str, on: bool) -> None:
        """Add a fault at the shown moment, or take it away."""
        kept = [f for f in self.faults if f.kind != kind]
        if on:
            moment = round(min(max(self._moment(), 5.0), self._until() - 1))
            kept.append(Fault(kind, moment, KINDS[kind].default))
        self._take(kept)

    def _take(self, faults: list[Fault]) -> None:
        self.show_faults(faults, self._units)
        self.changed.emit()

    def _line(self, fault: Fault) -> QWidget:
        """A fault's moment, and its number where it has one."""
        kind = KINDS[fault.kind]
        line = QWidget()
        row = QHBoxLayout(line)
        row.setContentsMargins(0, 0, 0, 0)
        row.addWidget(Label(f"{kind.title} at"))
        moment = QuantityEdit("time", fault.time, self._units, 5)
        moment.setFixedWidth(theme.px(84))
        moment.setAccessibleName(f"{kind.title} happens at")
        moment.committed.connect(lambda v: self._change(fault, v, fault.value))
        moment.nudged.connect(lambda v: self._change(fault, max(v, 0.0), fault.value))
        moment.failed.connect(self.said)
        row.addWidget(moment)
        if not kind.number:
            row.addStretch(1)
            return line
        number = QuantityEdit(kind.quantity, fault.value, self._units, 0.1 if kind.high <= 1 else 1)
        number.setFixedWidth(theme.px(70))
        number.setAccessibleName(kind.number)
        number.committed.connect(lambda v: self._change(fault, fault.time, v))
        number.nudged.connect(lambda v: self._change(fault, fault.time, v))
        number.failed.connect(self.said)
        row.addWidget(number)
        words = Label(kind.number)
        words.setObjectName("quiet")
        row.addWidget(words, 1)
        return line

    def _change(self, fault: Fault, time: float, value: float) -> None:
        kind = KINDS[fault.kind]
        low, high = (shown(each, kind.quantity, self._units, unit=False) for each in (kind.low, kind.high))
        span = f"{low} to {high}" + (" %" if kind.quantity == "fraction" else "")
        if not 0 <= time < self._until() or not kind.low <= value <= kind.high:
            self.said.emit(
                f"{kind.title} takes a moment within the run"
                + (f" and, {kind.number}, from {span}." if kind.number else ".")
            )
            self.show_faults(self.faults, self._units)
            return
        self.said.emit("")
        self._take([Fault(f.kind, time, value) if f == fault else f for f in self.faults])
