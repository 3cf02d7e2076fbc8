"""Work off the interface thread: heard, stopped, and quiet when nobody is there any more."""

from __future__ import annotations

import threading
import time

import pytest
from PySide6.QtCore import QObject, QThreadPool
from shiboken6 import delete

from fuente import halting
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
