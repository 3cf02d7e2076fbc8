"""Living water: what sets the pace along the water, weeks in a chart, and what it carries."""

from __future__ import annotations

from collections.abc import Callable
from pathlib import Path
from typing import Any

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtWidgets import (
    QButtonGroup,
    QFileDialog,
    QFrame,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QWidget,
)

from fuente.document.system import System
from fuente.errors import FuenteError
from fuente.halting import telling
from fuente.shown.carrying import Carries, cleaned_words
from fuente.shown.long_charts import YEAR
from fuente.shown.water_charts import Chart
from fuente.study.air_hours import air_hours
from fuente.study.analysis import Analysis
from fuente.study.known import analysed
from fuente.study.weeks import DAY
from fuente.ui import theme
from fuente.ui.elided import ElidedButton
from fuente.ui.fields import ChoiceBox, QuantityEdit
from fuente.ui.jobs import Job
from fuente.ui.keeping_panel import KeepingPanel
from fuente.ui.label import Label
from fuente.ui.life_card import LifeCard
from fuente.ui.life_work import CHARTS, work_of
from fuente.ui.limit_bars import LimitBars
from fuente.ui.put_in import put_in
from fuente.ui.side_panel import clear, field_of, label_of, middle, section, small, upright, value_of
from fuente.ui.water_chart import WAYS_OUT, WaterChart
from fuente.ui.workspace import Workspace

LARGE = 1.2  # text from which the charts are chosen from a list: as buttons they would not fit
SOON = 150  # ms after an edit until it is worked out


