"""How you build: the schools that the whole system follows, each with what it would change."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QScrollArea, QVBoxLayout, QWidget

from fuente.devices.base import Change, Edit
from fuente.devices.schools import QUESTIONS
from fuente.study.schools import effects
from fuente.ui import theme
from fuente.ui.fields import ChoiceBox
from fuente.ui.workspace import Workspace


class SchoolsPanel(QScrollArea):
    """A choice for every question, and under it what it would change of the filters that are there."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setWidgetResizable(True)
        self.setFixedWidth(theme.px(320))
        self.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        page = QWidget()
        page.setObjectName("panel")
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(16), theme.px(12), theme.px(16), theme.px(16))
        column.setSpacing(theme.px(2))
        head = QLabel("How you build")
        head.setObjectName("heading")
        column.addWidget(head)
        words = QLabel(
            "Builders disagree here. What you choose holds for every filter that does not say otherwise on its own"
            " card."
        )
        words.setObjectName("subheading")
        words.setWordWrap(True)
        column.addWidget(words)
        self.boxes: dict[str, ChoiceBox] = {}
        self.words: dict[str, QLabel] = {}
        for question, (label, options, _) in QUESTIONS.items():
            title = QLabel(label)
            title.setContentsMargins(0, theme.px(10), 0, 0)
            title.setFont(theme.font(12, theme.MEDIUM))
            column.addWidget(title)
            box = ChoiceBox(options, getattr(self.workspace.system.schools, question))
            box.setAccessibleName(label)
            title.setBuddy(box)
            box.chosen.connect(lambda v, q=question, n=label: self._choose(q, n, v))
            column.addWidget(box)
            effect = QLabel()
            effect.setObjectName("subheading")
            effect.setWordWrap(True)
            column.addWidget(effect)
            self.boxes[question], self.words[question] = box, effect
        column.addStretch(1)
        self.setWidget(page)
        workspace.changed.connect(self.refresh)
        self.refresh()

    def _choose(self, question: str, label: str, value: Any) -> None:
        words = dict(QUESTIONS[question][1])[value]
        self.workspace.edit(Edit(f"{label}: {words}", (Change(("schools", question), value),)))

    def refresh(self) -> None:
        """Follow the workspace."""
        said = effects(self.workspace.analysis, self.workspace.units)
        for question, box in self.boxes.items():
            box.show_value(getattr(self.workspace.system.schools, question))
            self.words[question].setText(said.get(question) or QUESTIONS[question][2])
            self.words[question].setToolTip(QUESTIONS[question][2])
