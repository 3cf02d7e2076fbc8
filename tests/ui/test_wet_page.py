"""The wet test driven by hand: break two things, scrub back, read the verdict, write down what was measured."""

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest
from ui_hands import type_into

from devices_of import sumps
from fuente.document.record import Entry
from fuente.document.system import set_value
from fuente.ui.fields import QuantityEdit
from fuente.ui.section_view import SectionView
from fuente.ui.wet_page import clock


@pytest.fixture
def page(window, qtbot):
    """The Wet test with its first run done."""
    window.show_stage("wet")
    made = window.page("wet")
    qtbot.waitUntil(lambda: made.test is not None, timeout=20000)
    return made


def wait(qtbot, page):
    qtbot.waitUntil(lambda: page._job is None and page.test is not None, timeout=30000)


def surface(page, owner):
    return next(
        s for s in page.view.drawing().shapes if getattr(s, "style", "") == "surface" and s.owner == owner
    ).points[0][1]


def test_break_two_things_scrub_back_and_read(page, qtbot):
    assert page.breaks.chips["power-cut"].isChecked()  # what is shown first
    page.seek(60)
    QTest.mouseClick(page.breaks.chips["check-valve-leak"], Qt.MouseButton.LeftButton)
    wait(qtbot, page)
    assert [(f.kind, f.time) for f in sorted(page.breaks.faults, key=lambda f: f.time)] == [
        ("power-cut", 30.0),
        ("check-valve-leak", 60),
    ]
    page.seek(page.until)
    late = surface(page, "sump.pump")
    assert "Check valve leaks" in page.caption.text() or "check valve leaks 1:00" in page.caption.text()
    page.seek(0)
    assert surface(page, "sump.pump") < late - 60
    assert "nothing broken yet" in page.caption.text()
    assert page.tiles[0][0].text().endswith("mm")
    assert page.tiles[1][0].text() == "0 L"
    assert "left in the sump" in page.caption.text()
    QTest.mouseClick(page.breaks.chips["check-valve-leak"], Qt.MouseButton.LeftButton)
    wait(qtbot, page)
    assert len(page.breaks.faults) == 1


def test_a_fault_s_moment_and_number_are_typed(page, qtbot):
    QTest.mouseClick(page.breaks.chips["pump-wear"], Qt.MouseButton.LeftButton)
    wait(qtbot, page)
    moment = next(e for e in page.findChildren(QuantityEdit) if e.accessibleName() == "Pump wears happens at")
    type_into(moment, "2 min")
    wait(qtbot, page)
    assert next(f for f in page.breaks.faults if f.kind == "pump-wear").time == 120


def test_a_share_is_typed_and_shown_in_per_cent(page, qtbot):
    said = []
    page.breaks.said.connect(said.append)
    QTest.mouseClick(page.breaks.chips["check-valve-leak"], Qt.MouseButton.LeftButton)
    wait(qtbot, page)

    def share():
        return next(e for e in page.findChildren(QuantityEdit) if e.accessibleName() == "share of the free back-flow")

    def leaks():
        return next(f.value for f in page.breaks.faults if f.kind == "check-valve-leak")

    assert share().text() == "100 %"
    type_into(share(), "40 %")
    wait(qtbot, page)
    assert leaks() == pytest.approx(0.4)
    assert share().text() == "40 %"
    type_into(share(), "150")
    assert leaks() == pytest.approx(0.4)
    assert said[-1].endswith("and, share of the free back-flow, from 0 to 100 %.")


def test_play_moves_and_stops_at_the_end(page, qtbot):
    page.set_length(300.0)
    wait(qtbot, page)
    page.speed.setCurrentIndex(4)
    page.seek(290)
    QTest.keyClick(page, Qt.Key.Key_Space)
    qtbot.waitUntil(lambda: not page.timer.isActive(), timeout=5000)
    assert page.time == pytest.approx(300.0)
    assert page.play.text() == "Play"
    assert page.now.text() == "5:00"


def test_trials_expect_and_a_measurement_is_kept(page, window, qtbot):
    QTest.mouseClick(page.trials.run_all, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: bool(page.trials.results), timeout=60000)
    first = page.trials.results[0]
    edit = page.trials.grid.itemAtPosition(1, 2).widget()
    type_into(edit, "59 mm")
    kept = window.workspace.record.entries
    assert [(m.what, m.value) for m in kept] == [(first.trial.id, pytest.approx(0.059))]
    assert kept[0].expected == first.expected
    assert "within reason" in page.trials.grid.itemAtPosition(1, 3).widget().text()
    # It is no decision: undo goes through the design only. A later value stands for it, both can be read.
    assert window.workspace.history.undo_name != "Write down a measurement"
    type_into(page.trials.grid.itemAtPosition(1, 2).widget(), "12 mm")
    words = page.trials.grid.itemAtPosition(1, 3).widget()
    assert "look again" in words.text()
    assert "59 mm" in words.toolTip()
    assert "12 mm" in words.toolTip()
    assert len(window.workspace.record.entries) == 2
    assert window.workspace.session.dirty


