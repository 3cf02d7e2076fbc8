"""The plan on the Water path: one key, and back."""

from __future__ import annotations

from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from fuente.drawing.primitives import Polygon


def test_one_key_shows_the_plan_and_back(window):
    page = window.page("water")
    before = page.view.drawing()
    assert before.handles
    QTest.keyClick(window, Qt.Key.Key_F3)
    shown = page.view.drawing()
    assert not shown.handles
    assert page.view.what == "Plan"
    assert any(isinstance(s, Polygon) and s.style == "baffle" for s in shown.shapes)
    window.workspace.show("power_cut")  # the plan is of no situation
    assert page.view.drawing().shapes == shown.shapes
    QTest.keyClick(window, Qt.Key.Key_F3)
    assert page.view.what == "Section"
    assert page.view.drawing().handles
