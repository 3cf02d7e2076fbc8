"""Files, recovery, drop, brief, build, palette, keys; and one real window on a real X server."""

import json
import os
import shutil
import subprocess
import sys
import textwrap

import pytest
from PySide6.QtCore import QMimeData, QPointF, Qt, QUrl
from PySide6.QtGui import QDropEvent
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QFileDialog, QLabel, QMessageBox
from ui_hands import type_into

from devices_of import returns, sumps
from fuente.devices.base import Change, Edit, Rank
from fuente.document.files import load, save
from fuente.document.journal import Journal
from fuente.document.system import apply, set_value
from fuente.ui import settings
from fuente.ui.help import HelpDialog
from fuente.ui.menus import plain
from fuente.ui.stages import STAGES
from fuente.units import UnitSystem


def test_save_as_autosave_and_recent(window, tmp_path, monkeypatch, qtbot):
    target = tmp_path / "reading"
    monkeypatch.setattr(QFileDialog, "getSaveFileName", lambda *_: (str(target), ""))
    QTest.keyClick(window, Qt.Key.Key_S, Qt.KeyboardModifier.ControlModifier)
    path = target.with_suffix(".fuente")
    assert load(path) == window.workspace.system
    assert "saved" in window.bar.place.text()
    assert settings.recent()[0] == path.resolve()
    window.workspace.edit(set_value("Rename", ("name",), "Renamed"))
    assert "saving" in window.bar.place.text()
    qtbot.waitUntil(lambda: load(path).name == "Renamed", timeout=5000)
    assert "saved" in window.bar.place.text()
    window.workspace.undo()
    window.workspace.close()
    assert load(path).name == "Reading-room tank"


def test_a_damaged_file_is_said_and_the_open_one_stays(window, tmp_path):
    bad = tmp_path / "bad.fuente"
    bad.write_text("{")
    before = window.workspace
    assert not window.open_file(bad)
    assert window.message.isVisible()
    assert "damaged at line 1" in window.message.text.text()
    assert window.workspace is before
    assert bad.read_text() == "{"


def test_a_dropped_file_opens(window, demo, tmp_path):
    path = tmp_path / "dropped.fuente"
    save(apply(demo, set_value("n", ("name",), "Dropped")), path)
    data = QMimeData()
    data.setUrls([QUrl.fromLocalFile(str(path))])
    event = QDropEvent(
        QPointF(10, 10), Qt.DropAction.CopyAction, data, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier
    )
    window.dropEvent(event)
    assert window.workspace.system.name == "Dropped"
    assert window.bar.title.text() == "Dropped"


def test_unsaved_work_is_asked_for(window, monkeypatch):
    window.workspace.edit(set_value("Rename", ("name",), "x"))
    monkeypatch.setattr(QMessageBox, "exec", lambda self: QMessageBox.StandardButton.Cancel)
    window.close_document()
    assert window.workspace is not None
    monkeypatch.setattr(QMessageBox, "exec", lambda self: QMessageBox.StandardButton.Discard)
    window.close_document()
    assert window.workspace is None
    assert window.stack.currentWidget() is window.start


def test_work_of_a_killed_window_comes_back(window, demo, qtbot):
    dead = subprocess.Popen([sys.executable, "-c", "pass"])
    dead.wait()
    log = Journal()
    log.path = log.folder / f"{dead.pid}-dead.jsonl"
    log.write("Raise crest", apply(demo, set_value("n", ("name",), "Half done")), None)
    window.offer_recovery()
    assert "Half done" in window.message.text.text()
    assert "Raise crest" in window.message.text.text()
    QTest.mouseClick(window.message.yes, Qt.MouseButton.LeftButton)
    qtbot.waitUntil(lambda: window.workspace.system.name == "Half done", timeout=2000)
    assert not log.path.exists()
    assert window.workspace.dirty


def test_undo_has_its_name_in_the_menu(window):
    assert not window.undo_action.isEnabled()
    window.workspace.edit(set_value("Raise crest", ("devices", "sump", "chambers", 2, "exit", "top"), 0.28))
    assert plain(window.undo_action.text()) == "Undo raise crest"
    QTest.keyClick(window, Qt.Key.Key_Z, Qt.KeyboardModifier.ControlModifier)
    assert plain(window.redo_action.text()) == "Redo raise crest"


