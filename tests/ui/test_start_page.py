"""The start page is there at once; its pictures of the demos come one after the other."""

from __future__ import annotations

import threading

import pytest

from fuente.demo import DEMOS
from fuente.study import known
from fuente.ui import start_page
from fuente.ui.start_page import StartPage


@pytest.fixture
def threads(monkeypatch):
    """By which thread each demo was drawn."""
    known.forget()
    found = {}
    drawn = start_page._drawn

    def noted(key):
        found[key] = threading.current_thread()
        return drawn(key)

    monkeypatch.setattr(start_page, "_drawn", noted)
    return found


@pytest.fixture
def page(qtbot, qapp, threads):
    made = StartPage()
    qtbot.addWidget(made)
    made.resize(1280, 700)
    made.show()
    return made


def painted(page):
    return [key for key, view in page._pictures.items() if view.drawing().shapes]


def test_pictures_come_aside_in_their_order(page, threads, qtbot):
    assert painted(page) == []
    assert list(page._pictures) == list(DEMOS)
    qtbot.waitUntil(lambda: len(painted(page)) == len(DEMOS), timeout=60_000)
    assert list(threads) == list(DEMOS)
    assert threading.main_thread() not in threads.values()
    assert page._job is None


def test_hidden_it_stops_and_shown_again_it_goes_on(page, threads, qtbot):
    qtbot.waitUntil(lambda: len(painted(page)) >= 1, timeout=60_000)
    page.hide()
    before = painted(page)
    qtbot.wait(400)
    assert painted(page) == before
    page.show()
    qtbot.waitUntil(lambda: len(painted(page)) == len(DEMOS), timeout=60_000)


def test_read_again_it_paints_again(page, qtbot):
    page.refresh()
    assert painted(page) == []
    page.paint_now()
    assert painted(page) == list(DEMOS)
    assert page._job is None
