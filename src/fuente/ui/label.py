"""Words on the screen that are never read as markup: a name such as ``<img src=…>`` is shown, not followed."""

from __future__ import annotations

from html import escape

from PySide6.QtCore import Qt
from PySide6.QtWidgets import QLabel, QWidget


class Label(QLabel):
    """A label whose text is plain, unless its maker says otherwise and escapes what comes from a document."""

    def __init__(self, text: str = "", parent: QWidget | None = None):
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


class RichLabel(QLabel):
    """A label of Fuente's own markup; what comes from a document goes into it through ``escape``."""

    def __init__(self, text: str = "", parent: QWidget | None = None):
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.RichText)
        self.setText(text)


def tip(text: str) -> str:
    """Words for a tooltip, or for anything else in which Qt looks for markup: what looks like it is escaped."""
    return escape(text).replace("\n", "<br>") if "<" in text or "&" in text else text
