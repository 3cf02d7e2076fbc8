"""Plates against Timoshenko's tables, and against a finite-difference solution of our own making in the test."""

import numpy as np
import pytest

from fuente.errors import FuenteError
from fuente.structure.plates import MATERIALS, bottom, plate_factors, wall


def test_square_under_water_four_edges():
    f = plate_factors(1.0, False, 0.3)
    assert f.centre_deflection == pytest.approx(0.00203, rel=0.01)
    assert f.centre_moment == pytest.approx(0.0239, rel=0.01)


def test_deflection_by_young_s_modulus():
    """α = 12·(1 − ν²)·w·D/(p₀·b⁴): the greatest deflection lies a little under the middle of a panel under water."""
    for poisson in (0.22, 0.3, 0.37):
        f = plate_factors(1.0, False, poisson)
        assert f.alpha == pytest.approx(12 * (1 - poisson**2) * f.centre_deflection, rel=0.02)
        assert f.alpha >= 12 * (1 - poisson**2) * f.centre_deflection


@pytest.mark.parametrize(("ratio", "beta"), [(0.5, 0.084), (1, 0.197), (1.5, 0.351), (2, 0.458)])
def test_free_top(ratio, beta):
    assert plate_factors(ratio, True, 0.22).beta == pytest.approx(beta, rel=0.01)


def by_energy(ratio, poisson=0.22, terms=60, powers=14):
    """The free-topped plate by least energy: sines along it, powers of the height up it, no condition at its top.

    Greatest of 6·M over load and height squared, once by bending along the sides and once by the principal moment.
    """
    y = np.linspace(0, 1, 201)
    nodes, weights = np.polynomial.legendre.leggauss(40)
    at, weights = (nodes + 1) / 2, weights / 2
    k = np.arange(1, powers + 1)
    x = np.linspace(0, 0.5, 101) * ratio
    mx, my, mxy = np.zeros((y.size, x.size)), np.zeros((y.size, x.size)), np.zeros((y.size, x.size))
    for m in range(1, terms, 2):
        a = m * np.pi / ratio
        f, g, h = at[:, None] ** k, k * at[:, None] ** (k - 1), k * (k - 1) * at[:, None] ** np.maximum(k - 2, 0)
        w = weights[:, None]
        whole = -a * a * f + h
        stiff = whole.T @ (w * whole)
        mixed = -a * a * (f.T @ (w * h) + h.T @ (w * f))
        stiff -= (1 - poisson) * (mixed - 2 * a * a * g.T @ (w * g))
        c = np.linalg.lstsq(stiff, f.T @ (weights * (1 - at)) * 4 / (m * np.pi), rcond=None)[0]
        one = y[:, None] ** k @ c
        lean = (k * y[:, None] ** (k - 1)) @ c
        bend = (k * (k - 1) * y[:, None] ** np.maximum(k - 2, 0)) @ c
        mx += np.outer(a * a * one - poisson * bend, np.sin(a * x))
        my += np.outer(-bend + poisson * a * a * one, np.sin(a * x))
        mxy += np.outer((1 - poisson) * a * lean, np.cos(a * x))
    principal = (mx + my) / 2 + np.sqrt(((mx - my) / 2) ** 2 + mxy**2)
    return 6 * max(mx.max(), my.max()), 6 * principal.max()


@pytest.mark.parametrize(("ratio", "thicker"), [(2, 1.0), (2.5, 1.03), (3, 1.10), (4, 1.25), (5, 1.40)])
def test_a_long_free_top_is_ruled_by_twist_at_its_corners(ratio, thicker):
    """The principal moment wants so many times the thickness that bending alone does; stress goes with one over its
    square.
    """
    bending, principal = by_energy(ratio)
    beta = plate_factors(ratio, True, 0.22).beta
    assert beta == pytest.approx(principal, rel=0.01)
    assert (beta / bending) ** 0.5 == pytest.approx(thicker, abs=0.012)


def test_braced_panels_need_no_correction():
    for ratio in (1, 2, 3, 5):
        f = plate_factors(ratio, False, 0.22)
        assert f.beta == pytest.approx(6 * f.centre_moment, rel=0.25)  # a little under the middle


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
    with pytest.raises(FuenteError, match="glass, acrylic or plywood"):
        wall(1, 0.5, material="oak")
