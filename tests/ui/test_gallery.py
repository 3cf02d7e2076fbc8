"""From the gallery to findings, by hand, for every kind; many tanks at once; media and load; schools."""

from __future__ import annotations

import os
import shutil
import subprocess
import sys
import textwrap
import time

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QLabel, QLineEdit
from ui_hands import drag, type_into

from devices_of import FILTERS, air_supplies
from fuente.demo.nursery import nursery
from fuente.demo.trough import trough
from fuente.devices import kind_of
from fuente.devices.base import Rank
from fuente.devices.tank.spec import Tank
from fuente.document.files import load
from fuente.document.system import System, apply
from fuente.ui.gallery import Gallery
from fuente.ui.load_table import COLUMNS
from fuente.ui.own_media import OwnMediumDialog

DAY = 86400.0
CLICK = Qt.MouseButton.LeftButton


@pytest.fixture
def bare(window):
    """A window with one tank and nothing in it."""
    window.set_document(System(devices=(Tank(length=1.0, width=0.45, height=0.5, stand=0.85, feed=2e-3 / DAY),)), None)
    return window


def add(window, kind, many=False):
    """Open the gallery, press the picture of a kind, take it."""
    gallery = Gallery(window.workspace, window.workspace.tank_in_view(), window)
    gallery.show()
    tile = next(t for t in gallery.tiles if t.kind.id == kind)
    QTest.mouseClick(tile, CLICK)
    assert kind_of(tile.spec).name in tile.accessibleName()
    if many:
        gallery.many.setChecked(True)
    QTest.mouseClick(gallery.add, CLICK)
    return window.workspace.system.filters


@pytest.mark.parametrize("kind", FILTERS)
def test_from_gallery_to_findings(bare, kind, qtbot):
    """Added by its picture; its row, card and drawing are there; a handle moves it; dirt is found and mended; undone
    whole.
    """
    filters = add(bare, kind)
    assert [f.kind for f in filters] == [kind]
    w, page = bare.workspace, bare.page("water")
    key = filters[0].id
    assert w.selected == key
    assert any(s.id == key for s in w.stations)
    assert page.card.findChild(QLabel, "heading").text() == filters[0].name
    assert not [f for f in w.findings if f.rank is Rank.STOP]
    view = page.view
    paths = [h.path for h in view.drawing().handles if h.path[:2] == w.system.filters[0].path]
    moved = []
    for path in paths:  # some have no room to go that way; the window says so and keeps what was
        grip = next(h for h in view.drawing().handles if h.path == path)
        drag(view, grip, *((0, -6) if grip.axis == "y" else (6, 0)))
        if w.system.filters[0] != filters[0]:
            moved.append(path)
            w.undo()
        assert w.system.filters[0] == filters[0]
    assert moved, "no handle of it moves"
    if hasattr(filters[0], "dirt"):
        from fuente.document.system import set_value

        clean = {f.code for f in w.findings}
        assert w.edit(set_value("Let it clog", (*w.system.filters[0].path, "dirt"), 400.0))
        w.check_now()
        worse = [f for f in w.findings if f.code not in clean]
        assert worse, "four hundred times its clean loss, and nothing said"
        row = next(r for r in page.findings.rows if r.finding.code == "filter-dirty")
        QTest.mouseClick(row.action, CLICK)
        assert w.system.filters[0].dirt == 1.0
        w.undo()
        w.undo()
    for name in w.analysis.names():
        w.show(name)
        assert any(getattr(s, "owner", "").partition(".")[0] == key for s in view.drawing().shapes)
    while w.history.undo_name:
        w.undo()
    assert not w.system.filters
    assert not air_supplies(w.system)


def test_pictures_follow_and_a_kind_without_room_says_why(window, qtbot):
    gallery = Gallery(window.workspace, "tank", window)
    gallery.show()
    qtbot.waitUntil(
        lambda: all(t.drawing is not None or t.failed or not hasattr(t.spec, "kind") for t in gallery.tiles),
        timeout=8000,
    )
    assert len(gallery.tiles) == len(FILTERS)
    for tile in gallery.tiles:
        QTest.mouseClick(tile, CLICK)
        assert len(gallery.said.text()) > 20
    gallery.reject()


