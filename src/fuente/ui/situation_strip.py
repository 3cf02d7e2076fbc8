"""One picture, several situations: each button says its verdict before it is pressed."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import QPointF, QRectF, QSize, Qt, Signal
from PySide6.QtGui import QFontMetrics, QPainter, QPaintEvent, QPen, QResizeEvent
from PySide6.QtWidgets import QAbstractButton, QButtonGroup, QGridLayout, QSizePolicy, QWidget

from fuente.devices.base import Rank
from fuente.errors import FuenteError
from fuente.findings.bands import Bands, banded
from fuente.study.air_hours import AirHours, decided
from fuente.study.situation import Situation
from fuente.study.situations import TITLES
from fuente.ui import glyphs, theme
from fuente.ui.label import tip
from fuente.units import UnitSystem

Peek = Callable[[str], Situation | FuenteError | None]


class SituationButton(QAbstractButton):
    """Title and verdict."""

    def __init__(self, name: str, parent: QWidget | None = None):
        super().__init__(parent)
        self.name = name
        self.verdict = ""
        self.rank: Rank | None = None
        self.lines = 1  # of the verdict
        self.setCheckable(True)
        self.setText(TITLES[name])
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Fixed)
        self.setFocusPolicy(Qt.FocusPolicy.StrongFocus)
        self.setCursor(Qt.CursorShape.PointingHandCursor)

    def sizeHint(self) -> QSize:
        """A title over its verdict."""
        return QSize(theme.px(84), theme.px(44 if self.lines == 1 else 58))

    def minimumSizeHint(self) -> QSize:
        """May shrink: the words elide."""
        return QSize(theme.px(60), self.sizeHint().height())

    def show_verdict(self, verdict: str, rank: Rank | None) -> None:
        """The line under the title."""
        self.verdict, self.rank = verdict, rank
        self.setToolTip(tip(f"{self.text()}: {verdict}"))
        self.setAccessibleName(f"{self.text()}: {verdict}")
        self.update()

    def paintEvent(self, event: QPaintEvent) -> None:
        """A cell of the strip."""
        p = QPainter(self)
        p.setRenderHint(QPainter.RenderHint.Antialiasing)
        box = QRectF(self.rect()).adjusted(0.5, 0.5, -0.5, -0.5)
        on = self.isChecked()
        p.setPen(QPen(theme.color("rule"), 1))
        dark = theme.current().name == "dark"
        p.setBrush(theme.color(("accent" if dark else "bar") if on else "panel2" if self.underMouse() else "ground"))
        p.drawRect(box)
        if self.hasFocus():
            p.setPen(QPen(theme.color("accent"), 2))
            p.setBrush(Qt.BrushStyle.NoBrush)
            p.drawRect(box.adjusted(2, 2, -2, -2))
        if self.rank is not None:
            tone = theme.color(("stop", "pumped", "accent")[self.rank])
            p.fillRect(QRectF(box.x(), box.bottom() - 3, box.width(), 3), tone)
            glyphs.paint_rank(
                p, self.rank, QPointF(box.right() - theme.px(9), box.y() + theme.px(10)), theme.px(5.5), tone
            )
        half = theme.px(22)
        p.setFont(theme.font(12, theme.BOLD if on else theme.MEDIUM))
        p.setPen(theme.color(("bar" if dark else "bar_ink") if on else "ink"))
        title = p.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, int(box.width()) - theme.px(8))
        p.drawText(QRectF(box.x(), box.y() + 3, box.width(), half), Qt.AlignmentFlag.AlignCenter, title)
        p.setFont(theme.font(11))
        p.setPen(theme.color(("bar" if dark else "bar_ink") if on else "muted"))
        said = "\n".join(in_lines(self.verdict, p.fontMetrics(), int(box.width()) - theme.px(6), self.lines))
        below = QRectF(box.x(), box.y() + half - 3, box.width(), box.height() - half)
        p.drawText(below, Qt.AlignmentFlag.AlignCenter, said)
        p.end()


def in_lines(words: str, fm: QFontMetrics, width: int, lines: int) -> list[str]:
    """Words in one line or two, broken at a space where they are too long for one, cut with dots where they stay so:
    after a comma if they may be, and not between a number and its unit.
    """
    if lines < 2 or fm.horizontalAdvance(words) <= width or " " not in words:
        return [fm.elidedText(words, Qt.TextElideMode.ElideRight, width)]
    spaces = [i for i, c in enumerate(words) if c == " "]
    fits = [i for i in spaces if fm.horizontalAdvance(words[:i]) <= width] or spaces[:1]
    both = [i for i in fits if fm.horizontalAdvance(words[i + 1 :]) < width - 1]
    commas, whole = [i for i in both if words[i - 1] in ",;"], [i for i in both if not words[i - 1].isdigit()]
    best = commas or whole or both
    at = best[len(best) // 2] if best else fits[-1]
    return [fm.elidedText(each, Qt.TextElideMode.ElideRight, width) for each in (words[:at], words[at + 1 :])]


class SituationStrip(QWidget):
    """All situations in a row."""

    chosen = Signal(str)

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setAccessibleName("Situations")
        self._grid = QGridLayout(self)
        self._grid.setContentsMargins(0, 0, 0, 0)
        self._grid.setSpacing(0)
        self._columns = 0
        self._names = list(TITLES)
        self.group = QButtonGroup(self)
        self.group.setExclusive(True)
        self.buttons: dict[str, SituationButton] = {}
        for name in TITLES:
            button = SituationButton(name)
            button.clicked.connect(lambda _=False, n=name: self.chosen.emit(n))
            self.group.addButton(button)
            self.buttons[name] = button
        self.buttons["running"].setChecked(True)
        self._arrange((len(self.buttons) + 1) // 2)

    def minimumSizeHint(self) -> QSize:
        """Two rows: it takes one only where there is room."""
        columns = (len(self._names) + 1) // 2
        least = max(self.buttons[n].minimumSizeHint().width() for n in self._names)
        return QSize(columns * least, super().minimumSizeHint().height())

    def _arrange(self, columns: int) -> None:
        """One row, or two where the words would not fit."""
        if columns == self._columns:
            return
        self._columns = columns
        for button in self.buttons.values():
            self._grid.removeWidget(button)
        for i, name in enumerate(self._names):
            self._grid.addWidget(self.buttons[name], i // columns, i % columns)

    def resizeEvent(self, event: QResizeEvent | None) -> None:
        """Keep the words readable."""
        if event is not None:
            super().resizeEvent(event)
        count = len(self._names)
        self._arrange(count if self.width() >= count * theme.px(88) else (count + 1) // 2)
        self._heighten()

    def _heighten(self) -> None:
        """All cells get a second line for the verdict where one of them needs it; two rows would leave the drawing none
        of its room.
        """
        fm = QFontMetrics(theme.font(11))
        room = self.width() // max(self._columns, 1) - theme.px(6) - 1
        lines = 1 + (
            self._columns >= len(self._names)
            and any(fm.horizontalAdvance(self.buttons[n].verdict) > room for n in self._names)
        )
        for button in self.buttons.values():
            if button.lines != lines:
                button.lines = lines
                button.updateGeometry()

    def show_situations(
        self,
        names: list[str],
        peek: Peek,
        units: UnitSystem,
        current: str,
        soon: Callable[[str], bool] = lambda _: False,
        bands: Bands | None = None,
        air: AirHours | None = None,
    ) -> None:
        """Follow the study: the situations that its system can be in, as far as they are solved.

        ``soon``: whether a situation that is not known yet comes with the next frame, so that what was there may stand
        till then.
        """
        if names != self._names:
            self._names, self._columns = names, 0
            for name, button in self.buttons.items():
                button.setVisible(name in names)
            self.resizeEvent(None)
        for name, button in self.buttons.items():
            if name not in names:
                continue
            result = peek(name)
            if result is None:
                if not (soon(name) and button.verdict):
                    button.show_verdict("solving …", None)
            elif isinstance(result, Situation):
                verdict = decided(result, air if name == "power_cut" else None)
                button.show_verdict(verdict.filled(units), verdict.rank)
                words = [banded(result, bands).filled(units)] if bands is not None else []
                if verdict is not result.verdict and air is not None:
                    words.append(air.said("", units))
                button.setToolTip(tip("; ".join(words)))
            else:
                button.show_verdict("cannot run", Rank.STOP)
                button.setToolTip(tip(str(result)))
            button.setChecked(name == current)
        self._heighten()
