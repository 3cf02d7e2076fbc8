"""A design that was solved is not solved again; what is kept is by the document alone and bounded."""

from __future__ import annotations

import pytest

from fuente.demo.back_room import back_room
from fuente.document.system import apply, set_value
from fuente.findings.judge import findings, judge
from fuente.study import known
from fuente.study.analysis import Analysis
from fuente.study.known import analysed, forget

CREST = ("devices", "sump", "chambers", 2, "exit", "top")


@pytest.fixture(autouse=True)
def nothing_known():
    forget()


def test_an_undone_edit_is_answered_by_what_was_solved(demo):
    first = analysed(demo)
    cut = first.situation("power_cut")
    higher = analysed(apply(demo, set_value("Raise crest", CREST, 0.271)), first)
    assert higher.known("power_cut") is None
    back = analysed(apply(higher.system, set_value("Lower crest", CREST, 0.27)), higher)
    assert demo == back.system
    assert back.known("power_cut") is cut
    assert back.situation("power_cut") is cut


def test_what_is_remembered_is_what_would_be_solved(demo):
    remembered = (judge(demo), judge(demo))[1]
    assert remembered == findings(Analysis(demo))


def test_a_neighbour_starts_from_levels_that_were_remembered(demo):
    analysed(demo).situation("running")
    again = analysed(demo)
    again.situation("running")
    higher = Analysis(apply(demo, set_value("Raise crest", CREST, 0.271)), again)
    cold = Analysis(higher.system)
    for cell, level in cold.running.level.items():
        assert higher.running.level[cell] == pytest.approx(level, abs=1e-6)


def test_only_what_was_asked_last_is_kept(demo, monkeypatch):
    monkeypatch.setattr(known, "MOST", len(Analysis(demo).network.cells))
    analysed(demo).situation("running")
    assert analysed(demo).known("running") is not None
    analysed(back_room())  # larger than all that is kept: it stays alone
    assert analysed(demo).known("running") is None


def test_to_forget_is_to_solve_again(demo):
    analysed(demo).situation("running")
    forget()
    assert analysed(demo).known("running") is None


def test_what_was_asked_again_stays_and_what_was_not_goes(demo, monkeypatch):
    monkeypatch.setattr(known, "MOST", 2 * len(Analysis(demo).network.cells))
    one, two, three = (apply(demo, set_value("Raise crest", CREST, at)) for at in (0.271, 0.272, 0.273))
    for system in (one, two, one, three):  # two are kept
        analysed(system).situation("running")
    assert [analysed(s).known("running") is None for s in (one, three, two)] == [False, False, True]


def test_designs_that_are_equal_have_one_hash_and_a_copy_has_its_own(demo):
    assert hash(demo) == hash(apply(demo, set_value("Raise crest", CREST, 0.27)))
    assert hash(demo) == hash(type(demo).model_validate(demo.model_dump()))
    demo.housed  # noqa: B018  what was worked out of the old one is none of the copy's
    copied = demo.model_copy(update={"devices": demo.devices[:1], "place": "Hall"})
    assert hash(copied) != hash(demo)
    assert sum(len(own) for own in copied.housed.values()) == 1
    assert hash(copied) == hash(type(copied).model_validate(copied.model_dump()))
