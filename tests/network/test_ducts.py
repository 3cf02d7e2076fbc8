"""Pipes under pressure against independent solutions: shooting along a manifold, a two-loop network by a
root finder.
"""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from scipy.optimize import brentq, fsolve

from amounts import LPH
from fuente.answers.systems import manifold, manifold_ducts
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe, friction_factor, friction_factors
from fuente.hydraulics.pumps import PumpCurve
from fuente.network.duct import Duct, PumpDuct, Spout
from fuente.network.ducts import Ducts


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


def pipe_of(random):
    return Pipe(random.uniform(0.008, 0.06), random.uniform(0.2, 9), random.uniform(0, 9))


def test_friction_of_arrays_is_the_friction_of_one():
    reynolds = np.geomspace(0.01, 1e7, 300)
    for rough in (0.0, 1e-5, 1e-3, 0.04):
        many, slope = friction_factors(reynolds, np.full_like(reynolds, rough))
        assert many == pytest.approx([friction_factor(r, rough) for r in reynolds], rel=1e-9)
        up, _ = friction_factors(reynolds * 1.000001, np.full_like(reynolds, rough))
        assert slope == pytest.approx(np.log(up / many) / 1e-6, abs=2e-4)


@pytest.mark.parametrize(("count", "lph", "bore"), [(3, 900, 0.02), (24, 3000, 0.032), (200, 9000, 0.0678)])
def test_manifold_agrees_with_shooting(count, lph, bore):
    branch = Pipe(0.01, 0.3, 4.0)
    _, shares, head = march(count, 0.25, bore, branch, lph * LPH)
    got = manifold(lph * LPH, count, 0.25, bore, 0.01, 0.3, 4.0)
    assert got["head"] == pytest.approx(head, rel=1e-6)
    assert got["first_flow"] == pytest.approx(shares[0], rel=1e-6)
    assert got["last_flow"] == pytest.approx(shares[-1], rel=1e-6)
    group = Ducts(manifold_ducts(count, 0.25, bore, 0.01, 0.3, 4.0), ["in", "out"])
    gained, _, flows = group.exchange([head, -1.0])
    branches = [q for d, q in zip(group.ducts, flows, strict=True) if isinstance(d, Spout)]
    assert branches == pytest.approx(shares, rel=1e-6)
    assert abs(gained.sum()) < 1e-12 * lph * LPH


def test_two_loops_agree_with_a_general_root_finder():
    """Six pipes in two loops between two open waters; loop equations handed to scipy's fsolve as they stand."""
    pipes = {
        "ab": Pipe(0.05, 10, 1),
        "ac": Pipe(0.04, 8, 1),
        "bc": Pipe(0.03, 6, 1),
        "bd": Pipe(0.03, 9, 1),
        "cd": Pipe(0.04, 7, 1),
        "de": Pipe(0.05, 12, 2),
    }
    group = Ducts([Duct(k, k, k[0], k[1], p) for k, p in pipes.items()], ["a", "e"])
    heads = group.heads([2.0, 0.0])

    def rest(x):
        hb, hc, hd = x
        q = {
            k: pipes[k].flow_at(d)
            for k, d in {"ab": 2 - hb, "ac": 2 - hc, "bc": hb - hc, "bd": hb - hd, "cd": hc - hd, "de": hd}.items()
        }
        return np.array([q["ab"] - q["bc"] - q["bd"], q["ac"] + q["bc"] - q["cd"], q["bd"] + q["cd"] - q["de"]]) * 1e4

    wanted = fsolve(rest, [1.5, 1.4, 0.9], xtol=1e-13)
    assert [heads["b"], heads["c"], heads["d"]] == pytest.approx(wanted, abs=1e-7)


def pumped(pumps, **change):
    """Pumps from a sump to a tee, a pipe to a tank whose outlet is under water."""
    curve = PumpCurve(3.0, 4000 * LPH)
    ducts = [
        PumpDuct(f"p{i}", "Pump", "sump", "tee", Pipe(0.03, 1.0, 2.0), curve=curve, intake=0.0, **change)
        for i in range(pumps)
    ]
    return Ducts(
        [*ducts, Spout("up", "Up", "tee", "tank", Pipe(0.03, 6, 8), mouth=1.0, breaks_at=1.3)], ["sump", "tank"]
    )


