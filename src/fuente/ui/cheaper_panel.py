"""What would cost less: looked for aside, each alternative solved and judged, taken by a button."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QHBoxLayout, QPushButton, QVBoxLayout, QWidget

from fuente.ui import theme
from fuente.ui.jobs import Job
from fuente.ui.side_panel import clear, section
from fuente.ui.told_panel import plain
from fuente.ui.workspace import Workspace
from fuente.units import in_units
from fuente.workshop.cheaper import Cheaper, cheaper
from fuente.workshop.told import money


class CheaperPanel(QWidget):
    """A button to look, and what was found."""

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        column = QVBoxLayout(self)
        column.setContentsMargins(0, 0, 0, 0)
        column.setSpacing(theme.px(5))
        column.addWidget(section("Cheaper if"))
        self.look = QPushButton("Look for what costs less")
        self.look.setToolTip(
            "Other joint orders, fewer kinds of sheet, other media: each solved and judged; some seconds"
        )
        self.look.clicked.connect(self.start)
        column.addWidget(self.look)
        self.words = plain("", "subheading")
        self.words.setVisible(False)
        column.addWidget(self.words)
        self._rows = QVBoxLayout()
        column.addLayout(self._rows)
        self.found: tuple[Cheaper, ...] = ()
        self.takes: list[QPushButton] = []
        self._job: Job | None = None
        self._of: Any = None

    def follow(self) -> None:
        """Another design: what was found of the last one is forgotten."""
        if self._of is not None and self._of is not self.workspace.system:
            self._end()
            self._show(())
            self._say("")
            self._of = None

    def start(self) -> None:
        """Look, or stop looking."""
        if self._job is not None:
            self._end()
            self._say("Stopped.")
            return
        analysis = self.workspace.analysis
        self._of = self.workspace.system
        self._job = Job(lambda tell: cheaper(analysis), self).hear(self.came, self._failed)
        self.look.setText("Stop")
        self._say("Every alternative is solved and judged …")
        self._job.start()

    def came(self, found: tuple[Cheaper, ...]) -> None:
        """Show what was found."""
        self._end()
        self._show(found)
        self._say("" if found else "Nothing that is as good costs less, as far as prices are known.")

    def _failed(self, sentence: str) -> None:
        self._end()
        self._say(sentence)

    def _end(self) -> None:
        if self._job is not None:
            self._job.stopped = True
            self._job = None
        self.look.setText("Look for what costs less")

    def _say(self, words: str) -> None:
        self.words.setText(words)
        self.words.setVisible(bool(words))

    def _show(self, found: tuple[Cheaper, ...]) -> None:
        self.found = found
        clear(self._rows)
        self.takes = []
        for each in found:
            row = QWidget()
            line = QHBoxLayout(row)
            line.setContentsMargins(0, 0, 0, 0)
            words = in_units(each.words, self.workspace.units)
            line.addWidget(plain(f"{money(each.saves, self.workspace.system.shop)} less {words}"), 1)
            take = QPushButton("Take it")
            take.clicked.connect(lambda _=False, e=each: self.workspace.edit(e.edit))
            take.setAccessibleName(f"Take it: {each.words}")
            self.takes.append(take)
            line.addWidget(take)
            self._rows.addWidget(row)
