"""The build room, driven: views, sheets, prices, steps with their clocks, the workshop, bench mode by keys alone."""

from __future__ import annotations

import datetime
import sys
import threading

import pypdf
import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QLabel
from shiboken6 import delete

from fuente.demo import DEMOS
from fuente.demo.lantern import lantern
from fuente.demo.trough import trough
from fuente.devices.shop import LeftoverSheet
from fuente.document import files
from fuente.document.system import set_value
from fuente.study import known
from fuente.study.analysis import Analysis
from fuente.ui import step_view
from fuente.ui.build import VIEWS
from fuente.ui.exports import FILES
from fuente.ui.menus import plain
from fuente.ui.shop_dialog import ShopDialog
from fuente.units import UnitSystem
from fuente.workshop.clocks import Stand

START = datetime.datetime(2026, 11, 20, 9, 0, tzinfo=datetime.UTC)


@pytest.fixture
def page(window):
    window.show_stage("build")
    return window.page("build")


@pytest.fixture
def clock(monkeypatch):
    """The time of day, to be moved."""
    time = {"now": START}

    def now():
        return time["now"]

    for name in ("fuente.ui.step_view.now", "fuente.ui.build.now", "fuente.ui.bench.now"):
        monkeypatch.setattr(name, now)
    return time


def rows(page):
    """The list's words and figures."""
    return list(zip(page.list.words(0), page.list.words(1), strict=True))


def test_every_view_is_of_use_for_every_design(window):
    for make in DEMOS.values():
        window.set_document(make(), None)
        window.show_stage("build")
        page = window.page("build")
        for view, title in VIEWS.items():
            page.chips[view].click()
            assert page.view == view
            assert page.chips[view].isChecked(), title
            assert page.told.heading.text()
            shown = page.stack.currentWidget()
            if shown is page.drawn:
                drawing = page.drawn.drawing()
                assert (drawing is not None and drawing.shapes) or page.drawn.words
            for key in [line.of for line in page.list.rows.lines if line.of is not None][:40]:
                assert page.list.choose(key)
                assert page.told.heading.text(), key


def test_a_panel_is_drawn_with_its_holes(page):
    assert page.list.choose("sump.socks.plate")
    drawn = page.drawn.drawing()
    assert sorted(s.radius for s in drawn.shapes if getattr(s, "style", "") == "hole") == [60.0, 60.0]
    assert ("Length", "382 mm") in page.told.said.rows
    assert page.list.choose("overflow.drain.1.hole")
    assert page.told.heading.text() == "Holes in Reading-room tank"
    assert len([s for s in page.drawn.drawing().shapes if getattr(s, "style", "") == "hole"]) == 3


def test_sheets_say_their_cuts_and_a_search_finds_as_good(page, qtbot):
    page.show_view("sheets")
    assert rows(page)[0] == ("Sheet 1, 8 mm float glass", "5 panels")
    assert page.told.said.figures[0][2] == "waste"
    cuts = [s for s in page.drawn.drawing().shapes if getattr(s, "style", "") == "score"]
    numbers = [s.text for s in page.drawn.drawing().shapes if getattr(s, "style", "") == "label-number"]
    assert len(cuts) == len(numbers) >= 5
    page.search.button.click()
    assert page.search.button.text() == "Stop"
    qtbot.waitUntil(lambda: page.search.job is None, timeout=8000)
    assert "layouts tried" in page.search.words.text()
    assert rows(page)[0] == ("Sheet 1, 8 mm float glass", "5 panels")
    page.search.button.click()
    page.search.button.click()
    assert page.search.words.text().startswith("Stopped")


def test_a_price_that_is_typed_counts(page, window):
    page.show_view("bill")
    table = page.bill.table
    before = page.told.said.figures[0][0]
    key = "Gate valve, 32 mm PN10"
    at = next(k for k, line in enumerate(table.rows.lines) if line.of == key)
    table.model().setData(table.model().index(at, 2), "19,50", Qt.ItemDataRole.EditRole)
    assert [(p.what, p.amount) for p in window.workspace.system.shop.prices] == [(key, 19.5)]
    assert int(page.told.said.figures[0][0]) == pytest.approx(int(before) + 19.5, abs=1)
    assert page.bill.table.rows.lines[at].cells[4].text == "yours"
    table.model().setData(table.model().index(at, 2), "cheap", Qt.ItemDataRole.EditRole)
    assert window.workspace.system.shop.prices[0].amount == 19.5
    window.workspace.undo()
    assert window.workspace.system.shop.prices == ()