def test_brief_edits_lays_out_and_is_taken_as_one_edit(window, qtbot):
    window.show_stage("brief")
    page = window.page("brief")
    sizes = page.findChild(object, "sizes-devices-tank")
    type_into(sizes, "60 x 24 x 22 in")
    tank = window.workspace.system.tanks[0]
    assert (tank.length, tank.height) == pytest.approx((1.524, 0.5588))
    type_into(sizes, "60 x 24")
    assert "has 2 sizes" in page.form.error.text()
    QTest.keyClick(sizes, Qt.Key.Key_Escape)
    page.form.roles["socks"].setChecked(False)
    QTest.mouseClick(page.go, Qt.MouseButton.LeftButton)
    assert page.go.text() == "Stop"
    qtbot.waitUntil(lambda: bool(page.layouts), timeout=30000)
    assert page.go.text() == "Lay it out for me"
    own = next(each for each in page.layouts if each.title == "Your chambers")
    assert "socks" not in [c.role for c in sumps(own.system)[0].chambers]
    page._take(own)
    assert window.stage == "water"
    assert window.workspace.history.undo_name == "Take layout “your chambers”"
    assert not [f for f in window.workspace.findings if f.rank is Rank.STOP]
    window.workspace.undo()
    assert next(c.role for c in sumps(window.workspace.system)[0].chambers) == "socks"


def test_more_heaters_than_a_chamber_takes_are_refused_in_the_brief(window, qtbot):
    window.show_stage("brief")
    page = window.page("brief")
    type_into(page.form.heaters, "1500")
    page.go.click()
    qtbot.waitUntil(lambda: page.form.error.isVisible(), timeout=30000)
    assert page.form.error.text() == "Heaters must be at most 8."
    assert page.layouts == []
    assert page.go.text() == "Lay it out for me"


def test_brief_says_which_wish_cannot_be(window):
    window.workspace.edit(set_value("x", ("space", "length"), 0.4))
    page = window.page("brief")
    page.propose_now()
    assert "mm are missing" in page.form.error.text()


def test_palette_answers_while_typing(window, qtbot):
    QTest.keyClick(window, Qt.Key.Key_K, Qt.KeyboardModifier.ControlModifier)
    palette = window._palette
    QTest.keyClicks(palette.search, "hole")
    assert [palette.list.item(i).text().splitlines()[0] for i in range(palette.list.count())] == [
        "Hole for a bulkhead",
        "Hole for the fitting in your hand",
        "Holes that keep carriers in",
        "Glass left round a hole",
        "Bulkhead on a round wall",
    ]
    QTest.keyClick(palette.search, Qt.Key.Key_Return)
    edit = palette.inputs["size"]
    edit.setText("1 1/2 in")
    assert "60 mm" in palette.words.text()
    edit.setText("9 in")
    assert "not a bulkhead size" in palette.words.text()
    palette.search.setText("zzz")
    assert palette.list.count() == 0
    palette.search.setText("")
    assert palette.list.count() >= 10


def test_keys_are_listed(window, qtbot):
    QTest.keyClick(window, Qt.Key.Key_F1)
    dialog = window._palette
    assert isinstance(dialog, HelpDialog)
    words = {label.text() for label in dialog.findChildren(QLabel)}
    for number, stage in enumerate(STAGES.values(), 1):  # bar, keys, pages and help are of one table
        title = stage.title.replace("&&", "&")
        assert any(w.startswith(f"{title}: ") for w in words)
        assert f"Ctrl+{number}" in words
        window.show_stage(stage.key)
        assert type(window.page(stage.key)).__name__ == stage.page
        assert window.bar.stages[stage.key].isChecked()
    words = " ".join(label.text() for label in dialog.findChildren(QLabel))
    assert "Ctrl+K" in words
    assert "Power cut" in words


def test_stage_and_station_keys(window):
    QTest.keyClick(window, Qt.Key.Key_3, Qt.KeyboardModifier.ControlModifier)
    assert window.stage == "media"
    QTest.keyClick(window, Qt.Key.Key_4, Qt.KeyboardModifier.ControlModifier)
    assert window.stage == "build"
    QTest.keyClick(window, Qt.Key.Key_2, Qt.KeyboardModifier.ControlModifier)
    first = window.workspace.selected
    QTest.keyClick(window, Qt.Key.Key_Right, Qt.KeyboardModifier.AltModifier)
    assert window.workspace.selected != first


def test_new_design_starts_in_the_brief(window, monkeypatch):
    window.new()
    assert window.stage == "brief"
    assert not [f for f in window.workspace.findings if f.rank < Rank.CONSIDER]


