"""The water in time, against a solution by hand, against settle, and under random faults."""

import math

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from test_network import SINK, Fixed, cell, chain, links

from closing import closure
from fuente.errors import SolveError
from fuente.network import Link, Network, settle
from fuente.network.laws import Gap, Spill
from fuente.network.level_curve import LevelCurve
from fuente.network.model import FLOOR, Cell
from fuente.network.transient import STILL, Event, History, transient


class Linear:
    """Flow in proportion to the difference of levels: its decay is an exponential."""

    def __init__(self, g: float):
        self.g = g

    def flow(self, a, b):
        return self.g * (a - b), self.g, -self.g


def test_exponential_by_hand():
    """Two cells of 0.1 m² and a conductance of 1e-3 m²/s: the difference decays with exp(−t/50)."""
    net = Network((cell("a"), cell("b")), (Link("x", "x", "a", "b", Linear(1e-3)),))
    history = transient(net, {"a": 0.4, "b": 0.2}, 200.0)
    for t in (10.0, 50.0, 120.0):
        now = history.at(t)
        assert now["a"] - now["b"] == pytest.approx(0.2 * math.exp(-t / 50), abs=8e-4)


def test_still_is_a_thousandth_of_a_millimetre_a_minute():
    """The difference 0.2 m · exp(−t/50) moves each level by half of that: from 50 s · ln(0.1 / (50 s · limit)) on it is
    still.
    """
    net = Network((cell("a"), cell("b")), (Link("x", "x", "a", "b", Linear(1e-3)),))
    history = transient(net, {"a": 0.4, "b": 0.2}, 1500.0, tolerance=1e-6, longest=2.0)
    assert pytest.approx(1e-6 / 60) == STILL
    assert history.still_from() == pytest.approx(50.0 * math.log(0.1 / 50.0 / STILL), rel=0.02)


def test_a_tank_drains_by_torricelli():
    """√h falls in a straight line; time from 0.4 to 0.2 m by the sluice formula, drowned on neither side."""
    net = Network((cell("a", area=0.2), cell("b", -2.0, -1.0, 5.0)), (Link("g", "g", "a", "b", Gap(0.0, 0.1, 0.01)),))
    history = transient(net, {"a": 0.4, "b": -2.0}, 400.0)
    c = 0.65 * 0.1 * 0.01 * math.sqrt(2 * 9.80665)
    held = 0.65 * 0.01
    wanted = 2 * 0.2 / c * (math.sqrt(0.4 - held) - math.sqrt(0.2 - held))
    assert history.crossing("a", 0.2, upwards=False) == pytest.approx(wanted, abs=0.3)


@pytest.mark.parametrize("solve", [settle, lambda net, start: transient(net, start, 600.0)])
def test_a_law_that_draws_on_an_empty_cell_is_refused(solve):
    """A hose that ends 0.1 m under the tray's floor: in time and at rest, before anybody reads a number."""
    net = Network((cell("tray", 0.5, 0.6), cell("b")), (Link("hose", "Hose", "tray", "b", Linear(1e-3)),))
    with pytest.raises(SolveError, match="tray would hold less than nothing"):
        solve(net, {"tray": 0.52, "b": 0.1})


def test_events_happen_on_time():
    net = Network((cell("a"), cell("b")), (Link("p", "p", "a", "b", Fixed(0.0)),), {})
    on = Network(net.cells, (Link("p", "p", "a", "b", Fixed(1e-4)),), {})
    history = transient(net, {"a": 0.4, "b": 0.1}, 60.0, [Event(20.0, "on", on)])
    assert history.at(19.9)["a"] == pytest.approx(0.4)
    assert history.at(60.0)["a"] == pytest.approx(0.4 - 40 * 1e-4 / 0.1, abs=1e-9)
    assert history.events == ((20.0, "on"),)
    assert history.crossing("b", 0.1 + 1e-5) == pytest.approx(20.01, abs=0.1)


