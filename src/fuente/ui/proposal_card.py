"""A proposed layout: its section, its figures, what it meets and what not."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from fuente.devices.recipes.sump_system import described
from fuente.findings.layout import Layout
from fuente.shown.carrying import feed_words
from fuente.shown.section import section
from fuente.study.analysis import Analysis
from fuente.study.known import analysed
from fuente.study.situation import Situation
from fuente.ui import theme
from fuente.ui.label import Label
from fuente.ui.section_view import SectionView
from fuente.units import UnitSystem, shown


class ProposalCard(QFrame):
    """One proposal, solved."""

    def __init__(self, layout: Layout, units: UnitSystem, parent: QWidget | None = None):
        super().__init__(parent)
        self.setObjectName("tile")
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(14), theme.px(10), theme.px(14), theme.px(10))
        row.setSpacing(theme.px(14))
        analysis = analysed(layout.system)
        running = analysis.try_situation("running")
        situation = running if isinstance(running, Situation) else analysis.at_rest()
        row.addWidget(_view(analysis, situation, units))
        column = QVBoxLayout()
        column.setSpacing(theme.px(4))
        for words, name in ((layout.title, "heading"), (layout.reason, "subheading")):
            label = Label(words)
            label.setObjectName(name)
            label.setWordWrap(name == "subheading")
            column.addWidget(label)
        figures = Label("\n".join(_figures(layout, analysis, running, units)))
        figures.setWordWrap(True)
        column.addWidget(figures)
        met = Label("Every Stop and Fix rule is met.")
        missed = [f.filled(units) for f in layout.unmet]
        if not layout.enough:
            missed.append(f"It carries less than the {shown(layout.fed, 'feed', units)} that you feed.")
        if missed:
            met.setText("Not met: " + " ".join(missed))
        met.setStyleSheet(f"color: {theme.current().stop if missed else theme.current().living};")
        met.setWordWrap(True)
        column.addWidget(met)
        column.addStretch(1)
        self.take = QPushButton("Take this layout")
        column.addWidget(self.take, 0, Qt.AlignmentFlag.AlignLeft)
        row.addLayout(column, 1)


def _view(analysis: Analysis, situation: Situation, units: UnitSystem) -> SectionView:
    view = SectionView()
    view.editable = False
    view.wordless = True
    view.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    view.setMinimumSize(theme.px(200), theme.px(150))
    view.setFixedSize(theme.px(262), theme.px(196))
    view.show_drawing(section(analysis, situation), units, "", "")
    return view


def _figures(layout: Layout, analysis: Analysis, running: object, units: UnitSystem) -> list[str]:
    """Sizes, flow, and what a power cut and evaporation leave."""
    made = described(layout.system.devices)
    sizes = " × ".join(shown(v, "length", units, unit=False) for v in made.sizes[:2])
    words = [f"Sump {sizes} × {shown(made.sizes[2], 'length', units)}, {made.chambers} chambers"]
    if isinstance(running, Situation):
        tank = layout.system.tanks[0].id
        flow = analysis.supply(running.solution, tank)
        turn = flow / running.solution.volume[tank]
        words.append(f"{shown(flow, 'flow', units)}, {shown(turn, 'per_hour', units)}")
        words.append("Power cut: " + analysis.situation("power_cut").verdict.filled(units))
        words.append("Evaporated: " + analysis.situation("evaporated").verdict.filled(units))
    if layout.carries is not None:
        yours = f", you feed {shown(layout.fed, 'feed', units)}" if layout.fed else ""
        words.append(
            f"Carries {feed_words(layout.carries, units)} of feed, then {layout.limit} is at your limit{yours}"
        )
    return [*words, f"{made.pump}, {shown(made.flow, 'flow', units)} at no head"]
