"""Which trend of the log is shown, the chart of it, and what it says."""

from __future__ import annotations

from collections.abc import Sequence

from PySide6.QtCore import QObject, Signal
from PySide6.QtWidgets import (
    QButtonGroup,
    QHBoxLayout,
    QProgressBar,
    QPushButton,
    QVBoxLayout,
    QWidget,
)

from fuente.ui import theme
from fuente.ui.elided import ElidedButton
from fuente.ui.fields import ChoiceBox
from fuente.ui.flow import flowing
from fuente.ui.keep_chart import KeepChart
from fuente.ui.label import Label, tip
from fuente.units import UnitSystem
from fuente.upkeep.learned import Learned
from fuente.upkeep.telling import Trend, trend

CHIPS = 5  # trends that have a button; the rest is in a list


class KeepTrends(QObject):
    """A button for each of the first trends, a list of the rest, the chart, and its sentence.

    They stand in the page's own column, not in a widget between: that would ask for the height of its wrapped words and
    the chart's wish together, and leave the list of entries two rows.
    """

    save_wanted = Signal()
    agree_wanted = Signal()

    def __init__(self, page: QWidget, column: QVBoxLayout):
        super().__init__(page)
        self.key = ""  # of the trend that is shown, "" for none
        self._learned: Learned | None = None
        self._units = UnitSystem.METRIC
        column.addWidget(self._top())
        self.busy = QProgressBar()
        self.busy.setRange(0, 0)
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(theme.px(3))
        self.busy.hide()
        column.addWidget(self.busy)
        self.empty = Label("Two readings of one thing make a trend: type the first below.")
        self.empty.setObjectName("subheading")
        self.empty.setWordWrap(True)
        column.addWidget(self.empty)
        self.chart = KeepChart()
        column.addWidget(self.chart, 3)
        column.addLayout(self._foot())

    def _top(self) -> QWidget:
        """What can be looked at, in as many lines as it needs."""
        row, top = flowing()
        top.setSpacing(theme.px(6))
        label = Label("Trend")
        label.setObjectName("section")
        top.addWidget(label)
        self.tabs, self._row = top, row
        self.group = QButtonGroup(self)
        self.buttons: dict[str, QPushButton] = {}
        self.more = ChoiceBox((("", "more trends"),), "")
        self.more.setAccessibleName("Another trend")
        self.more.chosen.connect(lambda key: self.turn(str(key)) if key else None)
        self.more.setSizeAdjustPolicy(ChoiceBox.SizeAdjustPolicy.AdjustToMinimumContentsLengthWithIcon)
        self.more.setMinimumContentsLength(12)
        self.more.hide()
        self.save = QPushButton("Save chart …")
        self.save.setObjectName("link")
        self.save.clicked.connect(self.save_wanted)
        self._in_order()
        return row

    def _in_order(self) -> None:
        """The trends' buttons, the choice of the rest, and what saves the one that is shown."""
        for widget in (*self.buttons.values(), self.more, self.save):
            self.tabs.removeWidget(widget)
            self.tabs.addWidget(widget)

    def _foot(self) -> QHBoxLayout:
        self.words = Label()
        self.words.setObjectName("subheading")
        self.words.setWordWrap(True)
        foot = QHBoxLayout()
        foot.addWidget(self.words, 1)
        self.agree = QPushButton("Put it into the design")
        self.agree.setObjectName("link")
        self.agree.setToolTip("Sets how clogged the design's pads are, so that its difference is the last one read.")
        self.agree.clicked.connect(self.agree_wanted)
        self.agree.hide()
        foot.addWidget(self.agree)
        return foot

    def show_learned(self, learned: Learned, names: Sequence[tuple[str, str]], units: UnitSystem) -> None:
        """Another log, or more of it: its trends as (key, name), the first ones with a button. What was shown stays."""
        self._learned, self._units = learned, units
        for button in self.buttons.values():
            self.group.removeButton(button)
            self.tabs.removeWidget(button)
            button.deleteLater()
        self.buttons = {}
        count = CHIPS if theme.scale() < theme.LARGE else 1
        for key, label in names[:count]:
            button = ElidedButton(label.replace("&", "&&"), self._row)
            button.setToolTip(tip(label))
            button.setObjectName("choice")
            button.setCheckable(True)
            button.clicked.connect(lambda _, k=key: self.turn(k))
            self.group.addButton(button)
            self.buttons[key] = button
        self._in_order()
        rest = names[count:]
        self.more.set_options((("", "more trends"), *rest), "")
        self.more.setVisible(bool(rest))
        keys = [key for key, _ in names]
        self.turn(self.key if self.key in keys else (keys[0] if keys else ""))

    def show_none(self, sentence: str) -> None:
        """Nothing can be drawn, and why."""
        self.empty.setText(sentence)
        self.empty.show()
        self.chart.hide()

    def turn(self, key: str) -> None:
        """To another trend."""
        self.key = key
        made: Trend | None = None
        if self._learned is not None and key:
            made = trend(self._learned, key, self._units)
        for each, button in self.buttons.items():
            button.setChecked(each == key)
        if key not in self.buttons and key:
            self.more.show_value(key)
        self.chart.setVisible(made is not None)
        self.empty.setVisible(made is None)
        self.chart.show_trend(made)
        self.words.setText(made.says if made is not None else "")
        self.save.setEnabled(made is not None)
        self.agree.setVisible(key.startswith("drop@") and made is not None)
