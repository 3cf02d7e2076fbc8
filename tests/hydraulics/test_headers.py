"""Sloping headers and gutters: Manning by geometry of its own, by integration, and at its published points."""

from __future__ import annotations

import math

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fuente.hydraulics.header import depth_of, gutter_flow, part_full_flow, pipe_flow, round_volume


def section(bore, depth):
    """Area and wetted perimeter of a round section by adding up thin strips."""
    y = (np.arange(200_000) + 0.5) / 200_000 * depth
    width = 2 * np.sqrt(np.maximum((bore / 2) ** 2 - (y - bore / 2) ** 2, 0.0))
    area = float(width.sum() * depth / 200_000)
    wetted = bore * math.acos(1 - 2 * depth / bore)
    return area, wetted


@pytest.mark.parametrize("fill", [0.1, 0.3, 0.5, 0.7, 0.9])
@pytest.mark.parametrize(("bore", "slope"), [(0.046, 0.005), (0.1, 0.01), (0.152, 0.02)])
def test_a_part_full_pipe_by_strips(bore, slope, fill):
    area, wetted = section(bore, fill * bore)
    wanted = area * (area / wetted) ** (2 / 3) * math.sqrt(slope) / 0.010
    assert pipe_flow(bore, slope, fill * bore)[0] == pytest.approx(wanted, rel=2e-4)
    flow, speed = part_full_flow(bore, slope, fill)
    assert flow == pytest.approx(wanted, rel=2e-4)
    assert speed == pytest.approx(wanted / area, rel=2e-4)


def test_half_full_carries_half_of_full():
    assert pipe_flow(0.1, 0.01, 0.05)[0] == pytest.approx(pipe_flow(0.1, 0.01, 0.1)[0] / 2, rel=1e-9)


def test_most_flows_at_ninety_four_hundredths():
    """The tables' 1.076 of the full pipe's flow at 0.94 of its depth."""
    depths = np.linspace(0.5, 1.0, 501)
    flows = [pipe_flow(0.1, 0.01, 0.1 * d)[0] for d in depths]
    best = int(np.argmax(flows))
    assert depths[best] == pytest.approx(0.938, abs=0.003)
    assert flows[best] / flows[-1] == pytest.approx(1.076, abs=0.001)


@given(st.floats(0.05, 0.92), st.floats(0.002, 0.05))
def test_its_slope_is_the_derivative(fill, slope):
    bore, step = 0.11, 1e-7
    at = fill * bore
    wanted = (pipe_flow(bore, slope, at + step)[0] - pipe_flow(bore, slope, at - step)[0]) / (2 * step)
    assert pipe_flow(bore, slope, at)[1] == pytest.approx(wanted, rel=1e-4)


@given(st.floats(0.001, 0.2), st.floats(0.02, 0.3))
def test_a_gutter_by_manning(depth, width):
    area, wetted = width * depth, width + 2 * depth
    wanted = area * (area / wetted) ** (2 / 3) * math.sqrt(0.01) / 0.010
    flow, slope = gutter_flow(width, 0.01, depth)
    assert flow == pytest.approx(wanted, rel=1e-9)
    step = depth * 1e-6
    by = (gutter_flow(width, 0.01, depth + step)[0] - gutter_flow(width, 0.01, depth - step)[0]) / (2 * step)
    assert slope == pytest.approx(by, rel=1e-5)


@given(st.floats(0.05, 0.9))
def test_the_depth_of_a_flow_gives_that_flow(fill):
    flow = part_full_flow(0.1, 0.01, fill)[0]
    assert depth_of(flow, 0.1, 0.01) == pytest.approx(fill, abs=1e-6)


def test_a_header_that_runs_full_has_no_depth():
    most = part_full_flow(0.1, 0.01, 0.93)[0]
    assert depth_of(most * 0.999, 0.1, 0.01) == pytest.approx(0.93, abs=0.03)
    assert depth_of(most * 1.001, 0.1, 0.01) is None


def test_water_that_lies_in_a_level_pipe():
    for share in (0.1, 0.5, 0.8):
        assert round_volume(0.1, 2.0, share) == pytest.approx(section(0.1, share * 0.1)[0] * 2.0, rel=2e-4)
    assert round_volume(0.1, 2.0, 1.4) == pytest.approx(math.pi / 4 * 0.01 * 2.0)
    assert round_volume(0.1, 2.0, -0.2) == 0.0
