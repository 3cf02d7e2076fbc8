"""A rack in the window: entered, looked at, balanced by hand and at once, broken and read."""

import numpy as np
import pytest
from PySide6.QtCore import QPointF, Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QLineEdit
from ui_hands import point, type_into

from amounts import LPH
from devices_of import manifolds, top_ups
from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.devices.base import Change, Edit
from fuente.document.system import apply, set_value
from fuente.study import known
from fuente.study.situation import Situation


@pytest.fixture
def rack_window(window):
    """The back room, its running state only."""
    window.set_document(back_room(), None)
    window.workspace.session._stop_check()
    return window


@pytest.fixture
def judged(window):
    """The back room with every situation and finding."""
    window.set_document(back_room(), None)
    window.workspace.check_now()
    return window


def tank_spot(view, window, tank_id):
    tank = window.workspace.system.tank(tank_id)
    x = (tank.offset + tank.length * 0.6) * 1000
    return view.to_screen((x, (tank.floor + 0.08) * 1000))


def title(page):
    return page.card.findChild(QLabel, "heading").text()


def handle_of(view, words):
    return next(i for i, h in enumerate(view.drawing().handles) if words in h.name)


def test_a_rack_of_four_by_six_in_under_a_dozen_actions(window, qtbot):
    actions = 0

    def act(*_):
        nonlocal actions
        actions += 1

    window.enter_rack()
    act()
    form = window.page("brief").right.widget()
    for field, typed in (("rows", "4"), ("columns", "6"), ("sizes", "600x300x300"), ("turnover", "3")):
        type_into(form.fields[field], typed)
        act()
    assert "24 tanks" in form.summary.text()
    form.take.click()
    act()
    assert actions < 12
    system = window.workspace.system
    assert len(system.tanks) == 24
    assert window.stage == "water"
    assert window.workspace.history.undo_name == "Add rack of 4 × 6"
    window.workspace.undo()
    assert len(window.workspace.system.tanks) == 1


def test_what_cannot_stand_is_said_and_not_taken(window):
    window.enter_rack()
    form = window.page("brief").right.widget()
    type_into(form.fields["pitch"], "200 mm")
    assert "leave no hand" in form.summary.text()
    assert not form.take.isEnabled()
    type_into(form.fields["pitch"], "18 in")
    assert form.take.isEnabled()


def test_a_click_on_a_tank_opens_its_card(rack_window):
    page = rack_window.page("water")
    QTest.mouseClick(page.view, Qt.MouseButton.LeftButton, pos=point(tank_spot(page.view, rack_window, "rack-3-2")))
    assert rack_window.workspace.selected == "rack-3-2"
    assert title(page) == "C2"
    names = [page.list.item(i).text() for i in range(page.list.count())]
    assert names[0].startswith("Rack of 24 tanks: ")
    assert names[1].startswith("C2: ")
    QTest.mouseClick(page.view, Qt.MouseButton.LeftButton, pos=point(tank_spot(page.view, rack_window, "rack-1-4")))
    assert title(page) == "A4"
    assert page.list.count() == len(names)


def test_a_valve_is_turned_on_the_drawing(rack_window):
    page = rack_window.page("water")
    work = rack_window.workspace
    before = work.analysis.supply(work.analysis.running, "rack-1-1")
    index = handle_of(page.view, "valve of A1")
    spot = page.view.to_screen(page.view.drawing().handles[index].at)
    QTest.mousePress(page.view, Qt.MouseButton.LeftButton, pos=point(spot))
    QTest.mouseMove(page.view, point(QPointF(spot.x(), spot.y() + 10)))
    QTest.mouseRelease(page.view, Qt.MouseButton.LeftButton, pos=point(QPointF(spot.x(), spot.y() + 10)))
    branch = manifolds(work.system)[0].rows[0].branches[0]
    assert branch.angle > 55
    assert work.analysis.supply(work.analysis.running, "rack-1-1") < 0.8 * before
    assert work.history.undo_name == "Close valve of A1"
    assert work.selected == "rack-1-1"


def test_arrow_keys_turn_a_valve_a_degree(rack_window):
    page = rack_window.page("water")
    page.view.setFocus()
    page.view._focus = handle_of(page.view, "valve of B3")
    QTest.keyClick(page.view, Qt.Key.Key_Down, Qt.KeyboardModifier.ControlModifier)
    assert manifolds(rack_window.workspace.system)[0].rows[1].branches[2].angle == pytest.approx(51.0)
    QTest.keyClick(page.view, Qt.Key.Key_Up, Qt.KeyboardModifier.ControlModifier | Qt.KeyboardModifier.ShiftModifier)
    assert manifolds(rack_window.workspace.system)[0].rows[1].branches[2].angle == pytest.approx(41.0)


