"""Trials: what Fuente expects of each, and what the builder measured."""

from __future__ import annotations

import datetime

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QGridLayout, QHBoxLayout, QLabel, QPushButton, QVBoxLayout, QWidget

from fuente.document.record import Entry
from fuente.study.known import analysed
from fuente.study.trials import TrialResult, trials
from fuente.ui import theme
from fuente.ui.fault_panel import emptied
from fuente.ui.fields import QuantityEdit
from fuente.ui.jobs import Job
from fuente.ui.label import Label, tip
from fuente.ui.workspace import Workspace
from fuente.units import shown


class TrialPanel(QWidget):
    """A line for each standard trial."""

    said = Signal(str)  # why something was not taken or failed, or nothing
    progressed = Signal(float)  # share done

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.results: list[TrialResult] = []
        self._job: Job | None = None
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(6))
        head = QHBoxLayout()
        head.addWidget(section_label("Try it for real, then write down what you saw"), 1)
        self.run_all = QPushButton("Run all trials")
        self.run_all.setObjectName("link")
        self.run_all.clicked.connect(self.start)
        head.addWidget(self.run_all)
        column.addLayout(head)
        self.grid = QGridLayout()
        self.grid.setColumnStretch(0, 1)
        self.grid.setHorizontalSpacing(theme.px(10))
        self.grid.setVerticalSpacing(theme.px(4))
        column.addLayout(self.grid)

    def start(self) -> None:
        """Run every standard trial off the interface thread; once more stops them."""
        if self._job is not None:
            self.stop()
            return
        system = self.workspace.system
        job = Job(lambda tell: trials(analysed(system), tell), self)
        job.hear(self._done, self._failed, self._came)
        self._job = job
        self.run_all.setText("Stop")
        job.start()

    @property
    def running(self) -> bool:
        """Whether the trials are under way."""
        return self._job is not None

    def stop(self) -> None:
        """Let a run go: the design has changed, or the builder will not wait."""
        if self._job is not None:
            self._job.stopped = True
            self._job = None
            self.progressed.emit(1.0)
        self.run_all.setText("Run all trials")

    def _came(self, share: float) -> None:
        self.run_all.setText(f"Stop, {share:.0%} done")
        self.progressed.emit(share)

    def _failed(self, sentence: str) -> None:
        self.stop()
        self.said.emit(sentence)

    def run_now(self) -> None:
        """Run the trials at once: for scripts and pictures."""
        self._done(trials(analysed(self.workspace.system)))

    def forget(self) -> None:
        """Show none: the design has changed."""
        self.stop()
        self.results = []
        self.refresh()

    def _done(self, found: list[TrialResult]) -> None:
        self._job = None
        self.run_all.setText("Run all trials")
        self.results = found
        self.refresh()

    def refresh(self) -> None:
        """Show the results with what was measured."""
        emptied(self.grid)
        if not self.results:
            words = Label("Run all trials to see what Fuente expects of each.")
            words.setObjectName("quiet")
            self.grid.addWidget(words, 0, 0, 1, 4)
            return
        for column, name in enumerate(("Trial", "Margin expected at rest", "You measured", "")):
            self.grid.addWidget(section_label(name), 0, column)
        for row, result in enumerate(self.results, 1):
            for column, widget in enumerate((*self._expected(result), *self._known(result))):
                self.grid.addWidget(widget, row, column)

    def _expected(self, result: TrialResult) -> tuple[QWidget, QWidget]:
        units = self.workspace.units
        title = Label(result.trial.title)
        title.setWordWrap(True)
        said = [result.test.verdict.filled(units)]
        if result.breath is not None:
            tanks = {t.id: t.name for t in self.workspace.system.tanks}
            said.append(result.breath.said(tanks[result.breath.tank] if len(tanks) > 1 else "", units))
        title.setToolTip(tip("; ".join(said)))
        rest, peak = result.rest, shown(result.peak, "length", units)
        expected = Label(f"{shown(rest.left, 'length', units)} in {rest.name}, at worst {peak}")
        if result.breath is not None:
            expected.setText(f"{expected.text()}; {result.breath.short}")
        expected.setWordWrap(True)
        if not result.passed:
            expected.setStyleSheet(f"color: {theme.current().stop}; font-weight: 600;")
            expected.setText("◆ " + expected.text())
            expected.setToolTip(tip("; ".join(said)))
        return title, expected

    def _known(self, result: TrialResult) -> tuple[QWidget, QWidget]:
        units = self.workspace.units
        known = self.workspace.record.last(result.trial.id)
        edit = QuantityEdit("length", known.value if known else 0.0, units)
        if known is None:
            edit.clear()
            edit.setPlaceholderText("not yet")
        edit.setFixedWidth(theme.px(92))
        edit.setAccessibleName(f"Measured: {result.trial.title}")
        edit.committed.connect(lambda v: self._measured(result, v))
        edit.failed.connect(self.said)
        words = Label("")
        words.setObjectName("quiet")
        if known:
            words.setText(f"{_compared(known, result.expected)}, {known.date}")
            of_it = [e for e in self.workspace.record.measured if e.what == result.trial.id]
            words.setToolTip("\n".join(f"{e.date}: {shown(e.value, 'length', units)}" for e in of_it))
        return edit, words

    def _measured(self, result: TrialResult, value: float) -> None:
        today = datetime.date.today().isoformat()
        entry = Entry(date=today, what=result.trial.id, value=value, expected=result.expected)
        self.workspace.write_down(entry)
        self.refresh()


def _compared(known: Entry, expected: float) -> str:
    """What a measurement says of a margin in m that is expected now."""
    if known.expected is not None and abs(known.expected - expected) > 0.002:
        return "of an earlier design"
    close = abs(known.value - expected) <= max(0.01, 0.25 * abs(expected))
    return "within reason" if close else "look again"


def section_label(words: str) -> QLabel:
    """The heading of a part of a panel."""
    label = Label(words)
    label.setObjectName("section")
    return label