def test_the_gallery_by_keyboard(bare):
    gallery = Gallery(bare.workspace, "tank", bare)
    gallery.show()
    gallery.tiles[0].setFocus()
    QTest.keyClick(gallery.tiles[0], Qt.Key.Key_Right)
    assert gallery.chosen is gallery.tiles[1]
    QTest.keyClick(gallery.tiles[1], Qt.Key.Key_Return)
    assert [f.kind for f in bare.workspace.system.filters] == [gallery.tiles[1].kind.id]


@pytest.fixture
def towered(bare):
    """A tank with a trickle tower."""
    (tower,) = add(bare, "trickle_tower")
    return bare, tower


def picked(window, kind):
    gallery = Gallery(window.workspace, window.workspace.tank_in_view(), window)
    gallery.show()
    QTest.mouseClick(next(t for t in gallery.tiles if t.kind.id == kind), CLICK)
    return gallery


def choose(box, words):
    """As a hand does: open the list, take the line."""
    at = box.findText(words)
    assert at >= 0, [box.itemText(i) for i in range(box.count())]
    box.setCurrentIndex(at)
    box.activated.emit(at)


def test_a_second_filter_goes_after_the_first_unless_told_otherwise(towered):
    window, tower = towered
    gallery = picked(window, "sock")
    lines = [gallery.order.itemText(i) for i in range(gallery.order.count())]
    assert lines == ["After trickle tower", "Before trickle tower", "Beside them, on its own"]
    assert gallery.order.currentText() == lines[0]
    gallery.promise_now("sock")
    assert "It brings" in gallery.said.text()
    QTest.mouseClick(gallery.add, CLICK)
    made = window.workspace.system
    sock = next(f for f in made.filters if f.kind == "sock")
    assert made.filter(tower.id).drain.into == sock.id
    assert sock.feed.way == "fed"
    assert window.workspace.history.undo_name == "Add socks after trickle tower"
    window.workspace.undo()
    assert window.workspace.system.filters == (tower,)


@pytest.mark.parametrize("line", ["Before trickle tower", "Beside them, on its own"])
def test_or_before_it_or_beside_it(towered, line):
    window, tower = towered
    gallery = picked(window, "sock")
    choose(gallery.order, line)
    QTest.mouseClick(gallery.add, CLICK)
    made = window.workspace.system
    sock = next(f for f in made.filters if f.kind == "sock")
    if line.startswith("Before"):
        assert sock.drain.into == tower.id
        assert made.filter(tower.id).feed.way == "fed"
    else:
        assert (sock.drain.into, sock.feed.way) == ("tank", "pump")
        assert made.filter(tower.id) == tower


def test_what_fits_no_row_is_offered_beside_it_with_the_reason(window, qtbot):
    window.set_document(trough(), None)
    before = window.workspace.system
    gallery = picked(window, "sock")
    choose(gallery.order, "Before sieve")
    QTest.mouseClick(gallery.add, CLICK)
    said = gallery.said.text()
    assert said.startswith("Socks does not fit before sieve here: With sieve stopped 717 L run onto the floor.")
    assert window.workspace.system == before
    assert gallery.order.currentText() == "Beside them, on its own"
    QTest.mouseClick(gallery.add, CLICK)
    assert len(window.workspace.system.filters) == len(before.filters) + 1


def test_closing_the_gallery_ends_what_it_works_out(towered):
    window, _ = towered
    gallery = picked(window, "sock")
    gallery._ask()
    job = gallery._job
    assert not job.stopped
    gallery.reject()
    assert job.stopped


