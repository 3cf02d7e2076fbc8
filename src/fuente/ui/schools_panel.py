"""How you build: the schools that the whole system follows, each with what it would change."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QScrollArea, QVBoxLayout, QWidget

from fuente.devices.base import Change, Edit
from fuente.devices.schools import QUESTIONS
from fuente.study.schools import effects
from fuente.ui import theme
from fuente.ui.fields import ChoiceBox, QuantityEdit
from fuente.ui.label import Label
from fuente.ui.put_in import put_in
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, shown


class SchoolsPanel(QScrollArea):
    """A choice for every question, and under it what it would change of the filters that are there."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setWidgetResizable(True)
        self.setFixedWidth(theme.px(320))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        page = QWidget(self.viewport())
        page.setObjectName("panel")
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(16), theme.px(12), theme.px(16), theme.px(16))
        column.setSpacing(theme.px(2))
        head = Label("How you build")
        head.setObjectName("heading")
        column.addWidget(head)
        words = Label(
            "Builders disagree here. What you choose holds for every filter that does not say otherwise on its own"
            " card."
        )
        words.setObjectName("subheading")
        words.setWordWrap(True)
        column.addWidget(words)
        self.boxes: dict[str, ChoiceBox] = {}
        self.words: dict[str, QLabel] = {}
        for question, (label, options, _) in QUESTIONS.items():
            title = Label(label)
            title.setContentsMargins(0, theme.px(10), 0, 0)
            title.setFont(theme.font(12, theme.MEDIUM))
            column.addWidget(title)
            box = ChoiceBox(options, getattr(self.workspace.system.schools, question))
            box.setAccessibleName(label)
            title.setBuddy(box)
            box.chosen.connect(lambda v, q=question, n=label: self._choose(q, n, v))
            column.addWidget(box)
            effect = Label()
            effect.setObjectName("subheading")
            effect.setWordWrap(True)
            column.addWidget(effect)
            self.boxes[question], self.words[question] = box, effect
        self.fields: dict[str, QuantityEdit] = {}
        self.labels: dict[str, QLabel] = {}
        for name, quantity in (("litres", "fraction"), ("kilos", "mass")):
            title = Label()
            title.setContentsMargins(0, theme.px(10), 0, 0)
            title.setFont(theme.font(12, theme.MEDIUM))
            column.addWidget(title)
            field = QuantityEdit(quantity, getattr(self.workspace.system.schools, name), workspace.units)
            field.committed.connect(lambda v, n=name: self._typed(n, v))
            field.failed.connect(self._say)
            column.addWidget(field)
            self.fields[name], self.labels[name] = field, title
        self.error = Label()
        self.error.setObjectName("error")
        self.error.setWordWrap(True)
        self.error.hide()
        column.addWidget(self.error)
        column.addStretch(1)
        put_in(self, page)
        workspace.changed.connect(self.refresh)
        self.refresh()

    def _choose(self, question: str, label: str, value: Any) -> None:
        words = dict(QUESTIONS[question][1])[value]
        self.workspace.edit(Edit(f"{label}: {words}", (Change(("schools", question), value),)))

    def _typed(self, name: str, value: float) -> None:
        self._say("")
        words = f"{self.labels[name].text()}: {self.fields[name].text()}"
        self.workspace.edit(Edit(words, (Change(("schools", name), value),)))

    def _say(self, sentence: str) -> None:
        self.error.setText(sentence)
        self.error.setVisible(bool(sentence))

    def refresh(self) -> None:
        """Follow the workspace."""
        units = self.workspace.units
        one = "gallon" if units == UnitSystem.US else "litre"
        words = {
            "litres": f"Media for each {one} of tank",
            "kilos": f"Media for each {shown(0.1, 'volume', units)} of tank",
        }
        for name, field in self.fields.items():
            field.show_value(getattr(self.workspace.system.schools, name), units)
            self.labels[name].setText(words[name])
            field.setAccessibleName(words[name])
        said = effects(self.workspace.analysis, self.workspace.units)
        for question, box in self.boxes.items():
            box.show_value(getattr(self.workspace.system.schools, question))
            self.words[question].setText(said.get(question) or QUESTIONS[question][2])
            self.words[question].setToolTip(QUESTIONS[question][2])
