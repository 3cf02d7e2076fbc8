"""What a screen reader hears of the drawing: its waters and handles by name and value, and what changed."""

from __future__ import annotations

import gc

import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QAccessible, QColor
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QAbstractButton, QComboBox, QLineEdit, QTableView

from fuente.demo import DEMOS
from fuente.ui import spoken, theme
from fuente.ui.stages import STAGES
from fuente.units import UnitSystem, shown


@pytest.fixture(autouse=True)
def heard(monkeypatch):
    """As with a screen reader; what is announced."""
    spoken.install()
    said = []
    monkeypatch.setattr(QAccessible, "isActive", lambda: True)
    monkeypatch.setattr(QAccessible, "updateAccessibility", lambda event: said.append(event.message()))
    return said


def children(view):
    made = QAccessible.queryAccessibleInterface(view)
    return made, [made.child(n) for n in range(made.childCount())]


def words(child):
    return child.text(QAccessible.Text.Name), child.text(QAccessible.Text.Value)


def test_the_section_has_its_waters_and_handles(window):
    page = window.page("water")
    made, found = children(page.view)
    running = window.workspace.analysis.running
    depth = shown(running.depth("tank"), "level", UnitSystem.METRIC)
    left = shown(running.freeboard("tank"), "level", UnitSystem.METRIC)
    told = dict(words(c) for c in found)
    name = running.network.cell("tank").name
    assert told[f"{name}: {depth} deep, {left} under the rim"] == f"{depth} deep, {left} under the rim"
    handles = [c for c in found if c.role() == QAccessible.Role.Slider]
    assert [words(c) for c in handles] == [
        (h.name, shown(h.value, h.quantity, UnitSystem.METRIC)) for h in page.view.drawing().handles
    ]
    assert all(made.indexOfChild(c) == n for n, c in enumerate(found))
    for child in found:
        assert child.parent() is made
        assert made.rect().contains(child.rect().center())


def test_the_children_follow_the_situation_and_the_units(window):
    page = window.page("water")
    before = [words(c) for c in children(page.view)[1]]
    window.workspace.show("power_cut")
    cut = [words(c) for c in children(page.view)[1]]
    assert cut != before
    window.switch_units()
    assert any(" in" in name for name, _ in (words(c) for c in children(page.view)[1]))


def test_what_changes_is_said(window, heard):
    page = window.page("water")
    page.view.setFocus(Qt.FocusReason.TabFocusReason)
    QTest.keyClick(page.view, Qt.Key.Key_Right)
    handle = page.view.drawing().handles[page.view._focus]
    assert heard[-1] == f"{handle.name} {shown(handle.value, handle.quantity, UnitSystem.METRIC)}"
    lit = [c for c in children(page.view)[1] if c.state().focused]
    assert [c.text(QAccessible.Text.Name) for c in lit] == [handle.name]
    window.workspace.show("power_cut")
    assert heard[-1].startswith("Power cut: ")
    assert len(heard[-1]) > 15


def test_children_of_a_view_that_is_gone_do_no_harm(window, qapp):
    _, found = children(window.page("water").view)
    window.zoom(1)  # pages are built anew
    gc.collect()
    qapp.processEvents()
    assert [words(c) for c in found] == [("", "")] * len(found)
    assert not any(c.isValid() for c in found)
    made, again = children(window.page("water").view)
    assert made.isValid()
    assert again
    window.zoom(0)


@pytest.mark.parametrize("stage", list(STAGES))
@pytest.mark.parametrize("key", ["reading-room", "back-room"])
def test_whatever_can_be_used_has_a_name(window, stage, key, qapp):
    """Buttons, fields, choices and tables, and each column of a table that has anything in it."""
    window.set_document(DEMOS[key](), None)
    window.show_stage(stage)
    page = window.page(stage)
    getattr(page, "work_now", lambda: None)()
    qapp.processEvents()
    for kind in (QAbstractButton, QLineEdit, QComboBox, QTableView):
        for widget in page.findChildren(kind):
            if widget.isVisible() and widget.focusPolicy() & Qt.FocusPolicy.TabFocus:
                named = widget.accessibleName() or getattr(widget, "text", str)() if kind is QAbstractButton else ""
                assert named or widget.accessibleName() or widget.objectName() == "qt_spinbox_lineedit", widget
    for table in page.findChildren(QTableView):
        model = table.model()
        for column in range(model.columnCount()):
            filled = any(model.index(row, column).data() for row in range(model.rowCount()))
            head = model.headerData(column, Qt.Orientation.Horizontal) or model.headerData(
                column, Qt.Orientation.Horizontal, Qt.ItemDataRole.AccessibleTextRole
            )
            assert head or not filled, (table.accessibleName(), column)


def luminance(tone):
    def part(value):
        return value / 12.92 if value <= 0.04045 else ((value + 0.055) / 1.055) ** 2.4

    c = QColor(tone)
    return 0.2126 * part(c.redF()) + 0.7152 * part(c.greenF()) + 0.0722 * part(c.blueF())


def contrast(one, two):
    high, low = sorted((luminance(one), luminance(two)), reverse=True)
    return (high + 0.05) / (low + 0.05)


def test_contrast_is_as_the_standard_counts_it():
    assert contrast("#000000", "#FFFFFF") == pytest.approx(21.0)
    assert contrast("#777777", "#FFFFFF") == pytest.approx(4.48, abs=0.01)


@pytest.mark.parametrize("which", [theme.LIGHT, theme.DARK])
def test_every_text_tone_is_read_on_every_ground(which):
    """4.5 at least, on each ground that it stands on."""
    tones = (which.ink, which.muted, which.pumped_text, which.fall_text, which.stop, which.living)
    for ground in (which.ground, which.panel, which.panel2, which.chosen):
        for tone in tones if ground != which.chosen else tones[:4]:  # a verdict never stands on a chosen row
            assert contrast(tone, ground) >= 4.5, (which.name, tone, ground, contrast(tone, ground))
    assert contrast(which.bar_ink, which.bar) >= 4.5
