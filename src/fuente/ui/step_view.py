"""A step of the build: what to do, what to look at, its clock, and what was written about it."""

from __future__ import annotations

import datetime

from PySide6.QtCore import Qt, Signal
from PySide6.QtWidgets import (
    QHBoxLayout,
    QLineEdit,
    QProgressBar,
    QPushButton,
    QScrollArea,
    QSizePolicy,
    QVBoxLayout,
    QWidget,
)

from fuente.drawing.primitives import Drawing
from fuente.ui import theme
from fuente.ui.drawn_view import DrawnView
from fuente.ui.elided import ElidedLines
from fuente.ui.label import Label
from fuente.ui.put_in import put_in
from fuente.ui.told_panel import plain
from fuente.units import UnitSystem
from fuente.workshop.clocks import Stand, Stood
from fuente.workshop.words import remark

MARKS = {Stand.DONE: "✓", Stand.CURING: "◔", Stand.READY: "○", Stand.HELD: "·"}


def now() -> datetime.datetime:
    """This moment, with its offset."""
    return datetime.datetime.now(datetime.UTC).astimezone()


def moment(at: datetime.datetime) -> str:
    """A moment as one says it: Sunday 29 November, 14:00."""
    there = at.astimezone()
    return f"{there:%A} {there.day} {there:%B}, {there:%H:%M}"


def span(seconds: float) -> str:
    """A time that is left or passed."""
    if seconds < 3600:
        return f"{max(seconds / 60, 1):.0f} min"
    hours = seconds / 3600
    return f"{hours:.0f} h" if hours < 72 else f"{hours / 24:.1f} days"


def work(minutes: float, hands: int) -> str:
    """How long it takes, and how many hands."""
    people = "one person" if hands == 1 else "two people"
    return f"{people}, about {span(minutes * 60)}"


def stands(stood: Stood, units: UnitSystem, at: datetime.datetime) -> str:
    """How a step stands, in words."""
    if stood.stand is Stand.DONE and stood.done is not None:
        return f"Done on {moment(stood.done)}."
    if stood.stand is Stand.CURING and stood.until is not None:
        left = span(stood.left(at))
        return f"Done; wait for {stood.step.waits_for}: {left} left, until {moment(stood.until)}."
    if stood.stand is Stand.HELD and stood.held_by is not None:
        holder = remark(stood.held_by.title, units)
        name = f"“{holder}” ({stood.held_by.body})"
        if stood.until is not None:
            return f"Held back: wait for {stood.held_by.waits_for} after {name}, until {moment(stood.until)}."
        return f"Held back: {name} is not done yet."
    return "Can be done now."


