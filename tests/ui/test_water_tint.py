"""The water coloured by what it holds, driven by hand."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint
from PySide6.QtGui import QColor

from fuente.drawing.primitives import Polygon
from fuente.ui import water_tint
from fuente.ui.tint import colour_of


def pick(box, key):
    """The choice as a hand makes it."""
    at = next(i for i, (k, _) in enumerate(box._options) if k == key)
    box.setCurrentIndex(at)
    box.activated.emit(at)


def near(a: QColor, b: QColor) -> bool:
    return all(abs(x - y) < 8 for x, y in zip(a.getRgb(), b.getRgb(), strict=True))


@pytest.fixture
def tint(path_page):
    """The choice over the drawing."""
    return path_page.tint


def test_the_tank_takes_the_colour_of_its_oxygen(window, path_page, tint, qtbot):
    pick(tint.box, "oxygen")
    qtbot.waitUntil(lambda: tint.standing is not None, timeout=20000)
    view = path_page.view
    assert view.tint is not None
    assert "Oxygen, in the long run" in view.tint.words
    value = tint.standing.values["oxygen"]["tank"]
    tank = next(s for s in view.drawing().shapes if isinstance(s, Polygon) and s.owner == "tank" and s.style == "water")
    xs, ys = zip(*tank.points, strict=True)
    at = view.to_screen((min(xs) + 0.2 * (max(xs) - min(xs)), min(ys) + 0.7 * (max(ys) - min(ys)))).toPoint()
    seen = QColor(view.grab().toImage().pixel(QPoint(at)))
    assert near(seen, colour_of(view.tint.scale.share(value)))


def test_the_card_says_it_and_plain_water_does_not(window, path_page, tint):
    window.workspace.select("sump.foam")
    before = len(path_page.card._readings)
    tint.box.show_value("nitrate")
    tint.work_now()
    labels = [name.text() for name, _ in path_page.card._readings]
    assert len(labels) == before + 5
    assert "Nitrate (NO₃)" in labels
    pick(tint.box, water_tint.PLAIN)
    assert len(path_page.card._readings) == before
    assert path_page.view.tint is None


def test_an_edit_is_not_shown_with_the_colours_of_before(window, path_page, tint):
    tint.box.show_value("oxygen")
    tint.work_now()
    assert path_page.view.tint is not None
    window.workspace.show("power_cut")
    assert path_page.view.tint is None
    assert "working out" in path_page.view.legend
    tint.work_now()
    assert "after 6 h" in path_page.view.tint.words


def test_over_the_limit_is_another_colour():
    shades = [colour_of(s).name() for s in (-1.0, 0.0, 0.5, 1.0, 1.01)]
    assert len(set(shades)) == 5
    assert colour_of(1.01).name() == colour_of(9.0).name()