def test_what_hangs_in_the_tank_or_is_swapped_asks_for_no_place(towered):
    window, tower = towered
    gallery = picked(window, "sponge")
    assert not gallery.order.isVisibleTo(gallery)
    gallery.reject()
    gallery = Gallery(window.workspace, "tank", window, swap=tower.id)
    gallery.show()
    QTest.mouseClick(next(t for t in gallery.tiles if t.kind.id == "sock"), CLICK)
    assert not gallery.order.isVisibleTo(gallery)
    gallery.reject()


def test_a_promise_is_of_the_place_that_is_shown(towered, qtbot):
    window, _ = towered
    gallery = picked(window, "sock")
    gallery.promise_now("sock")
    after = gallery.said.text()
    choose(gallery.order, "Beside them, on its own")
    assert "It brings" not in gallery.said.text()  # of this place nothing is known yet
    gallery.promise_now("sock")
    beside = gallery.said.text()
    assert "It brings" in beside
    assert beside != after
    choose(gallery.order, "After trickle tower")
    assert gallery.said.text() == after
    gallery.reject()


def test_one_kind_into_eight_tubs_with_its_air(window):
    """Duplicated on one press: filters and drops for all, one undo."""
    window.set_document(nursery(), None)
    before = window.workspace.system
    made = add(window, "under_gravel", many=True)
    assert len(made) == len(before.filters) + 8
    assert (
        sum(len(a.drops) for a in air_supplies(window.workspace.system))
        == sum(len(a.drops) for a in air_supplies(before)) + 8
    )
    window.workspace.undo()
    assert window.workspace.system == before


def test_duplicated_to_tanks_of_your_choice(window, monkeypatch):
    """From the card's menu: ticks are kept from tanks that have one; the rest get it with its air."""
    from fuente.ui.tank_picker import TankPicker

    window.set_document(nursery(), None)
    add(window, "foam_wall")
    spec = window.workspace.system.filters[-1]
    before = window.workspace.system
    page = window.page("water")
    page.card.commands_button.click()
    entry = next(a for a in page.card.menu.actions() if "of your choice" in a.text())

    def pick(picker):
        assert len(picker.tanks()) == 7
        picker._all(Qt.CheckState.Unchecked)
        assert not picker.go.isEnabled()
        picker.list.item(1).setCheckState(Qt.CheckState.Checked)
        picker.list.item(4).setCheckState(Qt.CheckState.Checked)
        assert picker.go.text() == "Duplicate to 2 tanks"
        QTest.mouseClick(picker.go, CLICK)
        return picker.result()

    monkeypatch.setattr(TankPicker, "exec", pick)
    entry.trigger()
    page.card.menu.close()
    made = [f for f in window.workspace.system.filters if f.kind == "foam_wall"]
    assert len(made) == 3
    assert len({f.tank for f in made}) == 3
    assert all(
        f.model_copy(update={"id": "x", "tank": "x"}) == spec.model_copy(update={"id": "x", "tank": "x"}) for f in made
    )
    window.workspace.undo()
    assert window.workspace.system == before


def test_the_nursery_s_open_valve_is_found_and_set(window):
    window.set_document(nursery(), None)
    w = window.workspace
    w.check_now()
    found = next(f for f in w.findings if f.action == "Balance air valves")
    page = window.page("water")
    row = next(r for r in page.findings.rows if r.finding.code == found.code)
    QTest.mouseClick(row.action, CLICK)
    w.check_now()
    assert not [f for f in w.findings if f.code == found.code]


def test_feed_is_typed_in_the_table_and_the_surface_follows(window):
    page = window.page("media")
    window.show_stage("media")
    page.view("load")
    column = [c[0] for c in COLUMNS].index("Feed")
    write(page, column, "9 g/day")
    assert window.workspace.system.tanks[0].feed * DAY == pytest.approx(9e-3)
    assert "Feed" not in page.error.text()
    wants = page.load_table.words(7)[0]
    write(page, column, "18 g")  # a weight is no feed
    assert page.error.isVisible()
    assert window.workspace.system.tanks[0].feed * DAY == pytest.approx(9e-3)
    write(page, column, "18 g/day")
    assert page.load_table.words(7)[0] != wants
    assert window.workspace.history.undo_name.endswith("feed")


