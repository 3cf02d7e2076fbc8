"""Bench mode: one step a screen in large type, for wet hands at arm's length. Next, back and done by one key each."""

from __future__ import annotations

from collections.abc import Callable

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QKeyEvent
from PySide6.QtWidgets import QDialog, QHBoxLayout, QLabel, QProgressBar, QPushButton, QVBoxLayout, QWidget

from fuente.drawing.primitives import Drawing
from fuente.ui import theme
from fuente.ui.drawn_view import DrawnView
from fuente.ui.step_view import now, stands, work
from fuente.ui.told_panel import plain
from fuente.units import UnitSystem
from fuente.workshop.clocks import Stand, Stood, next_step
from fuente.workshop.words import remark

NEXT = (Qt.Key.Key_Right, Qt.Key.Key_Down, Qt.Key.Key_PageDown, Qt.Key.Key_N)
BACK = (Qt.Key.Key_Left, Qt.Key.Key_Up, Qt.Key.Key_PageUp, Qt.Key.Key_B)
DONE = (Qt.Key.Key_Space, Qt.Key.Key_Return, Qt.Key.Key_Enter, Qt.Key.Key_D)


class Bench(QDialog):
    """Shows the steps; says which one is done or open again."""

    ticked = Signal(str)
    opened = Signal(str)

    def __init__(
        self,
        read: Callable[[], tuple[Stood, ...]],
        draw: Callable[[Stood], Drawing | None],
        units: UnitSystem,
        parent: QWidget | None = None,
    ):
        super().__init__(parent)
        self._read, self._draw, self._units = read, draw, units
        self._stood = read()
        self.setWindowTitle("Bench mode")
        self.setObjectName("ground")
        self.resize(theme.px(1180), theme.px(740))
        column = QVBoxLayout(self)
        column.setContentsMargins(theme.px(40), theme.px(24), theme.px(40), theme.px(18))
        column.setSpacing(theme.px(12))
        self.count = _large("", 17)
        self.title = _large("", 34, theme.BOLD)
        self.act = _large("", 21)
        self.check = _large("", 21, theme.BOLD)
        self.caution = _large("", 16)
        self.caution.setStyleSheet(f"color: {theme.current().stop};")
        self.stand = _large("", 18, theme.MEDIUM)
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(theme.px(14))
        self.bar.setAccessibleName("Time cured")
        column.addWidget(self.count)
        column.addWidget(self.title)
        row = QHBoxLayout()
        words = QVBoxLayout()
        words.addWidget(self.act)
        words.addWidget(self.check)
        words.addStretch(1)
        row.addLayout(words, 1)
        self.drawn = DrawnView("What this step is about")
        row.addWidget(self.drawn, 1)
        column.addLayout(row, 1)
        column.addWidget(self.caution)
        column.addWidget(self.stand)
        column.addWidget(self.bar)
        keys = QHBoxLayout()
        self.back = _key("Back  ←", self._back)
        self.tick = _key("Done  Space", self._done)
        self.tick.setObjectName("primary")
        self.next = _key("Next  →", self._next)
        for button in (self.back, self.tick, self.next):
            keys.addWidget(button, 1)
        column.addLayout(keys)
        upcoming = next_step(self._stood)
        self._at = self._stood.index(upcoming) if upcoming is not None else 0
        self._timer = QTimer(self)
        self._timer.setInterval(30_000)
        self._timer.timeout.connect(self.refresh)
        self._timer.start()
        self.refresh()

    def shown_step(self) -> Stood:
        """What is shown."""
        return self._stood[self._at]

    def refresh(self) -> None:
        """Read the steps and their clocks again."""
        self._stood = self._read()
        self._at = min(self._at, len(self._stood) - 1)
        stood = self._stood[self._at]
        step, units, at = stood.step, self._units, now()
        self.count.setText(f"{self._at + 1} of {len(self._stood)} · {step.body} · {work(step.minutes, step.hands)}")
        self.title.setText(remark(step.title, units))
        self.act.setText("\n".join(f"•  {remark(each, units)}" for each in step.act))
        self.check.setText(f"Look: {remark(step.check, units)}.")
        self.caution.setText("\n".join(step.cautions))
        self.caution.setVisible(bool(step.cautions))
        self.stand.setText(stands(stood, units, at))
        curing = stood.stand is Stand.CURING and step.wait > 0 and stood.done is not None
        self.bar.setVisible(curing)
        if curing and stood.done is not None:
            self.bar.setValue(round(100 * min((at - stood.done).total_seconds() / step.wait, 1.0)))
        drawing = self._draw(stood)
        self.drawn.setVisible(drawing is not None)
        self.drawn.show_drawing(drawing, units, "")
        was_done = stood.stand in (Stand.DONE, Stand.CURING)
        self.tick.setText("Open it again  Space" if was_done else "Done  Space")
        self.tick.setEnabled(stood.stand is not Stand.HELD)
        self.back.setEnabled(self._at > 0)
        self.next.setEnabled(self._at + 1 < len(self._stood))

    def keyPressEvent(self, event: QKeyEvent) -> None:
        """One key for each: next, back, done; Esc leaves."""
        if event.key() in NEXT:
            self._next()
        elif event.key() in BACK:
            self._back()
        elif event.key() in DONE:
            self._done()
        else:
            super().keyPressEvent(event)

    def _next(self) -> None:
        self._at = min(self._at + 1, len(self._stood) - 1)
        self.refresh()

    def _back(self) -> None:
        self._at = max(self._at - 1, 0)
        self.refresh()

    def _done(self) -> None:
        """Tick it and go on to the next, or open it again."""
        stood = self._stood[self._at]
        if stood.stand is Stand.HELD:
            return
        if stood.stand is Stand.READY:
            self.ticked.emit(stood.step.id)
            self._at = min(self._at + 1, len(self._stood) - 1)
        else:
            self.opened.emit(stood.step.id)
        self.refresh()


def _large(words: str, size: int, weight: object = None) -> QLabel:
    label = plain(words)
    bold = "font-weight: 600;" if weight in (theme.BOLD, theme.MEDIUM) else ""
    label.setStyleSheet(f"font-size: {theme.px(size)}px; {bold}")
    return label


def _key(words: str, act: Callable[[], None]) -> QPushButton:
    button = QPushButton(words)
    button.setStyleSheet(f"font-size: {theme.px(20)}px; padding: {theme.px(12)}px;")
    button.setFocusPolicy(Qt.FocusPolicy.NoFocus)  # keys are the window's own
    button.clicked.connect(lambda _=False: act())
    return button
