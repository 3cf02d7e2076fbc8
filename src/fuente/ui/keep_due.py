"""What is due: today, this week, later; a tick for each, its checklist, and ways to put it off or do it otherwise."""

from __future__ import annotations

import datetime
from collections.abc import Sequence

from PySide6.QtCore import Qt, QTimer, Signal
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import (
    QCheckBox,
    QDialog,
    QDialogButtonBox,
    QFrame,
    QGridLayout,
    QHBoxLayout,
    QLineEdit,
    QPushButton,
    QSpinBox,
    QVBoxLayout,
    QWidget,
)

from fuente.ui import theme
from fuente.ui.label import Label
from fuente.ui.side_panel import section, small
from fuente.ui.told_panel import plain
from fuente.units import UnitSystem, shown
from fuente.upkeep.due import Due, minutes_of

GROUPS = {"today": "Due today", "week": "This week", "later": "Later"}
FEW, MANY = 8, 30  # of what is later, and of what is due, before the rest folds


class DueRow(QWidget):
    """One task: a box to tick, its name as a button that opens it, minutes, and the reason in small."""

    ticked = Signal(object)
    opened = Signal(object)

    def __init__(self, row: Due, today: datetime.date, parent: QWidget | None = None):
        super().__init__(parent)
        self.row = row
        grid = QGridLayout(self)
        grid.setContentsMargins(0, theme.px(5), 0, theme.px(5))
        grid.setHorizontalSpacing(theme.px(8))
        grid.setVerticalSpacing(0)
        self.box = QCheckBox()
        self.box.setAccessibleName(f"Done: {row.task.name}")
        self.box.setToolTip("Done now, as it says.")
        self.box.clicked.connect(lambda: self.ticked.emit(self.row))
        grid.addWidget(self.box, 0, 0, Qt.AlignmentFlag.AlignTop)
        self.name = QPushButton()
        self.name.setObjectName("reading")
        self.name.setStyleSheet(f"color: {theme.current().ink}; font-weight: 600;")
        label = Label(row.task.name)
        label.setWordWrap(True)
        label.setStyleSheet("font-weight: 600;")
        label.setAttribute(Qt.WidgetAttribute.WA_TransparentForMouseEvents)
        inner = QHBoxLayout(self.name)
        inner.setContentsMargins(0, 0, 0, 0)
        inner.addWidget(label)
        self.name.setAccessibleName(f"{row.task.name}: how")
        self.name.clicked.connect(lambda: self.opened.emit(self.row))
        policy = self.name.sizePolicy()
        policy.setHeightForWidth(True)
        self.name.setSizePolicy(policy)
        self.label = label
        grid.addWidget(self.name, 0, 1, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignLeft)
        minutes = Label(f"{row.task.minutes:.0f} min")
        minutes.setObjectName("subheading")
        grid.addWidget(minutes, 0, 2, Qt.AlignmentFlag.AlignTop | Qt.AlignmentFlag.AlignRight)
        when = _when(row, today)
        words = small(" · ".join(w for w in (when, row.why, row.moved) if w))
        grid.addWidget(words, 1, 1, 1, 2)
        grid.setColumnStretch(1, 1)

    def resizeEvent(self, event: QResizeEvent) -> None:
        """The button is as high as its words; in a turn of its own, as Qt may be styling all of it."""
        super().resizeEvent(event)
        QTimer.singleShot(0, self, self._fit)

    def _fit(self) -> None:
        wide = max(self.width() - theme.px(86), theme.px(60))
        self.name.setFixedSize(wide, max(self.label.heightForWidth(wide), theme.px(18)))
        grid = self.layout()
        if grid is not None:  # the row keeps what that takes: asked for late, the list may have shared its height out
            grid.invalidate()
            tall = (
                grid.totalHeightForWidth(self.width()) if grid.hasHeightForWidth() else grid.totalMinimumSize().height()
            )
            self.setMinimumHeight(tall)


def _when(row: Due, today: datetime.date) -> str:
    left = row.left(today)
    if left < -1:
        return f"{-left} days over"
    if left <= 0:
        return "" if left == 0 else "since yesterday"
    day = f"{row.day:%a} {row.day.day} {row.day:%b}" if left <= 60 else f"{row.day.day} {row.day:%b %Y}"
    if row.early is not None and row.late is not None and (row.late - row.early).days > 2:
        day += f" ({row.early.day} {row.early:%b} to {row.late.day} {row.late:%b})"
    return day


