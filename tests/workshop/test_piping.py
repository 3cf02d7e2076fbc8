"""Pipe pieces and what fittings take off add up to the drawing's run."""

from __future__ import annotations

import math

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fuente.catalogue import pipe_size, socket_depth
from fuente.demo import DEMOS
from fuente.devices.shop import HandTakeOff, Shop
from fuente.study.known import analysed
from fuente.workshop.bill import made_of
from fuente.workshop.piping import TURNS, cement, cut_run, runs_of, sketch_of
from fuente.workshop.step import title_of

SHARES = {"elbow": 0.55, "elbow_45": 0.28, "union": 0.25, "ball_valve": 0.9, "swing_check": 0.9, "gate_valve": 0.75}


@settings(max_examples=80, deadline=None)
@given(
    st.lists(st.floats(0.6, 3.0), min_size=1, max_size=3),
    st.lists(st.sampled_from(sorted(SHARES)), max_size=7),
    st.sampled_from(["32-pn10", "50-pn10", "1in-40"]),
)
def test_pieces_and_take_offs_make_the_run(legs, kinds, pipe):
    run = cut_run("x", pipe, legs, kinds)
    assert sorted(s.kind for s in run.stops) == sorted([*kinds, "end", "end"])
    assert [s.at for s in run.stops] == sorted(s.at for s in run.stops)
    assert len(run.pieces) == len(kinds) + 1
    if all(p.short == 0 for p in run.pieces):
        off = sum(2 * SHARES[k] * pipe_size(pipe).outside for k in kinds)
        assert sum(p.length for p in run.pieces) + off == pytest.approx(sum(legs), abs=1e-3)
    turns = [s for s in run.stops if s.kind in TURNS]
    corners = [sum(legs[: i + 1]) for i in range(len(legs) - 1)]
    for corner, turn in zip(corners, sorted(turns, key=lambda s: s.at), strict=False):
        if len(turns) <= len(corners):
            assert turn.at == pytest.approx(corner)


def test_a_run_that_lacks_room_says_so():
    run = cut_run("x", "75-pn10", [0.2], ["ball_valve", "elbow"])
    assert sum(p.short for p in run.pieces) > 0.05
    assert all(p.length >= 0 for p in run.pieces)


def test_a_fitting_that_was_measured_counts():
    shop = Shop(take_offs=(HandTakeOff(fits="elbow", pipe="32-pn10", length=0.025),))
    usual, own = cut_run("x", "32-pn10", [1.0], ["elbow"]), cut_run("x", "32-pn10", [1.0], ["elbow"], shop)
    assert sum(p.length for p in usual.pieces) - sum(p.length for p in own.pieces) == pytest.approx(
        2 * (0.025 - 0.0176)
    )


def test_cement_by_its_film():
    """Two sockets a piece: π·32·22 mm of film, 0.3 mm thick, and as much again lost."""
    joints, volume = cement([cut_run("x", "32-pn10", [1.0], ["elbow"], count=3)])
    assert joints == 12
    assert volume == pytest.approx(12 * math.pi * 0.032 * socket_depth(pipe_size("32-pn10")) * 0.6e-3)


@pytest.mark.parametrize("name", list(DEMOS))
def test_every_run_of_the_demos(name):
    analysis = analysed(DEMOS[name]())
    runs = runs_of([(title_of(d), parts) for d, parts in made_of(analysis)], analysis.system.shop)
    for run in runs:
        assert sum(run.legs) == pytest.approx(run.length)
        drawn = sketch_of(run)
        x0, y0, x1, y1 = drawn.bounds()
        assert max(x1 - x0, y1 - y0) <= run.length * 1000 * 1.001 + 2 * pipe_size(run.pipe).outside * 1000


def test_equal_runs_of_a_rack_are_counted_together():
    analysis = analysed(DEMOS["back-room"]())
    runs = runs_of([(title_of(d), parts) for d, parts in made_of(analysis)], analysis.system.shop)
    drops = [r for r in runs if r.title == "Standpipe"]
    assert [r.count for r in drops] == [6, 6, 6, 6]
    assert all([s.kind for s in r.stops] == ["end", "elbow", "elbow", "end"] for r in drops)