def test_cure_clock_across_a_restart(window, clock, tmp_path):
    path = tmp_path / "tank.fuente"
    window.workspace.save(path)
    window.show_stage("build")
    page = window.page("build")
    page.chips["steps"].click()
    for _ in range(5):  # drill, clean, dry-fit, shell, fillet
        page.show_step(next(s.step.id for s in page._stood if s.stand is Stand.READY))
        page.step.done.click()
    held = next(s for s in page._stood if s.step.id == "sump:mark")
    assert held.stand is Stand.HELD
    page.show_step("sump:mark")
    assert not page.step.done.isEnabled()
    assert "shell's beads to cure" in page.step.stand.text()
    page.show_step("sump:fillet")
    assert "58 h left" in page.step.stand.text()
    assert page.step.bar.isVisible()
    window.workspace.save()
    system, record = files.load_all(path)

    clock["now"] = START + datetime.timedelta(hours=30)
    window.set_document(system, path, record=record)
    window.show_stage("build")
    page = window.page("build")
    assert "28 h of 58 h left" in page.cards.clock.text()
    page.show_step("sump:fillet")
    assert page.step.bar.value() == round(100 * 30 / 57.6)
    clock["now"] = START + datetime.timedelta(hours=58)
    page._tick()
    assert next(s for s in page._stood if s.step.id == "sump:mark").stand is Stand.READY


def test_a_step_is_written_about_and_opened_again(page, window, clock, monkeypatch, tmp_path):
    page.show_step("sump:drill:sump.socks.plate")
    page.step.note.setText("used the 121 saw")
    QTest.keyClick(page.step.note, Qt.Key.Key_Return)
    assert "used the 121 saw" in page.step.written.text()
    photo = tmp_path / "plate.jpg"
    photo.write_bytes(b"x")
    monkeypatch.setattr(QFileDialog, "getOpenFileName", lambda *a, **k: (str(photo), ""))
    page.step.photo.click()
    assert str(photo) in page.step.written.text()
    page.step.done.click()
    page.show_step("sump:drill:sump.socks.plate")
    assert page.step.done.text() == "Open it again"
    page.step.done.click()
    assert [e.done for e in window.workspace.record.built] == [None, None, True, False]
    assert page._stood[0].stand is Stand.READY


def test_bench_mode_by_keys_alone(window, clock):
    QTest.keyClick(window, Qt.Key.Key_F5)
    page = window.page("build")
    bench = page.open_bench()
    assert bench.shown_step().step.id == page._stood[0].step.id
    assert bench.title.font().pixelSize() >= 2 * page.told.heading.font().pixelSize() * 0.8
    QTest.keyClick(bench, Qt.Key.Key_Right)
    QTest.keyClick(bench, Qt.Key.Key_Left)
    assert not bench.back.isEnabled()
    QTest.keyClick(bench, Qt.Key.Key_Space)
    assert page._stood[0].stand is Stand.DONE
    assert bench.shown_step().step.id == page._stood[1].step.id
    for _ in range(4):
        QTest.keyClick(bench, Qt.Key.Key_Space)
    assert bench.shown_step().step.id == "sump:mark"
    assert not bench.tick.isEnabled()
    QTest.keyClick(bench, Qt.Key.Key_Space)
    assert next(s for s in page._stood if s.step.id == "sump:mark").stand is Stand.HELD
    QTest.keyClick(bench, Qt.Key.Key_B)
    assert bench.bar.isVisible()
    assert "Open it again" in bench.tick.text()
    QTest.keyClick(bench, Qt.Key.Key_Escape)
    assert not bench.isVisible()


