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


def sharqawy(t, s):
    """Fresh water by their equation 23, salt by 22, typed from the paper; s in kg/kg."""
    fresh = 4.2844e-5 + (0.157 * (t + 64.993) ** 2 - 91.296) ** -1
    a = 1.541 + 0.01998 * t - 0.0000952 * t * t
    b = 7.974 - 0.07561 * t + 0.0004724 * t * t
    return fresh * (1 + a * s + b * s * s)


@pytest.mark.parametrize("t", [0, 10, 25, 40, 60])
@pytest.mark.parametrize("s", [0, 10, 35, 60])
def test_viscosity_by_sharqawy_and_others(t, s):
    assert viscosity(t, s) == pytest.approx(sharqawy(t, s / 1000), rel=1e-9)


@pytest.mark.parametrize(
    ("t", "s", "mg"),
    # Benson and Krause's table, as the standard methods print it: mg/L at one atmosphere
    [(5, 0, 12.77), (10, 0, 11.29), (15, 0, 10.08), (20, 0, 9.09), (30, 0, 7.56), (40, 0, 6.41), (20, 36.1, 7.35)],
)
def test_oxygen_over_the_table(t, s, mg):
    assert oxygen_saturation(t, s) == pytest.approx(mg, rel=3e-3)


@pytest.mark.parametrize(("altitude", "share"), [(500, 0.942), (1500, 0.834), (3000, 0.690)])
def test_oxygen_by_the_standard_atmosphere(altitude, share):
    """The air's pressure less the water vapour's: a little less than the pressure itself."""
    got = oxygen_saturation(20, 0, altitude) / oxygen_saturation(20)
    assert share - 0.012 < got < share + 0.001


@pytest.mark.parametrize(
    ("t", "kpa"), [(0, 0.6113), (10, 1.2281), (20, 2.3388), (30, 4.2455), (40, 7.3814), (60, 19.932)]
)
def test_vapour_over_the_steam_tables(t, kpa):
    assert vapour_pressure(t) == pytest.approx(kpa * 1000, rel=3e-3)


@pytest.mark.parametrize(("t", "pka"), [(5, 9.9051), (15, 9.5643), (25, 9.2464), (30, 9.0955)])
def test_half_of_it_is_free_at_its_pka(t, pka):
    """2 729.92 / T + 0.09018 by hand; each pH more is ten times as much against the rest."""
    assert free_ammonia_fraction(pka, t) == pytest.approx(0.5, abs=2e-3)
    assert free_ammonia_fraction(pka - 1, t) == pytest.approx(1 / 11, abs=1e-3)


def test_its_ranges():
    for call in (
        lambda: density(61),
        lambda: density(-1),
        lambda: density(20, 61),
        lambda: viscosity(20, -1),
        lambda: oxygen_saturation(41),
        lambda: oxygen_saturation(20, 41),
        lambda: free_ammonia_fraction(12.1, 20),
        lambda: free_ammonia_fraction(2.9, 20),
    ):
        with pytest.raises(FuenteError):
            call()