def write(page, column, words):
    """Into the first tank's line, as a builder does: F2, the words, Return."""
    table = page.load_table
    index = table.model().index(0, column)
    table.setCurrentIndex(index)
    table.edit(index)
    editor = table.findChildren(QLineEdit)[-1]
    editor.setText(words)
    QTest.keyClick(editor, Qt.Key.Key_Return)
    QTest.qWait(1)  # Qt takes what was typed a moment later


def test_stock_by_number_and_length_makes_the_feed(window):
    page = window.page("media")
    window.show_stage("media")
    page.view("load")
    write(page, 4, "0")
    write(page, 1, "100")
    write(page, 2, "40 mm")
    tank = window.workspace.system.tanks[0]
    assert tank.fed * DAY == pytest.approx(100 * 12.5 * 0.04**3 * 0.015)
    assert page.load_table.words(4)[0] == "1.2 g/day"


def test_a_line_keeps_its_column_that_is_not_typed(window):
    page = window.page("media")
    window.show_stage("media")
    page.view("load")
    table = page.load_table
    assert not table.model().flags(table.model().index(0, 7)) & Qt.ItemFlag.ItemIsEditable
    assert not table.model().setData(table.model().index(0, 7), "3 m2")
    before = window.workspace.system
    assert not table.model().setData(table.model().index(0, 4), table.words(4)[0])  # nothing new was typed
    assert window.workspace.system is before


def test_media_are_sorted_compared_and_added(window, qtbot, monkeypatch):
    page = window.page("media")
    window.show_stage("media")
    page.view("load")
    table = page.media_table
    table.sortByColumn(2, Qt.SortOrder.DescendingOrder)
    assert table.words(0)[0] == "Sintered glass"
    type_into(page.lift, "0.5 kg")
    assert max(int(n) for n in table.words(7)) > 1

    def fill(dialog):
        type_into(dialog.fields["name"], "Lava from the quarry")
        type_into(dialog.fields["surface"], "380")
        type_into(dialog.fields["cost"], "0.15")
        dialog.accept()
        return dialog.result()

    monkeypatch.setattr(OwnMediumDialog, "exec", fill)
    QTest.mouseClick(page.add, CLICK)
    own = window.workspace.system.media[0]
    assert (own.name, own.surface, own.cost) == ("Lava from the quarry", 380.0, 0.15)
    assert table.choose(own.id)
    assert page.change.isEnabled()
    assert page.remove.isEnabled()
    QTest.mouseClick(page.remove, CLICK)
    assert not window.workspace.system.media
    window.workspace.undo()
    assert window.workspace.system.media == (own,)


def test_own_media_wait_for_the_next_design(window, demo):
    """Kept beside the settings: another design can choose it, and takes its figures along; forgotten, designs keep
    theirs.
    """
    from fuente.document.media import OwnMedium
    from fuente.document.system import set_value
    from fuente.session import own_library

    page = window.page("media")
    lava = OwnMedium(name="Lava that waits", kind="carrier", surface=333.0)
    assert page.take(lava)
    window.set_document(trough(), None)
    assert own_library.all_own() == (lava,)
    page = window.page("media")
    window.show_stage("media")
    page.view("load")
    assert "Lava that waits" in page.media_table.words(0)
    assert not window.workspace.system.media
    assert window.workspace.edit(set_value("Take lava", ("devices", "drums", "drums", 1, "medium"), lava.id))
    assert window.workspace.system.media == (lava,)
    assert page.media_table.choose(lava.id)
    assert not page.remove.isEnabled()  # a filter holds it
    own_library.forget(lava)
    assert own_library.all_own() == ()
    assert window.workspace.system.media == (lava,)