def test_two_pumps_side_by_side_share_the_flow():
    group = pumped(2)
    _, _, flows = group.exchange([0.2, 1.4])
    total = flows[2]
    assert flows[0] == pytest.approx(total / 2)
    lost = Pipe(0.03, 1.0, 2.0).head_loss(total / 2) + Pipe(0.03, 6, 8).head_loss(total)
    assert PumpCurve(3.0, 4000 * LPH).head(total / 2) == pytest.approx(1.2 + lost, rel=1e-7)
    one = pumped(1).exchange([0.2, 1.4])[2][1]
    assert one < total < 2 * one


def test_a_pump_that_cannot_reach_gives_nothing_and_does_not_run_backwards():
    assert abs(pumped(1).exchange([0.2, 3.9])[2][1]) < 1e-11


def test_a_standing_pump_lets_its_share_back_until_air_gets_in():
    free = pumped(1, on=False, leak=1.0).exchange([0.2, 1.4])[2][1]
    leaks = pumped(1, on=False, leak=0.02).exchange([0.2, 1.4])[2][1]
    assert free < leaks < 0
    assert pumped(1, on=False, leak=0.0).exchange([0.2, 1.4])[2][1] == pytest.approx(0, abs=1e-11)
    assert pumped(1, on=False, leak=1.0).exchange([0.2, 1.2999])[2][1] == pytest.approx(0, abs=1e-11)


def test_loose_ends_are_sentences():
    pipe = Pipe(0.03, 1)
    with pytest.raises(SpecError, match="open water"):
        Ducts([Duct("x", "X", "a", "b", pipe)], [])
    with pytest.raises(SpecError, match="“c” is joined to no"):
        Ducts([Duct("x", "X", "a", "b", pipe), Duct("y", "Y", "c", "d", pipe)], ["a"])
    with pytest.raises(SpecError, match="must end in"):
        Ducts([Spout("x", "X", "a", "b", pipe)], ["a"])


@settings(max_examples=25)
@given(st.integers(3, 40), st.randoms(use_true_random=False))
def test_random_networks_balance_and_answer_to_levels(size, random):
    """Trees with extra pipes between three open waters: nodes balance, laws hold, and slopes are derivatives."""
    ducts = [Duct(f"t{i}", "T", f"n{random.randrange(i)}", f"n{i}", pipe_of(random)) for i in range(1, size)]
    for i in range(random.randrange(size)):
        a, b = random.sample(range(size), 2)
        ducts.append(Duct(f"c{i}", "C", f"n{a}", f"n{b}", pipe_of(random)))
    cells = ["n0", f"n{size - 1}", f"n{size // 2}"]
    group = Ducts(ducts, cells)
    levels = [random.uniform(0.5, 3) for _ in group.cells]
    gained, slopes, flows = group.exchange(levels)
    assert abs(gained.sum()) < 1e-13
    heads = {**dict(zip(group.cells, levels, strict=True)), **group.heads(levels)}
    for duct, q in zip(ducts, flows, strict=True):
        assert duct.pipe.head_loss(q) == pytest.approx(heads[duct.a] - heads[duct.b], abs=1e-6)
    h = 1e-6  # m: where flow turns turbulent the slope changes within a hundredth of a millimetre
    for k in range(len(levels)):
        up, down = list(levels), list(levels)
        up[k] += h
        down[k] -= h
        sides = (group.exchange(up)[0] - gained) / h, (gained - group.exchange(down)[0]) / h
        low, high = np.minimum(*sides), np.maximum(*sides)  # at the edge of laminar flow the two differ
        room = 2e-2 * np.maximum(abs(low), abs(high)) + 1e-7
        assert (slopes[:, k] > low - room).all()
        assert (slopes[:, k] < high + room).all()
