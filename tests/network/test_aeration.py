"""Air beside water: tubes against an independent root, air kept in its manifold, who gets how much when a
valve opens.
"""

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from fuente.hydraulics import airlift
from fuente.hydraulics.airlift import LiftTubes, airlift_flow
from fuente.network import aeration
from fuente.network.aeration import METRE, Aeration, AirDrop, AirSupply, Lift, best_share, modest_share
from fuente.water.properties import water

LPM = 1e-3 / 60
STUFF = water(24)
CURVE = ((0.0, 18e3), (12 * LPM, 0.0))


def tubes(bore, length, k=0.0, bubbly=False):
    return LiftTubes(np.array([bore]), np.array([length]), np.array([k]), np.array([bubbly]), STUFF.kinematic)


def lift(i=0, injector=0.05, outlet=0.35, bore=0.016, k=30.0):
    return Lift(f"lift{i}", "L", f"a{i}", "tank", injector, outlet, bore, k, owner=f"f{i}")


def supply(drops, **more):
    return AirSupply("air", "Air", CURVE, 0.012, tuple(drops), water=STUFF, **more)


@pytest.mark.parametrize(
    ("bore", "length", "sunk", "air", "water_lpm"),
    [(0.026, 0.50, 0.45, 4, 14.3), (0.020, 0.33, 0.30, 2, 7.4), (0.0525, 1.0, 0.9, 40, 110)],
)
def test_the_published_lifts(bore, length, sunk, air, water_lpm):
    q, _, _ = tubes(bore, length).flow(np.array([sunk]), np.array([air * LPM]))
    assert q[0] / LPM == pytest.approx(water_lpm, rel=0.02)


@given(st.floats(0.012, 0.06), st.floats(0.2, 1.2), st.floats(0.5, 1.0), st.floats(0.2, 12), st.floats(0, 60))
def test_many_tubes_at_once_agree_with_one_root_at_a_time(bore, length, share, air, k):
    """Newton on arrays against a bracketing root of the same balance, where the flow is not so slow that it
    is laminar.
    """
    one = airlift_flow(bore, length, share * length, air * LPM, 0.025, k)
    many = tubes(bore, length, k).flow(np.array([share * length]), np.array([air * LPM]))[0][0]
    reynolds = one / (math.pi / 4 * bore) / STUFF.kinematic
    if reynolds > 4000:
        assert many == pytest.approx(one, rel=0.02)
    else:
        assert many <= one * 1.0001 + 1e-9


@given(st.floats(0.012, 0.1), st.floats(-0.1, 1.2), st.floats(0.0, 20), st.booleans())
def test_slopes_of_a_tube_are_derivatives(bore, share, air, bubbly):
    t, length = tubes(bore, 0.4, 5.0, bubbly), 0.4
    sub, blown = np.array([share * length]), np.array([air * LPM])
    q, by_sub, by_air = (x[0] for x in t.flow(sub, blown))
    h = 1e-7
    ahead, behind = t.flow(sub + h, blown)[0][0], t.flow(sub - h, blown)[0][0]
    low, high = sorted(((ahead - q) / h, (q - behind) / h))
    assert low * (1 - 0.03) - 1e-6 <= by_sub <= high * 1.03 + 1e-6
    g = 1e-10
    more = (t.flow(sub, blown + g)[0][0] - q) / g
    assert by_air == pytest.approx(more, rel=0.05, abs=2e-3)


tube = st.tuples(
    st.floats(0.008, 0.15),
    st.floats(0.1, 1.5),
    st.floats(0, 60),
    st.booleans(),
    st.floats(-0.1, 1.1),
    st.just(0.0) | st.floats(0.1, 60),
)


@given(st.lists(tube, min_size=1, max_size=8))
def test_one_tube_after_the_other_is_as_all_at_once(spec):
    """The plain numbers that are quicker for a few tubes, and the arrays for many: the same to rounding."""
    bore, length, k, bubbly, share, air = (np.array(column) for column in zip(*spec, strict=True))
    made = LiftTubes(bore, length, k, bubbly, STUFF.kinematic)
    few = made.flow(share * length, air * LPM)
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(airlift, "FEW", 0)
        many = made.flow(share * length, air * LPM)
    for one, other in zip(few, many, strict=True):
        assert one == pytest.approx(other, rel=1e-9, abs=1e-15)


