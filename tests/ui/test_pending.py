"""A value that is typed and not entered counts, whatever is done next."""

import pytest
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtTest import QTest

from fuente.document.files import load, save
from fuente.ui.fields import QuantityEdit


@pytest.fixture
def crest(window, path_page):
    """The field of a sump chamber's length, with something typed into it."""
    window.activateWindow()
    window.workspace.select(next(s.id for s in window.workspace.stations if s.id.startswith("sump.")))
    field = next(f for f in path_page.card.findChildren(QuantityEdit) if f.quantity == "length" and f.isVisible())
    field.setFocus()
    field.selectAll()
    QTest.keyClicks(field, f"{field.value() * 1e3 + 3:.0f} mm")
    assert field.isModified()
    return field


@pytest.fixture
def begun(window, crest):
    """The document before the value counts."""
    return window.workspace.system


def _taken(window, begun) -> bool:
    return window.workspace.system != begun


def test_it_is_saved(window, begun, tmp_path):
    path = tmp_path / "a.fuente"
    window.workspace.session.filing.path = path
    QTest.keyClick(window, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    assert _taken(window, begun)
    assert load(path) == window.workspace.system


def test_it_goes_with_a_turn_to_another_page(window, begun):
    QTest.keyClick(window, Qt.Key.Key_4, Qt.KeyboardModifier.ControlModifier)
    assert window.stage == "build"
    assert _taken(window, begun)


def test_it_is_there_after_the_window_closed(window, begun, tmp_path):
    path = tmp_path / "a.fuente"
    save(begun, path)
    window.workspace.session.filing.path = path
    window.close()
    assert load(path) != begun


def test_it_is_part_of_the_design_that_a_drop_replaces(window, begun, tmp_path):
    old, new = tmp_path / "old.fuente", tmp_path / "new.fuente"
    save(begun, old)
    save(begun, new)
    window.workspace.session.filing.path = old
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(new))])
    window.dropEvent(
        QDropEvent(QPointF(10, 10), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.NoModifier)
    )
    assert load(old) != begun


def test_a_button_acts_on_it_and_is_pressed(window, path_page, begun):
    row = path_page.findings.rows[0]
    QTest.mouseClick(row.why_button, Qt.MouseButton.LeftButton)
    assert _taken(window, begun)
    assert row.why.isVisibleTo(row)


def test_a_button_that_takes_no_focus_acts_on_it(window, begun):
    units = window.bar.units
    units.setFocusPolicy(Qt.FocusPolicy.NoFocus)
    QTest.mousePress(units, Qt.MouseButton.LeftButton)
    assert _taken(window, begun)


def test_what_cannot_be_read_stays_and_nothing_is_done(window, crest, tmp_path):
    crest.selectAll()
    QTest.keyClicks(crest, "rubbish")
    window.workspace.session.filing.path = tmp_path / "a.fuente"
    assert not window.save()
    assert not window.workspace.path.exists()
    assert crest.text() == "rubbish"
    assert "“rubbish” cannot be read" in window.message.text.text()
    QTest.keyClick(crest, Qt.Key.Key_Escape)
    assert window.save()
