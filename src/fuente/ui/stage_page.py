"""A stage's page: it follows the design while it is seen, and keeps what was done on it when it is built again."""

from __future__ import annotations

from typing import Any

from PySide6.QtGui import QShowEvent
from PySide6.QtWidgets import QWidget


class StagePage(QWidget):
    """One page of the window. What the builder did on it outlives the widgets."""

    _stale = False

    def refresh(self) -> None:
        """Follow the workspace."""

    def follow(self, *_: object) -> None:
        """Follow it at once where the page is seen, else when it is shown again."""
        self._stale = not self.isVisibleTo(self.window())
        if not self._stale:
            self.refresh()

    def catch_up(self) -> None:
        """Shown again: edits that were made meanwhile are followed."""
        if self._stale:
            self._stale = False
            self.refresh()

    def showEvent(self, event: QShowEvent) -> None:
        """Shown by whoever."""
        super().showEvent(event)
        self.catch_up()

    def kept(self) -> dict[str, Any]:
        """What another page of the same kind needs to go on from here; no widgets."""
        return {}

    def resume(self, kept: dict[str, Any]) -> None:
        """Go on from what ``kept`` gave, on the same document."""