@given(st.floats(0.3, 0.95))
def test_without_air_a_tube_only_lets_water_fall_back(share):
    q = tubes(0.02, 0.4).flow(np.array([share * 0.4]), np.array([0.0]))[0][0]
    assert q < 0
    assert tubes(0.02, 0.4).flow(np.array([0.4]), np.array([0.0]))[0][0] == pytest.approx(0, abs=1e-9)


def test_air_past_the_best_lifts_less():
    one = lift()
    best = best_share(one, 0.35)
    t = tubes(one.bore, 0.3, one.k)
    flows = [t.flow(np.array([0.3]), np.array([best * x]))[0][0] for x in (0.5, 1.0, 2.0, 4.0)]
    assert flows[0] < flows[1] > flows[2] > flows[3] > 0
    modest = modest_share(one, 0.35)
    assert t.flow(np.array([0.3]), np.array([modest]))[0][0] == pytest.approx(0.7 * flows[1], rel=0.03)
    assert modest < 0.5 * best


rows = st.lists(
    st.tuples(st.floats(0.03, 0.5), st.floats(0.3, 3), st.floats(0, 3000), st.floats(0, 2e3), st.booleans()),
    min_size=1,
    max_size=10,
)


@given(rows)
def test_a_manifold_conserves_air_and_every_drop_balances(spec):
    """The pump gives what all drops blow, on its curve; along each drop the pressure adds up to the water's."""
    drops = [
        AirDrop(lift(i, injector=0.55 - depth, outlet=0.56), length, 0.004, k, hold, 0.3, shut)
        for i, (depth, length, k, hold, shut) in enumerate(spec)
    ]
    group = Aeration(supply(drops))
    levels = [0.55] * len(group.cells)
    air = group.air(levels)
    assert (air >= 0).all()
    heads = group.heads(levels)  # m of water
    given_ = air.sum()
    assert given_ <= 12 * LPM * (1 + 1e-9)
    for i, drop in enumerate(drops):
        if drop.shut:
            assert air[i] == 0
            continue
        tap = heads[f"air.tap.{i}"] * 1000 * 9.80665
        against = STUFF.density * 9.80665 * (0.55 - drop.lift.injector) + drop.diffuser
        if air[i] > 1e-9:
            speed = air[i] / (math.pi / 4 * drop.bore**2)
            assert tap > against
            assert tap - against >= 0.5 * 1.2 * speed**2 * drop.valve_k * 0.97  # its valve alone
        else:
            assert tap <= against * 1.001 + 1
    # One lone drop: an independent root of curve against depth, line and valve.
    if len(drops) == 1 and not drops[0].shut and air[0] > 1e-9:
        from fuente.hydraulics.air import OPEN_K
        from fuente.hydraulics.pipes import Pipe
        from fuente.network.aeration import AIR

        d = drops[0]
        line = Pipe(d.bore, d.length, OPEN_K + d.valve_k, 1.5e-6, AIR)
        main = Pipe(0.012, 0.3, 1.0, 1.5e-6, AIR)
        depth = STUFF.density * 9.80665 * (0.55 - d.lift.injector) + d.diffuser

        def rest(q):
            return 18e3 * (1 - q / (12 * LPM)) - depth - METRE * (line.head_loss(q) + main.head_loss(q))

        assert air[0] == pytest.approx(brentq(rest, 1e-12, 12 * LPM), rel=1e-3)


@given(st.integers(2, 8), st.integers(0, 7))
def test_a_valve_that_opens_takes_from_all_others(count, which):
    which %= count
    drops = [AirDrop(lift(i), 1.0, 0.004, 2000.0) for i in range(count)]
    group = Aeration(supply(drops))
    levels = [0.35] * len(group.cells)
    more = group.changed(drops=tuple(replace(d, valve_k=3.0) if i == which else d for i, d in enumerate(drops)))
    before, opened = group.air(levels), more.air(levels)
    assert opened[which] > before[which]
    assert all(opened[i] < before[i] for i in range(count) if i != which)


