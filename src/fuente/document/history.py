"""Undo and redo: a list of documents, each named for the edit that made it."""

from __future__ import annotations

import time
from collections.abc import Callable
from dataclasses import dataclass, replace

from fuente.document.system import System
from fuente.units import UnitSystem


@dataclass(frozen=True)
class Step:
    """A document and what made it."""

    name: str
    system: System
    merge: str = ""  # edits with the same key run together, as nudges of one value do
    when: float = 0.0  # s, of the clock that the history is given


PAUSE = 2.0  # s without an edit, after which a run of merging edits has ended


class History:
    """Past and future of a document. The first step is the document as it was opened."""

    def __init__(self, system: System, clock: Callable[[], float] = time.monotonic):
        self._clock = clock
        self._steps = [Step("Open", system)]
        self._at = 0
        self._sealed = True

    @property
    def system(self) -> System:
        """The document now."""
        return self._steps[self._at].system

    def do(self, name: str, system: System, merge: str = "") -> bool:
        """Add a step, dropping what was undone; False when nothing changed."""
        if system == self.system:
            return False
        last, now = self._steps[self._at], self._clock()
        runs_on = merge and last.merge == merge and now - last.when < PAUSE
        if runs_on and not self._sealed and self._at == len(self._steps) - 1:
            self._steps[self._at] = Step(name, system, merge, now)
        else:
            del self._steps[self._at + 1 :]
            self._steps.append(Step(name, system, merge, now))
            self._at += 1
        self._sealed = False
        return True

    def shown_in(self, units: UnitSystem) -> None:
        """Every step in these units: they say how a design is read, not what was decided, and no undo turns them."""
        self._steps = [replace(step, system=step.system.model_copy(update={"units": units})) for step in self._steps]

    def seal(self) -> None:
        """End a run of merging edits."""
        self._sealed = True

    @property
    def undo_name(self) -> str:
        """Name of the edit that undo takes back, or nothing."""
        return self._steps[self._at].name if self._at else ""

    @property
    def redo_name(self) -> str:
        """Name of the edit that redo brings back, or nothing."""
        return self._steps[self._at + 1].name if self._at + 1 < len(self._steps) else ""

    def undo(self) -> bool:
        """Go back one step."""
        if not self._at:
            return False
        self._at -= 1
        self._sealed = True
        return True

    def take_back(self) -> None:
        """Undo the last edit so that no redo brings it back: it cannot be."""
        if self.undo():
            del self._steps[self._at + 1 :]

    def redo(self) -> bool:
        """Go forward one step."""
        if self._at + 1 >= len(self._steps):
            return False
        self._at += 1
        self._sealed = True
        return True
