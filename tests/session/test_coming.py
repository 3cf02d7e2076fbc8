"""A system so large that even its running state keeps the eye waiting: an edit is at once, its water comes later."""

from __future__ import annotations

import itertools

import pytest
from ear import Ear

from fuente.devices import sponge
from fuente.document.files import load
from fuente.document.media import OwnMedium
from fuente.document.system import set_value
from fuente.errors import FuenteError
from fuente.session import Session, checked_aside, solved_aside
from fuente.session import session as module
from fuente.study import known
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.units import UnitSystem

CREST = ("devices", "sump", "chambers", 2, "exit", "top")


@pytest.fixture
def ear():
    return Ear()


@pytest.fixture
def session(demo, ear, monkeypatch):
    """The demo, as if it were two hundred tanks."""
    known.forget()
    monkeypatch.setattr(module, "VAST", 0)
    ticks = itertools.count()
    made = Session(demo, None, ear, clock=lambda: next(ticks) * 1e-3)
    ear.heard.clear()
    return made


def arrive(session, system=None):
    session.solved(solved_aside(system or session.coming, session.analysis, session.focus, session.own.offered()))


def crest(value):
    return set_value("Raise crest", CREST, value)


def height(system):
    return system.by_id["sump"].chambers[2].exit.top


def test_an_edit_waits_for_its_water_and_is_safe_meanwhile(session, ear, tmp_path, monkeypatch):
    before = session.analysis
    with monkeypatch.context() as m:
        m.setattr("fuente.network.running.steady", lambda *_: pytest.fail("solved while the eye waits"))
        m.setattr("fuente.study.lowered.lower", lambda *_: pytest.fail("lowered while the eye waits"))
        assert session.edit(crest(0.28))
    assert session.analysis is before
    assert session.system is before.system  # what is shown goes together
    assert session.history.undo_name == "Raise crest"
    assert "solve_soon" in ear.names()
    assert "changed" not in ear.names()
    session.save(tmp_path / "made.fuente")
    assert height(load(tmp_path / "made.fuente")) == 0.28
    arrive(session)
    assert session.coming is None
    assert session.analysis.system is session.history.system is session.system
    assert session.stations
    assert "changed" in ear.names()
    assert {"check_soon", "judge_soon"} & set(ear.names())


def test_the_same_as_at_once(session, demo, ear):
    at_once = Session(demo, None, Ear())
    for each in (session, at_once):
        each.edit(crest(0.28))
    arrive(session)
    assert session.situation.solution.level == at_once.situation.solution.level
    session.checked(checked_aside(session.system, session.analysis, lambda _: True))
    assert [(s.id, s.headline, s.values, s.big) for s in session.stations] == [
        (s.id, s.headline, s.values, s.big) for s in at_once.stations
    ]
    assert session.findings == at_once.findings


def test_of_two_edits_the_first_is_shown_on_the_way_and_the_second_stays(session, ear):
    session.edit(crest(0.28))
    first = session.coming
    session.edit(crest(0.281))
    arrive(session, first)
    assert height(session.system) == 0.28
    assert session.coming is session.history.system
    assert not session.checking  # nobody judges what is on its way
    arrive(session)
    assert height(session.system) == 0.281
    assert session.coming is None
    session.undo()
    arrive(session)
    assert height(session.system) == 0.28


def test_a_drag_is_shown_and_put_back(session, demo):
    assert session.preview(crest(0.29))
    arrive(session)
    assert height(session.system) == 0.29
    assert height(session.history.system) == height(demo)
    session.cancel_preview()
    arrive(session)
    assert session.system is session.history.system


def test_back_to_where_it_was_waits_for_nothing(session, demo, ear):
    session.edit(crest(0.28))
    session.undo()
    assert session.coming is None
    assert session.system is session.history.system
    assert ear.names()[-1] in ("changed", "judge_soon", "save_soon")


def test_a_filter_that_is_coming_is_chosen_when_it_is_there(session):
    tank = session.system.tanks[0].id
    new = sponge.KIND.first(new_site(session.system, tank))
    assert session.edit(add_filter(session.system, new))
    was = session.selected
    session.select(new.id)
    assert session.selected == was
    arrive(session)
    assert session.selected == new.id


def test_what_cannot_be_solved_is_taken_back_and_said(session, ear, demo):
    session.edit(crest(0.28))
    session.unsolved(session.coming, "The water finds no way.")
    assert ("refused", "The water finds no way.") in ear.heard
    assert session.coming is None
    assert session.history.system == demo
    assert not session.history.redo_name
    assert height(session.system) == height(demo)


def test_what_failed_before_the_latest_edit_takes_nothing_back(session, ear):
    session.edit(crest(0.28))
    first = session.coming
    session.edit(crest(0.281))
    session.unsolved(first, "The water finds no way.")
    assert "refused" not in ear.names()
    assert height(session.coming) == 0.281


def test_other_units_come_with_the_water(session):
    session.set_units(UnitSystem.US)
    arrive(session)
    assert session.units == UnitSystem.US
    assert session.history.undo_name == ""


def test_nothing_arrives_after_the_end(session):
    session.edit(crest(0.28))
    made = solved_aside(session.coming, session.analysis)
    session.close()
    before = session.analysis
    session.solved(made)
    assert session.analysis is before


def test_a_refused_edit_leaves_nothing_on_its_way(session, ear):
    assert not session.edit(crest(5.0))
    assert "refused" in ear.names()
    assert session.coming is None


def test_solving_aside_says_what_cannot_be(session, monkeypatch):
    def never(*_args, **_more):
        raise FuenteError("no")

    monkeypatch.setattr("fuente.session.aside.analysed", never)
    with pytest.raises(FuenteError, match="no"):
        solved_aside(session.system)


def test_two_own_media_made_in_a_row_are_both_kept(session):
    """The second is added to what the document is by then, not to what is still shown."""
    for name in ("Lava, crushed", "Lava, rounded"):
        assert session.own.keep(OwnMedium(name=name, kind="loose"))
    assert [m.name for m in session.history.system.media] == ["Lava, crushed", "Lava, rounded"]
    arrive(session)
    assert len(session.system.media) == 2
