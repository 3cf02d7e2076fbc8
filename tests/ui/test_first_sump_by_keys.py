"""A first sump from the start page to its file, by keys alone: every control is come to by Tab, F6 and arrows."""

from __future__ import annotations

from collections.abc import Callable

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QApplication, QCheckBox, QFileDialog, QPushButton, QWidget

from fuente.document.files import load
from fuente.ui.fields import QuantityEdit
from fuente.ui.findings_list import FindingsList
from fuente.ui.section_view import SectionView
from fuente.ui.station_card import StationCard
from fuente.ui.station_list import StationList
from fuente.ui.window import MainWindow

CTRL, SHIFT, NONE = (
    Qt.KeyboardModifier.ControlModifier,
    Qt.KeyboardModifier.ShiftModifier,
    Qt.KeyboardModifier.NoModifier,
)
FAR = 120  # presses of Tab after which something cannot be reached


@pytest.fixture
def window(qtbot):
    made = MainWindow()
    qtbot.addWidget(made)
    made.resize(1280, 800)
    made.show()
    made.activateWindow()
    qtbot.waitExposed(made)
    yield made
    if made.workspace is not None:
        made.workspace.close()
        made.workspace = None


def here(window: QWidget) -> QWidget:
    return QApplication.focusWidget() or window.focusWidget() or window


def press(window: QWidget, key: Qt.Key, mods: Qt.KeyboardModifier = NONE) -> None:
    QTest.keyClick(here(window), key, mods)
    QApplication.processEvents()


def tab_to(window: QWidget, wanted: Callable[[QWidget], bool]) -> QWidget:
    """Tab until the focus is on it."""
    seen = []
    for _ in range(FAR):
        if wanted(here(window)):
            return here(window)
        seen.append(type(here(window)).__name__ + ":" + here(window).accessibleName())
        press(window, Qt.Key.Key_Tab)
    raise AssertionError(f"not reached by Tab, came past {seen[:40]}")


def part(window: QWidget, kind: type[QWidget]) -> QWidget:
    """F6 until the focus is in a part of the page."""
    for _ in range(12):
        at: QWidget | None = here(window)
        while at is not None:
            if isinstance(at, kind):
                return at
            at = at.parentWidget()
        press(window, Qt.Key.Key_F6)
    raise AssertionError(f"F6 does not come to {kind.__name__}")


def retype(window: QWidget, text: str) -> None:
    press(window, Qt.Key.Key_A, CTRL)
    QTest.keyClicks(here(window), text)
    press(window, Qt.Key.Key_Return)


def says(words: str) -> Callable[[QWidget], bool]:
    return lambda w: isinstance(w, QPushButton) and w.text() == words


def test_a_first_sump_is_made_without_a_mouse(window, qtbot, tmp_path, monkeypatch):
    press(window, Qt.Key.Key_N, CTRL)
    work = window.workspace
    assert window.stage == "brief"

    # The tank's walls, a wish, and a layout.
    page = window.page("brief")
    tab_to(window, lambda w: isinstance(w, QuantityEdit) and w.accessibleName() == "Walls")
    retype(window, "12 mm")
    assert work.system.tanks[0].thickness == pytest.approx(0.012)
    box = tab_to(window, lambda w: isinstance(w, QCheckBox) and page.isAncestorOf(w))
    ticked = box.isChecked()
    press(window, Qt.Key.Key_Space)
    assert box.isChecked() is not ticked
    press(window, Qt.Key.Key_Space)
    tab_to(window, says("Lay it out for me"))
    press(window, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: page._job is None and bool(page.layouts), timeout=90_000)
    tab_to(window, says("Take this layout"))
    press(window, Qt.Key.Key_Space)
    assert window.stage == "water"
    qtbot.waitUntil(lambda: not work.checking, timeout=60_000)
    assert any(d.kind == "sump" for d in work.system.devices)

    # Along the water, a handle by arrows, its value typed, and back.
    part(window, StationList)
    first = work.selected
    press(window, Qt.Key.Key_Down)
    assert work.selected != first
    view = part(window, SectionView)
    press(window, Qt.Key.Key_Right)
    handle = view.drawing().handles[view._focus]
    undone = work.history.undo_name
    press(window, Qt.Key.Key_Up if handle.axis == "y" else Qt.Key.Key_Right, CTRL)
    if work.history.undo_name == undone:  # it stood at its end
        press(window, Qt.Key.Key_Down if handle.axis == "y" else Qt.Key.Key_Left, CTRL)
    assert work.history.undo_name != undone
    moved = work.system
    press(window, Qt.Key.Key_Z, CTRL)
    assert work.system != moved

    # A field of the card.
    part(window, StationCard)
    field = tab_to(window, lambda w: isinstance(w, QuantityEdit) and w.isVisible())
    assert isinstance(field, QuantityEdit)
    assert field.accessibleName()
    press(window, Qt.Key.Key_Escape)

    # A finding's reason and its remedy, where there is one.
    qtbot.waitUntil(lambda: not work.checking, timeout=60_000)
    if work.findings:
        part(window, FindingsList)
        button = tab_to(window, lambda w: isinstance(w, QPushButton) and w.text() == "Why")
        press(window, Qt.Key.Key_Space)
        assert button.isVisible() or window.page("water").findings.isVisible()

    # A situation, every page, and the file.
    press(window, Qt.Key.Key_2, CTRL | Qt.KeyboardModifier.AltModifier)
    assert work.situation_name != "running"
    for number, stage in enumerate(("brief", "water", "media", "build", "wet", "keep"), 1):
        press(window, Qt.Key(Qt.Key.Key_0 + number), CTRL)
        assert window.stage == stage
    target = tmp_path / "first.fuente"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_a, **_k: (str(target), ""))
    press(window, Qt.Key.Key_S, CTRL)
    assert load(target) == work.history.system
