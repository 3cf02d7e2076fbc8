"""The card at the right of the living water: what is carried, and how long a power cut may last."""

from __future__ import annotations

from PySide6.QtCore import QObject
from PySide6.QtWidgets import QScrollArea, QVBoxLayout, QWidget

from fuente.shown.carrying import Carries, Row, concentration, two_digits
from fuente.study.air_hours import STONE, AirHours, air_hours, battery
from fuente.study.known import analysed
from fuente.ui import theme
from fuente.ui.label import Label
from fuente.ui.side_panel import clear, field_of, panel, section, small, value_of
from fuente.ui.workspace import Workspace
from fuente.units import shown

WIDTH, MOST = 286, 340  # px, and with large text


class LifeCard(QObject):
    """``area`` is its widget."""

    def __init__(self, workspace: Workspace, parent: QWidget):
        super().__init__(parent)
        self.workspace = workspace
        self.area: QScrollArea
        self.area, column = panel(min(theme.px(WIDTH), MOST), parent)
        self.title = Label()
        self.title.setObjectName("heading")
        self.title.setWordWrap(True)
        column.addWidget(self.title)
        self.card = QVBoxLayout()
        self.card.setSpacing(theme.px(4))
        column.addLayout(self.card)
        self.air = QVBoxLayout()
        column.addLayout(self.air)
        self.why = Label()
        self.why.setObjectName("why")
        self.why.setWordWrap(True)
        self.why.setVisible(False)
        column.addSpacing(theme.px(8))
        column.addWidget(self.why)
        column.addStretch(1)

    def show_nothing(self) -> None:
        """Nothing is known."""
        clear(self.card)
        clear(self.air)
        self.why.setVisible(False)

    def show_carries(self, found: Carries) -> None:
        """What is carried, in large figures and rows."""
        clear(self.card)
        for figure, words in found.big:
            head = Label(figure)
            head.setObjectName("big")
            self.card.addWidget(head)
            self.card.addWidget(small(words))
        for title, rows in found.parts:
            if rows:
                self.card.addWidget(section(title))
            for row in rows:
                self.card.addWidget(field_of(row.label, value_of(row)))
        self.why.setText(found.why)
        self.why.setVisible(True)

    def show_air(self, found: AirHours | None) -> None:
        """The rows of a power cut, last on the card; none for None."""
        units, keeping = self.workspace.units, self.workspace.system.keeping
        clear(self.air)
        if found is None:
            return
        limit = concentration(keeping.oxygen_limit, units)
        words = found.words()
        self.air.addWidget(section(f"Power cut: oxygen under {limit} after"))
        rows = [Row("with everything off", words)]
        if found.usual is not None:
            rows.append(Row("with half the animals", _hours(found.half)))
            rows.append(Row(f"with an air stone, {shown(STONE, 'air_flow', units)}", _hours(found.stone)))
        tanks = self.workspace.system.tanks
        energy = f"about {two_digits(battery(len(tanks)) / 3600):.0f} Wh"
        rows.append(
            Row("its battery for a night" if len(tanks) == 1 else f"batteries for a night, {len(tanks)} stones", energy)
        )
        if len(tanks) > 1:
            first = air_hours(analysed(self.workspace.system))
            rows.append(Row("first of all", self.workspace.system.tank(first.tank if first else found.tank).name))
        for row in rows:
            self.air.addWidget(field_of(row.label, value_of(row)))


def _hours(hours: float | None) -> str:
    return "over 72 h" if hours is None else f"{hours:.0f} h"
