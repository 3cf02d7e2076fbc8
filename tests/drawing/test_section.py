"""Drawings: handles that edit what they say, situations that show, and US words."""

import pytest

from fuente.document.system import apply, set_value, value_at
from fuente.drawing.primitives import Circle, Drawing, Label, Polyline, box
from fuente.drawing.styles import LOOKS, look
from fuente.drawing.svg import svg
from fuente.shown.section import section
from fuente.study.analysis import Analysis
from fuente.study.situations import TITLES
from fuente.units import UnitSystem


@pytest.fixture
def drawing(solved):
    return section(solved, solved.situation("running"))


def test_every_handle_holds_the_value_at_its_path(solved, drawing):
    assert len(drawing.handles) >= 18
    for handle in drawing.handles:
        assert value_at(solved.system, handle.path) == pytest.approx(handle.value), handle.name
        assert handle.low <= handle.value <= handle.high, handle.name
        assert handle.name
        assert handle.verb


def test_every_upright_handle_moves_with_its_value(solved, drawing):
    for handle in drawing.handles:
        if handle.axis != "y" or handle.value + 0.004 > handle.high:
            continue
        try:
            moved = Analysis(apply(solved.system, set_value("x", handle.path, round(handle.value + 0.004, 4))))
            again = next(h for h in section(moved, moved.at_rest()).handles if h.path == handle.path)
        except Exception as error:  # a value that cannot be is said, never drawn
            assert str(error).endswith("."), handle.name
            continue
        assert again.at[1] - handle.at[1] == pytest.approx(4.0, abs=0.01), handle.name


@pytest.mark.parametrize("name", TITLES)
def test_every_situation_can_be_drawn(solved, name):
    made = section(solved, solved.situation(name))
    assert any(getattr(s, "style", "") == "water" for s in made.shapes)
    labels = " ".join(s.text for s in made.shapes if isinstance(s, Label))
    assert ("running level" in labels) == (name != "running")


def test_water_never_stands_over_a_wall(solved):
    sump = solved.system.device("sump")
    for name in TITLES:
        made = section(solved, solved.situation(name))
        for shape in made.shapes:
            if getattr(shape, "style", "") == "water" and shape.owner.startswith("sump"):
                assert max(y for _, y in shape.points) <= sump.rim * 1000 + 1e-6


def test_styles_of_the_demo_all_have_a_look(drawing):
    used = {s.style for s in drawing.shapes if hasattr(s, "style") and not isinstance(s, Label)}
    assert used <= set(LOOKS)
    assert look("a style from outside").stroke  # a new device is never invisible


def test_bounds_hold_circles_and_lines():
    made = Drawing((Circle((10, 10), 5, "carrier"), Polyline(((0, 0), (3, 40)), "surface"), box(1, 2, 3, 4, "glass")))
    assert made.bounds() == (0, 0, 15, 40)


def test_svg_speaks_us(drawing):
    words = svg(drawing, "x", UnitSystem.US)
    assert "gph" in words
    assert " mm</text>" not in words
