"""The line over the pages that says what was refused, or asks."""

from __future__ import annotations

from collections.abc import Callable
from typing import Any

from PySide6.QtCore import Qt, QTimer
from PySide6.QtWidgets import (
    QPushButton,
    QWidget,
)

from fuente.ui import theme
from fuente.ui.label import Label


class Message(QWidget):
    """One line under the bar: what went wrong, or a question."""

    def __init__(self) -> None:
        super().__init__()
        self.setAttribute(Qt.WidgetAttribute.WA_StyledBackground)
        self.setObjectName("panel")
        from PySide6.QtWidgets import QHBoxLayout

        row = QHBoxLayout(self)
        row.setContentsMargins(theme.px(16), theme.px(6), theme.px(16), theme.px(6))
        self.text = Label()
        self.text.setWordWrap(True)
        row.addWidget(self.text, 1)
        self.yes = QPushButton()
        self.yes.setObjectName("primary")
        self.no = QPushButton()
        row.addWidget(self.yes)
        row.addWidget(self.no)
        self._acts: list[Any] = []
        self.yes.clicked.connect(lambda: self._act(0))
        self.no.clicked.connect(lambda: self._act(1))
        self.hide()

    def say(self, sentence: str) -> None:
        """A sentence, until it is closed."""
        self.text.setText(sentence)
        self.text.setStyleSheet(f"color: {theme.current().stop};")
        self.yes.hide()
        self.no.setText("Close")
        self.no.show()
        self._acts = [lambda: None, lambda: None]
        self.show()

    def ask(self, sentence: str, yes: str, on_yes, no: str, on_no) -> None:  # type: ignore[no-untyped-def]
        """A question with two answers."""
        self.text.setText(sentence)
        self.text.setStyleSheet("")
        self.yes.setText(yes)
        self.no.setText(no)
        self.yes.show()
        self.no.show()
        self._acts = [on_yes, on_no]
        self.show()

    def wait(self, sentence: str, on_cancel: Callable[[], None]) -> None:
        """What goes on and takes its time; it may be given up."""
        self.ask(sentence, "", lambda: None, "Cancel", on_cancel)
        self.yes.hide()

    def clear(self) -> None:
        """Nothing to say."""
        self.hide()

    def _act(self, which: int) -> None:
        act = self._acts[which] if which < len(self._acts) else None
        self.hide()
        if act:
            QTimer.singleShot(0, act)