def test_tour_writes_every_picture(tmp_path):
    done = subprocess.run(
        [sys.executable, "-m", "fuente", "tour", str(tmp_path)],
        capture_output=True,
        text=True,
        timeout=120,
        env={**os.environ, "QT_QPA_PLATFORM": "offscreen"},
    )
    assert done.returncode == 0, done.stderr
    names = {p.stem for p in tmp_path.glob("*.png")}
    assert {"start", "brief", "water-path", "build", "quick-answer", "water-path-dark"} <= names
    from PySide6.QtGui import QImage

    for path in tmp_path.glob("*.png"):
        image = QImage(str(path))
        assert (image.width(), image.height()) == (1280, 800)


@pytest.mark.skipif(shutil.which("Xvfb") is None, reason="needs Xvfb; check installs it")
def test_a_real_window_on_a_real_display(tmp_path, xvfb_display):
    """The main flow on X: open the demo, drag a crest with the platform's own events, mend a finding, save, close."""
    code = textwrap.dedent(
        """
        import sys
        import time
        from pathlib import Path
        from PySide6.QtCore import QPoint, Qt, QTimer
        from PySide6.QtTest import QTest
        from fuente.ui.application import application
        app = application("light", 1.0)
        assert app.platformName() == "xcb", app.platformName()
        from fuente.ui.window import MainWindow
        window = MainWindow()
        window.open_demo("reading-room")
        window.show()
        QTest.qWaitForWindowExposed(window)
        page = window.page("water")
        path = ("devices", "sump", "chambers", 2, "exit", "top")
        handle = next(h for h in page.view.drawing().handles if h.path == path)
        at = page.view.to_screen(handle.at).toPoint()
        QTest.mousePress(page.view, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at)
        QTest.mouseMove(page.view, at - QPoint(0, 4))
        QTest.mouseRelease(page.view, Qt.MouseButton.LeftButton, Qt.KeyboardModifier.NoModifier, at - QPoint(0, 4))
        assert window.workspace.history.undo_name == "Raise crest"
        while window.workspace.checking:  # worked out aside
            app.processEvents()
            time.sleep(0.01)  # QTest waits without letting other threads run
        row = next(r for r in page.findings.rows if r.finding.code == "no-air-hole")
        QTest.mouseClick(row.action, Qt.MouseButton.LeftButton)
        while window.workspace.session.trying is not None:  # tried aside
            app.processEvents()
            time.sleep(0.01)
        window.workspace.save(Path(sys.argv[1]))
        window.close()
        app.processEvents()
        print("done")
        """
    )
    target = tmp_path / "real.fuente"
    env = {k: v for k, v in os.environ.items() if k not in ("QT_QPA_PLATFORM", "WAYLAND_DISPLAY")}
    env["DISPLAY"] = xvfb_display
    done = subprocess.run(
        [sys.executable, "-c", code, str(target)], capture_output=True, text=True, timeout=90, env=env
    )
    assert done.stdout.strip().endswith("done"), done.stderr
    system = load(target)
    assert sumps(system)[0].chambers[2].exit.top > 0.27
    assert returns(system)[0].outlets[1].hole > 0


def test_proposals_and_wishes_outlive_theme_text_and_units(window):
    window.show_stage("brief")
    brief = window.page("brief")
    box = next(b for b in brief.form.roles.values() if b.isEnabled())
    box.setChecked(not box.isChecked())
    wishes = brief.form.wishes()
    brief.propose_now()
    layouts = brief.layouts
    window.switch_theme()
    window.zoom(1)
    after = window.page("brief")
    assert after is not brief
    assert after.layouts is layouts
    assert after.form.wishes() == wishes
    assert "L/h" in _words(after)
    window.switch_units()
    assert "gph" in _words(after)
    assert "L/h" not in _words(after)
    window.zoom(0)


def _words(brief) -> str:
    return " ".join(label.text() for label in brief.right.widget().findChildren(QLabel))


def test_findings_that_are_still_looked_for_are_not_said_to_be_none(path_page):
    page = path_page
    page.findings.show_findings((), UnitSystem.METRIC, True)
    words = [label.text() for label in page.findings.findChildren(QLabel)]
    assert "What Fuente would change   checking …" in words
    assert not any("leaves the margins" in w for w in words)
    page.findings.show_findings((), UnitSystem.METRIC)
    words = [label.text() for label in page.findings.findChildren(QLabel)]
    assert any("leaves the margins" in w for w in words)


