"""Words on the screen that are never read as markup: a name such as ``<img src=…>`` is shown, not followed."""

from __future__ import annotations

import re
from functools import lru_cache
from html import escape

from PySide6.QtCore import QEvent, Qt, QTimer
from PySide6.QtGui import QResizeEvent, QShowEvent
from PySide6.QtWidgets import QLabel, QScrollArea, QWidget

from fuente.units import QUANTITIES

_WORDS = ("day", "hours", "hour", "minutes", "week", "months", "month", "years", "year", "litres", "pieces", "×", "€")
_UNITS = {spec[0] for q in QUANTITIES.values() for spec in (q.metric, q.us)} - {""}
_OF = "|".join(re.escape(unit) for unit in sorted({*_UNITS, *_WORDS}, key=len, reverse=True))
_BETWEEN = re.compile(rf"(?<=\d) (?=(?:{_OF})(?!\w))")
_WITHIN = re.compile(r"(?<=\d )(\w+)/(?=\w)|(?<=\d\u00a0)(\w+)/(?=\w)")


@lru_cache(maxsize=4096)
def unbroken(text: str) -> str:
    """The same words, in which no line ends between a number and its unit, or within a unit.

    >>> unbroken("of 6 g/day fed") == "of 6\u00a0g/\u2060day fed"
    True
    """
    return _WITHIN.sub(lambda m: f"{m[1] or m[2]}/\u2060", _bound(text))


def _bound(text: str) -> str:
    return _BETWEEN.sub("\u00a0", text)


class _Whole(QLabel):
    """Words that wrap keep, in what scrolls, the height that all of them take at the width that there is.

    Qt gives them the least that they asked for at another width, and cuts the last line.
    """

    _looks = False  # whether the height will be looked at in the next turn
    _said = ""

    def setText(self, text: str) -> None:
        """Other words, of another height."""
        self._said = text
        super().setText(unbroken(text) if self.textFormat() == Qt.TextFormat.PlainText else _bound(text))
        self._soon()  # rich text can be copied: a space that binds is copied as a space

    def text(self) -> str:
        """As it was said: what keeps lines whole is for the eye alone."""
        return self._said

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Another width."""
        super().resizeEvent(event)
        self._soon()

    def showEvent(self, event: QShowEvent) -> None:
        """Seen for the first time, with the type of its style."""
        super().showEvent(event)
        self._soon()

    def changeEvent(self, event: QEvent) -> None:
        """Other type."""
        super().changeEvent(event)
        if event.type() in (QEvent.Type.FontChange, QEvent.Type.StyleChange):
            self._soon()

    def _soon(self) -> None:
        # In a turn of its own: what asks for another height while Qt lays it out, or styles it, brings Qt down.
        if self.wordWrap() and not self._looks:
            self._looks = True
            QTimer.singleShot(0, self, self._keep_whole)

    def _keep_whole(self) -> None:
        self._looks = False
        # Before it is laid out it is as wide as chance has it; and where nothing scrolls the window would grow.
        if not (self.wordWrap() and self.isVisible() and self._scrolled()):
            return
        self.setMinimumHeight(0)  # what is asked for is never less
        needed = self.heightForWidth(self.width()) if self._said else 0
        self.setMinimumHeight(needed)

    def _scrolled(self) -> bool:
        at = self.parentWidget()
        while at is not None and not isinstance(at, QScrollArea):
            at = at.parentWidget()
        return at is not None


class Label(_Whole):
    """A label whose text is plain, unless its maker says otherwise and escapes what comes from a document."""

    def __init__(self, text: str = "", parent: QWidget | None = None):
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.PlainText)
        self.setText(text)


class RichLabel(_Whole):
    """A label of Fuente's own markup; what comes from a document goes into it through ``escape``."""

    def __init__(self, text: str = "", parent: QWidget | None = None):
        super().__init__(parent)
        self.setTextFormat(Qt.TextFormat.RichText)
        self.setText(text)


def tip(text: str) -> str:
    """Words for a tooltip, or for anything else in which Qt looks for markup: what looks like it is escaped."""
    return escape(text).replace("\n", "<br>") if "<" in text or "&" in text else text
