"""Weirs, gaps, drains and pads: the design's values, and shapes that solvers rely on."""

import pytest
from hypothesis import assume, given
from hypothesis import strategies as st

from amounts import LPH
from fuente.hydraulics.drains import (
    air_hole_breaks,
    full_siphon,
    mouth_flow,
    open_channel_capacity,
    standpipe_flow,
)
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import Porous, felt, foam, packed, wall_flow
from fuente.hydraulics.weirs import gap_drop, gap_flow, submerged_weir_flow, weir_flow, weir_head
from fuente.water.properties import water


@pytest.mark.parametrize(("length", "head"), [(0.4, 10.1e-3), (0.25, 14.1e-3)])
def test_weir_values(length, head):
    assert weir_head(3000 * LPH, length, 0.3) == pytest.approx(head, rel=0.01)


def test_weir_against_rehbock():
    """Rehbock's formula is another fit to other measurements; 3 % apart over 30 to 150 mm."""
    from fluids.open_flow import Q_weir_rectangular_full_Rehbock

    for head in (0.03, 0.06, 0.15):
        assert weir_flow(head, 0.5, 0.3)[0] == pytest.approx(Q_weir_rectangular_full_Rehbock(head, 0.3, 0.5), rel=0.03)


def test_gap_and_siphon_and_open_channel():
    assert gap_drop(6000 * LPH, 0.4, 0.03) == pytest.approx(2.3e-3, rel=0.02)
    assert full_siphon(0.9, Pipe(0.0326, 1.2, 2.4))[0] == pytest.approx(6230 * LPH, rel=0.01)
    assert open_channel_capacity(0.0508) == pytest.approx(5140 * LPH, rel=0.01)


@given(st.floats(1e-5, 0.2), st.floats(0.05, 2), st.floats(0.02, 1))
def test_weir_rises_and_slope_is_right(head, length, crest):
    assume(abs(head - 2.5 * crest) > 1e-3)  # where the formula's range ends the slope has a corner
    q, slope = weir_flow(head, length, crest)
    h = head * 1e-5
    numeric = (weir_flow(head + h, length, crest)[0] - weir_flow(head - h, length, crest)[0]) / (2 * h)
    assert q > 0
    assert slope == pytest.approx(numeric, rel=1e-2)


@given(st.floats(1e-4, 0.1), st.floats(0, 1))
def test_drowned_weir_carries_less(head, share):
    free = weir_flow(head, 0.4, 0.3)[0]
    q, up, down = submerged_weir_flow(head, share * head, 0.4, 0.3)
    assert 0 <= q <= free + 1e-15
    assert up >= -1e-12
    assert down <= 1e-12


@given(st.floats(1e-4, 0.4), st.floats(0, 1), st.floats(0.005, 0.1))
def test_gap_rises_with_upstream_and_falls_with_downstream(up, share, gap):
    q, d_up, d_down = gap_flow(up, share * up, 0.4, gap)
    assert q >= 0
    assert d_up >= 0
    assert d_down <= 0


@given(st.floats(1e-4, 0.3), st.floats(0.05, 2))
def test_standpipe_is_one_rising_curve_under_the_full_pipe(head, drop):
    pipe = Pipe(0.0362, 1.0, 3.0)
    here = standpipe_flow(head, drop, pipe, 0.03, 0.06)[0]
    more = standpipe_flow(head + 1e-4, drop + 1e-4, pipe, 0.03, 0.06)[0]
    assert here <= more + 1e-15
    assert here <= pipe.flow_at(drop) + 1e-15
    assert more - here < 2e-5  # no jump in a tenth of a millimetre


def test_mouth_goes_from_weir_to_orifice():
    low = mouth_flow(0.002, 0.04)[0] / mouth_flow(0.001, 0.04)[0]
    high = mouth_flow(0.2, 0.04)[0] / mouth_flow(0.1, 0.04)[0]
    assert low == pytest.approx(2**1.5, rel=0.01)
    assert high == pytest.approx(2**0.5, rel=0.02)


def test_air_hole_must_be_large_enough():
    flow = 600 * LPH
    assert not air_hole_breaks(0.001, 0.02, flow)
    assert air_hole_breaks(0.008, 0.02, flow)
    assert not air_hole_breaks(0.0, 0.02, flow)


def test_pad_is_dupuit_where_flow_is_slow():
    stuff, medium = water(25), Porous(1e-9, 0.0)
    q, _, _ = wall_flow(0.3, 0.1, 0.4, 0.5, 0.05, medium, stuff)
    k = 1e-9 * stuff.density * 9.80665 / stuff.viscosity
    assert q == pytest.approx(k * 0.4 * (0.3**2 - 0.1**2) / (2 * 0.05), rel=1e-9)


def test_packed_bed_is_ergun():
    """fluids' own Ergun for the same bed and speed."""
    from fluids.packed_bed import Ergun

    stuff, speed, size, void = water(25), 0.004, 0.012, 0.45
    bed = packed(size, void)
    drop = Ergun(dp=size, voidage=void, vs=speed, rho=stuff.density, mu=stuff.viscosity, L=0.1)
    gradient = drop / 0.1 / (stuff.density * 9.80665)
    assert bed.speed(gradient, stuff)[0] == pytest.approx(speed, rel=1e-6)


def test_finer_and_dirtier_lets_less_through():
    stuff = water(20)
    speeds = [foam(ppi).speed(0.1, stuff)[0] for ppi in (10, 20, 30, 45, 60)]
    assert speeds == sorted(speeds, reverse=True)
    assert foam(20).dirty(10).speed(0.1, stuff)[0] < foam(20).speed(0.1, stuff)[0]
    assert felt(100e-6).speed(0.5, stuff)[0] < felt(200e-6).speed(0.5, stuff)[0]


@pytest.mark.parametrize("flow", [200e-3 / 3600, 3.0e-3 / 3.6])
def test_a_hole_of_eleven_hundredths_of_the_bore_breaks_a_siphon(flow):
    """By hand: suction 1.5·ρv²/2 draws 0.6·a·√(2·suction/1.2) = 21.2·a·v of air, a quarter of A·v at a/A = 0.01179,
    whatever the flow; of a pipe with two outlets, one hole must do for all of it.
    """
    assert not air_hole_breaks(0.1075 * 0.026, 0.026, flow)
    assert air_hole_breaks(0.1095 * 0.026, 0.026, flow)
    assert not air_hole_breaks(0.1095 * 0.026, 0.026, flow, whole=1.1 * flow)
    assert not air_hole_breaks(0.0, 0.026, flow)
