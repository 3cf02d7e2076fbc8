"""Wet test: break something and watch; expected and measured side by side."""

from __future__ import annotations

import datetime
from typing import Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QShowEvent
from PySide6.QtWidgets import (
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLabel,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from fuente.document.record import Entry
from fuente.shown.section import section
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.faults import KINDS, fits, title_of
from fuente.study.situation import Situation
from fuente.study.trials import TrialResult, trials
from fuente.study.wet_test import WetTest, run, solution_at
from fuente.ui import theme
from fuente.ui.fields import ChoiceBox, QuantityEdit
from fuente.ui.jobs import Job
from fuente.ui.levels_chart import LevelsChart, clock
from fuente.ui.section_view import SectionView
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, shown, unit_label

LENGTHS = ((300.0, "5 min"), (900.0, "15 min"), (1800.0, "30 min"), (7200.0, "2 h"), (21600.0, "6 h"))
SPEEDS = (1, 8, 30, 120, 600)
FRAME = 40  # ms


class _Track(QSlider):
    """A slider with a tick for every fault."""

    def __init__(self) -> None:
        super().__init__(Qt.Orientation.Horizontal)
        self.setRange(0, 1000)
        self.marks: list[float] = []
        self.setAccessibleName("Moment of the run")

    def paintEvent(self, event: QPaintEvent) -> None:
        super().paintEvent(event)
        p = QPainter(self)
        for share in self.marks:
            x = 8 + share * (self.width() - 16)
            p.fillRect(int(x) - 1, 2, 3, self.height() - 4, theme.color("stop"))
        p.end()


class WetPage(QWidget):
    """Section and player at the left; faults, levels, numbers and trials at the right."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.faults: list[Fault] = []
        self.until = 900.0
        self.time = 0.0
        self.test: WetTest | None = None
        self.results: list[TrialResult] = []
        self._analysis: Analysis | None = None
        self._tested: Any = None  # the system that the run is of
        self._job: Job | None = None
        self._trial_job: Job | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._left(), 1)
        self.right = QScrollArea()
        self.right.setWidgetResizable(True)
        self.right.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.right.setWidget(self._right())
        row.addWidget(self.right, 1)
        self.timer = QTimer(self)
        self.timer.setInterval(FRAME)
        self.timer.timeout.connect(self._tick)
        workspace.changed.connect(self._document_changed)

    # -- building -------------------------------------------------------------------------------------------------

    def _left(self) -> QWidget:
        holder = QWidget()
        holder.setObjectName("ground")
        holder.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, theme.px(10), 0, theme.px(12))
        self.caption = QLabel()
        self.caption.setObjectName("quiet")
        self.caption.setWordWrap(True)
        self.caption.setContentsMargins(theme.px(14), 0, theme.px(14), 0)
        column.addWidget(self.caption)
        self.view = SectionView()
        self.view.editable = False
        self.view.setFocusPolicy(Qt.FocusPolicy.NoFocus)
        column.addWidget(self.view, 1)
        bar = QHBoxLayout()
        bar.setContentsMargins(theme.px(14), 0, theme.px(14), 0)
        self.play = QPushButton("Play")
        self.play.setObjectName("primary")
        self.play.setFixedWidth(theme.px(76))
        self.play.clicked.connect(self.toggle)
        self.now = QLabel("0:00")
        self.track = _Track()
        self.track.sliderMoved.connect(lambda v: self.seek(v / 1000 * self.until))
        self.track.actionTriggered.connect(lambda _: self.seek(self.track.sliderPosition() / 1000 * self.until))
        self.length = ChoiceBox(LENGTHS, self.until)
        self.length.setAccessibleName("How long")
        self.length.chosen.connect(self.set_length)
        self.speed = ChoiceBox(tuple((s, f"× {s}") for s in SPEEDS), SPEEDS[2])
        self.speed.setAccessibleName("Speed")
        for box in (self.length, self.speed):
            box.setMinimumContentsLength(5)
        for widget in (self.play, self.now):
            bar.addWidget(widget)
        bar.addWidget(self.track, 1)
        bar.addWidget(self.length)
        bar.addWidget(self.speed)
        column.addLayout(bar)
        return holder

    def _right(self) -> QWidget:
        page = QWidget()
        page.setObjectName("panel")
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(16), theme.px(10), theme.px(16), theme.px(14))
        column.setSpacing(theme.px(6))
        column.addWidget(_section("Break something, at the moment shown"))
        self.chip_grid = QGridLayout()
        self.chip_grid.setSpacing(theme.px(6))
        self.chips: dict[str, QPushButton] = {}
        for kind in KINDS.values():
            chip = QPushButton(kind.title)
            chip.setCheckable(True)
            chip.setStyleSheet(
                f"QPushButton {{ padding: {theme.px(5)}px {theme.px(6)}px; }}"
                f"QPushButton:checked {{ background: {theme.current().stop}; color: "
                f"{'#FFFFFF' if theme.current().name == 'light' else '#1A1210'}; border: none; }}"
            )
            chip.clicked.connect(lambda on, k=kind.name: self.set_fault(k, on))
            self.chips[kind.name] = chip
        column.addLayout(self.chip_grid)
        self._arrange_chips()
        self.fault_rows = QVBoxLayout()
        self.fault_rows.setSpacing(theme.px(3))
        column.addLayout(self.fault_rows)
        self.error = QLabel()
        self.error.setObjectName("error")
        self.error.setWordWrap(True)
        self.error.hide()
        column.addWidget(self.error)
        self.chart_head = _section("")
        column.addWidget(self.chart_head)
        self.chart = LevelsChart()
        column.addWidget(self.chart)
        self.busy = QProgressBar()
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(theme.px(4))
        column.addWidget(self.busy)
        tiles = QHBoxLayout()
        tiles.setSpacing(theme.px(10))
        self.tiles = []
        for _ in range(3):
            frame = QFrame()
            frame.setObjectName("tile")
            box = QVBoxLayout(frame)
            box.setContentsMargins(theme.px(12), theme.px(6), theme.px(12), theme.px(6))
            box.setSpacing(0)
            number, words = QLabel("…"), QLabel()
            number.setObjectName("big")
            words.setObjectName("quiet")
            words.setWordWrap(True)
            box.addWidget(number)
            box.addWidget(words)
            self.tiles.append((number, words))
            tiles.addWidget(frame)
        column.addLayout(tiles)
        head = QHBoxLayout()
        head.addWidget(_section("Try it for real, then write down what you saw"), 1)
        self.run_all = QPushButton("Run all trials")
        self.run_all.setObjectName("link")
        self.run_all.clicked.connect(self.start_trials)
        head.addWidget(self.run_all)
        column.addLayout(head)
        self.trial_grid = QGridLayout()
        self.trial_grid.setColumnStretch(0, 1)
        self.trial_grid.setHorizontalSpacing(theme.px(10))
        self.trial_grid.setVerticalSpacing(theme.px(4))
        column.addLayout(self.trial_grid)
        caution = QLabel(
            "Test with water before you rely on it: fill chamber by chamber, watch for a day, stand by with towels, and"
            " keep plugs and sockets above and away from the water."
        )
        caution.setObjectName("quiet")
        caution.setWordWrap(True)
        column.addWidget(caution)
        column.addStretch(1)
        return page

    def _arrange_chips(self) -> None:
        """Only what this system has can break."""
        shown_now = [key for key in self.chips if fits(self.workspace.analysis, key)]
        for key, chip in self.chips.items():
            self.chip_grid.removeWidget(chip)
            chip.setVisible(key in shown_now)
        columns = 4 if len(shown_now) <= 12 else 3
        for i, key in enumerate(shown_now):
            self.chip_grid.addWidget(self.chips[key], i // columns, i % columns)

    # -- faults ---------------------------------------------------------------------------------------------------

    def set_fault(self, kind: str, on: bool) -> None:
        """Add a fault at the shown moment, or take it away."""
        if on:
            moment = round(min(max(self.time, 5.0), self.until - 1))
            self.faults = [*(f for f in self.faults if f.kind != kind), Fault(kind, moment, KINDS[kind].default)]
        else:
            self.faults = [f for f in self.faults if f.kind != kind]
        self._show_faults()
        self.start()

    def _change_fault(self, fault: Fault, time: float, value: float) -> None:
        kind = KINDS[fault.kind]
        if not 0 <= time < self.until or not kind.low <= value <= kind.high:
            self._say(
                f"{kind.title} takes a moment within the run"
                + (f" and a number from {kind.low:g} to {kind.high:g}: {kind.number}." if kind.number else ".")
            )
            self._show_faults()
            return
        self._say("")
        self.faults = [Fault(f.kind, time, value) if f == fault else f for f in self.faults]
        self._show_faults()
        self.start()

    def _show_faults(self) -> None:
        while self.fault_rows.count():
            item = self.fault_rows.takeAt(0)
            widget = item.widget() if item else None
            if widget:
                widget.hide()
                widget.deleteLater()
        for name, chip in self.chips.items():
            chip.setChecked(any(f.kind == name for f in self.faults))
        units = self.workspace.units
        for fault in sorted(self.faults, key=lambda f: f.time):
            kind = KINDS[fault.kind]
            line = QWidget()
            row = QHBoxLayout(line)
            row.setContentsMargins(0, 0, 0, 0)
            row.addWidget(QLabel(f"{kind.title} at"))
            moment = QuantityEdit("time", fault.time, units, 5)
            moment.setFixedWidth(theme.px(84))
            moment.setAccessibleName(f"{kind.title} happens at")
            moment.committed.connect(lambda v, f=fault: self._change_fault(f, v, f.value))
            moment.nudged.connect(lambda v, f=fault: self._change_fault(f, max(v, 0.0), f.value))
            moment.failed.connect(self._say)
            row.addWidget(moment)
            if kind.number:
                number = QuantityEdit("number", fault.value, units, 0.1 if kind.high <= 1 else 1)
                number.setFixedWidth(theme.px(70))
                number.setAccessibleName(kind.number)
                number.committed.connect(lambda v, f=fault: self._change_fault(f, f.time, v))
                number.nudged.connect(lambda v, f=fault: self._change_fault(f, f.time, v))
                number.failed.connect(self._say)
                row.addWidget(number)
                words = QLabel(kind.number)
                words.setObjectName("quiet")
                row.addWidget(words, 1)
            else:
                row.addStretch(1)
            self.fault_rows.addWidget(line)

    # -- running --------------------------------------------------------------------------------------------------

    def showEvent(self, event: QShowEvent) -> None:
        """Run when it is first seen, and again when the design has changed."""
        super().showEvent(event)
        if self._tested != self.workspace.system:
            if not self.faults and self.test is None:
                self.faults = [Fault("power-cut", 30.0, 1.0)]
                self._show_faults()
            self.results = []
            self._arrange_chips()
            self._show_trials()
            self.start()

    def _document_changed(self) -> None:
        if self.isVisible() and self._tested != self.workspace.system:
            only_notes = self._tested is not None and self._tested.model_copy(
                update={"units": UnitSystem.METRIC}
            ) == self.workspace.system.model_copy(update={"units": UnitSystem.METRIC})
            self._tested = self.workspace.system
            self._arrange_chips()
            if only_notes:
                self._show_faults()
                self._show_run()
                self._show_trials()
            else:
                self.results = []
                self._show_trials()
                self.start()

    def set_length(self, seconds: float) -> None:
        """How long the run is, s."""
        self.until = seconds
        self.length.show_value(seconds)
        self.faults = [f for f in self.faults if f.time < self.until]
        self._show_faults()
        self.start()

    def start(self) -> None:
        """Compute the run off the interface thread."""
        if self._job is not None:
            self._job.stopped = True
        self._tested = self.workspace.system
        system, faults, until = self.workspace.system, tuple(self.faults), self.until
        # A run that was overtaken is stopped, and not heard any more.
        job = Job(lambda tell: (Analysis(system), run(Analysis(system), faults, until, tell)), self)
        job.hear(self._done, self._failed, lambda share: self.busy.setValue(round(100 * share)))
        self._job = job
        job.start()

    def run_now(self) -> None:
        """Compute at once: for scripts and pictures."""
        if self._job is not None:
            self._job.stopped = True
        self._tested = self.workspace.system
        analysis = Analysis(self.workspace.system)
        self._done((analysis, run(analysis, self.faults, self.until)))

    def _done(self, result: tuple[Analysis, WetTest]) -> None:
        self._job = None
        self._analysis, self.test = result
        self._say("")
        self.time = min(self.time, self.until)
        self._show_run()

    def _failed(self, sentence: str) -> None:
        self._job = None
        self.test = None
        self._say(sentence)

    def _say(self, sentence: str) -> None:
        self.error.setText(sentence)
        self.error.setVisible(bool(sentence))

    # -- playing --------------------------------------------------------------------------------------------------

    def toggle(self) -> None:
        """Play or pause."""
        if self.timer.isActive():
            self.timer.stop()
        elif self.test is not None:
            if self.time >= self.until - 0.5:
                self.time = 0.0
            self.timer.start()
        self.play.setText("Pause" if self.timer.isActive() else "Play")

    def _tick(self) -> None:
        self.time = min(self.time + FRAME / 1000 * SPEEDS[self.speed.currentIndex()], self.until)
        if self.time >= self.until or not self.isVisible():
            self.timer.stop()
            self.play.setText("Play")
        self._show_moment()

    def seek(self, time: float) -> None:
        """Go to a moment in s."""
        self.time = min(max(time, 0.0), self.until)
        self._show_moment()

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Space plays."""
        if event.key() == Qt.Key.Key_Space:
            self.toggle()
        else:
            super().keyPressEvent(event)

    # -- showing --------------------------------------------------------------------------------------------------

    def _show_run(self) -> None:
        test, analysis = self.test, self._analysis
        if test is None or analysis is None:
            return
        units = self.workspace.units
        self.chart_head.setText(f"Levels, {unit_label('length', units)} under the rim, over {clock(self.until)}")
        self.chart.show_test(test, analysis, self.until, units)
        self.track.marks = [f.time / self.until for f in self.faults]
        wanted = shown(analysis.system.space.margin, "length", units)
        self._tile(
            0,
            shown(max(test.sump_margin, 0.0), "length", units),
            (
                f"left in the {analysis.below}, you want {wanted}"
                if analysis.filter_cells()
                else "left in the tank that fills most"
            ),
            bool(analysis.filter_cells()) and test.sump_margin < analysis.system.space.margin - 1e-6,
        )
        self._tile(1, shown(test.spilled, "volume", units), "on the floor", test.spilled > 1e-6)
        still = clock(test.still) if test.still is not None else "moves on"
        self._tile(2, still, "until it is still" if test.still is not None else "at the end of the run", False)
        self._show_moment()

    def _tile(self, index: int, number: str, words: str, bad: bool) -> None:
        value, label = self.tiles[index]
        value.setText(number)
        value.setStyleSheet(f"color: {theme.current().stop};" if bad else "")
        label.setText(words)

    def _show_moment(self) -> None:
        test, analysis = self.test, self._analysis
        if test is None or analysis is None:
            return
        units = self.workspace.units
        situation = Situation("wet", "Wet test", solution_at(analysis, test, self.time), test.verdict)
        many = len(analysis.system.tanks) > 1
        self.view.what = "Elevation" if many else "Section"
        self.view.legend = f"flows in {unit_label('flow', units)}" if many else ""
        self.view.show_drawing(section(analysis, situation), units, "", "")
        self.now.setText(clock(self.time))
        self.chart.now_line.setValue(self.time)
        self.track.blockSignals(True)
        self.track.setValue(round(1000 * self.time / self.until))
        self.track.blockSignals(False)
        happened = [f"{title_of(f).lower()} {clock(f.time)}" for f in test.faults if f.time <= self.time + 0.5]
        words = " · ".join(happened) if happened else "running, nothing broken yet"
        self.caption.setText(f"{words[:1].upper()}{words[1:]} · now {clock(self.time)} · {test.verdict.filled(units)}")

    # -- trials ---------------------------------------------------------------------------------------------------

    def start_trials(self) -> None:
        """Run every standard trial off the interface thread."""
        system = self.workspace.system
        job = Job(lambda tell: trials(Analysis(system), tell), self)
        job.hear(self._trials_done, self._failed, lambda share: self.busy.setValue(round(100 * share)))
        self._trial_job = job
        self.run_all.setText("Running…")
        self.run_all.setEnabled(False)
        job.start()

    def trials_now(self) -> None:
        """Run the trials at once: for scripts and pictures."""
        self._trials_done(trials(Analysis(self.workspace.system)))

    def _trials_done(self, found: list[TrialResult]) -> None:
        self._trial_job = None
        self.run_all.setText("Run all trials")
        self.run_all.setEnabled(True)
        self.results = found
        self._show_trials()

    def _show_trials(self) -> None:
        while self.trial_grid.count():
            item = self.trial_grid.takeAt(0)
            widget = item.widget() if item else None
            if widget:
                widget.hide()
                widget.deleteLater()
        units = self.workspace.units
        if not self.results:
            words = QLabel("Run all trials to see what Fuente expects of each.")
            words.setObjectName("quiet")
            self.trial_grid.addWidget(words, 0, 0, 1, 4)
            return
        for column, name in enumerate(("Trial", "Margin expected", "You measured", "")):
            self.trial_grid.addWidget(_section(name), 0, column)
        for row, result in enumerate(self.results, 1):
            title = QLabel(result.trial.title)
            title.setWordWrap(True)
            title.setToolTip(result.test.verdict.filled(units))
            self.trial_grid.addWidget(title, row, 0)
            place = self.workspace.analysis.below if result.trial.reads == "sump" else "tank"
            expected = QLabel(f"{shown(result.expected, 'length', units)} in the {place}")
            if not result.passed:
                expected.setStyleSheet(f"color: {theme.current().stop}; font-weight: 600;")
                expected.setText("◆ " + expected.text())
                expected.setToolTip(result.test.verdict.filled(units))
            self.trial_grid.addWidget(expected, row, 1)
            known = self.workspace.record.last(result.trial.id)
            edit = QuantityEdit("length", known.value if known else 0.0, units)
            if known is None:
                edit.clear()
                edit.setPlaceholderText("not yet")
            edit.setFixedWidth(theme.px(92))
            edit.setAccessibleName(f"Measured: {result.trial.title}")
            edit.committed.connect(lambda v, r=result: self._measured(r, v))
            edit.failed.connect(self._say)
            self.trial_grid.addWidget(edit, row, 2)
            words = QLabel("")
            words.setObjectName("quiet")
            if known:
                words.setText(f"{_compared(known, result.expected)}, {known.date}")
                of_it = [e for e in self.workspace.record.entries if e.what == result.trial.id]
                words.setToolTip("\n".join(f"{e.date}: {shown(e.value, 'length', units)}" for e in of_it))
            self.trial_grid.addWidget(words, row, 3)

    def _measured(self, result: TrialResult, value: float) -> None:
        today = datetime.date.today().isoformat()
        entry = Entry(date=today, what=result.trial.id, value=value, expected=result.expected)
        self.workspace.write_down(entry)
        self._show_trials()


def _compared(known: Entry, expected: float) -> str:
    """What a measurement says of a margin in m that is expected now."""
    if known.expected is not None and abs(known.expected - expected) > 0.002:
        return "of an earlier design"
    close = abs(known.value - expected) <= max(0.01, 0.25 * abs(expected))
    return "within reason" if close else "look again"


def _section(words: str) -> QLabel:
    label = QLabel(words)
    label.setObjectName("section")
    return label
