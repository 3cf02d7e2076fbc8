"""Looking for less waste: two seconds of other layouts, with progress and Stop."""

from __future__ import annotations

from collections.abc import Callable
from functools import partial
from typing import Any

from PySide6.QtCore import Signal
from PySide6.QtWidgets import QHBoxLayout, QProgressBar, QPushButton, QWidget

from fuente.halting import telling
from fuente.ui import theme
from fuente.ui.jobs import Job
from fuente.ui.told_panel import plain
from fuente.ui.workspace import Workspace
from fuente.units import shown
from fuente.workshop import looked_at
from fuente.workshop.room import Room, room_of
from fuente.workshop.sheet_cuts import Nesting
from fuente.workshop.sheets import Lot

SECONDS = 2.0


class SheetSearch(QWidget):
    """A button, a bar, and what came of it. ``better`` is what was found, by what is cut."""

    found = Signal()

    def __init__(self, workspace: Workspace, parent: QWidget | None = None):
        super().__init__(parent)
        self.workspace = workspace
        self.better: dict[Lot, Nesting] = {}
        self.job: Job | None = None
        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(16), 0, theme.px(16), 0)
        self.button = QPushButton("Look for less waste")
        self.button.setToolTip(f"Tries other layouts for {SECONDS:.0f} seconds and keeps the best")
        self.button.clicked.connect(self.start)
        self.busy = QProgressBar()
        self.busy.setTextVisible(False)
        self.busy.setFixedHeight(theme.px(8))
        self.busy.setAccessibleName("Search for less waste")
        self.busy.setVisible(False)
        self.words = plain("", "subheading")
        row.addWidget(self.button)
        row.addWidget(self.busy, 1)
        row.addWidget(self.words, 2)

    @property
    def _room(self) -> Room:
        return room_of(self.workspace.analysis)

    def start(self) -> None:
        """Search everything that is cut from sheets, or stop that."""
        if self.job is not None:
            self._end("Stopped; the best so far is kept.")
            return
        lots = list(looked_at.lots(self._room).values())
        share = SECONDS / max(len(lots), 1)

        def work(tell: Any) -> dict[Lot, Nesting]:
            made = {}
            for k, lot in enumerate(lots):
                with telling(partial(_so_far, tell, k * share)):
                    made[lot] = lot.laid(share)
            return made

        self.job = Job(work, self).hear(self._came, self._end, self._progress)
        self.button.setText("Stop")
        self.busy.setValue(0)
        self.busy.setVisible(True)
        self.words.setText("")
        self.job.start()

    def _progress(self, share: float) -> None:
        self.busy.setValue(round(100 * share))

    def _came(self, made: dict[Lot, Nesting]) -> None:
        room = self._room
        lots = looked_at.lots(room).values()
        before = sum(room.laid(lot).bought for lot in lots)
        self.better = made
        room.take(made)
        after = sum(room.laid(lot).bought for lot in lots)
        tried = sum(n.tried for n in made.values())
        saved = shown(before - after, "area", self.workspace.units)
        less = after < before - 1e-9
        self._end(f"{tried} layouts tried. " + (f"{saved} of sheet saved." if less else "No less sheet will do."))
        self.found.emit()

    def _end(self, words: str) -> None:
        if self.job is not None:
            self.job.stopped = True
            self.job = None
        self.busy.setVisible(False)
        self.button.setText("Look for less waste")
        self.words.setText(words)


def _so_far(tell: Callable[[float], bool], before: float, at: float) -> None:
    """Tell the share of a search that is over, s."""
    tell((before + at) / SECONDS)
