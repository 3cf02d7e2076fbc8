"""Air pumps and lines: each law by its own arithmetic, and shares against a root finder."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st
from scipy.optimize import brentq

from fuente.errors import FuenteError
from fuente.hydraulics.air import AirPump, Drop, share_air

LPM = 1e-3 / 60


def test_a_membrane_pump_is_a_straight_line():
    pump = AirPump(20e3, 10 * LPM)
    assert pump.flow(0.0) == pytest.approx(10 * LPM)
    assert pump.flow(5e3) == pytest.approx(7.5 * LPM)
    assert pump.flow(20e3) == pump.flow(30e3) == 0.0


def test_depth_and_diffuser_are_what_air_must_overcome():
    """400 mm of water are 3 923 Pa."""
    assert Drop(0.4).threshold == pytest.approx(3922.66)
    assert Drop(0.4, diffuser=1500.0).threshold == pytest.approx(5422.66)


def test_a_laminar_airline_loses_by_hagen_and_poiseuille():
    """1 L/min in 4 mm: Re 352; 32·μ·v·L/D² along it, and 1.5 velocity heads at its ends."""
    speed = 1 * LPM / (math.pi / 4 * 0.004**2)
    assert 1.2 * speed * 0.004 / 1.81e-5 == pytest.approx(351.7, rel=1e-3)
    along = 32 * 1.81e-5 * speed * 2.0 / 0.004**2
    ends = 1.5 * 1.2 * speed**2 / 2
    assert Drop(0.3, length=2.0).loss(1 * LPM) == pytest.approx(along + ends, rel=1e-9)
    assert Drop(0.3, length=2.0, valve_k=8.0).loss(1 * LPM) == pytest.approx(along + ends + 8 * 1.2 * speed**2 / 2)
    assert Drop(0.3).loss(0.0) == Drop(0.3).loss(-1.0) == 0.0


@given(st.floats(0.1, 0.6), st.floats(0.5, 4.0), st.floats(0.0, 60.0), st.floats(0.01, 3.0))
def test_a_drop_spends_what_is_left_over_its_depth(depth, length, k, lpm):
    drop = Drop(depth, length, valve_k=k)
    pressure = drop.threshold + drop.loss(lpm * LPM)
    assert drop.flow(pressure) == pytest.approx(lpm * LPM, rel=1e-6)
    assert drop.flow(drop.threshold) == 0.0


def test_shares_meet_the_pumps_curve():
    """Three drops of other depths: found by the pressure at which all of them take what the pump gives."""
    pump = AirPump(18e3, 8 * LPM)
    drops = [Drop(0.30), Drop(0.35, 2.0), Drop(0.25, valve_k=200.0)]
    wanted = brentq(
        lambda p: pump.max_flow * (1 - p / 18e3) - sum(d.flow(p) for d in drops), min(d.threshold for d in drops), 18e3
    )
    pressure, flows = share_air(pump, drops)
    assert pressure == pytest.approx(wanted, rel=1e-9)
    assert sum(flows) == pytest.approx(8 * LPM * (1 - pressure / 18e3), rel=1e-9)
    assert flows[0] > flows[1]  # deeper, and a longer line


def test_a_pump_that_reaches_no_drop_gives_none():
    pressure, flows = share_air(AirPump(3e3, LPM), [Drop(0.4), Drop(0.5)])
    assert pressure == 3e3
    assert flows == [0.0, 0.0]


def test_a_deep_drop_alone_gets_nothing():
    _, flows = share_air(AirPump(4.5e3, 4 * LPM), [Drop(0.2), Drop(0.45)])
    assert flows[0] > 0
    assert flows[1] == 0.0


def test_a_pump_needs_a_line():
    with pytest.raises(FuenteError, match="needs a line"):
        share_air(AirPump(1e4, LPM), [])
