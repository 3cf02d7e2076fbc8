"""A round opening that falls free: critical depth by its own definition, and the way over to the full pipe."""

from __future__ import annotations

import itertools
import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from fuente.hydraulics.drains import critical_outfall, segment
from fuente.hydraulics.pipes import Pipe
from fuente.network.laws import Bulkhead

LPH = 1e-3 / 3600
G = 9.80665


@pytest.mark.parametrize(("lph", "bare", "entrance"), [(524, 20.0, 22.6), (1045, 29.1, 33.1), (2057, 43.0, 49.6)])
def test_water_over_the_invert(lph, bare, entrance):
    """A bore of 45.2 mm, without loss and with an entrance of 0.5; millimetres."""
    for k, level in ((1.0, bare), (1.5, entrance)):
        head = brentq(lambda h, k=k: critical_outfall(h, Pipe(0.0452, 0.0, k)).flow - lph * LPH, 1e-4, 0.2)
        assert head * 1000 == pytest.approx(level, abs=0.1)


@given(st.floats(0.012, 0.1), st.floats(0.02, 1.15), st.floats(1.0, 3.0), st.floats(0.0, 0.3))
def test_its_depth_is_critical_and_its_head_adds_up(bore, share, k, length):
    pipe, head = Pipe(bore, length, k), share * bore
    flow, _, y = critical_outfall(head, pipe)
    theta = 2 * math.acos(1 - 2 * y / bore)
    area, width = bore**2 / 8 * (theta - math.sin(theta)), bore * math.sin(theta / 2)
    assert flow**2 * width / (G * area**3) == pytest.approx(1.0, rel=1e-6)  # a Froude number of one
    speed = flow / area
    friction = pipe.friction(speed * pipe.area) * length / bore
    assert head == pytest.approx(y + (k + friction) * speed**2 / (2 * G), rel=1e-6)
    assert 0 < y < head


@given(st.floats(0.001, 0.2), st.floats(1.0, 2.5))
def test_its_slope_is_the_derivative(head, k):
    pipe, step = Pipe(0.0452, 0.05, k), 1e-7
    wanted = (critical_outfall(head + step, pipe).flow - critical_outfall(head - step, pipe).flow) / (2 * step)
    assert critical_outfall(head, pipe).slope == pytest.approx(wanted, rel=1e-4)


def test_a_segment_by_halves():
    assert segment(0.02, 0.04) == pytest.approx((math.pi / 8 * 0.0016, 0.04))
    assert segment(0.04, 0.04) == pytest.approx((math.pi / 4 * 0.0016, 0.0), abs=1e-12)
    assert segment(0.0, 0.04) == (0.0, 0.0)


HOLE = Bulkhead(0.5, Pipe(0.0452, 0.05, 1.5))
SILL = 0.5 - 0.0226


@given(st.floats(0.001, 0.4), st.floats(-0.3, 1.0))
def test_a_bulkhead_never_carries_more_than_falls_free_or_the_full_pipe(depth, share):
    up = SILL + depth
    down = SILL + share * depth
    flow = HOLE.flow(up, down)[0]
    assert 0 <= flow <= HOLE.flow(up, SILL - 1.0)[0] * (1 + 1e-12)
    if down > SILL:
        assert flow <= HOLE.pipe.flow_at(up - down) * (1 + 1e-9)


@given(st.floats(0.002, 0.3), st.floats(0.0, 1.0), st.floats(0.0, 1.0))
def test_more_water_beyond_never_means_more_flow(depth, one, other):
    low, high = sorted((one, other))
    up = SILL + depth
    assert HOLE.flow(up, SILL + high * depth)[0] <= HOLE.flow(up, SILL + low * depth)[0] * (1 + 1e-9)


def test_it_is_critical_to_one_and_a_fifth_of_its_bore_and_full_from_three():
    bore = HOLE.pipe.bore
    part = HOLE.flow(SILL + 1.2 * bore, 0.0)[0]
    assert part == pytest.approx(critical_outfall(1.2 * bore, HOLE.pipe).flow, rel=1e-9)
    full = HOLE.flow(SILL + 3.0 * bore, 0.0)[0]
    assert full == pytest.approx(HOLE.pipe.flow_at(2.35 * bore), rel=1e-9)
    between = [HOLE.flow(SILL + x / 100 * bore, 0.0)[0] for x in range(115, 320)]
    steps = [b - a for a, b in itertools.pairwise(between)]
    assert min(steps) > 0
    assert max(steps) < 3 * min(steps)  # no step where one gives way to the other


def test_under_water_it_is_the_pipe_between_two_levels():
    assert HOLE.flow(0.70, 0.65)[0] == pytest.approx(HOLE.pipe.flow_at(0.05), rel=1e-9)


def test_drowned_by_half_it_takes_its_wetted_area():
    """30 mm before it and 29 behind: the pipe's speed at 1 mm, over the area that 29 mm wet."""
    flow = HOLE.flow(SILL + 0.030, SILL + 0.029)[0]
    area = segment(0.029, HOLE.pipe.bore)[0]
    assert flow == pytest.approx(area / HOLE.pipe.area * HOLE.pipe.flow_at(0.001), rel=1e-9)
