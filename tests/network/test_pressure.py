"""Pressure networks against independent solutions: shooting along a manifold, and a two-loop network by hand."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq, fsolve

from amounts import LPH
from fuente.answers.systems import manifold_network
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.pumps import PumpCurve
from fuente.network.pressure import PipeLoss, PressureLink, PumpLoss, solve_pressure


def march(count, spacing, bore, branch, total):
    """Independent of the solver: guess the last head, walk back to the start, and shoot for the total flow."""
    header = Pipe(bore, spacing, 0.3)

    def walk(last_head):
        head, through, shares = last_head, 0.0, []
        for i in range(count):
            if i:
                head += header.head_loss(through)
            q = branch.flow_at(head)
            shares.append(q)
            through += q
        return through, shares[::-1], head

    last = brentq(lambda h: walk(h)[0] - total, 1e-9, 50.0, xtol=1e-15, rtol=1e-14)
    return walk(last)


@pytest.mark.parametrize(("count", "lph", "bore"), [(3, 900, 0.02), (24, 3000, 0.032), (200, 9000, 0.0678)])
def test_manifold_agrees_with_shooting(count, lph, bore):
    links = manifold_network(count, 0.25, bore, 0.01, 0.3, 4.0)
    solved = solve_pressure(links, {f"o{i}": 0.0 for i in range(1, count + 1)}, {"h1": -lph * LPH})
    _, shares, head = march(count, 0.25, bore, Pipe(0.01, 0.3, 4.0), lph * LPH)
    got = [solved.flow[f"branch {i}"] for i in range(1, count + 1)]
    assert got == pytest.approx(shares, rel=1e-6)
    assert solved.head["h1"] == pytest.approx(head, rel=1e-6)
    assert solved.imbalance < 1e-9 * lph * LPH


def test_two_loops_agree_with_a_general_root_finder():
    """Six pipes in two loops between two open waters; loop equations handed to scipy's fsolve as they stand."""
    pipes = {
        "ab": Pipe(0.05, 10, 1), "ac": Pipe(0.04, 8, 1), "bc": Pipe(0.03, 6, 1),
        "bd": Pipe(0.03, 9, 1), "cd": Pipe(0.04, 7, 1), "de": Pipe(0.05, 12, 2),
    }  # fmt: skip
    links = [PressureLink(k, k[0], k[1], PipeLoss(p)) for k, p in pipes.items()]
    solved = solve_pressure(links, {"a": 2.0, "e": 0.0})

    def rest(x):
        hb, hc, hd = x
        q = {k: pipes[k].flow_at(d) for k, d in
             {"ab": 2 - hb, "ac": 2 - hc, "bc": hb - hc, "bd": hb - hd, "cd": hc - hd, "de": hd}.items()}  # fmt: skip
        return np.array([q["ab"] - q["bc"] - q["bd"], q["ac"] + q["bc"] - q["cd"], q["bd"] + q["cd"] - q["de"]]) * 1e4

    hb, hc, hd = fsolve(rest, [1.5, 1.4, 0.9], xtol=1e-13)
    assert solved.head["b"] == pytest.approx(hb, abs=1e-7)
    assert solved.head["c"] == pytest.approx(hc, abs=1e-7)
    assert solved.head["d"] == pytest.approx(hd, abs=1e-7)


def test_two_pumps_side_by_side_and_in_a_row():
    """Two equal pumps side by side double the flow at a head; in a row they double the head at a flow."""
    pipe, curve = Pipe(0.03, 6, 8), PumpCurve(3.0, 4000 * LPH)
    side = [PressureLink(f"p{i}", "s", "m", PumpLoss(curve)) for i in (1, 2)] + [
        PressureLink("r", "m", "t", PipeLoss(pipe))
    ]
    solved = solve_pressure(side, {"s": 0.0, "t": 1.2})
    total = solved.flow["r"]
    assert solved.flow["p1"] == pytest.approx(total / 2)
    assert curve.head(total / 2) == pytest.approx(1.2 + pipe.head_loss(total), rel=1e-7)
    row = [
        PressureLink("p1", "s", "x", PumpLoss(curve)),
        PressureLink("p2", "x", "m", PumpLoss(curve)),
        PressureLink("r", "m", "t", PipeLoss(pipe)),
    ]
    solved = solve_pressure(row, {"s": 0.0, "t": 1.2})
    q = solved.flow["r"]
    assert 2 * curve.head(q) == pytest.approx(1.2 + pipe.head_loss(q), rel=1e-7)


def test_a_pump_that_cannot_reach_gives_nothing():
    links = [
        PressureLink("p", "s", "m", PumpLoss(PumpCurve(1.0, 1e-3))),
        PressureLink("r", "m", "t", PipeLoss(Pipe(0.03, 6, 8))),
    ]
    assert abs(solve_pressure(links, {"s": 0.0, "t": 1.5}).flow["r"]) < 1e-6


def test_loose_ends_are_sentences():
    pipe = PipeLoss(Pipe(0.03, 1))
    with pytest.raises(SpecError, match="known head"):
        solve_pressure([PressureLink("x", "a", "b", pipe)], {})
    with pytest.raises(SpecError, match="“c” is joined to no"):
        solve_pressure([PressureLink("x", "a", "b", pipe), PressureLink("y", "c", "d", pipe)], {"a": 1.0})


@settings(max_examples=25)
@given(st.integers(3, 30), st.randoms(use_true_random=False))
def test_random_networks_balance(size, random):
    links = []
    for i in range(1, size):
        links.append(
            PressureLink(
                f"t{i}",
                f"n{random.randrange(i)}",
                f"n{i}",
                PipeLoss(Pipe(random.uniform(0.008, 0.06), random.uniform(0.2, 9), random.uniform(0, 9))),
            )
        )
    for i in range(random.randrange(size)):
        a, b = random.sample(range(size), 2)
        links.append(PressureLink(f"c{i}", f"n{a}", f"n{b}", PipeLoss(Pipe(random.uniform(0.008, 0.06), 1.0, 2.0))))
    fixed = {"n0": random.uniform(0.5, 3), f"n{size - 1}": 0.0}
    solved = solve_pressure(links, fixed)
    assert solved.imbalance < 1e-9
    for link in links:
        drop = solved.head[link.a] - solved.head[link.b]
        assert link.law.pipe.head_loss(solved.flow[link.id]) == pytest.approx(drop, abs=1e-6)
