"""A drawing, and where a long one leaves half of its room, the chosen station closely under it."""

from __future__ import annotations

from PySide6.QtCore import QSize
from PySide6.QtGui import QResizeEvent
from PySide6.QtWidgets import QFrame, QWidget

from fuente.ui import theme
from fuente.ui.section_view import SectionView
from fuente.ui.zoomed import Box

_MOST = 0.58  # of the height that all of it may take for both to be seen
_SEEN = 600.0  # mm to each side of it that is seen of the smallest thing
_LEAST = 190  # px of height for the one that is looked at closely


def _at_least(box: Box) -> Box:
    """The box of a small thing with what is around it."""
    x0, y0, x1, y1 = box
    aside, over = max(_SEEN - (x1 - x0), 0.0) / 2, max(_SEEN / 2 - (y1 - y0), 0.0) / 2
    return x0 - aside, y0 - over, x1 + aside, y1 + over


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
        self._wanted = self._owner = ""  # station that is chosen, and that the near one was brought to
        self._came: object = None  # where it was brought; hands may have moved it since
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
        self._wanted = owner
        self.arrange()

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
        before = self.near.size()
        self.near.setGeometry(0, top + 1, wide, max(high - top - 1, 0))
        grown = self.near.size() != before and self.near.looks_at == self._came
        if both and self._wanted and (grown or self._owner != self._wanted):
            self._come()

    def _come(self) -> None:
        """The near one to the station, as large as there is room now: the first size of all is none that is seen."""
        self._owner = self._wanted
        box = self.near.box_of(self._owner)
        if box is not None:
            self.near.zoom_to(_at_least(box))
            self._came = self.near.looks_at

    def resizeEvent(self, event: QResizeEvent) -> None:
        """As much as there is now."""
        super().resizeEvent(event)
        self.arrange()
