"""Levels slide between situations, end where they should, and stand still for those who want it."""

import pytest
from PySide6.QtCore import QAbstractAnimation

from fuente.ui import motion, settings


def surface(page, owner="sump.pump"):
    return next(
        s for s in page.view.drawing().shapes if getattr(s, "style", "") == "surface" and s.owner == owner
    ).points[0][1]


@pytest.fixture
def sliding(window, qapp):
    qapp.setProperty("still", False)
    yield window
    qapp.setProperty("still", True)


def test_levels_pass_between_and_arrive(sliding, qtbot):
    page, work = sliding.page("water"), sliding.workspace
    low = work.analysis.running.level["sump.pump"] * 1000
    high = work.analysis.situation("power_cut").solution.level["sump.pump"] * 1000
    seen = []
    page.slide.animation.valueChanged.connect(lambda _: seen.append(surface(page)))
    page.strip.buttons["power_cut"].click()
    assert page.slide.animation.state() == QAbstractAnimation.State.Running
    page.slide.animation.pause()  # a busy machine may paint no frame on the way
    for moment in (40, 80, 120):
        page.slide.animation.setCurrentTime(moment)
    page.slide.animation.resume()
    qtbot.waitUntil(lambda: page.slide.animation.state() == QAbstractAnimation.State.Stopped, timeout=5000)
    assert surface(page) == pytest.approx(high)
    assert any(low + 1 < y < high - 1 for y in seen)
    assert seen == sorted(seen)
    assert motion.DURATION < 200


def test_an_edit_during_a_slide_shows_at_once(sliding):
    page = sliding.page("water")
    page.strip.buttons["power_cut"].click()
    sliding.workspace.undo()
    page.refresh()
    assert page.slide.animation.state() == QAbstractAnimation.State.Stopped
    assert surface(page) == pytest.approx(sliding.workspace.situation.solution.level["sump.pump"] * 1000)


def test_motion_can_be_switched_off(sliding):
    page = sliding.page("water")
    sliding.switch_motion()
    assert settings.choice("motion", "on") == "off"
    page.strip.buttons["valve_leaks"].click()
    assert page.slide.animation.state() == QAbstractAnimation.State.Stopped
    sliding.switch_motion()
    assert settings.choice("motion", "on") == "on"


def test_a_very_large_system_stands_at_once(sliding, monkeypatch):
    from fuente.session import session

    page, work = sliding.page("water"), sliding.workspace
    monkeypatch.setattr(session, "VAST", 0)
    monkeypatch.setattr(work.session._pace, "_clock", lambda: 0.0)
    work.show("power_cut")
    assert page.slide.animation.state() == QAbstractAnimation.State.Stopped
    assert "Power cut" in page.view._caption
