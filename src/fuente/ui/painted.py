"""A drawing of thousands of shapes as a picture: a pointer that passes over it does not paint it again."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

from PySide6.QtCore import QRectF
from PySide6.QtGui import QColor, QPainter, QPixmap
from PySide6.QtWidgets import QWidget

from fuente.drawing.primitives import Drawing
from fuente.ui import theme
from fuente.ui.painting import paint_drawing
from fuente.ui.placing import Frame, Left
from fuente.units import UnitSystem

MANY = 400  # shapes from which a picture of them is kept


class What(NamedTuple):
    """What is painted, as for paint_drawing."""

    drawing: Drawing
    frame: Frame
    units: UnitSystem
    selected: str
    words: bool
    waters: Sequence[QColor]
    blocked: Sequence[QRectF]


class Painted:
    """The last picture, kept as long as nothing in it would look otherwise."""

    def __init__(self) -> None:
        self._of: tuple[Drawing, object] | None = None
        self._picture = QPixmap()
        self._left: list[Left] = []

    def of(self, view: QWidget, what: What) -> tuple[QPixmap, list[Left]]:
        """The drawing as large as the view, and what found no room in it."""
        ratio = view.devicePixelRatioF()
        waters = [c.rgba() for c in what.waters]
        covered = [box.getRect() for box in what.blocked]
        key = (*what[1:5], waters, covered, view.size(), ratio, theme.current(), theme.scale())
        if self._of is None or self._of[0] is not what.drawing or self._of[1] != key:
            self._picture = QPixmap(view.size() * ratio)
            self._picture.setDevicePixelRatio(ratio)
            self._picture.fill(theme.color("ground"))
            painter = QPainter(self._picture)
            painter.setRenderHint(QPainter.RenderHint.Antialiasing)
            self._left = paint_drawing(
                painter, *what, QRectF(view.rect())
            )  # in its own px, whatever a screen makes of them
            painter.end()
            self._of = what.drawing, key
        return self._picture, self._left
