"""Fields that hold more than one number: fittings, a pump's points, three sizes."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Qt, Signal
from PySide6.QtGui import QFocusEvent, QKeyEvent
from PySide6.QtWidgets import (
    QDialog,
    QDialogButtonBox,
    QFileDialog,
    QFormLayout,
    QLineEdit,
    QPushButton,
    QStyle,
    QWidget,
)

from fuente.catalogue import FITTINGS
from fuente.devices.base import FittingCount
from fuente.errors import EntryError, FuenteError
from fuente.typed import parse, parse_dimensions
from fuente.ui.fields import CountEdit, TextEdit
from fuente.ui.label import Label
from fuente.ui.pending import PendingEdit
from fuente.units import UnitSystem, shown, unit_label, unit_size


def fittings_words(fittings: tuple[FittingCount, ...]) -> str:
    """2 × elbow 45°, union."""
    words = []
    for each in fittings:
        if each.count:
            name = FITTINGS[each.kind].name.split(",")[0]
            words.append(f"{each.count} × {name}" if each.count > 1 else name)
    return ", ".join(words) or "none"


class FittingsButton(QPushButton):
    """Shows a run's fittings and opens their counts."""

    committed = Signal(object)

    def __init__(self, value: tuple[FittingCount, ...], parent: QWidget | None = None):
        super().__init__(parent)
        self._value = value
        self.clicked.connect(self._open)
        self.show_value(value)

    def show_value(self, value: tuple[FittingCount, ...]) -> None:
        """Follow the document."""
        self._value = value
        words = fittings_words(value)
        self.setText(words if len(words) < 22 else f"{sum(f.count for f in value)} fittings")
        self.setToolTip(words)

    def _open(self) -> None:
        dialog = FittingsDialog(self._value, self.window())
        if dialog.exec() == QDialog.DialogCode.Accepted:
            self.committed.emit(dialog.value())


class FittingsDialog(QDialog):
    """Counts of every kind of fitting in a run."""

    def __init__(self, value: tuple[FittingCount, ...], parent: QWidget | None = None):
        super().__init__(parent)
        self.setWindowTitle("Fittings in this run")
        form = QFormLayout(self)
        form.addRow(Label("How many of each. Each costs its loss coefficient, K, in head."))
        have = {f.kind: f.count for f in value}
        self._edits: dict[str, CountEdit] = {}
        for kind, fitting in FITTINGS.items():
            if kind in ("exit", "entrance", "entrance_reentrant", "swing_check", "flap_check"):
                continue  # counted by the run itself
            edit = CountEdit(have.get(kind, 0), UnitSystem.METRIC)
            edit.nudged.connect(lambda v, e=edit: e.show_value(max(0, v), UnitSystem.METRIC))
            edit.setAccessibleName(fitting.name)
            self._edits[kind] = edit
            form.addRow(f"{fitting.name}, K {fitting.k:g}", edit)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Ok | QDialogButtonBox.StandardButton.Cancel)
        buttons.accepted.connect(self.accept)
        buttons.rejected.connect(self.reject)
        form.addRow(buttons)

    def value(self) -> tuple[FittingCount, ...]:
        """The counts as fittings."""
        return tuple(
            FittingCount(kind=kind, count=min(99, max(0, round(edit.value()))))
            for kind, edit in self._edits.items()
            if edit.value() > 0
        )


class CurveEdit(TextEdit):
    """A pump's points as ``0:3.6, 1500:3.2, 4800:0.4`` (L/h : m, or gph : ft)."""

    parsed = Signal(object)

    def __init__(self, points: tuple[tuple[float, float], ...], units: UnitSystem, parent: QWidget | None = None):
        self._units = units
        super().__init__(self.words(points), parent)
        self._example = self.words(((0.0, 3.6), (2500e-3 / 3600, 2.7), (5000e-3 / 3600, 0.2)))
        self._labels = f"{unit_label('flow', units)} : {unit_label('head', units)}"
        self.setPlaceholderText(self._example)
        self.setToolTip(self._labels)
        self.committed.connect(self._parse)
        self.on_error: Callable[[str], None] = lambda _: None
        load = self.addAction(
            self.style().standardIcon(QStyle.StandardPixmap.SP_DialogOpenButton),
            QLineEdit.ActionPosition.TrailingPosition,
        )
        load.setToolTip("Load points from a CSV file: flow, head")
        load.triggered.connect(self._choose)

    def _choose(self) -> None:
        name, _ = QFileDialog.getOpenFileName(self, "A pump's points", "", "Tables (*.csv *.txt)")
        if name:
            self.load(name)

    def load(self, name: str) -> None:
        """Take the points of a CSV file, or say what is wrong with it."""
        from pathlib import Path

        from fuente.document.curves import read_curve

        try:
            points = read_curve(Path(name))
        except FuenteError as error:
            self.on_error(str(error))
            return
        self.parsed.emit(points)

    def words(self, points: tuple[tuple[float, float], ...]) -> str:
        """Points as text."""
        flow, head = unit_size("flow", self._units), unit_size("head", self._units)
        return ", ".join(f"{q / flow:.0f}:{float(f'{h / head:.3g}'):g}" for q, h in points)

    def show_value(self, value: Any) -> None:
        """Follow the document."""
        super().show_value(value if isinstance(value, str) else self.words(value))

    def _parse(self, text: str) -> None:
        points = []
        try:
            for pair in filter(None, (p.strip() for p in text.replace(";", ",").split(","))):
                flow, head = pair.split(":")
                points.append((parse(flow, "flow", self._units), parse(head, "head", self._units)))
        except (ValueError, EntryError):
            self.on_error(f"Type points as {self._labels}, such as {self._example}.")
            self.setText(self._value)
            return
        self.parsed.emit(tuple(sorted(points)))


class DimensionsEdit(PendingEdit):
    """Three sizes in one entry, as people say them: 1500x600x550, or 60 x 24 x 22 in."""

    committed = Signal(tuple)
    failed = Signal(str)

    def __init__(self, sizes: tuple[float, float, float], units: UnitSystem, parent: QWidget | None = None):
        super().__init__(parent=parent)
        self._sizes, self._units = sizes, units
        self.setAlignment(Qt.AlignmentFlag.AlignRight)
        self._write()

    def show_value(self, sizes: tuple[float, float, float], units: UnitSystem) -> None:
        """Follow the document."""
        self._sizes, self._units = sizes, units
        if not self.isModified() or not self.hasFocus():
            self._write()

    def _write(self) -> None:
        bare = [shown(s, "length", self._units, unit=False) for s in self._sizes[:-1]]
        self.setText(" × ".join((*bare, shown(self._sizes[-1], "length", self._units))))
        self.setModified(False)

    def enter(self) -> bool:
        """Take what is typed; False, and ``failed``, where it cannot be read."""
        if not self.isModified():
            return True
        try:
            sizes = parse_dimensions(self.text(), 3, self._units)
        except EntryError as error:
            self.failed.emit(str(error))
            return False
        self.failed.emit("")
        self.setModified(False)
        self._sizes = (sizes[0], sizes[1], sizes[2])
        self.committed.emit(self._sizes)
        if not self.isModified():
            self._write()
        return True

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Enter commits, Esc restores."""
        if event.key() in (Qt.Key.Key_Return, Qt.Key.Key_Enter):
            self.enter()
        elif event.key() == Qt.Key.Key_Escape and self.isModified():
            self._write()
        else:
            super().keyPressEvent(event)

    def focusOutEvent(self, event: QFocusEvent) -> None:
        """Leaving commits what can be read."""
        if self.isModified() and not self.enter():
            self._write()
        super().focusOutEvent(event)
