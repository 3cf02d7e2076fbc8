"""Work off the interface thread: heard, stopped, and quiet when nobody is there any more."""

from __future__ import annotations

import gc
import threading
import time
import weakref

import pytest
from PySide6.QtCore import QObject, QThreadPool
from shiboken6 import delete

from fuente import halting
from fuente.devices.base import Change, Edit
from fuente.errors import FuenteError
from fuente.ui import jobs
from fuente.ui.jobs import Job


@pytest.fixture
def owner(qapp):
    return QObject()


def test_it_is_heard_in_the_interface_thread(owner, qtbot):
    heard, shares = [], []

    def work(tell):
        assert threading.current_thread() is not threading.main_thread()
        tell(0.5)
        return 7

    Job(work, owner).hear(
        lambda r: heard.append((r, threading.current_thread() is threading.main_thread())), heard.append, shares.append
    ).start()
    qtbot.waitUntil(lambda: bool(heard), timeout=5000)
    assert heard == [(7, True)]
    assert shares == [0.5]


def test_a_sentence_is_heard_as_such(owner, qtbot):
    failed = []

    def work(tell):
        raise FuenteError("The water finds no way.")

    Job(work, owner).hear(lambda r: pytest.fail("done"), failed.append).start()
    qtbot.waitUntil(lambda: failed == ["The water finds no way."], timeout=5000)


def test_nothing_is_said_to_who_is_gone(owner, qtbot, capfd):
    go, heard = threading.Event(), []

    def work(tell):
        go.wait(5)
        tell(0.5)
        return 1

    job = Job(work, owner).hear(heard.append, heard.append)
    job.start()
    delete(job.signals)  # as the end of the application does
    go.set()
    assert QThreadPool.globalInstance().waitForDone(5000)
    qtbot.wait(50)
    assert job.over
    assert job.stopped
    assert heard == []
    assert "Error" not in capfd.readouterr().err


def test_another_fault_in_saying_it_is_not_swallowed(owner, monkeypatch):
    job = Job(lambda tell: 1, owner)

    class Broken:
        def emit(self, value):
            raise RuntimeError("something else")

    monkeypatch.setattr(jobs, "isValid", lambda _: True)
    monkeypatch.setattr(job, "signals", type("S", (), {"done": Broken()})())
    with pytest.raises(RuntimeError, match="something else"):
        job._run()


def test_the_end_of_the_application_gives_up_what_runs(owner, qtbot):
    began = threading.Event()

    def work(tell):
        began.set()
        while True:
            halting.step()
            time.sleep(0.002)

    heard = []
    job = Job(work, owner).hear(heard.append, heard.append)
    job.start()
    assert began.wait(5)
    before = time.monotonic()
    jobs.stop_all()
    assert job.over
    assert time.monotonic() - before < 3
    qtbot.wait(30)
    assert heard == []


class Held:
    """Something that a job's closures keep."""


def test_what_it_worked_with_goes_when_it_is_over(owner, qtbot):
    """An owner keeps its jobs, and they what they call: neither may keep the other for good."""
    worked, told = Held(), Held()
    gone = [weakref.ref(worked), weakref.ref(told)]
    heard = []

    def begin(worked, told):
        job = Job(lambda tell: str(worked), owner).hear(lambda r: heard.append((told, r)), heard.append)
        owner.jobs = [job]
        job.start()

    begin(worked, told)
    qtbot.waitUntil(lambda: bool(heard), timeout=5000)
    assert QThreadPool.globalInstance().waitForDone(5000)
    heard.clear()
    del worked, told
    Job(lambda tell: None, owner).start()  # what is over is swept when the next begins
    assert [ref() for ref in gone] == [None, None]


def test_what_is_on_its_way_is_neither_lost_nor_told_to_the_dead(owner, qtbot):
    """Jobs are swept when another begins: one whose end still waits for the interface thread is not over yet."""
    heard = []
    Job(lambda tell: 1, owner).hear(heard.append, heard.append).start()
    assert QThreadPool.globalInstance().waitForDone(5000)  # its end waits for this thread
    Job(lambda tell: 2, owner).start()
    qtbot.waitUntil(lambda: heard == [1], timeout=5000)
    Job(lambda tell: 3, owner).hear(heard.append, heard.append).start()
    assert QThreadPool.globalInstance().waitForDone(5000)
    Job(lambda tell: 4, QObject(owner)).start()
    delete(owner)
    qtbot.wait(50)
    assert heard == [1]


def test_one_that_was_stopped_goes_as_well(owner, qtbot):
    worked = Held()
    gone, go = weakref.ref(worked), threading.Event()

    def work(tell, worked=worked):
        go.wait(5)
        return worked

    job = Job(work, owner).hear(pytest.fail, pytest.fail)
    del worked, work
    job.start()
    job.stopped = True
    go.set()
    assert QThreadPool.globalInstance().waitForDone(5000)
    qtbot.wait(20)
    Job(lambda tell: None, owner).start()
    assert gone() is None


def test_one_that_never_ran_goes_with_its_owner(qapp):
    owner, told = QObject(), Held()
    gone = weakref.ref(told)
    job = Job(lambda tell: None, owner).hear(lambda r, told=told: None, lambda r: None)
    del told
    delete(owner)
    assert job.stopped
    assert gone() is None


def alive(kind: type) -> int:
    return sum(type(o) is kind for o in gc.get_objects())


def test_edits_leave_no_waters_behind(window, qtbot):
    """Of each design that was worked out aside, nothing stays but what is shown and what it was worked out from."""
    from fuente.study.analysis import Analysis

    gc.collect()
    before, seen = alive(Analysis), []
    for n in range(6):
        crest = window.workspace.system.device("sump").chambers[1].exit.top
        path = ("devices", "sump", "chambers", 1, "exit", "top")
        window.workspace.edit(Edit("Set the crest", (Change(path, crest + (0.001 if n % 2 else -0.001)),)))
        window.workspace._check()  # as where it takes longer than an edit may
        qtbot.waitUntil(lambda: not window.workspace.checking, timeout=20_000)
        QThreadPool.globalInstance().waitForDone(20_000)
        qtbot.wait(20)
        gc.collect()
        seen.append(alive(Analysis) - before)
    assert max(seen) <= 3
    assert seen[-1] <= seen[1]


def test_pages_that_were_built_anew_are_gone(window, qtbot):
    from fuente.ui.life_view import LifeView

    window.show_stage("media")
    window.page("media").view("life")
    life = window.page("media").life
    life.work()
    qtbot.waitUntil(lambda chart=life.chart: chart.chart is not None, timeout=60_000)
    del life
    gc.collect()
    assert alive(LifeView) == 1
    window.switch_theme()
    window.switch_theme()
    QThreadPool.globalInstance().waitForDone(60_000)
    qtbot.wait(20)
    gc.collect()
    assert alive(LifeView) == 1