def test_a_library_that_was_damaged_is_empty_not_a_crash(window, tmp_path):
    from fuente.document.journal import state_folder
    from fuente.session import own_library

    state_folder().mkdir(parents=True, exist_ok=True)
    for text in ("", "{", '[{"surface": "much"}, 3]', '{"a": 1}'):
        (state_folder() / "own-media.json").write_text(text)
        assert own_library.all_own() == ()


def test_a_bad_figure_of_an_own_medium_is_said(window):
    from fuente.document.media import OwnMedium
    from fuente.units import UnitSystem

    dialog = OwnMediumDialog(OwnMedium(), UnitSystem.METRIC, "x", window)
    dialog.show()
    type_into(dialog.fields["void"], "130 %")
    dialog.accept()
    assert dialog.made is None
    assert "at most 99 %" in dialog.error.text()


def test_a_school_is_chosen_for_all_and_left_for_one(window):
    """The project's school says what it would change; a filter may follow another."""
    window.set_document(nursery(), None)
    page = window.page("media")
    window.show_stage("media")
    page.view("load")
    assert "gentle roll: air" in page.schools.words["roll"].text()
    box = page.schools.boxes["roll"]
    box.setCurrentIndex(1)
    box.activated.emit(1)
    assert window.workspace.system.schools.roll == "hard"
    assert window.workspace.history.undo_name == "A bed is moved: hard tumble"
    window.workspace.select("bed-1")
    station = window.workspace.station()
    choice = next(c for c in station.choices if c.path[-1] == "roll" and c.path[-2] == "schools")
    assert choice.options[0][1] == "as the system: hard tumble"
    window.workspace.edit(choice.make("gentle"))
    index = next(i for i, f in enumerate(window.workspace.system.filters) if f.id == "bed-1")
    site = window.workspace.analysis.sites["bed-1"]
    assert site.ruled(window.workspace.system.filters[index]).roll == "gentle"


def test_the_brief_shows_any_tank(window):
    window.set_document(nursery(), None)
    window.show_stage("brief")
    page = window.page("brief")
    page.form.show_tank(6)
    edit = page.findChild(
        type(page.form.heaters).__mro__[1], "field-devices-" + window.workspace.system.tanks[6].id + "-feed"
    )
    type_into(edit, "0.5")
    assert window.workspace.system.tanks[6].feed * DAY == pytest.approx(0.5e-3)
    assert page.rack.isEnabled()  # a rack needs no sump


@pytest.mark.skipif(shutil.which("Xvfb") is None, reason="needs Xvfb; check installs it")
def test_a_filter_is_added_in_a_real_window(tmp_path, xvfb_display):
    """On X: open the trough, add a canister by its picture, mend the flood, save."""
    code = textwrap.dedent("""
        import sys
        import time
        from pathlib import Path
        from PySide6.QtCore import Qt
        from PySide6.QtTest import QTest
        from fuente.ui.application import application
        app = application("light", 1.0)
        assert app.platformName() == "xcb", app.platformName()
        from fuente.ui.window import MainWindow
        from fuente.ui.gallery import Gallery
        window = MainWindow()
        window.open_demo("courtyard-trough")
        window.show()
        QTest.qWaitForWindowExposed(window)
        window.open_gallery()
        gallery = next(w for w in app.topLevelWidgets() if isinstance(w, Gallery))
        QTest.qWaitForWindowExposed(gallery)
        tile = next(t for t in gallery.tiles if t.kind.id == "canister")
        QTest.mouseClick(tile, Qt.MouseButton.LeftButton)
        QTest.mouseClick(gallery.add, Qt.MouseButton.LeftButton)
        while len(window.workspace.system.filters) < 4:  # fitted in aside
            app.processEvents()
            time.sleep(0.01)  # QTest waits without letting other threads run
        page = window.page("water")
        while window.workspace.checking:  # worked out aside
            app.processEvents()
            time.sleep(0.01)  # QTest waits without letting other threads run
        row = next(r for r in page.findings.rows if r.finding.code == "filter-pipe-blocked")
        QTest.mouseClick(row.action, Qt.MouseButton.LeftButton)
        while window.workspace.session.trying is not None:  # tried aside
            app.processEvents()
            time.sleep(0.01)
        window.workspace.save(Path(sys.argv[1]))
        window.close()
        app.processEvents()
        print("done")
        """)
    target = tmp_path / "real.fuente"
    env = {k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "WAYLAND_DISPLAY")}
    env["DISPLAY"] = xvfb_display
    done = subprocess.run(
        [sys.executable, "-c", code, str(target)], capture_output=True, text=True, timeout=90, env=env
    )
    assert done.stdout.strip().endswith("done"), done.stderr
    system = load(target)
    assert [f.kind for f in system.filters] == ["sieve_bed", "drum_train", "plant_bed", "canister"]
    assert system.filters[2].drain.spare > 0


