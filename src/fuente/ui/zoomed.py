"""A drawing that can be looked at closely: wheel and pinch about the pointer, keys, a drag that moves the sheet."""

from __future__ import annotations

from PySide6.QtCore import QEvent, QPointF, Qt, Signal
from PySide6.QtGui import QMouseEvent, QNativeGestureEvent, QWheelEvent
from PySide6.QtWidgets import QWidget

MOST = 16.0  # times the size at which all of it fits
STEP = 1.25  # a notch of the wheel, a press of the key
Box = tuple[float, float, float, float]  # mm: left, foot, right, top
Frame = tuple[float, float, float]  # px/mm, and the px of the drawing's origin from the left and from the top


class ZoomedView(QWidget):
    """What is seen of a drawing in mm: all of it, or some times nearer about a point."""

    looked = Signal()  # nearer, farther, or elsewhere

    def __init__(self, parent: QWidget | None = None):
        super().__init__(parent)
        self.zoom = 1.0
        self._centre: tuple[float, float] | None = None  # mm in the middle of the view, while it is nearer
        self._pan: QPointF | None = None

    def _fit(self) -> Frame:
        """The frame in which all of it is seen."""
        raise NotImplementedError

    def _frame(self) -> Frame:
        """Scale in px/mm, and the offset of the drawing's origin in px."""
        scale, left, base = self._fit()
        if self._centre is None:
            return scale, left, base
        scale *= self.zoom
        return scale, self.width() / 2 - self._centre[0] * scale, self.height() / 2 + self._centre[1] * scale

    def to_screen(self, point: tuple[float, float]) -> QPointF:
        """Pixels of a point in mm."""
        scale, left, base = self._frame()
        return QPointF(left + point[0] * scale, base - point[1] * scale)

    def to_drawing(self, spot: QPointF) -> tuple[float, float]:
        """The point in mm under a pixel."""
        scale, left, base = self._frame()
        return (spot.x() - left) / scale, (base - spot.y()) / scale

    # -- nearer and farther -------------------------------------------------------------------------------------------

    def zoom_by(self, factor: float, about: QPointF | None = None) -> None:
        """Nearer or farther; what is under a pixel, or in the middle, stays there."""
        spot = QPointF(self.width() / 2, self.height() / 2) if about is None else about
        x, y = self.to_drawing(spot)
        zoom = min(max(self.zoom * factor, 1.0), MOST)
        if zoom <= 1.0 + 1e-9:
            self.fit()
            return
        scale = self._fit()[0] * zoom
        self.zoom = zoom
        self._centre = x - (spot.x() - self.width() / 2) / scale, y + (spot.y() - self.height() / 2) / scale
        self._moved()

    def zoom_to(self, box: Box) -> None:
        """As near as a part in mm fits with room around it."""
        x0, y0, x1, y1 = box
        scale = self._fit()[0]
        near = min(self.width() * 0.7 / max(x1 - x0, 1.0), self.height() * 0.7 / max(y1 - y0, 1.0)) / scale
        self.zoom = min(max(near, 1.0), MOST)
        self._centre = ((x0 + x1) / 2, (y0 + y1) / 2) if self.zoom > 1.0 else None
        self._moved()

    @property
    def looks_at(self) -> tuple[float, tuple[float, float] | None]:
        """How near, and which point in mm is in the middle."""
        return self.zoom, self._centre

    def fit(self) -> None:
        """All of it again."""
        self.zoom, self._centre = 1.0, None
        self._moved()

    def _moved(self) -> None:
        self.update()
        self.looked.emit()

    # -- hands --------------------------------------------------------------------------------------------------------

    def wheelEvent(self, event: QWheelEvent) -> None:
        """A notch is a quarter nearer."""
        turns = event.angleDelta().y() / 120
        if not turns or not self._zooms():
            event.ignore()
            return
        self.zoom_by(STEP**turns, event.position())
        event.accept()

    def event(self, event: QEvent) -> bool:
        """A pinch on a touchpad."""
        if isinstance(event, QNativeGestureEvent) and event.gestureType() == Qt.NativeGestureType.ZoomNativeGesture:
            if self._zooms():
                self.zoom_by(1 + event.value(), event.position())
            return True
        return super().event(event)

    def _zooms(self) -> bool:
        return True

    def pan_from(self, event: QMouseEvent) -> None:
        """A press on nothing that can be taken: the sheet follows the pointer while it is nearer."""
        self._pan = event.position() if self._centre is not None else None

    def pan_to(self, event: QMouseEvent) -> bool:
        """Whether the sheet was moved."""
        if self._pan is None or self._centre is None or not event.buttons() & Qt.MouseButton.LeftButton:
            return False
        scale = self._frame()[0]
        step = event.position() - self._pan
        self._pan = event.position()
        self._centre = self._centre[0] - step.x() / scale, self._centre[1] + step.y() / scale
        self._moved()
        return True

    def pan_end(self) -> None:
        """The pointer is let go."""
        self._pan = None
