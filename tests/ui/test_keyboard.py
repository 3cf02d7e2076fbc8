"""Menus, keys, the clipboard and paper: everything is reached without a mouse."""

from __future__ import annotations

import datetime

import pypdf
import pytest
from PySide6.QtCore import Qt
from PySide6.QtGui import QGuiApplication
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QTableView

from fuente.ui.help import HelpDialog, keys_of
from fuente.ui.menus import letter_of, letters, menus_of, plain
from fuente.ui.parts_of_page import first_in, parts
from fuente.ui.stages import STAGES


def clipboard():
    return QGuiApplication.clipboard().text()


def test_every_entry_has_a_letter_of_its_own(window):
    for stage in STAGES:
        window.show_stage(stage)
        for menu in menus_of(window):
            menu.aboutToShow.emit()
            chosen = [letter_of(a.text()) for a in menu.actions() if not a.isSeparator() and a.isEnabled()]
            assert all(chosen), (menu.title(), [a.text() for a in menu.actions()])
            if len(chosen) < 20:
                assert len(set(chosen)) == len(chosen), (menu.title(), [a.text() for a in menu.actions()])


def test_a_name_with_an_ampersand_stays_a_name(window):
    from PySide6.QtWidgets import QMenu

    menu = QMenu(window)
    menu.addAction("Fish && chips")
    menu.addAction("&Fish")
    letters(menu)
    assert [plain(a.text()) for a in menu.actions()] == ["Fish & chips", "Fish"]
    assert [letter_of(a.text()) for a in menu.actions()] == ["i", "f"]


def test_the_help_is_what_the_menus_say(window):
    """Every shortcut of every action is in the help, once, and no other is."""
    told = [key for _, rows in keys_of(window) for key, _ in rows]
    real = [a.shortcut().toString() for a in window.actions() if not a.shortcut().isEmpty()]
    assert sorted(told) == sorted(real)
    assert len(set(told)) == len(told) > 30
    dialog = HelpDialog(window)
    shown = {label.text() for label in dialog.findChildren(type(window.message.text))}
    assert set(told) <= shown
    assert dialog.width() <= 1280
    assert dialog.height() <= 800


@pytest.mark.parametrize("stage", list(STAGES))
def test_f6_walks_every_part_of_a_page_and_comes_round(window, stage, qapp):
    window.show_stage(stage)
    qapp.processEvents()
    page = window.page(stage)
    found = parts(page)
    assert len(found) >= 2
    first_in(found[0]).setFocus()
    seen = []
    for _ in found:
        QTest.keyClick(window, Qt.Key.Key_F6)
        focus = window.focusWidget()
        seen.append(next(i for i, p in enumerate(found) if p is focus or p.isAncestorOf(focus)))
    assert sorted(seen) == list(range(len(found)))
    assert seen[-1] == 0
    QTest.keyClick(window, Qt.Key.Key_F6, Qt.KeyboardModifier.ShiftModifier)
    focus = window.focusWidget()
    assert found[-1] is focus or found[-1].isAncestorOf(focus)


@pytest.mark.parametrize("stage", list(STAGES))
def test_tab_leaves_every_table(window, stage, qapp):
    window.show_stage(stage)
    qapp.processEvents()
    for table in window.page(stage).findChildren(QTableView):
        assert not table.tabKeyNavigation()


def test_the_page_s_menu_presses_its_buttons(window):
    window.show_stage("wet")
    page = window.page("wet")
    (menu,) = [m for m in menus_of(window) if m.objectName() == "page"]
    menu.aboutToShow.emit()
    words = [plain(a.text()) for a in menu.actions()]
    assert any("all trials" in w for w in words)
    window.show_stage("water")
    menu.aboutToShow.emit()
    entry = next(a for a in menu.actions() if plain(a.text()) == "Power cut")
    entry.trigger()
    assert window.workspace.situation_name == "power_cut"
    assert page is not None


def test_copy_takes_the_row_the_table_the_card_and_the_finding(window, qapp):
    window.show_stage("build")
    window.page("build").show_view("bill")
    table = window.page("build").bill.table
    table.setFocus()
    table.setCurrentIndex(table.model().index(2, 0))
    window.copy()
    row = clipboard()
    assert row.split("\t") == [str(table.model().index(2, c).data() or "") for c in range(table.model().columnCount())]
    window.copy_all()
    lines = clipboard().split("\n")
    assert len(lines) == table.model().rowCount() + 1
    assert lines[3] == row
    window.show_stage("water")
    page = window.page("water")
    finding = page.findings.rows[0]
    finding.why_button.setFocus()
    window.copy()
    assert clipboard().startswith(f"{finding.finding.rank.word}: {finding.text.text()}\n")
    page.workspace.select("tank")
    first_in(page.card).setFocus()
    if hasattr(window.focusWidget(), "copy"):
        page.card._readings[0][0].setFocus()
    window.copy()
    assert clipboard().split("\n")[0] == page.card._station.name
    assert "Wall safety\t" in clipboard()


def test_the_drawing_is_copied_as_lines_and_as_a_picture(window):
    import xml.etree.ElementTree as ET

    window.copy_drawing()
    data = QGuiApplication.clipboard().mimeData()
    svg = bytes(data.data("image/svg+xml")).decode()
    assert len(list(ET.fromstring(svg).iter())) > 100
    assert data.hasImage()
    assert data.imageData().width() == 2 * window.page("water").view.width()
    assert window.message.text.text() == "Drawing copied."


def test_a_page_is_printed(window, tmp_path):
    from PySide6.QtPrintSupport import QPrinter

    from fuente.ui.printing import print_widget, printer_for
    from fuente.units import UnitSystem

    for units, wide in ((UnitSystem.METRIC, 842), (UnitSystem.US, 792)):
        printer = printer_for(units)
        printer.setOutputFormat(QPrinter.OutputFormat.PdfFormat)
        printer.setOutputFileName(str(tmp_path / "page.pdf"))
        assert print_widget(window.page("water"), printer, "Reading room · Water path", datetime.date(2026, 11, 28))
        (page,) = pypdf.PdfReader(tmp_path / "page.pdf").pages
        assert float(page.mediabox.width) == pytest.approx(wide, abs=1)
        text = " ".join(page.extract_text().split())
        assert "28 November 2026" in text
        pictures = [x.get_object() for x in page["/Resources"]["/XObject"].values()]
        assert max(int(p["/Width"]) for p in pictures) > 1000
        assert len(set(max((p.get_data() for p in pictures), key=len)[::97])) > 50  # drawn, not blank


def test_no_page_shows_a_window_of_its_own(window, qapp):
    """A part that is shown before it has its place would flash up on the desktop and take the keyboard."""
    from PySide6.QtCore import QEvent, QObject
    from PySide6.QtWidgets import QWidget

    class Watch(QObject):
        def __init__(self):
            super().__init__()
            self.seen = []

        def eventFilter(self, watched, event):
            if event.type() == QEvent.Type.Show and isinstance(watched, QWidget) and watched.isWindow():
                self.seen.append(watched)
            return False

    watch = Watch()
    qapp.installEventFilter(watch)
    try:
        for stage in STAGES:
            window.show_stage(stage)
            qapp.processEvents()
        window.switch_units()
        window.undo()
        qapp.processEvents()
    finally:
        qapp.removeEventFilter(watch)
    assert watch.seen == []
