"""Levels under their rims over a wet test, one line a tank and one a filter."""

from __future__ import annotations

from typing import Any

import numpy as np
import pyqtgraph as pg
from PySide6.QtCore import Qt
from PySide6.QtGui import QColor
from PySide6.QtWidgets import QVBoxLayout, QWidget

from fuente.network.model import Cell
from fuente.shown.charted import charted
from fuente.study.analysis import Analysis
from fuente.study.wet_test import WetTest
from fuente.ui import theme
from fuente.ui.quiet_plot import quiet_plot
from fuente.units import UnitSystem, unit_size


def clock(seconds: float) -> str:
    """Minutes and seconds, with hours where there are any."""
    whole = round(seconds)
    if whole >= 3600:
        return f"{whole // 3600}:{whole % 3600 // 60:02d}:{whole % 60:02d}"
    return f"{whole // 60}:{whole % 60:02d}"


class LevelsChart(QWidget):
    """The chart; the rim is at the top, water comes nearer to it upwards."""

    draws_itself = True  # Copy takes it as a picture

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        t = theme.current()
        self.plot = quiet_plot()
        self.plot.setFixedHeight(theme.px(180))
        self.plot.invertY(True)
        self.plot.getViewBox().setDefaultPadding(0.14)  # room for the names over and under the outer lines
        self.plot.setAccessibleName("Levels under the rims over time")
        self.plot.getAxis("bottom").tickStrings = lambda values, scale, spacing: [clock(v) for v in values]
        self.plot.addItem(pg.InfiniteLine(0, 0, pen=pg.mkPen(t.stop, width=1.5, style=Qt.PenStyle.DashLine)))
        self.now_line = pg.InfiniteLine(0, 90, pen=pg.mkPen(t.ink, width=1.2))
        self.plot.addItem(self.now_line)
        self.curves: dict[str, Any] = {}
        self.labels: dict[str, Any] = {}
        self.others = self.plot.plot()
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.plot)

    def _curve(self, cell: str, pen: Any) -> Any:
        if cell not in self.curves:
            self.curves[cell] = self.plot.plot()
        self.curves[cell].setPen(pen)
        return self.curves[cell]

    def _show_others(self, test: WetTest, cells: list[Cell], size: float) -> None:
        """The tanks that do not stand out, as one line with gaps: two hundred of their own take a second."""
        times, gap = test.history.times, [np.nan]
        x = [part for _ in cells for part in (times, gap)]
        y = [part for cell in cells for part in ((cell.rim - test.history.level(cell.id)) / size, gap)]
        self.others.setPen(pg.mkPen(theme.current().fall, width=0.8))
        self.others.setData(np.concatenate(x or [gap]), np.concatenate(y or [gap]), connect="finite")

    def show_nothing(self) -> None:
        """No run: no lines."""
        for item in (*self.curves.values(), *self.labels.values()):
            self.plot.removeItem(item)
        self.curves, self.labels = {}, {}
        self.others.setData([], [])

    def show_test(self, test: WetTest, analysis: Analysis, until: float, units: UnitSystem) -> None:
        """Draw every tank and the last chamber of every filter; the tank that comes nearest its rim stands out."""
        t = theme.current()
        size = unit_size("length", units)
        history = test.history
        tanks = {cell.id: cell for cell in (analysis.network.cell(x.id) for x in analysis.system.tanks)}
        sumps = {cell: (analysis.network.cell(cell), name) for cell, name in charted(analysis, history)}
        margins = {key: cell.rim - history.peak(key)[0] for key, cell in tanks.items()}
        worst = min(margins, key=margins.__getitem__)
        for gone in [key for key in self.curves if key not in (worst, *sumps)]:
            self.plot.removeItem(self.curves.pop(gone))
        words: dict[str, tuple[str, str, float]] = {}
        self._show_others(test, [cell for key, cell in tanks.items() if key != worst], size)
        under = (tanks[worst].rim - history.level(worst)) / size
        self._curve(worst, pg.mkPen(t.accent, width=2.0)).setData(history.times, under)
        name = "tank" if len(tanks) == 1 else analysis.system.tank(worst).name
        words[worst] = (name, t.fall_text, float(under[-1]))
        for n, (key, (cell, name)) in enumerate(sumps.items()):
            under = (cell.rim - history.level(key)) / size
            style = Qt.PenStyle.SolidLine if n == len(sumps) - 1 else Qt.PenStyle.DashLine
            self._curve(key, pg.mkPen(t.pumped, width=2, style=style)).setData(history.times, under)
            words[key] = (name, t.pumped_text, float(under[-1]))
        for gone in [key for key in self.labels if key not in words]:
            self.plot.removeItem(self.labels.pop(gone))
        low = {key: at for key, (_, _, at) in words.items() if key in sumps}
        highest = min(low, key=low.__getitem__, default="")
        for key, (text, tone, at) in words.items():
            if key not in self.labels:
                self.labels[key] = pg.TextItem()
                self.plot.addItem(self.labels[key])
            # Two sumps often end at one level: one name goes over its line, the other under.
            over = key in tanks or (len(low) > 1 and key == highest)
            self.labels[key].setAnchor((1, 1 if over else 0))
            self.labels[key].setText(text, color=QColor(tone))
            self.labels[key].setPos(until, at)
        self.plot.setXRange(0, until, padding=0.02)
        self.plot.setBackground(t.ground)
