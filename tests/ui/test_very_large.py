"""A window with a system so large that nothing of its water is worked out where it would keep the eye waiting."""

from __future__ import annotations

import threading
import time

import pytest
from PySide6.QtCore import Qt

from fuente.demo.reading_room import reading_room
from fuente.document.files import save
from fuente.document.system import set_value
from fuente.network import running
from fuente.session import session as module
from fuente.study import known, lowered, situations
from fuente.ui import opening, workspace
from fuente.ui.window import MainWindow

CREST = ("devices", "sump", "chambers", 2, "exit", "top")


@pytest.fixture
def elsewhere(monkeypatch):
    """As if the demo were two hundred tanks: where its running water was worked out, by thread."""
    known.forget()
    monkeypatch.setattr(module, "VAST", 0)
    monkeypatch.setattr(opening, "VAST", 0)
    monkeypatch.setattr(lowered, "LARGE", 0)
    monkeypatch.setattr(workspace, "CLOCK", time.perf_counter)
    threads = []

    def steady(*args, **more):
        threads.append(threading.current_thread())
        return running.steady(*args, **more)

    monkeypatch.setattr(situations, "steady", steady)
    return threads


@pytest.fixture
def file(tmp_path):
    path = tmp_path / "large.fuente"
    save(reading_room(), path)
    return path


@pytest.fixture
def window(qtbot, elsewhere, file):
    made = MainWindow()
    qtbot.addWidget(made)
    made.show()
    elsewhere.clear()  # the demos' pictures
    assert made.open_file(file)
    qtbot.waitUntil(lambda: made.workspace is not None, timeout=20_000)
    yield made
    if made.workspace is not None:
        made.workspace.close()


def height(workspace):
    return workspace.system.by_id["sump"].chambers[2].exit.top


def test_a_file_is_opened_and_edited_aside(window, elsewhere, qtbot):
    work = window.workspace
    assert work.stations
    assert not window.message.isVisible()
    work.edit(set_value("Raise crest", CREST, 0.28))
    assert "working out" in window.bar.place.text()
    assert window.undo_action.text() == "&Undo raise crest"
    qtbot.waitUntil(lambda: work.session.coming is None, timeout=20_000)
    assert height(work) == 0.28
    assert "working out" not in window.bar.place.text()
    assert elsewhere
    assert threading.main_thread() not in elsewhere


def test_a_run_of_edits_ends_with_the_last(window, elsewhere, qtbot):
    work = window.workspace
    for k in range(12):
        work.edit(set_value("Raise crest", CREST, 0.27 + k / 1000), "crest")
    qtbot.waitUntil(lambda: work.session.coming is None, timeout=20_000)
    assert height(work) == pytest.approx(0.281)
    assert len(elsewhere) < 8  # those between were not all worked out
    work.undo()
    qtbot.waitUntil(lambda: work.session.coming is None, timeout=20_000)
    assert height(work) == height_of_the_demo()


def height_of_the_demo():
    return reading_room().by_id["sump"].chambers[2].exit.top


def test_opening_is_given_up_by_its_button(qtbot, elsewhere, file):
    window = MainWindow()
    qtbot.addWidget(window)
    window.show()
    assert window.open_file(file)
    assert "Working out the water of “large.fuente”" in window.message.text.text()
    assert window.message.yes.isHidden()
    qtbot.mouseClick(window.message.no, Qt.MouseButton.LeftButton)
    qtbot.wait(1500)
    assert window.workspace is None
    assert window.message.isHidden()


def test_the_window_may_close_while_it_is_worked_out(window, qtbot):
    window.workspace.edit(set_value("Raise crest", CREST, 0.28))
    window.close()
    qtbot.wait(800)
    again = MainWindow()
    qtbot.addWidget(again)
    path = window.workspace.path
    assert again.open_file(path)
    qtbot.waitUntil(lambda: again.workspace is not None, timeout=20_000)
    assert height(again.workspace) == 0.28
    again.workspace.close()


def test_the_file_that_is_asked_for_last_is_shown(window, qtbot, tmp_path):
    other = tmp_path / "other.fuente"
    save(reading_room().model_copy(update={"name": "Other"}), other)
    third = tmp_path / "third.fuente"
    save(reading_room().model_copy(update={"name": "Third"}), third)
    window.open_file(other)
    window.open_file(third)
    qtbot.waitUntil(lambda: window.workspace.system.name == "Third", timeout=20_000)
    qtbot.wait(300)
    assert window.workspace.system.name == "Third"


def test_what_a_page_needs_is_worked_out_before_it_is_made(window, qtbot, monkeypatch):
    from fuente.workshop import bill

    threads = []
    make = bill._made_of

    def made_of(analysis):
        threads.append(threading.current_thread())
        return make(analysis)

    monkeypatch.setattr(bill, "_made_of", made_of)
    window.show_stage("build")
    assert window.stage == "water"
    assert "Working out “Build”" in window.message.text.text()
    qtbot.waitUntil(lambda: window.stage == "build", timeout=20_000)
    assert not window.message.isVisible()
    window.workspace.edit(set_value("Raise crest", CREST, 0.28))
    qtbot.waitUntil(lambda: window.workspace.session.coming is None, timeout=20_000)
    window.page("build").show_view("parts")
    assert len(threads) == 2  # once for each design
    assert threading.main_thread() not in threads


def test_a_page_that_is_given_up_leaves_the_one_before(window, qtbot, monkeypatch):
    go = threading.Event()
    prepare = opening.prepare

    def slow(key, analysis):
        go.wait(10)
        prepare(key, analysis)

    monkeypatch.setattr(opening, "prepare", slow)
    window.show_stage("build")
    qtbot.mouseClick(window.message.no, Qt.MouseButton.LeftButton)
    qtbot.wait(50)
    go.set()
    qtbot.wait(500)
    assert window.stage == "water"
    assert window.message.isHidden()
    window.show_stage("build")
    qtbot.waitUntil(lambda: window.stage == "build", timeout=20_000)


def test_a_page_that_needs_nothing_is_there_at_once(window):
    window.show_stage("wet")
    assert window.stage == "wet"
