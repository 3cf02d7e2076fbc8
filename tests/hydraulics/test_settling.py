"""What settles: Stokes where he holds, drag beyond, and an overflow rate that is the fall of what just stays."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fuente.errors import FuenteError
from fuente.hydraulics.settling import fall_speed, smallest_kept
from fuente.water.properties import water

COOL = water(15.0)


@given(st.floats(5e-6, 60e-6), st.floats(1010, 1200))
def test_small_grains_fall_by_stokes(size, density):
    """v = Δρ g d² / 18 µ while the Reynolds number is far below one."""
    stokes = (density - COOL.density) * 9.80665 * size**2 / (18 * COOL.viscosity)
    assert stokes * size * COOL.density / COOL.viscosity < 0.05
    assert fall_speed(size, density, COOL) == pytest.approx(stokes, rel=0.03)


def test_a_coarse_sand_grain_falls_as_the_tables_say():
    """Quartz of 0.5 mm in water of 15 °C: 60 to 80 mm/s in every handbook's figure."""
    assert 0.06 < fall_speed(0.5e-3, 2650, COOL) < 0.085


@given(st.floats(2e-4, 2e-2))
def test_the_smallest_that_is_kept_falls_as_fast_as_the_water_rises(rate):
    size = smallest_kept(rate, 1050, COOL)
    assert fall_speed(size, 1050, COOL) == pytest.approx(rate, rel=1e-3)
    assert smallest_kept(2 * rate, 1050, COOL) > size


def test_what_floats_does_not_settle():
    with pytest.raises(FuenteError, match="does not settle"):
        fall_speed(1e-4, 990, COOL)
