"""A chart of living water: lines with bands, what happens when, values under the pointer, and its ways out."""

from __future__ import annotations

from html import escape
from pathlib import Path
from typing import Any

import numpy as np
import pyqtgraph as pg
from PySide6.QtCore import QFile, QIODevice, QPointF, Qt
from PySide6.QtGui import QColor, QPainter
from PySide6.QtWidgets import QVBoxLayout, QWidget

from fuente.errors import DocumentError
from fuente.shown.start_plan import as_calendar
from fuente.shown.water_charts import Chart
from fuente.ui import theme
from fuente.ui.quiet_plot import keep_apart, quiet_plot

_PALE = 40  # alpha of a band
_BEHIND = 190  # alpha of the ground behind words
_PINNED = 150  # alpha of what is pinned
WAYS_OUT = {
    "png": "Picture (*.png)",
    "svg": "Drawing (*.svg)",
    "csv": "Table (*.csv)",
    "ics": "Calendar of the start (*.ics)",
}


_LONG, _TALL = 0.25, 0.07  # of the chart, that a line's name takes


class WaterChart(QWidget):
    """The chart. What is pinned stays behind the lines of another design."""

    draws_itself = True  # Copy takes it as a picture

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        t = theme.current()
        self.plot = quiet_plot()
        self.plot.setMinimumHeight(theme.px(96))
        self.chart: Chart | None = None
        self.pinned: Chart | None = None
        self._items: list[Any] = []
        self._apart = keep_apart(self.plot, lambda: self._items)
        self._at = pg.InfiniteLine(0, 90, pen=pg.mkPen(t.muted, width=1))
        self._values = pg.TextItem(anchor=(0, 0), color=t.ink, fill=pg.mkBrush(QColor(t.panel)))
        self._values.setFont(theme.font(11))
        self.plot.scene().sigMouseMoved.connect(self._hover)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.plot)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Chart of living water")

    def show_chart(self, chart: Chart | None) -> None:
        """Draw it; None for nothing."""
        self.chart = chart
        for item in self._items:
            self.plot.removeItem(item)
        self._items = []
        if chart is None:
            self.plot.setLabel("bottom", "")
            self.plot.setLabel("left", "")
            return
        self.setAccessibleDescription(chart.says)
        t = theme.current()
        tops = [float(np.nanmax(line.values)) for line in chart.lines]
        tops += [
            float(np.nanmax(line.most)) for line in chart.lines if line.most is not None and "nitrate" in line.name
        ]
        lows = [float(np.nanmin(line.values)) for line in chart.lines]
        if chart.level is not None:
            tops.append(chart.level[0])
            lows.append(chart.level[0])
        pinned = self.pinned if self.pinned is not None and self.pinned.title == chart.title else None
        if pinned is not None:
            for line in pinned.lines:
                pen = pg.mkPen(_pale(line.tone, _PINNED), width=1.5, style=Qt.PenStyle.DashLine)
                self._add(pg.PlotDataItem(pinned.times, line.values, pen=pen))
                tops.append(float(np.nanmax(line.values)))
        tops += [value for points in chart.points for value in points.values]
        high, low = max(tops) * 1.12 or 1.0, min(lows)
        low = low - 0.1 * (high - low) if low > 0.3 * high else 0.0
        for line in chart.lines:
            tone = QColor(_tone(line.tone))
            if line.least is not None and line.most is not None:
                least, most = (pg.PlotCurveItem(chart.times, each) for each in (line.least, line.most))
                self._add(pg.FillBetweenItem(least, most, brush=pg.mkBrush(_pale(line.tone, _PALE))))
            style = Qt.PenStyle.DashLine if line.dashed else Qt.PenStyle.SolidLine
            self._add(pg.PlotDataItem(chart.times, line.values, pen=pg.mkPen(tone, width=2, style=style)))
        if chart.level is not None:
            at, words = chart.level
            pen = pg.mkPen(t.stop, width=1.2, style=Qt.PenStyle.DashLine)
            self._add(pg.InfiniteLine(at, 0, pen=pen))
            self._word(words, t.stop, float(chart.times[-1]), at, (1, 1))
        for at, words in chart.uprights:
            self._add(pg.InfiniteLine(at, 90, pen=pg.mkPen(t.muted, width=1.2, style=Qt.PenStyle.DashLine)))
            right = at > 0.6 * float(chart.times[-1])
            self._word(words, t.muted, at, high, (1 if right else 0, 0))
        if chart.marks:
            marks = pg.ScatterPlotItem(
                list(chart.marks),
                [low + 0.015 * (high - low)] * len(chart.marks),
                symbol="t",
                size=theme.px(9),
                brush=pg.mkBrush(_tone("fall")),
                pen=None,
            )
            self._add(marks)
        for points in chart.points:
            self._add(
                pg.ScatterPlotItem(
                    list(points.times),
                    list(points.values),
                    symbol="o",
                    size=theme.px(8),
                    pen=pg.mkPen(_tone(points.tone), width=1.8),
                    brush=pg.mkBrush(QColor(t.ground)),
                )
            )
        self._names(chart, low, high)
        self.plot.setLabel("bottom", escape(chart.across))
        self.plot.setLabel("left", escape(chart.up))
        self.plot.setXRange(0, float(chart.times[-1]), padding=0.02)
        self.plot.setYRange(low, high, padding=0.0)
        self._apart()

    def _names(self, chart: Chart, low: float, high: float) -> None:
        """Each line's name where it stands farthest from the others, none over another."""
        taken: list[tuple[float, float]] = []
        times = chart.times
        grid = np.linspace(0.08, 0.92, 24)
        which = [int(share * (len(times) - 1)) for share in grid]
        for line in chart.lines:
            best, room = which[0], -np.inf
            for i in which:
                others = [abs(float(o.values[i] - line.values[i])) for o in chart.lines if o is not line]
                free = min(others, default=high) / (high - low)
                near = min(
                    (abs(times[i] - x) / times[-1] * 2 + abs(line.values[i] - y) / (high - low) for x, y in taken),
                    default=1.0,
                )
                size = min(free, 0.3) + 0.6 * min(near, 0.4) + 0.2 * float(line.values[i] - low) / (high - low)
                over = (
                    abs(times[i] - x) < _LONG * times[-1]
                    for x, y in taken
                    if abs(line.values[i] - y) < _TALL * (high - low)
                )
                size -= float(any(over))
                if size > room:
                    best, room = i, size
            at, value = float(times[best]), float(line.values[best])
            taken.append((at, value))
            self._word(line.name, _text_tone(line.tone), at, value, (float(at > 0.5 * times[-1]), 1.1))

    def _word(self, text: str, tone: str, x: float, y: float, anchor: tuple[float, float]) -> None:
        ground = QColor(theme.current().ground)
        ground.setAlpha(_BEHIND)
        item = pg.TextItem(text, color=QColor(tone), anchor=anchor, fill=pg.mkBrush(ground))
        item.setZValue(10)
        item.setFont(theme.font(11))
        item.setPos(x, y)
        self._add(item)

    def _add(self, item: Any) -> None:
        self.plot.addItem(item)
        self._items.append(item)

    def _hover(self, at: QPointF) -> None:
        if self.chart is None or not self.plot.sceneBoundingRect().contains(at):
            for item in (self._at, self._values):
                if item.scene() is not None:
                    self.plot.removeItem(item)
            return
        self.show_values(float(self.plot.getViewBox().mapSceneToView(at).x()))

    def show_values(self, x: float) -> None:
        """A line at a time with every line's value there."""
        chart = self.chart
        if chart is None:
            return
        i = int(np.clip(np.searchsorted(chart.times, x), 0, len(chart.times) - 1))
        rows = [f"{chart.times[i]:.3g} {chart.across.split(' ', 1)[0]}"]
        for line in chart.lines:
            band = ""
            if line.least is not None and line.most is not None:
                band = f" ({line.least[i]:.3g} to {line.most[i]:.3g})"
            rows.append(f"{line.name} {line.values[i]:.3g}{band}")
        for item in (self._at, self._values):
            if item.scene() is None:
                self.plot.addItem(item, ignoreBounds=True)
        (x0, x1), (_, y1) = self.plot.viewRange()
        self._at.setPos(float(chart.times[i]))
        self._values.setText("\n".join(rows))
        self._values.setAnchor((1, 0) if float(chart.times[i]) > (x0 + x1) / 2 else (0, 0))
        self._values.setPos(float(chart.times[i]), y1)
        self.said = "\n".join(rows)

    def pin(self) -> None:
        """Keep what is drawn behind what comes; a second time lets it go."""
        self.pinned = None if self.pinned is not None else self.chart
        self.show_chart(self.chart)

    def _draw_to(self, path: Path) -> None:
        from PySide6.QtSvg import QSvgGenerator

        file = QFile(str(path))
        if not file.open(QIODevice.OpenModeFlag.WriteOnly):
            raise OSError(file.errorString())
        made = QSvgGenerator()
        made.setOutputDevice(file)
        made.setSize(self.plot.size())
        made.setViewBox(self.plot.rect())
        made.setTitle(self.chart.title if self.chart is not None else "")
        painter = QPainter(made)
        self.plot.render(painter)
        painter.end()
        file.close()

    def write(self, path: Path, name: str = "") -> None:
        """As picture, drawing, table or calendar, by the file's ending; raises DocumentError where that cannot be."""
        if self.chart is None:
            raise DocumentError("There is no chart to save yet.")
        kind = path.suffix.lower().lstrip(".")
        try:
            if kind == "csv":
                path.write_text(self.chart.as_csv(), encoding="utf-8")
            elif kind == "ics":
                if not self.chart.plan:
                    raise DocumentError("Only a start has a calendar.")
                path.write_text(as_calendar(self.chart.plan, self.chart.started, name), encoding="utf-8", newline="")
            elif kind == "svg":
                self._draw_to(path)
            elif kind == "png":
                if not self.plot.grab().save(str(path), "PNG"):
                    raise OSError("it could not be written")
            else:
                raise DocumentError("A chart is saved as .png, .svg, .csv, or a start as .ics.")
        except OSError as error:
            raise DocumentError(f"The chart could not be saved: {error.strerror or error}.") from None


def _tone(role: str) -> str:
    return str(getattr(theme.current(), role))


def _text_tone(role: str) -> str:
    t = theme.current()
    return str(getattr(t, f"{role}_text", getattr(t, role)))


def _pale(role: str, alpha: int) -> QColor:
    tone = QColor(_tone(role))
    tone.setAlpha(alpha)
    return tone
