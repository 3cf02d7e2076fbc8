"""What a window decides, without a window: a session told and heard by a listener that writes down what it hears."""

from __future__ import annotations

from dataclasses import replace

import pytest
from ear import Ear

from fuente.catalogue import stock
from fuente.demo.back_room import back_room
from fuente.demo.trough import trough
from fuente.devices.base import Change, Edit
from fuente.document.files import load
from fuente.document.media import OwnMedium
from fuente.document.system import set_value
from fuente.errors import DocumentError
from fuente.session import Session, checked_aside, fix_aside, remedies_aside
from fuente.study import known
from fuente.study.analysis import Analysis
from fuente.study.situation import Situation
from fuente.units import UnitSystem

CREST = ("devices", "sump", "chambers", 2, "exit", "top")


@pytest.fixture(autouse=True)
def nothing_known():
    """What is done aside depends on what was solved before."""
    known.forget()


@pytest.fixture
def ear():
    return Ear()


@pytest.fixture
def session(demo, ear):
    return Session(demo, None, ear)


def names(ear):
    return [h[0] for h in ear.heard]


def test_an_edit_is_made_named_and_told(session, ear):
    assert session.edit(set_value("Raise crest", CREST, 0.28))
    assert session.history.undo_name == "Raise crest"
    assert "changed" in names(ear)
    assert session.analysis.system is session.system
    session.undo()
    assert session.history.redo_name == "Raise crest"
    session.redo()
    assert session.system.device("sump").chambers[2].exit.top == 0.28


def test_an_impossible_edit_is_refused_and_changes_nothing(session, ear, demo):
    assert not session.edit(set_value("Too high", CREST, 0.9))
    assert ("refused", "A baffle of Moving bed stands above the sump's rim.") in ear.heard
    assert session.system == demo
    assert session.history.undo_name == ""


def test_a_drag_shows_and_takes_back(session, demo):
    assert session.preview(set_value("Raise crest", CREST, 0.28))
    assert session.system != demo
    assert session.history.system == demo
    session.cancel_preview()
    assert session.system == demo
    assert session.analysis.system == demo


def cut_of(analysis):
    return analysis.situation("power_cut").solution.level


def test_in_a_drag_what_is_glanced_at_comes_a_frame_late(session):
    """A power cut's mark over the running section, and its bar on a card: of the step before until that is painted."""
    first = cut_of(session.analysis)
    for crest in (0.28, 0.285, 0.29):
        assert session.preview(set_value("Raise crest", CREST, crest))
        assert session.analysis.known("power_cut") is None
        assert session.analysis.peek("power_cut").solution.level == first  # however often nothing was judged between
    session.judge()
    alone = cut_of(Analysis(session.system))
    assert cut_of(session.analysis) == pytest.approx(alone, abs=1e-9)
    assert alone["sump.pump"] != pytest.approx(first["sump.pump"], abs=1e-5)
    assert session.analysis.peek("power_cut").solution.level == pytest.approx(alone, abs=1e-9)


def test_the_situation_that_is_looked_at_is_never_late(session):
    session.show("power_cut")
    before = session.situation.solution.level
    assert session.preview(set_value("Raise crest", CREST, 0.29))
    shown = session.situation.solution.level
    assert shown == pytest.approx(cut_of(Analysis(session.system)), abs=1e-9)
    assert shown["sump.pump"] != pytest.approx(before["sump.pump"], abs=1e-5)


def test_a_design_that_is_in_no_such_situation_runs(session):
    """Cleaning is looked at, and the sump is taken out: nothing is left to be cleaned."""
    session.show("cleaning")
    assert session.situation.name == "cleaning"
    gone = tuple(Change(("devices", d.id), None) for d in session.system.devices if d.id != session.system.tanks[0].id)
    assert session.edit(Edit("Only the tank", gone))
    assert "cleaning" not in session.analysis.names()
    assert session.situation_name == "running"
    assert session.situation.name in ("running", "rest")
    session.undo()
    assert session.situation.name == "running"


def test_an_edit_is_late_with_nothing(session):
    session.preview(set_value("Raise crest", CREST, 0.29))
    session.edit(set_value("Raise crest", CREST, 0.295))
    own = cut_of(Analysis(session.system))
    assert session.analysis.peek("power_cut").solution.level == pytest.approx(own, abs=1e-9)


def test_the_chosen_chamber_is_what_cleaning_is_about(session):
    session.show("cleaning")
    first = session.situation
    assert first.about == "sump.foam"  # the dirtiest
    session.select("sump.bed")
    second = session.situation
    assert second.about == "sump.bed"
    assert second.numbers["carried"] != first.numbers["carried"]
    session.select("sump.pump")  # a pump's own chamber is not cleaned on its own
    assert session.situation.about == "sump.bed"


