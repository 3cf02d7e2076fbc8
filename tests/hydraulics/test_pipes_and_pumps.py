"""Pipes and pumps against hand-worked values of the design, and against fluids' own pressure drop."""

import itertools
import math

import fluids
import pytest
from hypothesis import given
from hypothesis import strategies as st

from amounts import LPH
from fuente.errors import FuenteError, PumpTooWeak
from fuente.hydraulics.pipes import Pipe, friction_factor
from fuente.hydraulics.pumps import PumpCurve, operating_point
from fuente.water.properties import water


@pytest.mark.parametrize(
    ("lph", "bore", "length", "k", "loss", "speed"),
    [(3000, 0.026, 4, 6.0, 1.169, 1.57), (1200, 0.016, 2.5, 4.0, 1.081, 1.66), (9000, 0.0444, 6, 8.5, 1.471, 1.61)],
)
def test_design_values(lph, bore, length, k, loss, speed):
    pipe = Pipe(bore, length, k)
    assert pipe.head_loss(lph * LPH) == pytest.approx(loss, rel=0.01)
    assert lph * LPH / pipe.area == pytest.approx(speed, rel=0.01)


@pytest.mark.parametrize("lph", [50, 800, 3000, 20000])
def test_agrees_with_one_phase_drop_of_fluids(lph):
    """An independent path: fluids' one_phase_dP adds up the same pipe without us (its laminar limit is Re 2040)."""
    stuff = water(25)
    bore, length = 0.0284, 5.0
    drop = fluids.one_phase_dP(
        m=lph * LPH * stuff.density, rho=stuff.density, mu=stuff.viscosity, D=bore, roughness=1.5e-6, L=length
    )
    ours = Pipe(bore, length).head_loss(lph * LPH) * stuff.density * 9.80665
    assert ours == pytest.approx(drop, rel=2e-3)


@given(st.floats(1e-8, 5e-3), st.floats(0.004, 0.1), st.floats(0.05, 50), st.floats(0, 40))
def test_flow_at_undoes_head_loss(flow, bore, length, k):
    pipe = Pipe(bore, length, k)
    assert pipe.flow_at(pipe.head_loss(flow)) == pytest.approx(flow, rel=1e-9)


@given(st.floats(1e-7, 4e-3), st.floats(0.006, 0.08))
def test_slope_is_the_derivative(flow, bore):
    pipe = Pipe(bore, 3.0, 5.0)
    h = flow * 1e-6
    numeric = (pipe.head_loss(flow + h) - pipe.head_loss(flow - h)) / (2 * h)
    assert pipe.loss_and_slope(flow)[1] == pytest.approx(numeric, rel=2e-2)


def test_friction_never_jumps():
    last = friction_factor(1900, 1e-5) * 1900**2
    for step in range(1901, 4400):
        now = friction_factor(step, 1e-5) * step**2
        assert last < now < last * 1.01
        last = now


def test_pump_point_of_the_design():
    pipe = Pipe(0.026, 3.2, 7.5)
    flow, head, _ = operating_point(PumpCurve(4.0, 6000 * LPH), 1.45, pipe.loss_and_slope)
    assert flow == pytest.approx(3180 * LPH, rel=0.01)
    assert head == pytest.approx(2.88, rel=0.01)
    assert head == pytest.approx(1.45 + pipe.head_loss(flow), rel=1e-9)


def test_weak_pump_says_so_with_numbers():
    pipe = Pipe(0.026, 3.2, 7.5)
    with pytest.raises(PumpTooWeak, match=r"1\.20 m at most and the lift is 1\.45 m"):
        operating_point(PumpCurve(1.2, 3000 * LPH), 1.45, pipe.loss_and_slope)


def test_curve_goes_through_its_points_and_only_falls():
    points = ((0.0, 3.6), (1500 * LPH, 3.3), (3000 * LPH, 2.2), (4800 * LPH, 0.3))
    curve = PumpCurve.from_points(points)
    for q, h in points:
        assert curve.head(q) == pytest.approx(h, abs=1e-12)
    heads = [curve.head(q * 10 * LPH) for q in range(520)]
    assert all(b < a for a, b in itertools.pairwise(heads))


def test_affinity_laws():
    full, half = PumpCurve(4.0, 1e-3), PumpCurve(4.0, 1e-3, speed=0.5)
    assert half.head(0.25e-3) == pytest.approx(full.head(0.5e-3) / 4)


def test_rising_head_is_refused():
    with pytest.raises(FuenteError, match="must fall"):
        PumpCurve(2, 1e-3, ((0.0, 1.0), (1e-3, 2.0)))


def test_no_bore_no_pipe():
    with pytest.raises(FuenteError, match="bore above zero"):
        Pipe(0.0, 1.0)
    assert math.isinf(friction_factor(0.0, 0.0))
