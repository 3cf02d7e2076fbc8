"""Cycles are let go of in the interface thread, between two events, and nowhere else."""

from __future__ import annotations

import gc
import os
import subprocess
import sys
import weakref

import pytest

from fuente.memory import collect_by_hand, collect_due

ASKED = """
import gc, threading, weakref
from PySide6.QtCore import QTimer
from PySide6.QtWidgets import QWidget
from fuente.ui.application import application

app = application("light", 1.0)
where, seen, kept = [], [], []
gc.callbacks.append(lambda phase, info: where.append(threading.current_thread() is threading.main_thread()))
closed = QWidget()
closed.me = closed
gone = weakref.ref(closed)
del closed

def work():
    for _ in range(200_000):
        kept.append([])
    seen.append((bool(where), gone() is None))

thread = threading.Thread(target=work)
thread.start()
thread.join()
app.setStyleSheet("QLabel { color: red }")
seen.append((bool(where), gone() is None))
QTimer.singleShot(1500, app.quit)
app.exec()
print(seen, bool(where) and all(where), gone() is None)
"""


def test_neither_in_a_thread_nor_with_a_style_but_soon_after():
    """Asked in an interpreter of its own, since the tests' own collector stands still as well."""
    env = {**os.environ, "QT_QPA_PLATFORM": "offscreen"}
    told = subprocess.run([sys.executable, "-c", ASKED], capture_output=True, text=True, env=env, timeout=60)
    assert told.stdout.strip() == "[(False, False), (False, False)] True True", told.stderr


class Ring:
    """Holds itself."""

    def __init__(self):
        self.me = self


@pytest.fixture
def by_hand():
    """The collector by hand with low thresholds, and as it was afterwards."""
    before = gc.get_threshold()
    gc.collect()
    collect_by_hand()
    gc.set_threshold(1000, 2, 2)
    yield
    gc.set_threshold(*before)


def test_what_is_due_goes_and_what_is_not_stays(by_hand):
    ring = weakref.ref(Ring())
    assert not gc.isenabled()
    assert collect_due() == 0
    assert ring() is not None
    kept = [[] for _ in range(2000)]
    assert collect_due() > 0
    assert ring() is None
    assert len(kept) == 2000


def test_what_lived_on_is_searched_in_its_turn(by_hand):
    old = Ring()
    ring, kept = weakref.ref(old), []
    kept += [[] for _ in range(2000)]
    collect_due()
    del old
    turns = 0
    while ring() is not None and turns < 4:
        kept += [[] for _ in range(2000)]
        collect_due()
        turns += 1
    assert ring() is None
    assert turns > 1  # not with the young