def test_the_highest_level_stood_first_where_it_then_stays():
    """Water that wobbles in its last digits on a plateau was highest when it came there, not at its luckiest digit."""
    net = Network((Cell("a", "A", 0.0, 1.0, LevelCurve.prism(0.0, 1.0, 0.1)),), ())
    levels = np.array([[0.2], [0.3 - 4e-10], [0.3 + 1e-10], [0.3 + 7e-10], [0.25]])
    times = np.array([0.0, 10.0, 20.0, 30.0, 40.0])
    history = History(net, times, levels, levels * 0.1, np.zeros((5, 0)), (), (), np.zeros((5, 0)), ((0, net),))
    assert history.peak("a") == (0.3 + 7e-10, 10.0)


def test_spill_starts_at_the_rim_and_is_counted():
    net = Network(
        (cell("a", rim=0.3), SINK),
        (Link("in", "in", FLOOR, "a", Fixed(0.0)), Link("s", "s", "a", FLOOR, Spill(0.3, 1.0), "spill")),
    )
    history = transient(net, {"a": 0.35}, 300.0)
    assert history.spilled == pytest.approx(0.005, rel=0.02)
    assert np.abs(history.volumes.sum(axis=1) - history.volumes[0].sum()).max() < 1e-15


@settings(max_examples=15)
@given(st.lists(links, min_size=1, max_size=6), st.lists(st.floats(0.02, 0.58), min_size=7, max_size=7))
def test_random_rows_keep_their_water_and_end_where_settle_does(spec, starts):
    net = chain(spec, 0.0)
    start = {f"c{i}": starts[i] for i in range(len(spec) + 1)}
    history = transient(net, start, 2 * 86400.0, longest=6 * 3600.0)
    total = history.volumes.sum(axis=1)
    assert np.abs(total - total[0]).max() <= 1e-9 * total[0]
    floors = np.array([c.floor for c in net.cells])
    assert (history.levels >= floors - 1e-9).all()
    end = settle(net, start)
    for i in range(len(spec) + 1):
        assert history.levels[-1][i] == pytest.approx(
            end.level[f"c{i}"], abs=3e-3
        )  # where water can go two ways, settle shares it out in 8 mm steps


@given(st.lists(links, min_size=2, max_size=6))
@settings(max_examples=10)
def test_a_finer_run_moves_no_peak_by_half_a_millimetre(spec):
    net = chain(spec, 0.0)
    start = {f"c{i}": 0.55 - 0.05 * i for i in range(len(spec) + 1)}
    coarse = transient(net, start, 600.0)
    fine = transient(net, start, 600.0, tolerance=1e-4)
    for i in range(len(spec) + 1):
        assert coarse.peak(f"c{i}")[0] == pytest.approx(fine.peak(f"c{i}")[0], abs=5e-4)


def test_what_passed_is_the_flow_over_time_by_hand():
    """Two cells, an exponential: until t the way passed half of 0.1 m² · 0.2 m · (1 − exp(−t/50))."""
    net = Network((cell("a"), cell("b")), (Link("x", "x", "a", "b", Linear(1e-3)),))
    history = transient(net, {"a": 0.4, "b": 0.2}, 200.0, tolerance=1e-5)
    through = np.cumsum(history.passed_by("x"))
    wanted = 0.01 * (1 - np.exp(-history.times / 50))
    assert through == pytest.approx(wanted, rel=0.01, abs=1e-6)
    assert history.passed_by("nowhere").sum() == 0.0


@settings(max_examples=15)
@given(st.lists(links, min_size=1, max_size=6), st.lists(st.floats(0.02, 0.58), min_size=7, max_size=7))
def test_what_passed_the_ways_makes_the_volumes(spec, starts):
    net = chain(spec, 0.0)
    start = {f"c{i}": starts[i] for i in range(len(spec) + 1)}
    some = Network(net.cells, net.links[:-1], net.marks)
    history = transient(net, start, 3600.0, [Event(300.0, "one way closed", some), Event(900.0, "open again", net)])
    assert closure(history) <= 1e-12 * history.volumes[0].sum()
