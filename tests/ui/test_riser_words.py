"""The words along a riser stay beside their pipe: what they drop, the pump's card says."""

import pytest
from PySide6.QtGui import QImage, QPainter

from fuente.drawing.primitives import Drawing, Label
from fuente.ui.painting import paint_drawing
from fuente.units import UnitSystem


def inked(room: float) -> list[int]:
    """Rows of a picture that words running upwards about its middle touch, at one pixel a mm."""
    image = QImage(120, 400, QImage.Format.Format_RGB32)
    image.fill(0xFFFFFFFF)
    painter = QPainter(image)
    words = Label((0, 0), "3 290 L/h, lift 1.01 m", "label-pumped", "middle", True, room=room)
    paint_drawing(painter, Drawing((words,)), (1.0, 60.0, 200.0), UnitSystem.METRIC)
    painter.end()
    return [y for y in range(400) if any(image.pixelColor(x, y).lightness() < 200 for x in range(120))]


@pytest.mark.parametrize("room", [0.0, 300.0])
def test_words_that_have_room_are_whole(qapp, room):
    rows = inked(room)
    assert 110 < rows[-1] - rows[0] < 200


def test_words_longer_than_their_pipe_keep_the_flow(qapp):
    rows = inked(90.0)
    assert 40 < rows[-1] - rows[0] <= 90
    assert abs((rows[0] + rows[-1]) / 2 - 200) < 6
