"""Against published values; tolerances are the models' own."""

import pytest

from fuente.errors import FuenteError
from fuente.water.properties import density, free_ammonia_fraction, oxygen_saturation, vapour_pressure, viscosity


@pytest.mark.parametrize(
    ("t", "s", "rho", "mu"),
    [(25, 0, 997.05, 0.890e-3), (25, 35, 1023.3, 0.959e-3), (4, 0, 999.97, 1.567e-3), (20, 0, 998.2, 1.002e-3)],
)
def test_density_and_viscosity(t, s, rho, mu):
    assert density(t, s) == pytest.approx(rho, rel=2e-4)
    assert viscosity(t, s) == pytest.approx(mu, rel=1e-2)


@pytest.mark.parametrize(("t", "s", "mg"), [(25, 0, 8.26), (18, 0, 9.47), (25, 35, 6.77), (0, 0, 14.62)])
def test_oxygen_by_benson_and_krause(t, s, mg):
    assert oxygen_saturation(t, s) == pytest.approx(mg, rel=2e-3)


def test_oxygen_falls_with_altitude_as_pressure_does():
    # 1000 m: 0.887 of sea-level pressure in the standard atmosphere.
    assert oxygen_saturation(20, 0, 1000) / oxygen_saturation(20) == pytest.approx(0.887, rel=5e-3)


@pytest.mark.parametrize(("ph", "t", "share"), [(8.0, 25, 0.0537), (7.4, 18, 0.0085)])
def test_free_ammonia_by_emerson(ph, t, share):
    assert free_ammonia_fraction(ph, t) == pytest.approx(share, rel=1e-2)


def test_salt_lowers_free_ammonia_by_a_fifth_or_so():
    # Bell et al. 2008: pKa 0.11 higher at 35 g/kg.
    assert 0.75 < free_ammonia_fraction(8.0, 25, 35) / free_ammonia_fraction(8.0, 25) < 0.85


def test_vapour_pressure_at_25():
    assert vapour_pressure(25) == pytest.approx(3169, rel=2e-3)  # Pa, steam tables


def test_outside_the_range_is_a_sentence():
    with pytest.raises(FuenteError, match="outside 0 to 60"):
        density(80)
