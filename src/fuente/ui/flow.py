"""A row that wraps: widgets one after the other, on as many lines as they need."""

from __future__ import annotations

from PySide6.QtCore import QRect, QSize, Qt
from PySide6.QtWidgets import QLayout, QLayoutItem, QSizePolicy, QWidget

from fuente.ui import theme


class Flow(QLayout):
    """The layout. Its height follows from its width."""

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self._items: list[QLayoutItem] = []
        self.setContentsMargins(0, 0, 0, 0)
        self.setSpacing(theme.px(6))

    def addItem(self, item: QLayoutItem) -> None:
        """At the end."""
        self._items.append(item)

    def count(self) -> int:
        """How many."""
        return len(self._items)

    def itemAt(self, index: int) -> QLayoutItem | None:
        """One of them."""
        return self._items[index] if 0 <= index < len(self._items) else None

    def takeAt(self, index: int) -> QLayoutItem | None:
        """Take one out."""
        return self._items.pop(index) if 0 <= index < len(self._items) else None

    def expandingDirections(self) -> Qt.Orientation:
        """It takes no more than it needs."""
        return Qt.Orientation(0)

    def hasHeightForWidth(self) -> bool:
        """It wraps."""
        return True

    def heightForWidth(self, width: int) -> int:
        """As many lines as that width asks for."""
        return self._placed(QRect(0, 0, width, 0), False)

    def setGeometry(self, rect: QRect) -> None:
        """Place them."""
        super().setGeometry(rect)
        self._placed(rect, True)

    def sizeHint(self) -> QSize:
        """A line of it."""
        return self.minimumSize()

    def minimumSize(self) -> QSize:
        """The widest of them."""
        size = QSize(0, 0)
        for item in self._items:
            size = size.expandedTo(item.minimumSize())
        return size

    def _placed(self, rect: QRect, really: bool) -> int:
        x, y, line = rect.x(), rect.y(), 0
        for item in self._items:
            hint = item.sizeHint()
            wide = min(hint.width(), max(rect.width(), 1))
            if x > rect.x() and x + wide > rect.right() + 1:
                x, y, line = rect.x(), y + line + self.spacing(), 0
            if really:
                item.setGeometry(QRect(x, y, wide, hint.height()))
            x += wide + self.spacing()
            line = max(line, hint.height())
        return y + line - rect.y()


class _Row(QWidget):
    """As high as it needs at its width; what it asks for at least is one line, not all at the narrowest."""

    def minimumSizeHint(self) -> QSize:
        """The widest and the highest of what is in it."""
        layout = self.layout()
        return layout.minimumSize() if layout is not None else super().minimumSizeHint()

    def sizeHint(self) -> QSize:
        """The same: how high it is at its width is asked for apart."""
        return self.minimumSizeHint()


def flowing() -> tuple[QWidget, Flow]:
    """A widget with such a row, as high as it needs."""
    made = _Row()
    policy = QSizePolicy(QSizePolicy.Policy.Preferred, QSizePolicy.Policy.Minimum)
    policy.setHeightForWidth(True)
    made.setSizePolicy(policy)
    return made, Flow(made)