def test_a_file_opens_where_it_was_left(window, demo, tmp_path):
    """Page, station and how the column is shared; a demo or a new file begins on the Water path."""
    from fuente.document import files

    path, other = tmp_path / "room.fuente", tmp_path / "other.fuente"
    for each in (path, other):
        files.save(demo, each)
    window.open_file(path)
    assert window.stage == "water"
    window.workspace.select("sump.bed")
    split = window.page("water").split
    split.setSizes([400, 300])
    split.splitterMoved.emit(0, 1)
    sizes = split.sizes()
    window.show_stage("build")
    window.open_file(other)
    assert window.stage == "water"
    assert window.page("water").split.sizes() == pytest.approx(sizes, abs=2)
    window.open_file(path)
    assert window.stage == "build"
    assert window.workspace.selected == "sump.bed"


def test_what_is_remembered_may_be_rubbish(window, demo, tmp_path):
    from fuente.document import files
    from fuente.ui import settings

    path = tmp_path / "room.fuente"
    files.save(demo, path)
    settings.keep_looked_at(path, "nowhere", "gone")
    window.open_file(path)
    assert window.stage == "water"
    for rubbish in ("{", "[1]", json.dumps({str(path): 3})):
        settings._store().setValue("places", rubbish)
        assert settings.looked_at(path) == ("", "")


@pytest.mark.slow
@pytest.mark.parametrize(("text", "room"), [(1.0, (1024, 700)), (1.5, (1280, 800))])
@pytest.mark.parametrize("key", ["reading-room", "back-room", "courtyard-trough"])
def test_every_page_fits_its_window(window, qapp, key, text, room):
    """With a year's log and a line of four chips on Keep, and a curve on Media & load."""
    from fuente.demo import DEMOS

    window._retheme("light", text)
    try:
        window.set_document(DEMOS[key](), None)
        window.resize(*room)
        for stage in STAGES:
            window.show_stage(stage)
            page = window.page(stage)
            if stage == "keep":
                page.work_now()
                page.line.edit.setText("no3 20, ph 7.4, foam 31 mm, rinsed socks")
            qapp.processEvents()
            least = window.minimumSizeHint()
            assert (least.width(), least.height()) <= room, (stage, least)
            assert least.width() <= room[0], (stage, least)
            assert least.height() <= room[1], (stage, least)
        assert window.size().toTuple() == room
    finally:
        window._retheme("light", 1.0)


def rack_of_two(system):
    from fuente.devices.recipes.racks import Rack, add_rack

    return apply(system, add_rack(system.by_id, Rack(rows=1, columns=2), True))


@pytest.mark.slow
@pytest.mark.parametrize("grows", [True, False])
def test_pages_built_anew_take_a_design_that_became_another(window, demo, grows):
    """Looked at, built anew by the theme, and looked at again after the one tank has given place to a rack, or the rack
    to the tank: nothing of what is gone is said any more.
    """
    first, second = (demo, rack_of_two(demo)) if grows else (rack_of_two(demo), demo)
    window.set_document(first, None)
    workspace, last = window.workspace, first.tanks[-1].id
    for key in STAGES:
        window.show_stage(key)
    if grows:
        window.page("brief").propose_now()
    else:
        window.page("brief").form.show_tank(1)
    wet, media = window.page("wet"), window.page("media")
    wet.run_now()
    wet.trials.run_now()
    assert wet.trials.results
    media.view("load")
    media._turn(1)
    media.whose.show_value(last)
    media.view("life")
    media.life.tank.show_value(last)
    media.life.work_now()
    media.life.turn("dose")
    window.page("keep").work_now()
    window.page("build").show_view("parts")
    window.show_stage("water")
    window.switch_theme()
    workspace.edit(Edit("Another", (Change(("devices",), second.devices),)))
    there = {t.id for t in workspace.system.tanks}
    assert last not in there
    for key in STAGES:
        window.show_stage(key)
        assert window.stage == key
    assert not window.page("wet").trials.results
    assert window.page("media").life.tank.value() in there
    assert window.page("media").whose.value() in {"", *there}
    assert window.page("brief").form.tank < len(there)
    window.page("wet").run_now()
    window.page("media").life.work_now()
    window.page("keep").work_now()
    window.switch_theme()
    for key in STAGES:
        window.show_stage(key)