def test_what_was_measured_of_an_earlier_design_says_so(page, window, qtbot):
    QTest.mouseClick(page.trials.run_all, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: bool(page.trials.results), timeout=60000)
    was = page.trials.results[0]
    today = Entry(date="2026-01-05", what=was.trial.id, value=was.expected, expected=was.expected + 0.02)
    window.workspace.write_down(today)
    page.trials.refresh()
    assert page.trials.grid.itemAtPosition(1, 3).widget().text() == "of an earlier design, 2026-01-05"


def test_a_changed_design_is_run_again(page, window, qtbot):
    from fuente.document.system import set_value

    before = page.test.sump_margin
    window.workspace.edit(set_value("Raise level", ("devices", "sump", "chambers", 4, "level"), 0.24))
    qtbot.waitUntil(lambda: page._job is None and page.test.sump_margin < before - 0.001, timeout=30000)


def test_clock():
    assert (clock(84), clock(3750)) == ("1:24", "1:02:30")


def test_the_caption_speaks_of_the_moment(page):
    test, analysis = page.test, page._analysis
    rim = {c: analysis.network.cell(c).rim for c in analysis.filter_cells()}
    for time in (0.0, 45.0, page.until):
        page.seek(time)
        left = min(rim[c] - test.history.at(time)[c] for c in rim)
        assert f"{left * 1e3:.0f} mm left in the sump now" in page.caption.text()


def test_a_spill_is_told_from_when_it_runs(page, window, qtbot):
    top = ("devices", "sump", "height")
    window.workspace.edit(set_value("Lower walls", top, sumps(window.workspace.system)[0].height - 0.05))
    wait(qtbot, page)
    assert page.test.spilled > 1e-3
    page.seek(0)
    assert "floor" not in page.caption.text()
    page.seek(page.until)
    assert f"{page.test.spilled * 1e3:.3g} L on the floor so far" in page.caption.text()


def test_a_design_that_runs_no_more_shows_no_old_figures(page, window, qtbot):
    assert page.chart.curves
    assert window.workspace.edit(set_value("Weak pump", ("devices", "return", "pump", "max_head"), 0.3))
    qtbot.waitUntil(lambda: page._job is None, timeout=30000)
    assert page.test is None
    assert page.error.isVisible()
    assert [value.text() for value, _ in page.tiles] == ["…"] * 3
    assert page.caption.text() == "This design does not run."
    assert not page.chart.curves
    window.workspace.undo()
    wait(qtbot, page)
    assert page.chart.curves
    assert page.tiles[0][0].text().endswith("mm")


@pytest.mark.parametrize("change", ["switch_theme", "zoom", "switch_units"])
def test_looks_change_nothing_else(page, window, change):
    page.trials.run_now()
    page.seek(61)
    test, results, faults = page.test, page.trials.results, list(page.breaks.faults)
    getattr(window, change)(*((1,) if change == "zoom" else ()))
    after = window.page("wet")
    assert (after is page) == (change == "switch_units")
    assert after.test is test
    assert after.trials.results == results
    assert after.breaks.faults == faults
    assert after.time == 61
    assert ("in left" in after.caption.text()) == (change == "switch_units")
    if change == "switch_units":
        assert after.trials.grid.itemAtPosition(1, 1).widget().text().count(" in in ") == 1


def test_units_changed_elsewhere_keep_the_run_too(page, window):
    page.trials.run_now()
    test = page.test
    window.show_stage("build")
    window.switch_units()
    window.show_stage("wet")
    assert page.test is test
    assert page._job is None
    assert page.trials.results
    assert " in left" in page.caption.text()


def test_trials_tell_how_far_they_are_and_can_be_stopped(page, qtbot):
    page.trials.start()
    page.trials._came(0.5)
    assert page.trials.run_all.text() == "Stop, 50% done"
    QTest.mouseClick(page.trials.run_all, Qt.MouseButton.LeftButton)
    assert page.trials.run_all.text() == "Run all trials"
    qtbot.wait(50)
    assert not page.trials.results


def test_a_section_that_shows_nothing_yet_can_be_pressed_and_zoomed(window):
    """The wet test's section is empty until its first run is there."""
    view = SectionView(window)
    view.resize(500, 400)
    view.show()
    picked = []
    view.picked.connect(picked.append)
    assert view.drawing().shapes == ()
    assert view.drawing().bounds() == (0.0, 0.0, 0.0, 0.0)
    QTest.mouseClick(view, Qt.MouseButton.LeftButton, pos=QPoint(200, 150))
    QTest.mouseDClick(view, Qt.MouseButton.LeftButton, pos=QPoint(200, 150))
    QTest.mouseMove(view, QPoint(220, 150))
    view.zoom_by(2.0)
    view.look_at("tank")
    view.grab()
    assert picked in ([], [""], ["", ""])