def test_leftovers_and_the_fitting_in_the_hand(page, window):
    dialog = ShopDialog(window.workspace, window)
    dialog.left.form.what.setText("acrylic")
    dialog.left.form.sizes.setText("900 x 900 x 6 mm")
    dialog.left.add.click()
    assert window.workspace.system.shop.leftovers == (
        LeftoverSheet(material="acrylic", length=0.9, width=0.9, thickness=0.006),
    )
    page.show_view("sheets")
    assert any(name.startswith("Leftover, 6 mm acrylic") for name, _ in rows(page))
    dialog.left.form.sizes.setText("900 x 900")
    dialog.left.add.click()
    assert "three sizes" in dialog.error.text()
    dialog.left.remove.click()
    assert window.workspace.system.shop.leftovers == ()
    dialog.hand.form.what.setText("40 mm")
    dialog.hand.form.sizes.setText("57 x 90 x 90 x 4 mm")
    dialog.hand.add.click()
    page.show_view("parts")
    page.list.choose("overflow.drain.1.hole")
    assert any("60 mm" in name for name, _ in page.told.said.rows)
    dialog.fields["ends"].chosen.emit("outside")
    assert window.workspace.system.shop.ends == "outside"
    page.list.choose("sump.end")
    assert ("Length", "400 mm") in page.told.said.rows
    dialog.fields["budget"].setText("100")
    dialog.fields["budget"].editingFinished.emit()
    page.show_view("bill")
    assert any(value.endswith("over") for _, value in page.told.said.rows)
    dialog.fields["saws"].setText("43, 60")
    dialog.fields["saws"].editingFinished.emit()
    assert window.workspace.system.shop.saws == pytest.approx((0.043, 0.06))
    dialog.fields["cure"].setText("24")
    dialog.fields["cure"].editingFinished.emit()
    assert next(s for s in page._stood if s.step.id == "sump:fillet").step.wait == pytest.approx(6 * 24 * 3600)


def test_files_are_written_and_refusals_said(page, window, tmp_path, monkeypatch, qtbot):
    for name, suffix, act, _, _ in FILES:
        path = tmp_path / suffix
        page.files.write(path, act)
        assert page.files.done.text() == f"Written: {path}", name
        assert path.stat().st_size > 500
    page.files.write(tmp_path / "no" / "x.csv", FILES[3][2])
    assert page.files.done.text().startswith("Not written")
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *a, **k: (str(tmp_path / "menu.csv"), ""))
    next(a for a in window.actions() if plain(a.text()) == "List, CSV").trigger()
    assert page.files.done.text() == "Writing menu.csv …"
    assert not page.files.buttons["parts.csv"].isEnabled()
    qtbot.waitUntil(lambda: page.files.done.text() == f"Written: {tmp_path / 'menu.csv'}", timeout=20_000)
    assert (tmp_path / "menu.csv").exists()
    assert page.files.buttons["parts.csv"].isEnabled()


def test_what_a_book_tells_is_worked_out_aside(page, window, tmp_path, qtbot, monkeypatch):
    threads = []
    solve = Analysis.settle

    def settle(self, *args, **more):
        threads.append(threading.current_thread())
        return solve(self, *args, **more)

    monkeypatch.setattr(Analysis, "settle", settle)
    known.forget()
    monkeypatch.setattr(window.workspace.session, "analysis", Analysis(trough()))
    page.files.write_aside(tmp_path / "aside.pdf", FILES[0][2])
    qtbot.waitUntil(lambda: page.files.done.text().startswith("Written"), timeout=60_000)
    assert threads
    assert threading.main_thread() not in threads
    assert len(pypdf.PdfReader(tmp_path / "aside.pdf").pages) > 3


def test_both_unit_systems_and_large_text_keep_the_place(page, window):
    page.show_view("pipes")
    page.list.choose("run.1")
    window.switch_units()
    assert window.workspace.units is UnitSystem.US
    page = window.page("build")
    assert page.view == "pipes"
    assert "ft" in page.told.said.figures[0][1]
    window.zoom(1)
    page = window.page("build")
    assert (page.view, page.list.current()) == ("pipes", "run.1")
    window.zoom(0)


def test_an_edit_is_followed(page, window):
    page.list.choose("sump.long")
    window.workspace.edit(set_value("x", ("devices", "sump", "height"), 0.42))
    assert page.list.current() == "sump.long"
    assert ("Width", "411 mm") in page.told.said.rows


def test_names_are_never_markup(page, window):
    window.workspace.edit(set_value("x", ("devices", "sump", "name"), "<b>x</b>{l:length}"))
    page.show_view("steps")
    page.list.choose("sump:clean")
    assert page.step.body.textFormat() == Qt.TextFormat.PlainText
    assert "<b>x</b>{l:length}" in page.step.body.text()
    for label in page.findChildren(QLabel):
        if "<b>x</b>" in label.text():
            assert label.textFormat() == Qt.TextFormat.PlainText


