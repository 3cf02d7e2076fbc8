"""Shared fixtures: the demo, solved; a state folder of each test's own."""

from __future__ import annotations

import os
from pathlib import Path

os.environ.setdefault("QT_QPA_PLATFORM", "offscreen")

import pytest
from hypothesis import HealthCheck, settings

from fuente.demo.reading_room import reading_room
from fuente.document.system import System
from fuente.memory import calm_collector, collect_by_hand, collect_due
from fuente.study import known
from fuente.study.analysis import Analysis

# The same examples in every run, so that a red check means a change; FUENTE_EXPLORE=1 looks for new ones.
slow = [HealthCheck.too_slow]
settings.register_profile("fuente", deadline=None, suppress_health_check=slow, max_examples=40, derandomize=True)
settings.register_profile("explore", deadline=None, suppress_health_check=slow, max_examples=200)
settings.load_profile("explore" if os.environ.get("FUENTE_EXPLORE") else "fuente")


@pytest.fixture(autouse=True)
def own_state(tmp_path, monkeypatch):
    """No test reads or writes the user's own state."""
    monkeypatch.setenv("FUENTE_STATE", str(tmp_path / "state"))


@pytest.fixture(scope="session")
def qapp(qapp):
    """The application with its type: Qt keeps what it fell back on for good once a word was measured without."""
    from fuente.ui import theme

    theme.load_fonts()
    return qapp


@pytest.fixture
def demo() -> System:
    """The reading-room tank."""
    return reading_room()


@pytest.fixture
def solved(demo: System) -> Analysis:
    """The reading-room tank with its situations."""
    return known.analysed(demo)


def pytest_sessionstart() -> None:
    """The garbage collector as the application sets it; more designs are kept than there, as tests share them."""
    known.MOST *= 10
    calm_collector()
    collect_by_hand()


@pytest.hookimpl(trylast=True)
def pytest_runtest_teardown() -> None:
    """After a test, as the application does between two events."""
    collect_due()


def pytest_collection_modifyitems(items: list[pytest.Item]) -> None:
    """What took long when it was measured is left out by ``./check --fast``, as what is marked by hand."""
    slow = set((Path(__file__).parent / "slow.txt").read_text().split())
    for item in items:
        if item.nodeid.split("[")[0] in slow:
            item.add_marker(pytest.mark.slow)
