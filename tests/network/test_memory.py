"""Laws and groups answer by the levels alone: what was asked before leaves nothing in them, and is at most a first
guess.
"""

import copy

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from test_aeration import lift, supply
from test_laws import LAWS, LINE

from fuente.answers.systems import manifold_ducts
from fuente.demo.back_room import back_room
from fuente.demo.nursery import nursery
from fuente.document.system import apply, set_value
from fuente.network.aeration import Aeration, AirDrop
from fuente.network.ducts import Ducts
from fuente.study.analysis import Analysis

level = st.floats(0.02, 0.48)
ALL = {**LAWS, "return": LINE}


@pytest.mark.parametrize("name", ALL)
@given(a=level, b=level, c=level, d=level)
def test_a_law_answers_the_same_whatever_was_asked_before(name, a, b, c, d):
    fresh, used = copy.copy(ALL[name]), ALL[name]
    used.flow(c, d)
    assert used.flow(a, b) == fresh.flow(a, b)


def drops():
    return [
        AirDrop(lift(i, injector=0.55 - depth, outlet=0.56), 1.2, 0.004, 1.5) for i, depth in enumerate((0.3, 0.42))
    ]


GROUPS = {
    "manifold": (Ducts(manifold_ducts(12, 0.25, 0.032, 0.01, 0.3, 4.0), ["in", "out"]), [0.8, -1.0], [0.2, -1.0]),
    "air": (Aeration(supply(drops())), [0.55, 0.55], [0.5, 0.53]),
}


@pytest.mark.parametrize("name", GROUPS)
def test_a_group_answers_the_same_whatever_was_asked_before(name):
    group, one, other = GROUPS[name]
    one, other = (levels[:1] * (len(group.cells) - 1) + levels[1:] for levels in (one, other))
    first = group.exchange(one)
    group.exchange(other)
    for before, after in zip(first, group.exchange(one), strict=True):
        assert np.array_equal(before, after)


@pytest.mark.parametrize("name", GROUPS)
def test_a_first_guess_never_chooses_the_answer(name):
    """From flows a third and three times as great the same flows are found, to the solver's own tolerance."""
    group, levels, _ = GROUPS[name]
    levels = levels[:1] * (len(group.cells) - 1) + levels[1:]
    _, _, flows = group.exchange(levels)
    for factor in (0.3, 3.0):
        guess = {way.id: factor * q for way, q in zip(group.ways, flows.tolist(), strict=True)}
        _, _, again = group.exchange(levels, group.scratch(guess))
        assert again == pytest.approx(flows, rel=1e-9, abs=1e-13)


@pytest.mark.parametrize("make", [back_room, nursery])
def test_a_design_answers_the_same_after_any_other(make):
    """Levels and flows of all situations, from nothing and from a neighbour's, agree far inside what is shown."""
    system = make()
    tank = system.tanks[0]
    other = Analysis(apply(system, set_value("x", (*tank.path, "cover"), 0.1)))
    for name in other.names():
        other.try_situation(name)
    alone, after = Analysis(system), Analysis(system, other)
    for name in alone.names():
        one, two = alone.situation(name).solution, after.situation(name).solution
        assert two.level == pytest.approx(one.level, abs=1e-7), name
        assert two.flow == pytest.approx(one.flow, rel=1e-6, abs=1e-11), name
