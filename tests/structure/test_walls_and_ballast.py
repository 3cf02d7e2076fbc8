"""Curved walls under flat flanges, tubes under load, hollow things under water: by geometry, beam tables and
Archimedes.
"""

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fuente.structure.buoyancy import ballast
from fuente.structure.walls import largest_flange, sagitta, tube_sag


@given(st.floats(0.1, 2.0), st.floats(0.01, 0.3))
def test_a_flange_stands_off_by_the_sagitta(bore, flange):
    """The circle through the flange's middle and its edges: measured on the drawing board."""
    if flange >= bore:
        return
    r = bore / 2
    angle = math.asin(flange / 2 / r)
    assert sagitta(bore, flange) == pytest.approx(r * (1 - math.cos(angle)), rel=1e-9)


@given(st.floats(0.15, 2.0), st.floats(0.002, 0.008))
def test_the_largest_flange_uses_a_third_of_the_gasket(bore, gasket):
    widest = largest_flange(bore, gasket)
    assert sagitta(bore, widest) == pytest.approx(gasket / 3, rel=1e-6)
    assert largest_flange(1.5 * bore, gasket) > widest


def test_a_tube_sags_by_the_beam_table():
    """5wL⁴/(384EI): 20 N/m on 1.2 m of PVC tube 40 × 36 mm, E = 2.8 GPa."""
    inertia = math.pi / 64 * (0.04**4 - 0.036**4)
    assert tube_sag(20.0, 1.2, 0.04, 0.002) == pytest.approx(5 * 20 * 1.2**4 / (384 * 2.8e9 * inertia), rel=1e-6)


@given(st.floats(1.1, 3.0))
def test_twice_the_span_sags_sixteen_times(factor):
    assert tube_sag(20.0, 0.5 * factor, 0.04, 0.002) == pytest.approx(
        factor**4 * tube_sag(20.0, 0.5, 0.04, 0.002), rel=1e-9
    )


@given(st.floats(1e-4, 5e-3), st.floats(0.2, 5.0), st.floats(0, 2e-3), st.floats(0, 2))
def test_stone_that_holds_it_down_outweighs_the_lift_in_water(shell, shell_mass, solids, solids_mass):
    """The stone's own weight in water is the margin times the lift; what sinks by itself wants none."""
    lift, stone = ballast(shell, shell_mass, solids, solids_mass)
    rises = 1000 * (shell + solids) - shell_mass - solids_mass
    if rises <= 0:
        assert (lift, stone) == (0.0, 0.0)
    else:
        assert lift == pytest.approx(rises)
        assert stone * (1 - 1000 / 2600) == pytest.approx(1.3 * rises)