class DueList(QWidget):
    """All of it, under three heads."""

    ticked = Signal(object)
    opened = Signal(object)

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.column = QVBoxLayout(self)
        self.column.setContentsMargins(0, 0, 0, 0)
        self.column.setSpacing(0)
        self.rows: list[DueRow] = []
        self._all = False

    def show_rows(self, rows: Sequence[Due], today: datetime.date) -> None:
        """Show what is due."""
        while self.column.count():
            item = self.column.takeAt(0)
            widget = item.widget() if item is not None else None
            if widget is not None:
                widget.deleteLater()
        self.rows = []
        for key, title in GROUPS.items():
            mine = [r for r in rows if r.when(today) == key]
            if not mine:
                continue
            head = f"{title} · {minutes_of(mine):.0f} minutes" if key != "later" else title
            self.column.addWidget(section(head))
            shown_rows = mine if self._all else mine[: FEW if key == "later" else MANY]
            for row in shown_rows:
                made = DueRow(row, today, self)
                made.ticked.connect(self.ticked)
                made.opened.connect(self.opened)
                self.column.addWidget(made)
                rule = QFrame(self)
                rule.setObjectName("rule")
                self.column.addWidget(rule)
                self.rows.append(made)
            if len(shown_rows) < len(mine):
                more = QPushButton(f"{len(mine) - len(shown_rows)} more")
                more.setObjectName("fold")
                more.clicked.connect(lambda: self._more(rows, today))
                self.column.addWidget(more)
        if not self.rows:
            self.column.addWidget(small("Nothing is due. Tasks come from what you build: a design has some."))
        self.column.addStretch(1)

    def _more(self, rows: Sequence[Due], today: datetime.date) -> None:
        self._all = True
        self.show_rows(rows, today)


class TaskDialog(QDialog):
    """A task in full: why, how, with what, what stands still meanwhile; done, otherwise, later, another interval."""

    def __init__(self, row: Due, units: UnitSystem, meanwhile: str, parent: QWidget | None = None):
        super().__init__(parent)
        self.row = row
        self.answer = ""
        self.setWindowTitle(row.task.name)
        self.setMinimumWidth(theme.px(460))
        column = QVBoxLayout(self)
        column.setSpacing(theme.px(6))
        head = plain(row.task.name)
        head.setObjectName("heading")
        head.setWordWrap(True)
        column.addWidget(head)
        task = row.task
        work = f"{task.minutes:.0f} minutes"
        if task.litres > 0:
            work += f", {shown(task.litres, 'volume', units)} of water"
        if task.tools:
            work += f"; at hand: {', '.join(task.tools)}"
        for words in (task.why, f"Now: {row.why}." if row.why else "", row.moved, work):
            if words:
                label = plain(words)
                label.setWordWrap(True)
                column.addWidget(label)
        self.steps: list[QCheckBox] = []
        for step in task.how:
            box = QCheckBox()
            line = QHBoxLayout()
            label = plain(step)
            label.setWordWrap(True)
            label.setBuddy(box)
            box.setAccessibleName(step)
            line.addWidget(box, 0, Qt.AlignmentFlag.AlignTop)
            line.addWidget(label, 1)
            column.addLayout(line)
            self.steps.append(box)
        self.meanwhile_head = section("Meanwhile, with that chamber empty")
        self.meanwhile = plain("")
        self.meanwhile.setWordWrap(True)
        column.addWidget(self.meanwhile_head)
        column.addWidget(self.meanwhile)
        self.tell(meanwhile)
        if task.living:
            column.addWidget(small("Never two living places on one day: this one keeps apart from the others."))
        self.note = QLineEdit()
        self.note.setPlaceholderText("What was different, or seen")
        self.note.setAccessibleName("What was different, or seen")
        column.addWidget(self.note)
        later = QHBoxLayout()
        self.days = QSpinBox()
        self.days.setRange(1, 365)
        self.days.setValue(3)
        self.days.setSuffix(" days")
        self.days.setAccessibleName("Put off by")
        self.later = QPushButton("Put off by")
        self.later.clicked.connect(lambda: self._give("later"))
        later.addWidget(self.later)
        later.addWidget(self.days)
        later.addStretch(1)
        self.every = QSpinBox()
        self.every.setRange(1, 3650)
        self.every.setValue(max(round(min(task.interval, 3650 * 86400.0) / 86400.0), 1))
        self.every.setSuffix(" days")
        self.every.setAccessibleName("Every")
        self.interval = QPushButton("Always every")
        self.interval.clicked.connect(lambda: self._give("interval"))
        later.addWidget(self.interval)
        later.addWidget(self.every)
        column.addLayout(later)
        buttons = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        self.done_ = buttons.addButton("Done", QDialogButtonBox.ButtonRole.AcceptRole)
        self.done_.setObjectName("primary")
        self.otherwise = buttons.addButton("Done differently", QDialogButtonBox.ButtonRole.ActionRole)
        self.done_.clicked.connect(lambda: self._give("done"))
        self.otherwise.clicked.connect(lambda: self._give("differently"))
        buttons.rejected.connect(self.reject)
        column.addWidget(buttons)

    def tell(self, meanwhile: str) -> None:
        """What happens meanwhile; nothing where no chamber is emptied."""
        self.meanwhile.setText(meanwhile)
        self.meanwhile.setVisible(bool(meanwhile))
        self.meanwhile_head.setVisible(bool(meanwhile))

    def _give(self, answer: str) -> None:
        self.answer = answer
        self.accept()
