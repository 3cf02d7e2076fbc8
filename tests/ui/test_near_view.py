"""A long chain is shown twice: all of it, and the chosen station closely; what fills its room is shown once."""

from __future__ import annotations

import pytest
from PySide6.QtCore import QPoint, Qt
from PySide6.QtTest import QTest

from fuente.demo.trough import trough


@pytest.fixture
def page(window, qtbot):
    window.resize(1280, 800)
    window.set_document(trough(), None)
    window.show_stage("water")
    qtbot.waitExposed(window)
    return window.page("water")


def scale(view):
    return 1 / view.scale_ratio()


def test_a_tank_over_its_sump_is_shown_once(window):
    both = window.page("water").both
    assert not both.near.isVisible()
    assert both.view.height() == both.height()


def test_a_long_chain_is_shown_whole_and_closely(page):
    both = page.both
    assert both.near.isVisible()
    assert both.view.height() + both.near.height() == both.height() - 1
    x0, y0, x1, y1 = both.view.drawing().bounds()
    for corner in ((x0, y0), (x1, y1)):  # nothing of the whole is cut
        assert both.view.rect().contains(both.view.to_screen(corner).toPoint())
    assert scale(both.near) > 1.5 * scale(both.view)


def test_the_near_one_goes_with_the_chosen_station(page, window):
    seen = {}
    for station in window.workspace.stations:
        window.workspace.select(station.id)
        box = page.both.near.box_of(station.id) or page.both.near.box_of(station.owner)
        middle = page.both.near.to_screen(((box[0] + box[2]) / 2, (box[1] + box[3]) / 2))
        assert page.both.near.rect().contains(middle.toPoint()), station.name
        assert page.both.near.what == station.name
        seen[station.id] = round(box[0])
    assert len(set(seen.values())) > 3


def test_a_station_is_seen_with_all_its_parts_and_never_too_close(page, window):
    near, work = page.both.near, window.workspace
    drums = next(s for s in work.stations if s.name == "Two drums")
    work.select(drums.id)
    parts = [s for s in work.stations if s.name.startswith("Drum ")]
    whole = near.box_of(drums.id)
    for each in parts:
        x0, _, x1, _ = near.box_of(each.id)
        assert whole[0] <= x0 < x1 <= whole[2]
    for station in work.stations:
        work.select(station.id)
        assert near.scale_ratio() > 5  # a pipe of 50 mm does not fill the view


def test_where_it_was_moved_to_stays_until_another_station(page, window):
    near = page.both.near
    near.zoom_by(1.5)
    zoom = near.zoom
    page.refresh()
    assert near.zoom == zoom
    window.workspace.select(window.workspace.stations[-1].id)
    assert near.zoom != zoom


def test_a_handle_of_the_near_one_is_dragged(page, window):
    near, work = page.both.near, window.workspace
    work.select(next(s.id for s in work.stations if s.name == "Sieve"))
    index, handle = next(
        (i, h) for i, h in enumerate(near.drawing().handles) if h.owner.startswith("sieve") and h.axis == "y"
    )
    at = near.to_screen(handle.at).toPoint()
    assert near.handle_at(near.to_screen(handle.at)) == index
    QTest.mousePress(near, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
    QTest.mouseMove(near, at + QPoint(0, -9))
    QTest.mouseRelease(near, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at + QPoint(0, -9))
    assert handle.verb.split()[0].lower() in work.history.undo_name.lower()
    moved = next(h for h in page.view.drawing().handles if h.path == handle.path)
    assert moved.value != handle.value
    assert near.drawing() is page.view.drawing()


def test_in_a_low_window_all_of_it_has_the_room(page, window):
    window.resize(1024, 620)
    assert not page.both.near.isVisible()
    assert page.view.height() == page.both.height()


def test_the_plan_has_no_second_view_of_a_section(page, window):
    page.switch_plan()
    assert page.both.near.drawing() is page.view.drawing()
    assert not page.both.near.editable
    page.switch_plan()
    assert page.both.near.editable


def test_in_another_room_the_near_one_fills_it_unless_hands_have_moved_it(page, window, qtbot):
    near, work = page.both.near, window.workspace
    drums = next(s for s in work.stations if s.name == "Two drums")
    work.select(drums.id)

    def fills():
        x0, y0, x1, y1 = near.box_of(drums.id)
        per_mm = near.to_screen((1000.0, 0.0)).x() - near.to_screen((0.0, 0.0)).x()
        return max((x1 - x0) * per_mm / 1000 / near.width(), (y1 - y0) * per_mm / 1000 / near.height())

    assert fills() == pytest.approx(0.7, abs=0.01)
    height = near.height()
    window.resize(1280, 1000)
    qtbot.waitUntil(lambda: near.height() > height + 40)
    assert fills() == pytest.approx(0.7, abs=0.01)
    near.zoom_by(1.3)
    by_hand = near.looks_at
    window.resize(1280, 860)
    qtbot.waitUntil(lambda: near.height() < height + 140)
    assert near.looks_at == by_hand
