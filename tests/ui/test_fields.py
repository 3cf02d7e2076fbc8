"""Inputs on their own: quantities, choices, text, sizes, curves."""

import pytest
from PySide6.QtCore import QPoint, QPointF, Qt
from PySide6.QtGui import QWheelEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication
from ui_hands import type_into

from devices_of import returns
from fuente.ui.composed_fields import CurveEdit, DimensionsEdit, fittings_words
from fuente.ui.fields import ChoiceBox, QuantityEdit, TextEdit
from fuente.units import UnitSystem

US = UnitSystem.US


@pytest.fixture
def edit(qtbot):
    made = QuantityEdit("length", 0.3, UnitSystem.METRIC, 0.001)
    qtbot.addWidget(made)
    made.show()
    return made


def test_enter_commits_and_shows_the_unit(edit, qtbot):
    with qtbot.waitSignal(edit.committed) as got:
        type_into(edit, "1/2 in")
    assert got.args == [pytest.approx(0.0127)]
    assert edit.text() == "13 mm"


@pytest.mark.parametrize(
    ("quantity", "text", "value", "words"),
    [("percent", "0.2", 0.002, "0.2 %"), ("fraction", "50", 0.5, "50 %"), ("fraction", "50 %", 0.5, "50 %")],
)
def test_a_bare_number_in_a_field_of_percent_is_percent(qtbot, quantity, text, value, words):
    made = QuantityEdit(quantity, 0.015, UnitSystem.METRIC)
    qtbot.addWidget(made)
    made.show()
    with qtbot.waitSignal(made.committed) as got:
        type_into(made, text)
    assert got.args == [pytest.approx(value)]
    assert made.text() == words


def test_leaving_commits_and_leaving_with_rubbish_restores(edit, qtbot):
    edit.setFocus()
    edit.selectAll()
    QTest.keyClicks(edit, "40")
    with qtbot.waitSignal(edit.committed):
        edit.clearFocus()
    edit.setFocus()
    edit.selectAll()
    QTest.keyClicks(edit, "rubbish")
    said = []
    edit.failed.connect(said.append)
    edit.clearFocus()
    assert edit.text() == "40 mm"
    assert "type 32 mm" in said[0]


def test_arrows_step_in_the_shown_unit(qtbot):
    metric, us = QuantityEdit("length", 0.3, UnitSystem.METRIC), QuantityEdit("length", 0.3, US)
    for made in (metric, us):
        qtbot.addWidget(made)
        made.show()
    with qtbot.waitSignal(metric.nudged) as got:
        QTest.keyClick(metric, Qt.Key.Key_Up)
    assert got.args == [pytest.approx(0.305)]
    with qtbot.waitSignal(us.nudged) as got:
        QTest.keyClick(us, Qt.Key.Key_Down)
    assert got.args[0] / 0.0254 * 4 == pytest.approx(round(got.args[0] / 0.0254 * 4))
    with qtbot.waitSignal(metric.nudged) as got:
        QTest.keyClick(metric, Qt.Key.Key_Up, Qt.KeyboardModifier.ShiftModifier)
    assert got.args == [pytest.approx(0.35)]


def test_what_is_being_typed_is_not_overwritten(edit):
    edit.setFocus()
    edit.selectAll()
    QTest.keyClicks(edit, "12")
    edit.show_value(0.4, UnitSystem.METRIC)
    assert edit.text() == "12"
    QTest.keyClick(edit, Qt.Key.Key_Escape)
    assert edit.text() == "400 mm"


def test_choice_box_leaves_the_wheel_to_the_page(qtbot):
    box = ChoiceBox((("a", "first"), ("b", "second")), "a")
    qtbot.addWidget(box)
    box.show()
    box.clearFocus()
    wheel = QWheelEvent(
        QPointF(5, 5),
        QPointF(5, 5),
        QPoint(0, 0),
        QPoint(0, -120),
        Qt.MouseButton.NoButton,
        Qt.KeyboardModifier.NoModifier,
        Qt.ScrollPhase.NoScrollPhase,
        False,
    )
    QApplication.sendEvent(box, wheel)
    assert box.currentText() == "first"
    box.show_value("b")
    assert box.currentText() == "second"
    box.show_value("gone")
    assert box.currentIndex() == -1


def test_text_commits_once(qtbot):
    text = TextEdit("old")
    qtbot.addWidget(text)
    text.show()
    seen = []
    text.committed.connect(seen.append)
    type_into(text, "new")
    text.clearFocus()
    assert seen == ["new"]
    text.show_value("new")
    text.setFocus()
    QTest.keyClicks(text, "x")
    QTest.keyClick(text, Qt.Key.Key_Escape)
    assert text.text() == "new"


def test_three_sizes(qtbot):
    sizes = DimensionsEdit((1.5, 0.6, 0.55), UnitSystem.METRIC)
    qtbot.addWidget(sizes)
    sizes.show()
    assert sizes.text() == "1500 × 600 × 550 mm"
    with qtbot.waitSignal(sizes.committed) as got:
        type_into(sizes, "1200x500x500")
    assert got.args[0] == pytest.approx((1.2, 0.5, 0.5))
    sizes.show_value((1.2192, 0.4572, 0.508), US)
    assert sizes.text() == "48 × 18 × 20 in"


def test_curve_points(qtbot):
    curve = CurveEdit((), UnitSystem.METRIC)
    qtbot.addWidget(curve)
    curve.show()
    said = []
    curve.on_error = said.append
    type_into(curve, "0:3.6, oops")
    assert "L/h : m" in said[0]
    with qtbot.waitSignal(curve.parsed) as got:
        type_into(curve, "2500:2.7; 0:3.6")
    assert got.args[0] == ((0.0, 3.6), (pytest.approx(2500 / 3.6e6), 2.7))


def test_fittings_in_words(demo):
    assert fittings_words(returns(demo)[0].fittings) == "3 × Elbow 90°, Union, Ball valve"
    assert fittings_words(()) == "none"
