"""Wet test: break something and watch; expected and measured side by side."""

from __future__ import annotations

from typing import Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtGui import QKeyEvent, QPainter, QPaintEvent, QShowEvent
from PySide6.QtWidgets import (
    QFrame,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QSlider,
    QVBoxLayout,
    QWidget,
)

from fuente.document.system import System
from fuente.shown.section import section
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.faults import title_of
from fuente.study.known import analysed
from fuente.study.situation import Situation
from fuente.study.wet_test import WetTest, moment, run, solution_at
from fuente.ui import theme
from fuente.ui.fault_panel import FaultPanel
from fuente.ui.fields import ChoiceBox
from fuente.ui.jobs import Job
from fuente.ui.label import Label
from fuente.ui.levels_chart import LevelsChart, clock
from fuente.ui.section_view import SectionView
from fuente.ui.stage_page import StagePage
from fuente.ui.trial_panel import TrialPanel, section_label
from fuente.ui.workspace import Workspace
from fuente.units import UnitSystem, in_units, shown, unit_label

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


class WetPage(StagePage):
    """Section and player at the left; faults, levels, numbers and trials at the right."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.setObjectName("panel")
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.until = 900.0
        self.time = 0.0
        self.test: WetTest | None = None
        self._analysis: Analysis | None = None
        self._tested: Any = None  # the system that the run is of
        self._job: Job | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        row.addWidget(self._left(), 1)
        self.right = QScrollArea(self)
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
        holder = QWidget(self)
        holder.setObjectName("ground")
        holder.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        column = QVBoxLayout(holder)
        column.setContentsMargins(0, theme.px(10), 0, theme.px(12))
        self.caption = Label()
        self.caption.setObjectName("quiet")
        self.caption.setWordWrap(True)
        self.caption.setContentsMargins(theme.px(14), 0, theme.px(14), 0)
        column.addWidget(self.caption)
        self.view = SectionView(holder)
        self.view.editable = False
        column.addWidget(self.view, 1)
        bar = QHBoxLayout()
        bar.setContentsMargins(theme.px(14), 0, theme.px(14), 0)
        self.play = QPushButton("Play")
        self.play.setObjectName("primary")
        self.play.setFixedWidth(theme.px(76))
        self.play.clicked.connect(self.toggle)
        self.now = Label("0:00")
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
        page = QWidget(self.right.viewport())
        page.setObjectName("panel")
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(16), theme.px(10), theme.px(16), theme.px(14))
        column.setSpacing(theme.px(6))
        column.addWidget(section_label("Break something, at the moment shown"))
        self.breaks = FaultPanel(lambda: self.time, lambda: self.until, page)
        self.breaks.changed.connect(self.start)
        self.breaks.said.connect(self._say)
        self.breaks.arrange(self.workspace.analysis)
        column.addWidget(self.breaks)
        self.error = Label()
        self.error.setObjectName("error")
        self.error.setWordWrap(True)
        self.error.hide()
        column.addWidget(self.error)
        self.chart_head = section_label("")
        column.addWidget(self.chart_head)
        self.chart = LevelsChart(page)
        column.addWidget(self.chart)
        self.busy = QProgressBar()
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(theme.px(4))
        column.addWidget(self.busy)
        column.addLayout(self._numbers())
        self.trials = TrialPanel(self.workspace, page)
        self.trials.said.connect(self._say)
        self.trials.progressed.connect(lambda share: self.busy.setValue(round(100 * share)))
        column.addWidget(self.trials)
        caution = Label(
            "Test with water before you rely on it: fill chamber by chamber, watch for a day, stand by with towels, and"
            " keep plugs and sockets above and away from the water."
        )
        caution.setObjectName("quiet")
        caution.setWordWrap(True)
        column.addWidget(caution)
        column.addStretch(1)
        return page

    def _numbers(self) -> QHBoxLayout:
        """What the run comes to, in three tiles."""
        tiles = QHBoxLayout()
        tiles.setSpacing(theme.px(10))
        self.tiles = []
        for _ in range(3):
            frame = QFrame()
            frame.setObjectName("tile")
            box = QVBoxLayout(frame)
            box.setContentsMargins(theme.px(12), theme.px(6), theme.px(12), theme.px(6))
            box.setSpacing(0)
            number, words = Label("…"), Label()
            number.setObjectName("big")
            words.setObjectName("quiet")
            words.setWordWrap(True)
            box.addWidget(number)
            box.addWidget(words)
            self.tiles.append((number, words))
            tiles.addWidget(frame)
        return tiles

    # -- running --------------------------------------------------------------------------------------------------

    def showEvent(self, event: QShowEvent) -> None:
        """Run when it is first seen, and again when the design has changed."""
        super().showEvent(event)
        if self._tested is None and not self.breaks.faults:
            self.show_faults([Fault("power-cut", 30.0, 1.0)])
        self._document_changed()

    def _document_changed(self) -> None:
        """Run again where the water is another one; in other units only show it again."""
        if not self.isVisible() or self._tested == self.workspace.system:
            return
        same = self._tested is not None and _unlabelled(self._tested) == _unlabelled(self.workspace.system)
        self.breaks.arrange(self.workspace.analysis)
        if same:
            self._tested = self.workspace.system
            self.show_faults(self.breaks.faults)
            self._show_run()
            self.trials.refresh()
        else:
            self.trials.forget()
            self.start()

    def kept(self) -> dict[str, Any]:
        """The run with its faults and moment, and the trials."""
        return {
            "faults": self.breaks.faults,
            "until": self.until,
            "time": self.time,
            "speed": self.speed.currentIndex(),
            "of": self.workspace.system,
            "tested": self._tested if self._job is None else None,
            "run": (self._analysis, self.test),
            "trials": self.trials.results,
            "trying": self.trials.running,
        }

    def resume(self, kept: dict[str, Any]) -> None:
        """The same run, faults, moment and trials; of a design that has changed meanwhile only the faults."""
        if not kept:
            return
        self.until = kept["until"]
        self.length.show_value(self.until)
        self.speed.setCurrentIndex(kept["speed"])
        if _unlabelled(kept["of"]) != _unlabelled(self.workspace.system):
            self.show_faults(kept["faults"])  # it runs when it is seen
            return
        self.time, self._tested = kept["time"], kept["tested"]
        self._analysis, self.test = kept["run"]
        self.show_faults(kept["faults"])
        self.trials.results = kept["trials"]
        self.trials.refresh()
        if self._tested is not None:
            self._show_run()
        if kept["trying"]:
            self.trials.start()

    def set_length(self, seconds: float) -> None:
        """How long the run is, s."""
        self.until = seconds
        self.length.show_value(seconds)
        self.show_faults([f for f in self.breaks.faults if f.time < self.until])
        self.start()

    def show_faults(self, faults: list[Fault]) -> None:
        """Break these, from the next run on."""
        self.breaks.show_faults(faults, self.workspace.units)

    def start(self) -> None:
        """Compute the run off the interface thread."""
        if self._job is not None:
            self._job.stopped = True
        self._tested = self.workspace.system
        system, faults, until = self.workspace.system, tuple(self.breaks.faults), self.until
        # A run that was overtaken is stopped, and not heard any more.
        job = Job(lambda tell: (analysed(system), run(analysed(system), faults, until, tell)), self)
        job.hear(self._done, self._failed, lambda share: self.busy.setValue(round(100 * share)))
        self._job = job
        job.start()

    def run_now(self) -> None:
        """Compute at once: for scripts and pictures."""
        if self._job is not None:
            self._job.stopped = True
        self._tested = self.workspace.system
        analysis = analysed(self.workspace.system)
        self._done((analysis, run(analysis, self.breaks.faults, self.until)))

    def _done(self, result: tuple[Analysis, WetTest]) -> None:
        self._job = None
        self._analysis, self.test = result
        self._say("")
        self.time = min(self.time, self.until)
        self._show_run()

    def _failed(self, sentence: str) -> None:
        """What cannot run shows no figures of what could."""
        self._job = None
        self.test = self._analysis = None
        self.timer.stop()
        self.play.setText("Play")
        self.caption.setText("This design does not run.")
        now = self.workspace.analysis
        self.view.show_drawing(section(now, now.at_rest()), self.workspace.units, "", "")
        self.chart_head.setText("")
        self.chart.show_nothing()
        for index in range(len(self.tiles)):
            self._tile(index, "…", "", False)
        self.busy.setValue(0)
        self._say(in_units(sentence, self.workspace.units))

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
        self.track.marks = [f.time / self.until for f in self.breaks.faults]
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
        still = clock(test.still) if test.still is not None else "still changing"
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
        now = moment(analysis, test, self.time).filled(units)
        self.caption.setText(f"{words[:1].upper()}{words[1:]} · at {clock(self.time)}: {now}")


def _unlabelled(system: System) -> System:
    """A design without what says nothing of its water."""
    return system.model_copy(update={"units": UnitSystem.METRIC, "name": "", "place": "", "notes": ""})
