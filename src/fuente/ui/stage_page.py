"""A stage's page: what it keeps when it is built again for another theme or text size."""

from __future__ import annotations

from typing import Any

from PySide6.QtWidgets import QWidget


class StagePage(QWidget):
    """One page of the window. What the builder did on it outlives the widgets."""

    def kept(self) -> dict[str, Any]:
        """What another page of the same kind needs to go on from here; no widgets."""
        return {}

    def resume(self, kept: dict[str, Any]) -> None:
        """Go on from what ``kept`` gave, on the same document."""
