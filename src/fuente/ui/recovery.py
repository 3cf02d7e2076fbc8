"""Unsaved work of windows that ended without closing: each by its name and time, until it is taken or forgotten."""

from __future__ import annotations

import datetime
from collections.abc import Callable

from PySide6.QtWidgets import QDialog, QDialogButtonBox, QGridLayout, QPushButton, QVBoxLayout, QWidget

from fuente.document import journal
from fuente.document.journal import Recovered
from fuente.ui import theme
from fuente.ui.fault_panel import emptied
from fuente.ui.label import Label, tip


def when(found: Recovered) -> str:
    """The moment of its last edit, as a person says it."""
    moment = datetime.datetime.fromtimestamp(found.when)
    days = (datetime.date.today() - moment.date()).days
    day = "today" if days == 0 else "yesterday" if days == 1 else moment.strftime("%Y-%m-%d")
    return f"{day} {moment:%H:%M}"


class RecoveryDialog(QDialog):
    """A line for each design, to bring back or to forget."""

    def __init__(self, bring: Callable[[Recovered], bool], parent: QWidget | None = None):
        """``bring`` opens one and says whether it did."""
        super().__init__(parent)
        self.setWindowTitle("Unsaved work")
        self.setMinimumWidth(theme.px(760))
        self._bring = bring
        column = QVBoxLayout(self)
        self.words = Label()
        self.words.setWordWrap(True)
        column.addWidget(self.words)
        self.grid = QGridLayout()
        self.grid.setColumnStretch(0, 1)
        self.grid.setColumnStretch(1, 1)
        self.grid.setHorizontalSpacing(theme.px(12))
        column.addLayout(self.grid)
        column.addStretch(1)
        close = QDialogButtonBox(QDialogButtonBox.StandardButton.Close)
        close.rejected.connect(self.reject)
        column.addWidget(close)
        self.buttons: list[tuple[QPushButton, QPushButton]] = []
        self.refresh()

    def refresh(self) -> None:
        """What is still there."""
        emptied(self.grid)
        self.buttons = []
        found = journal.orphans()
        self.words.setText(
            "These designs were open when Fuente ended without closing. What you neither bring back nor forget stays"
            " here."
            if found
            else "No unsaved work is left."
        )
        for row, each in enumerate(found):
            name = Label(f"{each.system.name or 'A design'}{' · ' + each.file.name if each.file else ', no file yet'}")
            name.setToolTip(tip(str(each.file or "")))
            edit = Label(f"{when(each)}, after “{each.edit}”")
            edit.setObjectName("quiet")
            edit.setWordWrap(True)
            bring, forget = QPushButton("Bring it back"), QPushButton("Forget it")
            bring.setAccessibleName(f"Bring back {each.system.name}")
            forget.setAccessibleName(f"Forget {each.system.name}")
            bring.clicked.connect(lambda _=False, one=each: self._take(one))
            forget.clicked.connect(lambda _=False, one=each: self._forget(one))
            for column, widget in enumerate((name, edit, bring, forget)):
                self.grid.addWidget(widget, row, column)
            self.buttons.append((bring, forget))

    def _take(self, one: Recovered) -> None:
        if self._bring(one):
            self.accept()

    def _forget(self, one: Recovered) -> None:
        journal.discard(one)
        self.refresh()