class StepView(QScrollArea):
    """One step in full."""

    ticked = Signal(str)
    opened = Signal(str)
    noted = Signal(str, str)  # step, words
    photographed = Signal(str)

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.setWidgetResizable(True)
        self.setFrameShape(QScrollArea.Shape.NoFrame)
        page = QWidget(self.viewport())
        page.setObjectName("ground")
        page.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        put_in(self, page)
        column = QVBoxLayout(page)
        column.setContentsMargins(theme.px(24), theme.px(14), theme.px(24), theme.px(14))
        column.setSpacing(theme.px(7))
        self.count = plain("", "subheading")
        self.title = plain("", "big")
        self.body = plain("", "section")
        self.act = plain("")
        self.check = plain("", "value")
        self.tools = plain("", "subheading")
        self.cautions = plain("", "why")
        self.stand = plain("", "value")
        self.bar = QProgressBar()
        self.bar.setTextVisible(False)
        self.bar.setFixedHeight(theme.px(8))
        self.bar.setAccessibleName("Time cured")
        for widget in (self.count, self.title, self.body, self.act, self.check, self.tools, self.stand, self.bar):
            column.addWidget(widget)
        row = QHBoxLayout()
        self.done = QPushButton("Done")
        self.done.setObjectName("primary")
        self.done.clicked.connect(self._pressed)
        row.addWidget(self.done)
        self.note = QLineEdit()
        self.note.setPlaceholderText("Write about this step, Enter to keep")
        self.note.setAccessibleName("Note about this step")
        self.note.setMaxLength(2000)
        self.note.returnPressed.connect(self._wrote)
        row.addWidget(self.note, 1)
        self.photo = QPushButton("Photograph…")
        self.photo.clicked.connect(self._wants_photo)
        row.addWidget(self.photo)
        column.addLayout(row)
        self.written = plain("", "subheading")
        column.addWidget(self.written)
        column.addWidget(self.cautions)
        self.drawn = DrawnView("What this step is about", page)
        self.drawn.setMinimumHeight(theme.px(170))
        column.addWidget(self.drawn, 20)
        column.addStretch(1)  # takes what is left where nothing is drawn
        self._stood: Stood | None = None

    def show_step(
        self, stood: Stood, number: int, count: int, units: UnitSystem, drawing: Drawing | None = None
    ) -> None:
        """Show a step as it stands, with a drawing of what it is about."""
        step, at = stood.step, now()
        if self._stood is None or self._stood.step.id != step.id:
            self.note.clear()
        self._stood = stood
        self.count.setText(f"Step {number} of {count} · {work(step.minutes, step.hands)}")
        self.title.setText(remark(step.title, units))
        self.body.setText(step.body)
        self.act.setText("\n".join(f"• {remark(each, units)}" for each in step.act))
        self.check.setText(f"Look: {remark(step.check, units)}.")
        self.tools.setText(f"At hand: {', '.join(step.tools)}." if step.tools else "")
        self.tools.setVisible(bool(step.tools))
        self.cautions.setText("\n".join(step.cautions))
        self.cautions.setVisible(bool(step.cautions))
        self.stand.setText(stands(stood, units, at))
        curing = stood.stand is Stand.CURING and step.wait > 0
        self.bar.setVisible(curing)
        if curing:
            passed = (at - stood.done).total_seconds() if stood.done else 0.0
            self.bar.setValue(round(100 * min(passed / step.wait, 1.0)))
        was_done = stood.stand in (Stand.DONE, Stand.CURING)
        self.done.setText("Open it again" if was_done else "Done")
        self.done.setEnabled(stood.stand is not Stand.HELD)
        wait = f", then wait {span(step.wait)} for {step.waits_for}" if step.wait else ""
        self.done.setToolTip("" if was_done else f"Write down that it is done{wait}")
        lines = [f"{moment(n.moment)}: {n.note or 'photograph ' + n.photo}" for n in stood.notes]
        self.written.setText("\n".join(lines))
        self.written.setVisible(bool(lines))
        self.drawn.setVisible(drawing is not None)
        self.drawn.show_drawing(drawing, units, "")

    def _pressed(self) -> None:
        if self._stood is None:
            return
        was_done = self._stood.stand in (Stand.DONE, Stand.CURING)
        (self.opened if was_done else self.ticked).emit(self._stood.step.id)

    def _wants_photo(self) -> None:
        if self._stood is not None:
            self.photographed.emit(self._stood.step.id)

    def _wrote(self) -> None:
        words = self.note.text().strip()
        if words and self._stood is not None:
            self.note.clear()
            self.noted.emit(self._stood.step.id, words)


class BenchCards(QWidget):
    """What to do now, and what cures: under a drawing."""

    asked = Signal(str)  # id of the step to show

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(16), 0, theme.px(16), theme.px(10))
        row.setSpacing(theme.px(12))
        self.next = ElidedLines()
        self.next.setObjectName("benchcard")
        self.clock = Label()
        self.clock.setWordWrap(True)
        self.clock.setObjectName("subheading")
        self.next.setSizePolicy(QSizePolicy.Policy.Ignored, QSizePolicy.Policy.Preferred)
        row.addWidget(self.next, 3)
        row.addWidget(self.clock, 2)
        self._step = ""
        self.next.clicked.connect(self._ask)

    def _ask(self) -> None:
        if self._step:
            self.asked.emit(self._step)

    def show_stand(
        self, upcoming: Stood | None, curing: list[Stood], number: int, count: int, units: UnitSystem
    ) -> None:
        """The next step, and the clocks that run."""
        at = now()
        if upcoming is None:
            self._step = ""
            self.next.say(["Built: every step is done."])
        else:
            step = upcoming.step
            self._step = step.id
            held = [] if upcoming.stand is Stand.READY else [stands(upcoming, units, at)]
            self.next.say(
                [
                    f"On the bench now: step {number} of {count}",
                    f"{remark(step.title, units)}, {step.body}",
                    work(step.minutes, step.hands).capitalize(),
                    *held,
                ]
            )
        lines = [
            f"{s.step.waits_for}: {span(s.left(at))} of {span(s.step.wait)} left, until {moment(s.until)}"
            for s in curing[:2]
            if s.until is not None
        ]
        self.clock.setText("Curing\n" + "\n".join(lines) if lines else "No clock runs.")
