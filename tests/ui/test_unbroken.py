"""A number and its unit stay on one line."""

from __future__ import annotations

import pytest
from PySide6.QtWidgets import QVBoxLayout, QWidget

from fuente.ui.label import Label, unbroken
from fuente.units import QUANTITIES, UnitSystem, shown


@pytest.mark.parametrize("units", UnitSystem)
@pytest.mark.parametrize("quantity", QUANTITIES)
def test_what_is_shown_of_any_quantity_is_one_piece(quantity, units):
    words = shown(3.5, quantity, units)
    label = (QUANTITIES[quantity].us if units is UnitSystem.US else QUANTITIES[quantity].metric)[0]
    bound = unbroken(f"about {words}, of it")
    if label and label != "°":
        assert f"\u00a0{label.split(' ')[0].replace('/', '/' + chr(0x2060))}" in bound
    assert bound.replace("\u00a0", " ").replace("\u2060", "") == f"about {words}, of it"


def test_a_label_breaks_before_the_number_and_says_what_it_was_told(qtbot):
    sheet = QWidget()
    qtbot.addWidget(sheet)
    column = QVBoxLayout(sheet)
    label = Label("Waste is 43 %")
    label.setWordWrap(True)
    column.addWidget(label)
    assert label.text() == "Waste is 43 %"
    fm = label.fontMetrics()
    tight = fm.horizontalAdvance("Waste is 43 ") + 1  # the number would fit, its unit would not
    assert label.heightForWidth(tight) > fm.height() * 1.5
    assert fm.boundingRect(0, 0, tight, 999, 0x1000, unbroken(label.text())).height() > fm.height()
    assert unbroken("in 2026 and 12 steps") == "in 2026 and 12 steps"
