"""Every head of every table says what it means."""

from __future__ import annotations

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest

from fuente.ui.grid import Grid
from fuente.ui.heads import HEADS
from fuente.ui.stages import STAGES
from fuente.units import UnitSystem

ACROSS = Qt.Orientation.Horizontal


@pytest.mark.parametrize("units", list(UnitSystem))
def test_a_head_has_a_name_and_a_tip(window, units):
    window.workspace.set_units(units)
    asked = set()
    for key in STAGES:
        window.show_stage(key)
        page = window.page(key)
        if key == "media":
            page.view("load")
            page._turn(1)
        for table in page.findChildren(Grid):
            model = table.model()
            for column in range(model.columnCount()):
                head = model.headerData(column, ACROSS)
                tip = model.headerData(column, ACROSS, Qt.ItemDataRole.ToolTipRole)
                assert head, table.accessibleName()
                assert tip == HEADS[head]
                asked.add(head)
    assert {"Surface needed", "Bags", "Lasts", "One costs", "Held by"} <= asked
    assert ("Per gallon" in asked) is (units == UnitSystem.US)


def test_a_tip_says_more_than_its_head():
    for head, tip in HEADS.items():
        assert tip.endswith("."), head
        assert tip.lower().rstrip(".") != head.lower()
        assert len(tip) < 100, head


def test_heads_that_nobody_sees_take_no_room(window):
    """The steps of a build: their names have all the width but for a mark."""
    window.show_stage("build")
    page = window.page("build")
    page.show_view("steps")
    QTest.qWait(20)
    names, marks = (page.list.horizontalHeader().sectionSize(i) for i in (0, 1))
    assert marks <= 40
    assert names + marks == page.list.viewport().width()
    assert names > 4 * marks
