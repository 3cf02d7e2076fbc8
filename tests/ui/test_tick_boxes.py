"""Tick boxes are seen on both grounds: the edge keeps 3:1 on its ground, and a set box looks unlike an open one."""

import pytest
from PySide6.QtGui import QColor, QImage
from PySide6.QtWidgets import QApplication, QCheckBox

from fuente.ui import theme


def luminance(c: QColor) -> float:
    """WCAG 2.1's relative luminance, 0 to 1."""
    parts = (c.redF(), c.greenF(), c.blueF())
    r, g, b = (v / 12.92 if v <= 0.04045 else ((v + 0.055) / 1.055) ** 2.4 for v in parts)
    return 0.2126 * r + 0.7152 * g + 0.0722 * b


def contrast(a: QColor, b: QColor) -> float:
    light, dark = sorted((luminance(a), luminance(b)), reverse=True)
    return (light + 0.05) / (dark + 0.05)


@pytest.fixture(params=["light", "dark"])
def themed(request, qapp):
    theme.apply(QApplication.instance(), request.param)
    yield theme.current()
    theme.apply(QApplication.instance(), "light")


def shot(qtbot, ticked: bool, enabled: bool = True) -> QImage:
    box = QCheckBox("")
    qtbot.addWidget(box)
    box.setChecked(ticked)
    box.setEnabled(enabled)
    box.resize(30, 30)
    box.show()
    image = box.grab().toImage()
    return image.copy(0, 5, 20, 20)


def colours(image: QImage) -> list[QColor]:
    return [image.pixelColor(x, y) for x in range(image.width()) for y in range(image.height())]


def test_the_edge_of_an_open_box_is_seen(qtbot, themed):
    ground = QColor(themed.panel)
    strong = [c for c in colours(shot(qtbot, ticked=False)) if contrast(c, ground) >= 3]
    assert len(strong) > 40  # four edges of some fourteen pixels


def test_a_set_box_is_filled_and_bears_a_tick(qtbot, themed):
    accent = QColor(themed.accent)
    seen = colours(shot(qtbot, ticked=True))
    filled = sum(c.name() == accent.name() for c in seen)
    tick = sum(contrast(c, accent) >= 3 for c in seen if luminance(c) != luminance(QColor(themed.panel)))
    assert filled > 80
    assert tick > 8


def test_a_set_box_that_cannot_be_used_still_looks_set(qtbot, themed):
    assert shot(qtbot, ticked=True, enabled=False) != shot(qtbot, ticked=False, enabled=False)
    assert shot(qtbot, ticked=True, enabled=False) != shot(qtbot, ticked=True)