def test_the_shallow_drop_takes_the_air():
    drops = [
        AirDrop(lift(0, injector=0.30, outlet=0.5), 1.0, 0.004, 5000.0),
        AirDrop(lift(1, injector=0.05, outlet=0.5), 1.0, 0.004, 5000.0),
    ]
    air = Aeration(supply(drops)).air([0.5, 0.5, 0.5])
    assert air[0] > 1.1 * air[1] > 0


def test_a_pump_off_or_too_weak_blows_nothing():
    drops = [AirDrop(lift(0, injector=0.0, outlet=2.5), 1.0)]
    for group in (Aeration(supply(drops, on=False)), Aeration(supply(drops))):
        _, _, flows = group.exchange([2.4, 2.4])
        assert flows[1] == pytest.approx(0, abs=1e-12)


@given(st.lists(st.floats(0.1, 0.5), min_size=3, max_size=3), st.integers(0, 2))
def test_the_group_s_slopes_answer_to_levels(levels, which):
    """What flows change when a level rises: the solvers' Newton stands on it."""
    group = Aeration(supply([AirDrop(lift(0), 1.0, 0.004, 500.0), AirDrop(lift(1, 0.02, 0.3), 1.5, 0.004, 200.0)]))
    gained, by, _ = group.exchange(levels)
    assert abs(gained.sum()) < 1e-15
    h = 1e-6
    ahead, behind = list(levels), list(levels)
    ahead[which] += h
    behind[which] -= h
    up = (group.exchange(ahead)[0] - gained) / h
    down = (gained - group.exchange(behind)[0]) / h
    low, high = np.minimum(up, down), np.maximum(up, down)
    room = 0.05 * np.maximum(abs(low), abs(high)) + 3e-5
    assert (by[:, which] >= low - room).all()
    assert (by[:, which] <= high + room).all()


many_lifts = st.lists(
    st.tuples(
        st.sampled_from("pq"),
        st.sampled_from("rs"),
        st.floats(0, 0.2),
        st.floats(0.3, 0.8),
        st.floats(0, 20),
        st.booleans(),
        st.integers(0, 2),
        st.booleans(),
    ),
    min_size=1,
    max_size=5,
)


@given(many_lifts, st.lists(st.floats(-0.05, 1.0), min_size=4, max_size=4), st.booleans())
def test_a_few_lifts_are_answered_as_many_are(spec, levels, on):
    """Tubes that lift, stand, fall back, hang dry or only bubble, by plain numbers and by arrays."""
    drops = [
        AirDrop(Lift(f"l{i}", "L", a, b, low, high, 0.02, k, bubbly, count, "", 0.8), 1.0, shut=shut)
        for i, (a, b, low, high, k, bubbly, count, shut) in enumerate(spec)
    ]
    group = Aeration(supply(drops, on=on))
    few = group.exchange(levels[: len(group.cells)])
    with pytest.MonkeyPatch.context() as patch:
        patch.setattr(aeration, "FEW", 0)
        many = group.exchange(levels[: len(group.cells)])
    for one, other in zip(few, many, strict=True):
        assert one == pytest.approx(other, rel=1e-9, abs=1e-15)


def test_a_mouth_under_water_lifts_against_what_stands_over_it():
    """The submergence is from the water drawn down to the injector, less what stands over the mouth."""
    free, drowned = lift(0, injector=0.0, outlet=0.30), lift(1, injector=0.0, outlet=0.25)
    group = Aeration(supply([AirDrop(free, 1.0), AirDrop(drowned, 1.0)]))
    _, _, flows = group.exchange([0.28] * len(group.cells))
    lifts = tubes(free.bore, 0.30, free.k), tubes(drowned.bore, 0.25, drowned.k)
    for k, (tube, sunk) in enumerate(zip(lifts, (0.28, 0.28 - 0.03), strict=True)):
        air = flows[2 + k]
        squeeze = 101325 / (101325 + STUFF.density * 9.80665 * 0.28 / 2)
        wanted = tube.flow(np.array([sunk]), np.array([air * squeeze]))[0][0]
        assert flows[k] == pytest.approx(wanted, rel=2e-3)
        assert flows[k] > 0