def test_choosing_another_station_ends_a_run_of_nudges(session, demo):
    session.edit(set_value("Nudge", CREST, 0.271), "crest")
    session.edit(set_value("Nudge", CREST, 0.272), "crest")
    session.select("sump.foam")
    session.edit(set_value("Nudge", CREST, 0.273), "crest")
    session.undo()
    assert session.system.device("sump").chambers[2].exit.top == 0.272
    session.undo()
    assert session.system == demo


def test_a_large_system_is_checked_aside(ear):
    session = Session(back_room(), None, ear)
    assert session.checking
    assert ("check_soon",) in ear.heard
    assert session.peek("power_cut") is None
    result = checked_aside(session.system, session.analysis, lambda _: True)
    session.checked(result)
    assert not session.checking
    assert isinstance(session.peek("power_cut"), Situation)
    assert "tank-drain-blocked" in {f.code for f in session.findings}


def test_what_was_checked_of_another_design_is_not_taken(ear):
    session = Session(back_room(), None, ear)
    late = checked_aside(session.system, session.analysis, lambda _: True)
    session.edit(set_value("Turn", ("devices", "rack-manifold", "rows", 0, "branches", 0, "angle"), 51.0))
    session.checked(late)
    assert session.checking
    assert session.analysis.system == session.system


def test_a_check_can_be_stopped():
    analysis = Session(back_room(), None, Ear()).analysis
    assert checked_aside(analysis.system, analysis, lambda share: share < 0.2) is None


def test_a_rack_s_tank_has_a_row_while_it_is_chosen(ear):
    session = Session(back_room(), None, ear)
    assert all(s.id != "rack-2-3" for s in session.stations)
    session.select("rack-2-3")
    assert session.station().id == "rack-2-3"
    assert session.tank_in_view() == "rack-2-3"


def test_files_are_saved_soon_at_once_or_not_at_all(session, ear, tmp_path):
    session.edit(set_value("Name it", ("name",), "Before"))
    assert "save_soon" not in names(ear)  # there is no file yet
    path = tmp_path / "a.fuente"
    session.save(path)
    assert not session.dirty
    session.edit(set_value("Name it", ("name",), "After"))
    assert "save_soon" in names(ear)
    session.autosave()
    assert load(path).name == "After"
    with pytest.raises(DocumentError):
        session.save(tmp_path / "no" / "such" / "folder.fuente")


def test_a_failed_autosave_is_said(session, ear, tmp_path):
    (tmp_path / "there").mkdir()
    session.save(tmp_path / "there" / "a.fuente")
    session.filing._stamp = None  # as if nothing were known of it
    session.filing.path = tmp_path / "gone" / "a.fuente"
    session.edit(set_value("Name it", ("name",), "After"))
    session.autosave()
    assert "could not be saved" in session.save_error
    assert session.dirty


def test_units_are_no_edit(session):
    session.set_units(UnitSystem.US)
    assert session.units is UnitSystem.US
    assert session.history.undo_name == ""
    session.undo()
    assert session.units is UnitSystem.US


def test_edits_of_an_own_medium_leave_one_entry(ear):
    """Eight times other figures: the design and what cards offer hold the last ones alone."""
    session = Session(trough(), None, ear)
    lava = OwnMedium(name="Lava", kind="carrier", surface=300.0)
    session.own.keep(lava)
    session.edit(set_value("Take lava", ("devices", "drums", "drums", 1, "medium"), lava.id))
    for surface in range(310, 390, 10):
        new = OwnMedium(name="Lava", kind="carrier", surface=float(surface))
        session.own.change(lava, new)
        lava = new
    assert [m.surface for m in session.system.media] == [380.0]
    assert session.own.shelf == (lava,)
    offered = {v for s in session.stations for c in s.choices for v, _ in c.options if str(v).startswith("own-")}
    assert offered == {lava.id}
    assert not any(key.startswith("own-") for key in stock().media)
    session.undo()
    assert session.system.media[0].surface == 370.0


def test_two_changes_are_one_step(session):
    edit = Edit("Both", (Change(CREST, 0.275), Change(("name",), "Two")))
    session.edit(edit)
    session.undo()
    assert session.system.name == "Reading-room tank"
    assert session.system.device("sump").chambers[2].exit.top == 0.27


class Clock:
    """Seconds that stand still but for what a test says that solving takes."""

    def __init__(self, monkeypatch, **costs):
        self.now, self.solved = 0.0, []
        real = Analysis.try_situation

        def slow(study, name, about=""):
            if name not in (done := study.__dict__.setdefault("seen", set())):
                done.add(name)
                self.solved.append(name)
                self.now += costs.get(name, 0.0)
            return real(study, name, about)

        monkeypatch.setattr(Analysis, "try_situation", slow)

    def __call__(self):
        return self.now


