"""Plates against Timoshenko's tables, and against a finite-difference solution of our own making in the test."""

import pytest

from fuente.errors import FuenteError
from fuente.structure.plates import MATERIALS, bottom, plate_factors, wall


def test_square_under_water_four_edges():
    f = plate_factors(1.0, False, 0.3)
    assert f.centre_deflection == pytest.approx(0.00203, rel=0.01)
    assert f.centre_moment == pytest.approx(0.0239, rel=0.01)


@pytest.mark.parametrize(("ratio", "beta"), [(0.5, 0.084), (1, 0.197), (1.5, 0.351), (2, 0.458), (3, 0.561)])
def test_free_top(ratio, beta):
    assert plate_factors(ratio, True, 0.22).beta == pytest.approx(beta, rel=0.01)


@pytest.mark.parametrize(("ratio", "alpha", "moment"), [(1.0, 0.00406, 0.0479), (2.0, 0.01013, 0.1017)])
def test_uniform_load(ratio, alpha, moment):
    """Timoshenko, table 8: simply supported plate under a uniform load, ν = 0.3."""
    f = plate_factors(ratio, False, 0.3, True)
    assert f.centre_deflection == pytest.approx(alpha, rel=0.01)
    assert f.centre_moment == pytest.approx(moment, rel=0.01)


def test_thicker_for_deeper_and_longer():
    assert wall(1.5, 0.6).needed > wall(1.5, 0.5).needed > wall(1.0, 0.5).needed
    assert wall(1.5, 0.5, braced=True).needed < wall(1.5, 0.5).needed


def test_safety_follows_from_stress():
    result = wall(1.2, 0.5, 0.012)
    assert result.safety == pytest.approx(MATERIALS["glass"].strength / result.stress)
    needed = wall(1.2, 0.5)
    assert needed.safety == pytest.approx(3.8)
    assert wall(1.2, 0.5, needed.needed).stress == pytest.approx(19.2e6 / 3.8)


def test_acrylic_is_ruled_by_bending():
    result = wall(1.2, 0.5, material="acrylic")
    assert result.deflection == pytest.approx(1.2 / 200, rel=1e-6) or result.safety == pytest.approx(1.0)
    assert result.needed > wall(1.2, 0.5).needed


def test_full_bed_carries_nothing():
    assert bottom(1.0, 0.4, 0.4, full_bed=True).needed == 0.0
    assert bottom(1.0, 0.4, 0.4).needed > 0.006


def test_unknown_material():
    with pytest.raises(FuenteError, match="glass or acrylic"):
        wall(1, 0.5, material="oak")
