"""Several crashed windows, two windows on one file, a file that others changed, a pump's dropped points."""

import subprocess
import sys
import time
from pathlib import Path

import pytest
from PySide6.QtCore import Qt
from PySide6.QtTest import QTest
from PySide6.QtWidgets import QMessageBox

from devices_of import returns
from fuente.document import journal
from fuente.document.files import load, save
from fuente.document.journal import Journal
from fuente.document.opened import Opened
from fuente.document.system import apply, set_value


def renamed(system, name):
    return apply(system, set_value("Rename", ("name",), name))


@pytest.fixture
def gone():
    """The number of a process that has ended."""
    dead = subprocess.Popen([sys.executable, "-c", "pass"])
    dead.wait()
    return dead.pid


@pytest.fixture
def crashed(demo, gone):
    """Three windows that ended without closing, a second apart."""
    logs = []
    for n, name in enumerate(("First", "Second", "Third\u2028line")):
        log = Journal()
        log.path = log.folder / f"{gone}-{n}.jsonl"
        log.write(f"Edit {n}", renamed(demo, name), None)
        logs.append(log)
        time.sleep(0.02)
    yield logs
    for log in logs:
        log.path.unlink(missing_ok=True)


def test_each_crashed_window_is_offered_until_it_is_taken_or_forgotten(window, crashed, qtbot):
    window.offer_recovery()
    assert "3 designs" in window.message.text.text()
    QTest.mouseClick(window.message.no, Qt.MouseButton.LeftButton)  # later
    assert len(journal.orphans()) == 3
    window.open_recovery()
    dialog = window.recovery
    assert len(dialog.buttons) == 3
    assert "today" in dialog.grid.itemAtPosition(0, 1).widget().text()
    assert dialog.grid.itemAtPosition(2, 0).widget().text().startswith("First")
    QTest.mouseClick(dialog.buttons[2][1], Qt.MouseButton.LeftButton)  # forget the first
    assert [r.system.name for r in journal.orphans()] == ["Third line", "Second"]
    assert len(dialog.buttons) == 2
    QTest.mouseClick(dialog.buttons[1][0], Qt.MouseButton.LeftButton)  # bring the second back
    assert window.workspace.system.name == "Second"
    assert window.workspace.dirty
    assert [r.system.name for r in journal.orphans()] == ["Third line"]


def test_a_journal_that_cannot_be_read_is_put_aside(demo, gone):
    log = Journal()
    log.folder.mkdir(parents=True, exist_ok=True)
    torn = log.folder / f"{gone}-torn.jsonl"
    torn.write_text('{"when": 1, "edit"')
    assert journal.orphans() == []
    assert torn.with_suffix(".unread").exists()
    torn.with_suffix(".unread").unlink()


def test_the_second_window_on_a_file_is_told(window, demo, tmp_path):
    path = tmp_path / "shared.fuente"
    save(demo, path)
    other = Opened()
    other._mark = other.folder / "1-other"  # process 1 is always there
    other.take(path)
    assert window.open_file(path)
    assert "open in another window too" in window.message.text.text()
    other.release()
    window.message.clear()
    assert window.open_file(path)
    assert not window.message.isVisible()


def answer(monkeypatch, words):
    """Press the button of the question that begins with these words; what was asked."""
    asked = []

    def press(box):
        asked.append(box.text())
        button = next(b for b in box.buttons() if b.text().replace("&", "").startswith(words))
        monkeypatch.setattr(QMessageBox, "clickedButton", lambda self: button)

    monkeypatch.setattr(QMessageBox, "exec", press)
    return asked


@pytest.fixture
def changed(window, demo, tmp_path):
    """A design that is open, edited here, and written by somebody else meanwhile."""
    path = tmp_path / "mine.fuente"
    save(demo, path)
    assert window.open_file(path)
    window.workspace.save_timer.setInterval(3600_000)
    window.workspace.edit(set_value("Rename", ("name",), "Mine"))
    save(renamed(demo, "Theirs"), path, backup=False)
    yield path
    window.workspace.session.abandon()


def test_a_save_over_what_others_wrote_asks(window, changed, monkeypatch):
    asked = answer(monkeypatch, "Cancel")
    assert not window.save()
    assert "was changed by another window" in asked[0]
    assert load(changed).name == "Theirs"
    answer(monkeypatch, "Write over")
    assert window.save()
    assert load(changed).name == "Mine"
    assert load(Path(f"{changed}~")).name == "Theirs"


def test_what_others_wrote_is_read_again(window, changed, monkeypatch):
    answer(monkeypatch, "Read the file")
    assert window.save()
    assert window.workspace.system.name == "Theirs"
    assert load(changed).name == "Theirs"


def test_saving_as_you_go_stops_and_says_so(window, changed, monkeypatch):
    window.workspace.session.autosave()
    assert load(changed).name == "Theirs"
    assert "was changed by another window" in window.message.text.text()
    assert "not saved" in window.bar.place.text()
    asked = answer(monkeypatch, "Cancel")
    window.close_document()
    assert asked
    assert window.workspace is not None


def test_a_file_that_is_gone_is_noticed(window, changed, monkeypatch):
    changed.unlink()
    asked = answer(monkeypatch, "Write over")
    assert window.save()
    assert "is gone" in asked[0]
    assert load(changed).name == "Mine"


def test_a_dropped_curve_says_which_pump_it_went_to(window, tmp_path):
    path = tmp_path / "points.csv"
    path.write_text("flow L/h, head m\n0, 3.5\n2000, 2.6\n4800, 0.3\n")
    before = returns(window.workspace.system)[0].pump.points
    assert window.load_curve(path)
    assert "points.csv" in window.message.text.text()
    assert returns(window.workspace.system)[0].title in window.message.text.text()
    QTest.mouseClick(window.message.yes, Qt.MouseButton.LeftButton)
    QTest.qWait(20)
    assert returns(window.workspace.system)[0].pump.points == before


def test_saving_by_hand_writes_nothing_by_itself_and_asks_at_the_end(window, demo, tmp_path, monkeypatch):
    from PySide6.QtWidgets import QMessageBox

    from fuente.document import files
    from fuente.document.system import set_value

    path = tmp_path / "room.fuente"
    files.save(demo, path)
    window.set_document(demo, path)
    assert window.saving_action.isChecked()
    window.saving_action.trigger()
    try:
        window.workspace.edit(set_value("Name it", ("name",), "Other"))
        window.workspace.session.autosave()
        assert files.load(path).name == demo.name
        assert window.bar.place.text().endswith("changed, not saved")
        asked = []
        for answer, left in ((QMessageBox.StandardButton.Cancel, False), (QMessageBox.StandardButton.Discard, True)):
            monkeypatch.setattr(QMessageBox, "exec", lambda box, a=answer: asked.append(box.text()) or a)
            assert window._may_leave() is left
        assert asked[0] == "“room.fuente” is behind what is open."
        window._leave()
        assert files.load(path).name == demo.name
    finally:
        window.saving_action.trigger()
    window.set_document(demo, path)
    window.workspace.edit(set_value("Name it", ("name",), "Third"))
    window.workspace.session.autosave()
    assert files.load(path).name == "Third"


def test_a_disk_that_is_full_for_the_journal_is_said(window, monkeypatch):
    from fuente.document import journal
    from fuente.document.system import set_value

    def full(out, line):
        raise OSError(28, "No space left on device")

    monkeypatch.setattr(journal, "_put", full)
    window.workspace.edit(set_value("Name it", ("name",), "Other"))
    window._show_state()
    assert "not kept against a crash" in window.message.text.text()
