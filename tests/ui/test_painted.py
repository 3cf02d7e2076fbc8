"""The picture of a drawing of many shapes: the same as painting it, and painted only when it would look otherwise."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint
from PySide6.QtGui import QImage, QPainter

from fuente.demo.back_room import back_room
from fuente.study.analysis import Analysis
from fuente.ui import painted, section_view, theme
from fuente.ui.section_view import SectionView
from fuente.units import UnitSystem


@pytest.fixture(scope="module")
def drawing():
    from fuente.shown.section import section

    analysis = Analysis(back_room())
    return section(analysis, analysis.situation("running"))


@pytest.fixture
def view(qtbot, qapp, drawing):
    theme.apply(qapp, "light", 1.0)
    made = SectionView()
    qtbot.addWidget(made)
    made.resize(900, 600)
    made.show_drawing(drawing, UnitSystem.METRIC, "", "Running")
    return made


@pytest.fixture
def counted(monkeypatch):
    calls = []
    paint = painted.paint_drawing

    def counting(*args):
        calls.append(1)
        return paint(*args)

    monkeypatch.setattr(painted, "paint_drawing", counting)
    return calls


def picture(view):
    image = QImage(view.size(), QImage.Format.Format_RGB32)
    painter = QPainter(image)
    view.render(painter, QPoint(0, 0))
    painter.end()
    return image


def test_it_looks_as_if_it_were_painted(view, monkeypatch):
    assert len(view.drawing().shapes) > painted.MANY  # else nothing is tested
    kept, left = picture(view), list(view.left_out)
    monkeypatch.setattr(section_view, "MANY", 10**9)
    assert kept == picture(view)
    assert [each.text for each in left] == [each.text for each in view.left_out]


def test_it_is_painted_once_and_again_when_something_is_another(view, counted, drawing, qapp):
    for _ in range(3):
        picture(view)
    assert len(counted) == 1
    view.show_drawing(drawing, UnitSystem.US, "", "Running")
    in_feet = picture(view)
    assert len(counted) == 2
    view.show_drawing(drawing, UnitSystem.US, "rack-1-1", "Running")
    assert picture(view) != in_feet
    assert len(counted) == 3
    view.zoom_by(2.0)
    picture(view)
    assert len(counted) == 4
    view.resize(800, 600)
    picture(view)
    assert len(counted) == 5
    theme.apply(qapp, "dark", 1.0)
    picture(view)
    assert len(counted) == 6
    theme.apply(qapp, "light", 1.0)


def test_a_handle_under_the_pointer_is_painted_over_it(view, counted):
    before = picture(view)
    view._hover = 0
    assert picture(view) != before
    assert len(counted) == 1


def test_a_drawing_for_a_file_is_no_picture(view, counted, tmp_path):
    from PySide6.QtSvg import QSvgGenerator

    made = QSvgGenerator()
    made.setFileName(str(tmp_path / "a.svg"))
    made.setSize(view.size())
    painter = QPainter(made)
    view.render(painter, QPoint(0, 0))
    painter.end()
    words = (tmp_path / "a.svg").read_text()
    assert not counted
    assert "<image" not in words
    assert words.count("<poly") > 300