class LifeView(QWidget):
    """Inputs at the left, pace and chart in the middle, what is carried at the right."""

    other_wanted = Signal()

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.shown_chart = "start"
        self._of: System | None = None  # the design that is shown, or being worked out
        self._jobs: list[Job] = []
        self.carries: Carries | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(0, 0, 0, 0)
        row.setSpacing(0)
        self.keeping = KeepingPanel(workspace, self)
        self.keeping.again.connect(self._again)
        self.keeping.said.connect(self._say)
        self.tank, self.water = self.keeping.tank, self.keeping.water
        row.addWidget(self.keeping.area)
        row.addWidget(upright(self))
        row.addWidget(self._middle(), 1)
        row.addWidget(upright(self))
        self.side = LifeCard(workspace, self)
        self.card, self.air = self.side.card, self.side.air
        row.addWidget(self.side.area)
        self._soon = QTimer(self)
        self._soon.setSingleShot(True)
        self._soon.setInterval(SOON)
        self._soon.timeout.connect(self.work)
        workspace.changed.connect(self.refresh)
        self.refresh()

    # -- what it is made of ---------------------------------------------------------------------------------------

    def _middle(self) -> QWidget:
        area = QScrollArea(self)  # in large text it is higher than a small window
        ground, column = middle(area.viewport())
        top = QHBoxLayout()
        top.addWidget(section("What sets the pace of each place, along the water"), 1)
        self.to_load = QPushButton("Load and media")
        self.to_load.setObjectName("link")
        self.to_load.setToolTip("Feed and surface of every tank, media side by side, and how you build.")
        self.to_load.clicked.connect(self.other_wanted)
        top.addWidget(self.to_load)
        column.addLayout(top)
        self.error = Label()
        self.error.setObjectName("error")
        self.error.setWordWrap(True)
        self.error.hide()
        column.addWidget(self.error)
        self.bars = QScrollArea(ground)
        self.bars.setWidgetResizable(True)
        self.bars.setFrameShape(QFrame.Shape.NoFrame)
        self.bars.setVerticalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        self.bars.setFixedHeight(theme.px(162))
        self.bars.setAccessibleName("What sets the pace of each place")
        column.addWidget(self.bars)
        self.pace = Label()
        self.pace.setWordWrap(True)
        column.addWidget(self.pace)
        tabs = QHBoxLayout()
        tabs.setSpacing(theme.px(6))
        self.tabs = QButtonGroup(self)
        self.buttons: dict[str, QPushButton] = {}
        for key, label in CHARTS.items():
            button = ElidedButton(label)
            button.setObjectName("choice")
            button.setCheckable(True)
            button.setChecked(key == self.shown_chart)
            button.clicked.connect(lambda _, k=key: self.turn(k))
            self.tabs.addButton(button)
            self.buttons[key] = button
            tabs.addWidget(button)
            if theme.scale() >= LARGE:  # never shown by hand: without a parent yet it would be a window
                button.hide()
        self.chooser = ChoiceBox(tuple(CHARTS.items()), self.shown_chart)
        self.chooser.setAccessibleName("Which chart")
        self.chooser.chosen.connect(self.turn)
        if theme.scale() < LARGE:
            self.chooser.hide()
        tabs.addWidget(self.chooser)
        tabs.addStretch(1)
        self.pin = QPushButton("Pin this variant")
        self.pin.setObjectName("link")
        self.pin.setToolTip("Keeps these lines, dashed, behind those of your next change.")
        self.pin.clicked.connect(self._pin)
        self.save = QPushButton("Save chart …")
        self.save.setObjectName("link")
        self.save.clicked.connect(self._save)
        column.addLayout(tabs)
        going = QHBoxLayout()
        self.busy = QProgressBar()
        self.busy.setRange(0, 0)
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(theme.px(3))
        going.addWidget(self.busy, 1)
        self.cancel = QPushButton("Stop")
        self.cancel.setObjectName("link")
        self.cancel.clicked.connect(self.give_up)
        self.cancel.hide()
        going.addWidget(self.cancel)
        column.addLayout(going)
        self.amount = QuantityEdit("dose", 1e-3, self.workspace.units)
        self.amount.committed.connect(self._dosed)
        self.amount.failed.connect(self._say)
        self.dosing = field_of("Dosed", self.amount)
        self.dosing.setMaximumWidth(theme.px(180))
        self.dosing.hide()
        self._amount = 1e-3
        self.chart = WaterChart(ground)
        self.chart.setMinimumHeight(theme.px(170))
        if theme.scale() < LARGE:  # it takes what is left over; in large text it scrolls
            self.chart.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Ignored)
            ground.setMinimumHeight(theme.px(660))
        column.addWidget(self.chart, 1)
        under = QHBoxLayout()
        self.legend = small("")
        under.addWidget(self.dosing)
        under.addWidget(self.legend, 1)
        under.addWidget(self.pin)
        under.addWidget(self.save)
        column.addLayout(under)
        self.words = Label()
        self.words.setObjectName("why")
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        area.setWidgetResizable(True)
        area.setFrameShape(QFrame.Shape.NoFrame)
        area.setHorizontalScrollBarPolicy(Qt.ScrollBarPolicy.ScrollBarAlwaysOff)
        area.setWidget(ground)
        area.setMinimumWidth(ground.minimumSizeHint().width())
        return area

    def _say(self, sentence: str) -> None:
        self.error.setText(sentence)
        self.error.setVisible(bool(sentence))

    # -- what the builder does ------------------------------------------------------------------------------------

    def turn(self, key: str) -> None:
        """To another chart."""
        self.shown_chart = key
        self.buttons[key].setChecked(True)
        self.chooser.show_value(key)
        self.dosing.setVisible(key == "dose")
        self._again()

    def _dosed(self, amount: float) -> None:
        self._say("")
        self._amount = amount
        self.amount.show_value(amount, self.workspace.units)
        self._again()

    def give_up(self) -> None:
        """What is being worked out is not wanted any more; another chart, or an edit, begins anew."""
        self._stop()
        self._no_chart("Stopped. Choose a chart to work it out again.")

    def _pin(self) -> None:
        self.chart.pin()
        self.pin.setText("Let the pinned go" if self.chart.pinned is not None else "Pin this variant")

    def _save(self) -> None:
        if self.chart.chart is None:
            return
        name = self.chart.chart.title.lower().replace(" ", "-")
        ways = {k: v for k, v in WAYS_OUT.items() if k != "ics" or self.chart.chart.plan}
        path, kind = QFileDialog.getSaveFileName(self, "Save chart", f"{name}.png", ";;".join(ways.values()))
        if path:
            ending = next((f".{k}" for k, v in WAYS_OUT.items() if v == kind), ".png")
            self.write(Path(path) if Path(path).suffix else Path(path + ending))

    def write(self, path: Path) -> None:
        """The chart into a file; what fails is said."""
        try:
            self.chart.write(path, self.workspace.system.name)
        except FuenteError as error:
            self._say(str(error))

    # -- following ------------------------------------------------------------------------------------------------

    def refresh(self) -> None:
        """Follow the workspace."""
        system = self.workspace.system
        self.keeping.refresh()
        self.side.title.setText(system.name)
        if self._of != system:
            self._stop()  # what is on its way is of another design
            self._of = None
            if self.isVisible():
                self._soon.start()

    def showEvent(self, event: Any) -> None:
        """What waited is worked out."""
        super().showEvent(event)
        if self._of is None:
            self._soon.start()

    def _again(self) -> None:
        self._of = None
        self._soon.start()

    def _stop(self) -> None:
        for job in self._jobs:
            job.stopped = True
        self._jobs = []

    def _work(self) -> tuple[Callable[[Analysis], Carries], Callable[[Analysis], Chart]]:
        return work_of(self.workspace, self.tank.value(), self.shown_chart, self._amount)

    def work(self) -> None:
        """Work it out aside: what is carried first, then the chart."""
        self._stop()
        self._of = system = self.workspace.system
        first, then = self._work()
        self.busy.setVisible(True)

        tank = self.tank.value()

        def air(found: Chart) -> None:
            self._show_chart(found)
            self._run(
                lambda: air_hours(analysed(system), tank, more=True),
                self.side.show_air,
                lambda _: self.side.show_air(None),
            )

        def chart() -> None:
            self.cancel.show()
            self._run(lambda: then(analysed(system)), air, self._no_chart, self.shown_chart)

        def none(sentence: str) -> None:
            self._nothing(sentence)
            chart()

        def take(found: Carries) -> None:
            self._show_carries(found)
            chart()

        self._run(lambda: first(analysed(system)), take, none)

    def _run(
        self, work: Callable[[], Any], done: Callable[[Any], None], failed: Callable[[str], None], chart: str = ""
    ) -> None:
        def told(tell: Callable[[float], bool]) -> Any:
            if chart != "year":
                return work()
            with telling(lambda moment: tell(moment / (YEAR * DAY))):
                return work()

        job = Job(told, self).hear(done, failed, self._came)
        self._jobs.append(job)
        job.start()

    def _came(self, share: float) -> None:
        self.busy.setRange(0, 1000)
        self.busy.setValue(round(1000 * share))

    def _rest(self) -> None:
        self.busy.setVisible(False)
        self.busy.setRange(0, 0)
        self.cancel.hide()

    def work_now(self) -> None:
        """At once: for scripts and pictures."""
        self._stop()
        self._soon.stop()
        self._of = self.workspace.system
        analysis = analysed(self.workspace.system)
        first, then = self._work()
        try:
            self._show_carries(first(analysis))
        except FuenteError as error:
            self._nothing(str(error))
        try:
            self._show_chart(then(analysis))
            self.side.show_air(air_hours(analysis, self.tank.value(), more=True))
        except FuenteError as error:
            self._no_chart(str(error))

    # -- showing --------------------------------------------------------------------------------------------------

    def _show_chart(self, chart: Chart) -> None:
        self._rest()
        self.chart.show_chart(chart)
        marks = (f"▾ {chart.marked}" if chart.marked else "", "○ your tests" if chart.points else "")
        self.legend.setText("   ".join(filter(None, marks)))
        self.words.setText(chart.says)
        self.words.setVisible(True)

    def _no_chart(self, sentence: str) -> None:
        self._rest()
        self.chart.show_chart(None)
        self.legend.setText("")
        self.words.setText(sentence)
        self.words.setVisible(True)

    def _nothing(self, sentence: str) -> None:
        self.carries = None
        self.pace.setText(sentence)
        put_in(self.bars, QWidget(self.bars.viewport()))
        clear(self.water)
        self.side.show_nothing()

    def _show_carries(self, found: Carries) -> None:
        self.carries = found
        units = self.workspace.units
        self.pace.setText(found.sentence)
        inner = QWidget(self.bars.viewport())
        inner.setObjectName("ground")
        line = QHBoxLayout(inner)
        line.setContentsMargins(0, 0, 0, 0)
        line.setSpacing(theme.px(14))
        names = {t.id: t.name for t in self.workspace.system.tanks}
        for pace in found.paces:
            home = self.workspace.system.device(pace.place.device).home
            bars = LimitBars(pace, units, names.get(home, "") if len(names) > 1 else "")
            bars.clicked.connect(lambda _: self._clean())
            line.addWidget(bars, 1)
        put_in(self.bars, inner)
        clear(self.water)
        for n, row in enumerate(found.water):
            self.water.addWidget(label_of(row.label), n, 0)
            self.water.addWidget(value_of(row), n, 1)
        self.side.show_carries(found)

    def _clean(self) -> None:
        """The places that are pressed, cleaned on one day; none of them, and the pace is said again."""
        pressed = tuple(b.pace.place for b in self.bars.findChildren(LimitBars) if b.isChecked())
        if not pressed or self.carries is None:
            self.pace.setText(self.carries.sentence if self.carries is not None else "")
            return
        system, units = self.workspace.system, self.workspace.units
        self.pace.setText("Working out what is left of it …")
        self._run(lambda: cleaned_words(analysed(system), pressed, units), self.pace.setText, self.pace.setText)

    def kept(self) -> dict[str, Any]:
        """Which chart and which tank, for another theme."""
        return {"chart": self.shown_chart, "tank": self.tank.value(), "pinned": self.chart.pinned}

    def resume(self, kept: dict[str, Any]) -> None:
        """The same again."""
        if kept:
            if kept["tank"] in {t.id for t in self.workspace.system.tanks}:
                self.tank.show_value(kept["tank"])
            self.chart.pinned = kept["pinned"]
            self.pin.setText("Let the pinned go" if self.chart.pinned is not None else "Pin this variant")
            self.turn(kept["chart"])