def test_all_valves_are_set_with_one_press(judged, qtbot):
    page = judged.page("water")
    work = judged.workspace
    row = next(r for r in page.findings.rows if r.finding.code == "balance")
    assert row.action.text() == "Balance valves"
    row.action.click()
    analysis = work.analysis
    turns = [analysis.supply(analysis.running, t.id) / analysis.running.volume[t.id] * 3600 for t in work.system.tanks]
    assert min(turns) > 2.85
    assert max(turns) < 3.2
    assert work.history.undo_name == "Balance valves"
    # What the remedy was tried by is known; the rest is solved aside, and what was found is judged again.
    assert work.checking
    assert "checking" in page.findings.head.text()
    assert "left" in page.strip.buttons["power_cut"].verdict
    qtbot.waitUntil(lambda: not work.checking, timeout=60_000)
    assert "balance" not in {f.code for f in work.findings}
    assert "left" in page.strip.buttons["power_cut"].verdict
    assert isinstance(work.analysis.peek("drain_blocked"), Situation)


def test_what_an_edit_brings_is_solved_aside_and_said_to_be(judged, qtbot):
    page, work = judged.page("water"), judged.workspace
    known.forget()  # whatever another test has solved
    work.edit(set_value("Turn", ("devices", manifolds(work.system)[0].id, "rows", 0, "branches", 0, "angle"), 61.0))
    assert page.strip.buttons["power_cut"].verdict == "solving …"
    qtbot.waitUntil(lambda: not work.checking, timeout=60_000)
    assert "left" in page.strip.buttons["power_cut"].verdict


def test_a_new_edit_drops_the_check_under_way(judged, qtbot):
    work = judged.workspace
    row = next(r for r in judged.page("water").findings.rows if r.finding.code == "balance")
    row.action.click()
    work.check_timer.stop()
    work._check()
    job = work._job
    work.undo()
    assert job.stopped
    qtbot.waitUntil(lambda: not work.checking, timeout=60_000)
    assert work.analysis.system == work.system
    assert "balance" in {f.code for f in work.findings}


def test_a_switch_of_situation_stills_every_tank(judged):
    page = judged.page("water")
    page.strip.buttons["power_cut"].click()
    labels = [s.text for s in page.view.drawing().shapes if getattr(s, "style", "") == "label-share"]
    assert labels == ["still"] * 24
    assert "Power cut" in page.view._caption


def test_break_two_things_in_a_rack_scrub_back_and_read(rack_window):
    rack_window.show_stage("wet")
    page = rack_window.page("wet")
    page.set_length(300.0)
    page.show_faults([])
    page.seek(30.0)
    page.breaks.chips["power-cut"].click()
    page.seek(120.0)
    page.breaks.chips["power-return"].click()
    page.seek(130.0)
    page.breaks.chips["tank-drain-block"].click()
    page.run_now()
    assert [f.time for f in page.test.faults] == [30, 120, 130]
    page.seek(20.0)
    shares = [s for s in page.view.drawing().shapes if getattr(s, "style", "") == "label-share"]
    running = sum(dict(s.values)["flow"] for s in shares)
    assert running > 1000 * LPH
    page.seek(100.0)  # what still moves runs over the manifold from high tanks into low ones
    shares = [s for s in page.view.drawing().shapes if getattr(s, "style", "") == "label-share"]
    assert sum(abs(dict(s.values)["flow"]) for s in shares) < 0.1 * running
    assert len(page.chart.curves) == 1 + 2
    x, y = page.chart.others.getData()
    assert np.isnan(y).sum() == np.isnan(x).sum() == 24 - 1  # a gap behind each of the other tanks
    rim, history = page._analysis.network.cell("rack-2-3").rim, page.test.history
    drawn = np.split(y, np.flatnonzero(np.isnan(y)))
    levels = (rim - history.level("rack-2-3")) / 1e-3
    assert any(len(d) > 1 and np.allclose(d[~np.isnan(d)], levels) for d in drawn)
    assert page.breaks.chips["float-open"].isHidden()
    assert not page.breaks.chips["header-block"].isHidden()
    assert page.tiles[0][0].text().endswith("mm")


def test_the_cascade_adds_and_drops_by_its_menus(window, qtbot):
    window.set_document(cascade(), None)
    work = window.workspace
    work.select("return")
    names = [name for name, _ in work.station().commands()]
    assert names[:2] == ["Balance valves", "Add a pump beside it"]
    work.edit(dict(work.station().commands())["Add a chiller loop"])
    assert len(manifolds(work.system)[0].loops) == 2
    assert any(s.name == "Chiller loop" for s in work.stations)
    work.select("top-up")
    work.edit(dict(work.station().commands())["Take it out"])
    assert top_ups(work.system) == ()
    work.select("return")
    work.edit(dict(work.station().commands())["Add a top-up"])
    assert len(top_ups(work.system)) == 1


def test_the_brief_follows_a_tank_that_gave_place_to_another(window, demo):
    """One tank before and after, under another name: the form is that of the new one."""
    window.show_stage("brief")
    form = window.page("brief").form
    bare = apply(demo, Edit("Bare", (Change(("devices",), demo.tanks[:1]),)))
    other = demo.tanks[0].model_copy(update={"id": "other", "name": "Other", "length": 0.9})
    window.workspace.edit(Edit("Bare", (Change(("devices",), bare.devices),)))
    window.workspace.edit(Edit("Another", (Change(("devices",), (other,)),)))
    assert form.tank == 0
    assert window.workspace.system.tanks[0].id == "other"
    assert any(f.text().startswith("900 × 600") for f in form.findChildren(QLineEdit))
