"""What the water carries, against what can be worked out by hand: renewal, decay, volumes in a row, and balances."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np
import pytest
from hypothesis import given
from hypothesis import strategies as st

from fuente.demo.reading_room import reading_room
from fuente.errors import SolveError
from fuente.network.resting import rest, rest_at
from fuente.network.transport import Stirred, march
from fuente.study.analysis import Analysis

HOUR, DAY = 3600.0, 86400.0


@dataclass
class Straight:
    """dy/dt = M·y + b, for which the answer is known."""

    matrix: np.ndarray
    brings: np.ndarray
    scale: np.ndarray = field(init=False)
    signed: np.ndarray = field(init=False)

    def __post_init__(self):
        self.scale, self.signed = np.full(self.size, 1e-9), np.zeros(self.size, dtype=bool)

    @property
    def size(self):
        return len(self.brings)

    @property
    def entries(self):
        rows, columns = np.indices(self.matrix.shape)
        return rows.ravel(), columns.ravel()

    def rates(self, y):
        return self.matrix @ y + self.brings

    def slopes(self, y):
        return self.matrix.ravel()


def test_new_water_renews_as_it_runs_through():
    """c = new + (c0 − new)·e^(−t/τ): 0.1 % asked."""
    through = Straight(np.array([[-1 / HOUR]]), np.array([2.0 / HOUR]))
    made = march(through, np.array([5.0]), np.arange(0, 6 * HOUR, HOUR / 3))
    assert made.values[:, 0] == pytest.approx(2 + 3 * np.exp(-made.times / HOUR), rel=2e-4)


def test_volumes_in_a_row_delay_and_spread():
    """A dose through n equal volumes: Erlang's curve, (t/τ)^(k)/k!·e^(−t/τ) in the k-th."""
    n = 4
    matrix = (np.diag(-np.ones(n)) + np.diag(np.ones(n - 1), -1)) / HOUR
    made = march(Straight(matrix, np.zeros(n)), np.eye(n)[0], np.linspace(0, 8 * HOUR, 33))
    x = made.times / HOUR
    for k, factorial in enumerate((1, 1, 2, 6)):
        assert made.values[:, k] == pytest.approx(x**k / factorial * np.exp(-x), abs=2e-4)


def test_a_jump_is_written_down_before_it_happens():
    still = Straight(np.array([[-1e-9]]), np.array([0.0]))
    made = march(still, np.array([1.0]), [0.0, HOUR, 2 * HOUR], [(HOUR, lambda y: y / 2)])
    assert made.values[:, 0] == pytest.approx([1.0, 1.0, 0.5], rel=1e-4)


def test_nothing_falls_below_nothing():
    """A thousand times quicker than it is asked for: decay to nothing within the first step."""
    quick = Straight(np.array([[-10.0, 0.0], [10.0, -1e-3]]), np.zeros(2))
    made = march(quick, np.array([1.0, 0.0]), np.linspace(0, DAY, 9))
    assert (made.values >= 0).all()
    assert made.values[1, 0] < 1e-9


def test_rest_is_where_nothing_changes():
    matrix = np.array([[-3.0, 1.0], [2.0, -2.0]]) / HOUR
    found = rest(Straight(matrix, np.array([4.0, 0.0]) / HOUR), np.array([1.0, 1.0]))
    assert found == pytest.approx(np.linalg.solve(-matrix, [4.0 / HOUR, 0.0]), rel=1e-8)


def test_rest_at_finds_the_factor():
    """Fed twice as much it stands twice as high: at 6 with twice the feed of 3."""

    def fed(factor):
        return Straight(np.array([[-1.0]]) / HOUR, np.array([3.0 * factor]) / HOUR)

    def by_factor(y):
        return np.array([3.0]) / HOUR

    values, factor = rest_at(fed, by_factor, np.array([3.0]), 1.0, lambda y: (float(y[0] / 6), 0, 1 / 6))
    assert values[0] == pytest.approx(6.0)
    assert factor == pytest.approx(2.0)


def test_no_rest_is_said():
    with pytest.raises(SolveError, match="no steady state"):
        rest(Straight(np.array([[0.0]]), np.array([1.0])), np.array([1.0]))


def test_every_flow_of_a_solved_design_arrives(demo):
    solution = Analysis(demo).running
    water = Stirred.of(solution)
    # What leaves a volume arrives in others, and as much comes as goes.
    assert np.abs(water.flows.sum(axis=0)).max() < 1e-12
    assert np.abs(water.flows.sum(axis=1)).max() < 1e-12
    assert water.volumes.sum() == pytest.approx(solution.total - solution.spilled, rel=1e-9)
    supply = sum(solution.flow[w.id] for w in solution.network.ways if w.b == "tank" and solution.flow[w.id] > 0)
    assert water.through[water.index["tank"]] == pytest.approx(supply)


def test_what_holds_nothing_passes_on():
    """A dry place between two volumes: what comes leaves in the shares of its water."""
    from fuente.network.transport import _reduced

    whole = np.array([[-3.0, 0.0, 1.0], [0.0, -2.0, 2.0], [3.0, 0.0, -3.0]])
    assert _reduced(whole, 2) == pytest.approx(np.array([[-2.0, 0.0], [2.0, -2.0]]))


@given(st.integers(2, 7), st.integers(0, 10**6))
def test_a_tracer_is_kept_in_any_ring(count, seed):
    """Random closed flows: what is in the water stays in it, and ends evenly spread."""
    random = np.random.default_rng(seed)
    flows = np.zeros((count, count))
    for _ in range(3):
        ring = random.permutation(count)
        flow = 10 ** random.uniform(-6, -3)
        for a, b in zip(ring, np.roll(ring, -1), strict=True):
            flows[a, a] -= flow
            flows[b, a] += flow
    volumes = 10 ** random.uniform(-3, 0, count)
    start = random.uniform(0, 1, count)
    made = march(Straight(flows / volumes[:, None], np.zeros(count)), start, np.linspace(0, 30 * DAY, 11))
    held = made.values @ volumes
    assert held == pytest.approx(np.full(11, held[0]), rel=1e-8)
    assert made.values[-1] == pytest.approx(np.full(count, held[0] / volumes.sum()), rel=1e-2)


def test_air_is_no_water():
    """An air pump's lines carry nothing of the water."""
    from fuente.demo.nursery import nursery

    water = Stirred.of(Analysis(nursery()).running)
    assert np.abs(water.flows.sum(axis=1)).max() < 1e-12
    assert len(water.ids) == 24


def test_a_power_cut_parts_the_waters():
    cut = Stirred.of(Analysis(reading_room()).situation("power_cut").solution)
    assert np.abs(cut.flows).max() < 1e-7
