"""A trend of the log by the calendar: readings and fit together, what was cleaned, today, and what is foreseen."""

from __future__ import annotations

import datetime
from html import escape
from pathlib import Path
from typing import Any

import numpy as np
import pyqtgraph as pg
from PySide6.QtCore import QPointF, Qt, Signal
from PySide6.QtGui import QColor, QKeyEvent
from PySide6.QtWidgets import QVBoxLayout, QWidget

from fuente.errors import DocumentError
from fuente.ui import theme
from fuente.ui.quiet_plot import keep_apart, quiet_plot
from fuente.upkeep.telling import Trend

DAY = 86400.0
_STEP = 0.15  # of what is seen, by which a key moves it


class KeepChart(QWidget):
    """The chart: the wheel zooms in time, a drag moves it, a double click or F fits it; values under the pointer."""

    draws_itself = True  # Copy takes it as a picture

    hovered = Signal(str)

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        t = theme.current()
        self.plot = quiet_plot(bottom=pg.DateAxisItem(orientation="bottom", utcOffset=_offset()))
        self.plot.setMouseEnabled(True, False)
        self.plot.setMinimumHeight(theme.px(150))
        self.trend: Trend | None = None
        self._whole = True  # whether all of it is seen, and what comes should be too
        self.plot.getViewBox().sigRangeChangedManually.connect(lambda _: self._seen(False))
        self._items: list[Any] = []
        self._apart = keep_apart(self.plot, lambda: self._items)
        self._values = pg.TextItem(anchor=(0, 1), color=t.ink, fill=pg.mkBrush(QColor(t.panel)))
        self._values.setFont(theme.font(11))
        self._values.setZValue(20)
        self.plot.scene().sigMouseMoved.connect(self._hover)
        self.plot.scene().sigMouseClicked.connect(lambda e: self.fit() if e.double() else None)
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.addWidget(self.plot)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setAccessibleName("Trend of the log")
        self.setToolTip("Wheel: zoom in time. Drag: move. Double click or F: all of it.")

    def show_trend(self, trend: Trend | None) -> None:
        """Draw it; None for nothing."""
        same = self.trend is not None and trend is not None and self.trend.title == trend.title
        view = self.plot.viewRange()[0] if same and not self._whole else None
        self.trend = trend
        for item in self._items:
            self.plot.removeItem(item)
        self._items = []
        if trend is None:
            self.plot.setLabel("left", "")
            self.setAccessibleDescription("")
            return
        t = theme.current()
        self.setAccessibleDescription(trend.says)
        if trend.band is not None:
            ahead, least, most = trend.band
            curves = [pg.PlotCurveItem(ahead, side) for side in (least, most)]
            pale = QColor(t.fall)
            pale.setAlpha(45)
            self._add(pg.FillBetweenItem(*curves, brush=pg.mkBrush(pale)))
            pen = pg.mkPen(QColor(t.fall), width=1.4, style=Qt.PenStyle.DashLine)
            self._add(pg.PlotDataItem(ahead, (least + most) / 2, pen=pen))
        for times, values in trend.curves:
            self._add(pg.PlotDataItem(times, values, pen=pg.mkPen(QColor(t.fall), width=2)))
        self._points(trend)
        low, high = self._range(trend)
        for at, words in trend.marks:
            self._add(pg.InfiniteLine(at, 90, pen=pg.mkPen(t.rule, width=1)))
            if words:
                self._word(words, t.muted, at, high, (0, 0))
        if trend.limit is not None:
            value, words = trend.limit
            self._add(pg.InfiniteLine(value, 0, pen=pg.mkPen(t.stop, width=1.2, style=Qt.PenStyle.DashLine)))
            first = trend.points[0][0] if trend.points else trend.today
            self._word(words, t.stop, first, value, (0, 1))
        self._add(pg.InfiniteLine(trend.today, 90, pen=pg.mkPen(t.ink, width=1)))
        self._word("today", t.ink, trend.today, high, (0, 0))
        if trend.due is not None:
            at, words = trend.due
            self._add(pg.InfiniteLine(at, 90, pen=pg.mkPen(t.pumped, width=1.4)))
            over = trend.limit[0] if trend.limit is not None else low + 0.7 * (high - low)
            self._word(words, t.pumped_text, at, over + 0.02 * (high - low), (1, 1))
        self.plot.setLabel("left", escape(trend.up))
        self.plot.setYRange(low, high, padding=0.0)
        if view is None:
            self.fit()
        else:
            self.plot.setXRange(*view, padding=0)
        self._apart()

    def fit(self) -> None:
        """All of it."""
        if self.trend is None:
            return
        self._seen(True)
        times = [t for t, _, _ in self.trend.points] + [self.trend.today]
        if self.trend.due is not None and self.trend.due[0] < self.trend.today + 240 * DAY:
            times.append(self.trend.due[0] + 8 * DAY)
        elif self.trend.band is not None:
            times.append(min(float(self.trend.band[0][-1]), self.trend.today + 60 * DAY))
        self.plot.setXRange(min(times), max(max(times), min(times) + DAY), padding=0.03)

    def _seen(self, whole: bool) -> None:
        self._whole = whole

    def _points(self, trend: Trend) -> None:
        t = theme.current()
        for odd, symbol in ((False, "o"), (True, "x")):
            rows = [(at, value) for at, value, is_odd in trend.points if is_odd == odd]
            if rows:
                tone = t.stop if odd else t.fall
                pen = pg.mkPen(QColor(tone), width=1.8)
                spots = pg.ScatterPlotItem(
                    [r[0] for r in rows],
                    [r[1] for r in rows],
                    symbol=symbol,
                    size=theme.px(8 if not odd else 10),
                    pen=pen,
                    brush=pg.mkBrush(QColor(t.ground)),
                )
                spots.setZValue(5)
                self._add(spots)

    def _range(self, trend: Trend) -> tuple[float, float]:
        values = [v for _, v, _ in trend.points]
        if trend.limit is not None:
            values.append(trend.limit[0])
        for _, curve in trend.curves:
            values += [float(np.min(curve)), float(np.max(curve))]
        high, low = max(values), min(values)
        if trend.band is not None:
            near = [float(v) for v in trend.band[2] if v < 1.3 * high]
            high = max([high, *near])
        room = max(high - low, 0.05 * abs(high), 1e-6)
        floor = 0.0 if 0 <= low < 0.6 * high else low - 0.12 * room
        return floor, high + 0.14 * max(high - floor, 1e-6)

    def _word(self, text: str, tone: str, x: float, y: float, anchor: tuple[float, float]) -> None:
        ground = QColor(theme.current().ground)
        ground.setAlpha(190)
        item = pg.TextItem(text, color=QColor(tone), anchor=anchor, fill=pg.mkBrush(ground))
        item.setFont(theme.font(11))
        item.setZValue(10)
        item.setPos(x, y)
        self._add(item)

    def _add(self, item: Any) -> None:
        self.plot.addItem(item)
        self._items.append(item)

    # -- by hand --------------------------------------------------------------------------------------------------

    def _hover(self, at: QPointF) -> None:
        if self.trend is None or not self.plot.sceneBoundingRect().contains(at):
            if self._values.scene() is not None:
                self.plot.removeItem(self._values)
            return
        self.show_values(float(self.plot.getViewBox().mapSceneToView(at).x()))

    def show_values(self, x: float) -> None:
        """The reading that is nearest in time, with its day, and what the curve says there."""
        trend = self.trend
        if trend is None or not trend.points:
            return
        at, value, odd = min(trend.points, key=lambda p: abs(p[0] - x))
        day = datetime.datetime.fromtimestamp(at).astimezone()
        unit = f" {trend.up}" if trend.up else ""
        rows = [f"{day.day} {day:%b %Y}: {value:.3g}{unit}" + (", far from the others" if odd else "")]
        for times, curve in trend.curves:
            if len(times) and times[0] <= at <= times[-1]:
                rows.append(f"the curve: {float(np.interp(at, times, curve)):.3g}{unit}")
                break
        self.said = "\n".join(rows)
        if self._values.scene() is None:
            self.plot.addItem(self._values, ignoreBounds=True)
        (x0, x1), (y0, y1) = self.plot.viewRange()
        self._values.setText(self.said)
        self._values.setAnchor((1 if at > (x0 + x1) / 2 else 0, 0 if value > (y0 + y1) / 2 else 1))
        self._values.setPos(at, value)
        self.hovered.emit(self.said)

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """Arrows move it in time, plus and minus zoom, F fits."""
        (x0, x1), _ = self.plot.viewRange()
        step = _STEP * (x1 - x0)
        key = event.key()
        if key in (Qt.Key.Key_Left, Qt.Key.Key_Right):
            move = step if key == Qt.Key.Key_Right else -step
            self.plot.setXRange(x0 + move, x1 + move, padding=0)
            self._seen(False)
        elif key in (Qt.Key.Key_Plus, Qt.Key.Key_Equal, Qt.Key.Key_Minus):
            grow = -step if key != Qt.Key.Key_Minus else step
            self.plot.setXRange(x0 - grow, x1 + grow, padding=0)
            self._seen(False)
        elif key == Qt.Key.Key_F:
            self.fit()
        else:
            super().keyPressEvent(event)

    def write(self, path: Path) -> None:
        """As picture or table, by the file's ending; raises DocumentError where that cannot be."""
        if self.trend is None:
            raise DocumentError("There is no trend to save yet.")
        kind = path.suffix.lower().lstrip(".")
        try:
            if kind == "csv":
                path.write_text(self.trend.as_csv(), encoding="utf-8")
            elif kind == "png":
                if not self.plot.grab().save(str(path), "PNG"):
                    raise OSError("it could not be written")
            else:
                raise DocumentError("A trend is saved as .png or .csv.")
        except OSError as error:
            raise DocumentError(f"The trend could not be saved: {error.strerror or error}.") from None


def _offset() -> float:
    """s that local clocks are behind UTC, as the axis wants it."""
    found = datetime.datetime.now().astimezone().utcoffset()
    return -found.total_seconds() if found is not None else 0.0
