"""A dialog for a builder's own medium."""

from __future__ import annotations

from typing import Any

from pydantic import ValidationError
from PySide6.QtWidgets import QDialog, QDialogButtonBox, QGridLayout, QVBoxLayout, QWidget

from fuente.devices.filtering import choices_of
from fuente.devices.sentences import first_sentence
from fuente.document.media import OwnMedium
from fuente.ui import theme
from fuente.ui.fields import ChoiceBox, QuantityEdit, TextEdit
from fuente.ui.label import Label
from fuente.units import UnitSystem

_NAMES = "name kind surface core void dry size cost cleaning matures source"


class OwnMediumDialog(QDialog):
    """All figures of a medium; ``made`` is the medium after the dialog was accepted."""

    def __init__(self, start: OwnMedium, units: UnitSystem, title: str, parent: QWidget | None = None):
        super().__init__(parent)
        self.setWindowTitle(title)
        self.made: OwnMedium | None = None
        self.units = units
        self.values: dict[str, Any] = start.figures()
        self.fields: dict[str, QWidget] = {}
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(20), theme.px(16), theme.px(20), theme.px(16))
        words = Label(
            "Take figures from a sack you have measured: fill a litre, weigh it dry, fill it up with water from a jug."
            " The water is the void."
        )
        words.setObjectName("subheading")
        words.setWordWrap(True)
        column.addWidget(words)
        grid = QGridLayout()
        grid.setHorizontalSpacing(theme.px(14))
        grid.setVerticalSpacing(theme.px(6))
        for row, choice in enumerate(choices_of(start, (), _NAMES)):
            name = str(choice.path[-1])
            label = Label(choice.label)
            field: Any
            if choice.quantity == "choice":
                field = ChoiceBox(choice.options, choice.value)
                field.chosen.connect(lambda v, n=name: self._put(n, v))
            elif choice.quantity == "text":
                field = TextEdit(choice.value)
                field.committed.connect(lambda v, n=name: self._put(n, v))
            else:
                field = QuantityEdit(choice.quantity, choice.value, units)
                field.committed.connect(lambda v, n=name: self._put(n, v))
                field.nudged.connect(lambda v, n=name: self._put(n, v))
                field.nudged.connect(lambda v, f=field: f.show_value(v, units))
                field.failed.connect(self._say)
            field.setAccessibleName(choice.label)
            field.setMinimumWidth(theme.px(210))
            label.setBuddy(field)
            grid.addWidget(label, row, 0)
            grid.addWidget(field, row, 1)
            self.fields[name] = field
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

    def _put(self, name: str, value: Any) -> None:
        self.values[name] = value
        self._say("")

    def _say(self, sentence: str) -> None:
        self.error.setText(sentence)
        self.error.setVisible(bool(sentence))

    def accept(self) -> None:
        """Take the figures, or say which is out of its range."""
        for field in self.fields.values():
            field.clearFocus()  # commits what is being typed
        if self.error.isVisible() and self.error.text():
            return
        try:
            self.made = OwnMedium(**self.values)
        except ValidationError as error:
            self._say(first_sentence(error, OwnMedium))
            return
        super().accept()