@pytest.mark.parametrize("demo_name", ["courtyard-trough", "nursery-on-air"])
def test_at_half_as_large_again_every_stage_still_fits(window, demo_name):
    """150 % text on 1280 × 800: no stage widens the window, and no card is cut at its right edge."""
    from fuente.demo import DEMOS

    window._retheme("light", 1.5)
    try:
        window.resize(1280, 800)
        window.set_document(DEMOS[demo_name](), None)
        for stage in ("brief", "water", "media", "build", "wet"):
            window.show_stage(stage)
            QTest.qWait(20)
            assert window.minimumSizeHint().width() <= 1280, stage
            assert window.minimumSizeHint().height() <= 800, stage
        window.show_stage("water")
        card = window.page("water").card
        for station in window.workspace.stations:
            window.workspace.select(station.id)
            QTest.qWait(5)
            assert card.widget().minimumSizeHint().width() <= card.width(), station.name
    finally:
        window._retheme("light", 1.0)


def test_a_filter_is_swapped_from_its_card(window, qtbot):
    """By the menu of its card, in the gallery; undone in one."""
    from fuente.demo.lantern import lantern

    window.set_document(lantern(), None)
    old = window.workspace.system.filters[0]
    window.workspace.select(old.id)
    card = window.page("water").card
    QTest.mouseClick(card.commands_button, Qt.MouseButton.LeftButton)
    entry = next(a for a in card.menu.actions() if a.text() == "Swap for another kind …")
    entry.trigger()
    card.menu.hide()
    gallery = next(d for d in window.findChildren(Gallery) if d.isVisible())
    assert gallery.old == old
    assert not gallery.many.isVisible()
    now = next(t for t in gallery.tiles if t.kind.id == "ornament")
    assert now.failed == "This is what stands there now."
    gallery._pick(next(t for t in gallery.tiles if t.kind.id == "sponge"))
    gallery.draw_now()
    QTest.mouseClick(gallery.add, Qt.MouseButton.LeftButton)
    made = window.workspace.system.by_id[old.id]
    assert made.kind == "sponge"
    assert window.workspace.selected == old.id
    assert window.workspace.history.undo_name.startswith("Swap ")
    window.workspace.undo()
    assert window.workspace.system.by_id[old.id] == old


def test_a_new_design_is_a_tank_and_every_page_shows_it(window, monkeypatch):
    """Describe a tank, put up a rack of tubs without a sump, and give all of them a sponge."""
    window.new()
    assert window.stage == "brief"
    assert [d.kind for d in window.workspace.system.devices] == ["tank"]
    for key in ("water", "media", "build", "wet", "brief"):
        window.show_stage(key)
    brief = window.page("brief")
    QTest.mouseClick(brief.rack, Qt.MouseButton.LeftButton)
    form = brief.right.widget()
    assert form.rack.device == ""
    form._set("rows", 2)
    form._set("columns", 5)
    assert "10 tanks" in form.summary.text()
    assert "nothing moves it" in form.summary.text()
    QTest.mouseClick(form.take, Qt.MouseButton.LeftButton)
    assert len(window.workspace.system.tanks) == 10
    window.open_gallery()
    gallery = next(d for d in window.findChildren(Gallery) if d.isVisible())
    gallery._pick(next(t for t in gallery.tiles if t.kind.id == "sponge"))
    gallery.many.setChecked(True)
    QTest.mouseClick(gallery.add, Qt.MouseButton.LeftButton)
    assert len(window.workspace.system.filters) == 10
    assert window.workspace.analysis.running.spilled == 0