def test_what_took_long_is_done_aside_the_next_time(demo, ear, monkeypatch):
    clock = Clock(monkeypatch, valve_leaks=0.08)
    session = Session(demo, None, ear, clock=clock)
    assert session.checking  # nothing is known of this design: all of it aside
    assert "judge_soon" in names(ear)
    session.judge()
    assert "check_soon" in names(ear)
    assert "valve_leaks" not in clock.solved
    session.checked(checked_aside(session.system, session.analysis, lambda _: True, clock))
    assert not session.checking
    assert "try_soon" in names(ear)
    ear.heard.clear()
    clock.solved.clear()
    session.edit(set_value("Raise crest", CREST, 0.271))
    assert session.checking
    session.judge()
    assert "power_cut" in clock.solved  # at once: it did not take long
    assert "valve_leaks" not in clock.solved
    assert isinstance(session.peek("power_cut"), Situation)
    session.show("valve_leaks")
    assert session.peek("valve_leaks") is None  # nor by looking at it
    assert session.awaited
    assert session.situation.name == "running"
    session.checked(checked_aside(session.system, session.analysis, lambda _: True, clock))
    assert session.situation.name == "valve_leaks"
    assert not session.awaited


@pytest.mark.parametrize(("cost", "tried"), [(0.9, True), (13.0, False)])
def test_remedies_and_bands_of_a_large_system_follow_unless_they_would_take_minutes(ear, monkeypatch, cost, tried):
    clock = Clock(monkeypatch, power_cut=cost)
    session = Session(back_room(), None, ear, clock=clock)
    assert session.analysis.large
    session.checked(checked_aside(session.system, session.analysis, lambda _: True, clock))
    assert ("try_soon" in names(ear)) == tried


def test_what_is_quick_is_done_at_once(demo, ear, monkeypatch):
    clock = Clock(monkeypatch)
    session = Session(demo, None, ear, clock=clock)
    session.checked(checked_aside(session.system, session.analysis, lambda _: True, clock))
    session.edit(set_value("Raise crest", CREST, 0.271))
    assert not session.checking
    assert isinstance(session.peek("valve_leaks"), Situation)
    assert session.findings


def test_a_remedy_is_tried_aside_unless_it_was_tried_before(demo, ear, monkeypatch):
    clock = Clock(monkeypatch)
    session = Session(demo, None, ear, clock=clock)
    session.checked(checked_aside(session.system, session.analysis, lambda _: True, clock))
    hole = next(f for f in session.findings if f.code == "no-air-hole")
    session.fix(hole)
    assert session.trying is hole
    assert ("fix_soon", hole) in ear.heard
    assert session.system == demo
    session.fixed(hole, fix_aside(session.system, session.analysis, hole, session.findings))
    assert session.trying is None
    assert session.history.undo_name == hole.edit.name
    # All remedies tried: the button makes its change at once.
    session.undo()
    session.checked(checked_aside(session.system, session.analysis, lambda _: True, clock))
    session.remedied(remedies_aside(session.system, session.analysis, session.findings, lambda _: True))
    ear.heard.clear()
    session.fix(next(f for f in session.findings if f.code == "no-air-hole"))
    assert "fix_soon" not in names(ear)
    assert session.history.undo_name == hole.edit.name


def test_remedies_given_up_are_tried_again(demo, ear, monkeypatch):
    session = Session(demo, None, ear, clock=Clock(monkeypatch))
    session.checked(checked_aside(session.system, session.analysis, lambda _: True))
    ear.heard.clear()
    session.try_again()
    assert names(ear) == ["try_soon"]
    session.remedied(remedies_aside(session.system, session.analysis, session.findings, lambda _: True))
    ear.heard.clear()
    session.try_again()
    assert names(ear) == []


def test_many_short_ones_together_are_done_aside_too(demo, ear, monkeypatch):
    """Each a little under a blink: one or two are done after a frame, the rest aside."""
    clock = Clock(monkeypatch, **dict.fromkeys(Analysis(demo).names(), 0.04))
    session = Session(demo, None, ear, clock=clock)
    session.checked(checked_aside(session.system, session.analysis, lambda _: True, clock))
    session.edit(set_value("Raise crest", CREST, 0.271))
    assert session.checking
    clock.solved.clear()
    session.judge()
    assert 1 <= len(clock.solved) <= 3
    assert "check_soon" in names(ear)


def test_a_remedy_that_does_not_help_leaves_the_others_to_be_tried(demo, ear, monkeypatch):
    session = Session(demo, None, ear, clock=Clock(monkeypatch))
    session.checked(checked_aside(session.system, session.analysis, lambda _: True))
    hole = next(f for f in session.findings if f.code == "no-air-hole")
    session.fix(hole)
    ear.heard.clear()
    session.fixed(hole, replace(hole, edit=None, action="", why="It does not."))
    assert names(ear) == ["refused", "changed", "try_soon"]
    assert next(f for f in session.findings if f.code == "no-air-hole").why == "It does not."
    session.trying = hole
    session.unchecked("It could not.")
    assert session.trying is None
