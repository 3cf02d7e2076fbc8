"""A drawing, and where a long one leaves half of its room, the chosen station closely under it."""

from __future__ import annotations

from PySide6.QtCore import QSize
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QWidget

from fuente.ui import theme
from fuente.ui.section_view import SectionView

_MOST = 0.58  # of the height that all of it may take for both to be seen
_LEAST = 190  # px of height for the one that is looked at closely


class NearView(QWidget):
    """Two views of one drawing: all of it, to one scale, and the station. Only the first where that fills the room."""

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.view = SectionView(self)
        self.rule = QFrame(self)
        self.rule.setObjectName("rule")
        self.near = SectionView(self)
        self.near.setAccessibleName("Closely")
        self.near.seen = self.near.way_back = ""
        self.near.hide()
        self.rule.hide()
        self._owner = ""
        self.setMinimumSize(self.view.minimumSize())
        for each in (self.view, self.near):
            each.setMinimumSize(0, 0)  # a share of what there is

    def sizeHint(self) -> QSize:
        """That of the drawing."""
        return self.view.sizeHint()

    def follow(self, owner: str, name: str) -> None:
        """The near one shows what the other does; the station is come to again when it is another."""
        self.near.what = name
        self.near.show_same(self.view)
        self.arrange()
        if owner != self._owner and self.near.isVisibleTo(self):
            self._owner = owner
            box = self.near.box_of(owner)
            if box is not None:
                self.near.zoom_to(box)

    def arrange(self) -> None:
        """Share the room out."""
        wide, high = self.width(), self.height()
        needed = self.view.height_for(wide)
        both = needed < _MOST * high and high - needed > theme.px(_LEAST) and bool(self.view.drawing().shapes)
        if both != self.near.isVisibleTo(self):
            self.near.setVisible(both)
            self.rule.setVisible(both)
            self._owner = ""
        top = round(needed) if both else high
        self.view.setGeometry(0, 0, wide, top)
        self.rule.setGeometry(theme.px(12), top, wide - 2 * theme.px(12), 1)
        self.near.setGeometry(0, top + 1, wide, max(high - top - 1, 0))

    def resizeEvent(self, event: QResizeEvent) -> None:
        """As much as there is now."""
        super().resizeEvent(event)
        self.arrange()