def test_what_it_would_bring_is_said_before_it_is_taken(bare, qtbot, monkeypatch):
    """Turnover beside the wish, watts, litres and the first of what it brings; and that very edit is made."""
    from fuente.ui import gallery as module

    monkeypatch.setattr(module, "ASK_AFTER", 0)
    gallery = Gallery(bare.workspace, bare.workspace.tank_in_view(), bare)
    gallery.show()
    tile = next(t for t in gallery.tiles if t.kind.id == "canister")
    QTest.mouseClick(tile, CLICK)
    qtbot.waitUntil(lambda: tile.promise is not None, timeout=20000)
    words = gallery.said.text()
    assert "you want 6.0 × an hour" in words
    assert f"draws {tile.spec.pump.watts:.0f} W more" in words
    assert "It brings: A hose that slips off" in words
    wanted = apply(bare.workspace.system, tile.promise.edit)
    QTest.mouseClick(gallery.add, CLICK)
    assert bare.workspace.system == wanted
    moved = bare.workspace.analysis
    assert tile.promise.turnover == pytest.approx(
        moved.moved(moved.running, "tank") / moved.running.volume["tank"], rel=1e-6
    )


def test_what_takes_long_to_fit_is_worked_out_aside(bare, qtbot, monkeypatch):
    from fuente.ui import workspace

    monkeypatch.setattr(workspace, "CLOCK", time.perf_counter)
    gallery = Gallery(bare.workspace, bare.workspace.tank_in_view(), bare)
    gallery.show()
    QTest.mouseClick(next(t for t in gallery.tiles if t.kind.id == "sponge"), CLICK)
    QTest.mouseClick(gallery.add, CLICK)
    assert gallery.said.text().startswith("Fitting")
    assert not gallery.add.isEnabled()
    qtbot.waitUntil(lambda: bool(bare.workspace.system.filters), timeout=20000)
    assert not gallery.isVisible()


@pytest.mark.parametrize(
    ("left", "foot", "wide", "tall"), [(2900, 20, 200, 150), (0, 0, 60, 1150), (5800, 900, 200, 300)]
)
def test_a_small_filter_in_a_large_tank_is_seen(qapp, left, foot, wide, tall):
    """It takes most of its picture one way; what is shown has it whole, and never leaves the drawing."""
    from fuente.drawing.primitives import Drawing, box
    from fuente.ui.gallery_tile import ASPECT, closely

    pond = box(0, 0, 6000, 1200, "water", "tank")
    drawing = Drawing((pond, box(left, foot, left + wide, foot + tall, "foam", "sponge.pad")))
    x0, y0, x1, y1 = closely(drawing, "sponge")
    assert (x1 - x0) / (y1 - y0) == pytest.approx(ASPECT)
    assert max(wide / (x1 - x0), tall / (y1 - y0)) >= 0.69
    assert 0 <= x0 <= left
    assert left + wide <= x1 <= 6000
    assert 0 <= y0 <= foot
    assert foot + tall <= y1 <= 1200


def test_a_filter_as_long_as_its_tank_is_shown_whole(qapp):
    from fuente.drawing.primitives import Drawing, box
    from fuente.ui.gallery_tile import closely

    pond = box(0, 0, 6000, 1200, "water", "tank")
    large = Drawing((pond, box(0, 0, 5000, 400, "foam", "sponge")))
    assert closely(large, "sponge") == large.bounds()
    assert closely(large, "nobody") == large.bounds()
