"""The bar on top: what is open, the stages, units, quick answers."""

from __future__ import annotations

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import QButtonGroup, QHBoxLayout, QPushButton, QWidget

from fuente.ui import theme
from fuente.ui.elided import ElidedLabel
from fuente.ui.stages import STAGES
from fuente.units import UnitSystem


class TopBar(QWidget):
    """Name, stages, and two switches."""

    stage_chosen = Signal(str)
    units_wanted = Signal()
    answers_wanted = Signal()
    menu_wanted = Signal()

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("bar")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setMinimumHeight(theme.px(44))
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(16), 0, theme.px(16), 0)
        row.setSpacing(theme.px(8))
        self.title = ElidedLabel(120)
        self.title.setObjectName("title")
        self.place = ElidedLabel(0)
        self.place.setObjectName("quiet")
        row.addWidget(self.title)
        row.addSpacing(theme.px(6))
        row.addWidget(self.place)
        row.addSpacing(theme.px(20))
        self.group = QButtonGroup(self)
        self.group.setExclusive(True)
        self.stages: dict[str, QPushButton] = {}
        for key, stage in STAGES.items():
            button = QPushButton(stage.title)
            button.setObjectName("stage")
            button.setCheckable(True)
            button.clicked.connect(lambda _=False, k=key: self.stage_chosen.emit(k))
            self.group.addButton(button)
            row.addWidget(button)
            self.stages[key] = button
        row.addStretch(1)
        self.units = QPushButton("Metric")
        self.units.setToolTip("Switch between metric and US units (Ctrl+U)")
        self.units.clicked.connect(self.units_wanted)
        self.answers = QPushButton("Quick answer  Ctrl K" if theme.scale() < 1.3 else "Quick answer")
        self.answers.setToolTip("Answer one question without changing the design (Ctrl+K)")
        self.answers.clicked.connect(self.answers_wanted)
        row.addWidget(self.units)
        row.addWidget(self.answers)

    def show_document(self, name: str, place: str, state: str, units: UnitSystem) -> None:
        """Follow the document."""
        self.title.setText(name)
        self.place.setText(" · ".join(filter(None, (place, state))))
        self.units.setText("US units" if units == UnitSystem.US else "Metric")

    def show_stage(self, key: str, open_: bool) -> None:
        """Mark a stage; without a document there are none."""
        for name, button in self.stages.items():
            button.setVisible(open_)
            button.setChecked(open_ and name == key)
