"""Words that give way: a label and a button whose text is cut with dots where there is no room for all of it."""

from __future__ import annotations

from PySide6.QtCore import QSize, Qt
from PySide6.QtGui import QPainter, QPaintEvent, QResizeEvent
from PySide6.QtWidgets import QPushButton, QSizePolicy, QStyle, QStyleOptionButton, QWidget

from fuente.ui import theme
from fuente.ui.label import Label, tip


class ElidedLabel(Label):
    """One line; its tooltip says all of it while it is cut."""

    def __init__(self, least: int, parent: QWidget | None = None):
        super().__init__("", parent)
        self._least = theme.px(least)

    def minimumSizeHint(self) -> QSize:
        """Not more than ``least``."""
        hint = super().minimumSizeHint()
        return QSize(min(hint.width(), self._least), hint.height())

    def paintEvent(self, event: QPaintEvent) -> None:
        """The start of it."""
        words = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, self.width())
        cut = words != self.text()
        whole = tip(self.text()) if cut else ""
        if self.toolTip() != whole:
            self.setToolTip(whole)
        painter = QPainter(self)
        painter.setPen(self.palette().color(self.foregroundRole()))
        painter.drawText(self.rect(), self.alignment() | Qt.AlignmentFlag.AlignVCenter, words)


class ElidedButton(QPushButton):
    """A flat button that can be narrower than its words."""

    def __init__(self, text: str, parent: QWidget | None = None):
        super().__init__(text, parent)
        self.setSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Fixed)

    def minimumSizeHint(self) -> QSize:
        """A few letters."""
        hint = super().minimumSizeHint()
        return QSize(min(hint.width(), theme.px(60)), hint.height())

    def paintEvent(self, event: QPaintEvent) -> None:
        """As its style draws it, with what fits of its words."""
        option = QStyleOptionButton()
        self.initStyleOption(option)
        room = self.style().subElementRect(QStyle.SubElement.SE_PushButtonContents, option, self).width()
        option.text = self.fontMetrics().elidedText(self.text(), Qt.TextElideMode.ElideRight, room)
        painter = QPainter(self)
        self.style().drawControl(QStyle.ControlElement.CE_PushButton, option, painter, self)


class ElidedLines(QPushButton):
    """A button of several lines, each cut with dots where it is too long; its tooltip then says all."""

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self._lines: list[str] = []

    def say(self, lines: list[str]) -> None:
        """Show these lines."""
        self._lines = lines
        self._fit()

    def resizeEvent(self, event: QResizeEvent) -> None:
        """Another width."""
        super().resizeEvent(event)
        self._fit()

    def _fit(self) -> None:
        room = self.width() - theme.px(28)  # its style's margins
        short = [self.fontMetrics().elidedText(line, Qt.TextElideMode.ElideRight, room) for line in self._lines]
        self.setText("\n".join(short))
        self.setToolTip(tip("\n".join(self._lines)) if short != self._lines else "")
        self.setAccessibleName(", ".join(self._lines))