def test_drums_bottles_and_ornaments_have_their_own_build(window):
    window.set_document(trough(), None)
    window.show_stage("build")
    page = window.page("build")
    page.show_view("steps")
    assert any("bulkhead" in name for name, _ in rows(page))
    page.show_view("pipes")
    assert rows(page)
    window.set_document(lantern(), None)
    window.show_stage("build")
    page = window.page("build")
    page.show_view("pipes")
    assert "no rigid pipe" in page.told.why.text()
    page.show_view("sheets")
    assert page.told.heading.text() == "Nothing is cut"


def test_tab_leaves_the_list(page, window, qtbot):
    page.list.setFocus()
    QTest.keyClick(page.list, Qt.Key.Key_Tab)
    assert not page.list.hasFocus()
    page.show_view("bill")
    page.bill.table.setFocus()
    QTest.keyClick(page.bill.table, Qt.Key.Key_Tab)
    assert not page.bill.table.hasFocus()


def test_times_in_words():
    assert [step_view.span(s) for s in (20, 1800, 7200, 4 * 86400)] == ["1 min", "30 min", "2 h", "4.0 days"]
    assert step_view.work(30, 2) == "two people, about 30 min"


def test_what_costs_less_is_taken_by_a_button(page, window, qtbot):
    """Six-millimetre baffles from the eight-millimetre sheet save that sheet; an edit forgets what was found."""
    page.show_view("bill")
    page.cheaper.look.click()
    assert page.cheaper.look.text() == "Stop"
    qtbot.waitUntil(lambda: page.cheaper._job is None, timeout=60_000)
    assert [round(c.saves) for c in page.cheaper.found] == [72]
    before = {p.thickness for p in page.room.bill.panels if p.material == "glass"}
    page.cheaper.takes[0].click()
    assert before == {0.006, 0.008}
    assert {p.thickness for p in page.room.bill.panels if p.material == "glass"} == {0.008}
    assert page.cheaper.found == ()
    page.cheaper.look.click()
    page.cheaper.look.click()
    assert page.cheaper.words.text() == "Stopped."
    window.workspace.undo()
    assert {p.thickness for p in page.room.bill.panels if p.material == "glass"} == before


def test_prices_by_the_gallon(page, window):
    """What is sold by the litre is shown and typed by the gallon in US units; the design keeps litres."""
    window.switch_units()
    page = window.page("build")
    page.show_view("bill")
    at = next(k for k, line in enumerate(page.bill.table.rows.lines) if line.of == "Moving carrier, wheel")
    cells = page.bill.table.rows.lines[at].cells
    assert (cells[1].text, cells[2].text) == ("2.91 gal", "3.407")
    page.bill.table.model().setData(page.bill.table.model().index(at, 2), "4", Qt.ItemDataRole.EditRole)
    assert window.workspace.system.shop.prices[0].amount == pytest.approx(4 / 3.785411784)
    assert page.bill.table.rows.lines[at].cells[2].text == "4"


def test_a_row_copies_whole(page, window, qapp):
    page.show_view("bill")
    table = page.bill.table
    at = next(k for k, line in enumerate(table.rows.lines) if line.of == "Moving carrier, wheel")
    table.setFocus()
    table.setCurrentIndex(table.model().index(at, 2))
    QTest.keyClick(table, Qt.Key.Key_C, Qt.KeyboardModifier.ControlModifier)
    assert qapp.clipboard().text() == "Moving carrier, wheel\t11 L\t0.9\t9.90\ttypical"


def test_a_page_that_is_not_looked_at_is_not_computed(page, window):
    window.show_stage("water")
    before = page.told.said
    window.workspace.edit(set_value("x", ("devices", "sump", "height"), 0.43))
    assert page.told.said is before
    assert "build-room" not in window.workspace.analysis.answers.more
    window.show_stage("build")
    page.list.choose("sump.long")
    assert ("Width", "421 mm") in page.told.said.rows


def test_a_workshop_that_is_shut_hears_no_refusal_any_more(window, qtbot, monkeypatch):
    raised = []
    monkeypatch.setattr(sys, "excepthook", lambda kind, fault, trace: raised.append(fault))
    page = window.page("build")
    dialog = ShopDialog(window.workspace, page)
    window.workspace.session.edit(set_value("Warmest room", ("space", "air"), 900.0))
    assert "Air" in dialog.error.text() or "must be" in dialog.error.text()
    delete(dialog)
    assert not window.workspace.edit(set_value("Warmest room", ("space", "air"), 900.0))
    assert raised == []
