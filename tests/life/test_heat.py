"""Evaporation and heat: signs, limits, and a published case."""

import pytest

from fuente.life.heat import evaporation, heat_loss_per_kelvin, rise_with
from fuente.water.properties import vapour_pressure


def test_a_still_indoor_pool():
    """ASHRAE's own form for a pool of 1 m² at 27 °C in air of 28 °C and 60 %, activity 0.5, Y = 2450 kJ/kg."""
    pw, pa = vapour_pressure(27) / 1000, 0.6 * vapour_pressure(28) / 1000
    assert evaporation(1.0, 27, 28, 0.6) == pytest.approx(0.5 * 0.089 * (pw - pa) / 2450 / 1000, rel=1e-9)
    assert 0.5e-3 < evaporation(1.0, 27, 28, 0.6) * 86400 < 3e-3  # one or two mm a day


def test_cold_water_in_damp_air_loses_nothing():
    assert evaporation(1.0, 10, 25, 0.9) == 0.0


def test_warm_water_dry_air_loses_more():
    assert evaporation(1, 28, 20, 0.3) > evaporation(1, 24, 20, 0.3) > evaporation(1, 24, 20, 0.6)


def test_heater_balance():
    per_kelvin = heat_loss_per_kelvin(2.0, 0.5)
    assert per_kelvin == pytest.approx(11 + 7.5)
    assert rise_with(185, per_kelvin) == pytest.approx(10.0)
