"""Laws of gas and bacteria against values from elsewhere."""

from __future__ import annotations

import numpy as np
import pytest
from hypothesis import example, given
from hypothesis import strategies as st

from fuente.life.gas import bubble_transfer, fall_share, saturation, surface_transfer
from fuente.life.load import areal_rate
from fuente.life.nitrifiers import GROWTH, Working, free_share, grown, oxygen_allows, ph_factor
from fuente.water.properties import free_ammonia_fraction, oxygen_saturation

DAY = 86400.0


def at(ammonia=1e-3, nitrite=1e-3, oxygen=8e-3, ph=7.2, temperature=18.0, salinity=0.0):
    """Both groups' speeds in one place."""
    values = (np.array([float(v)]) for v in (ammonia, nitrite, oxygen, ph, temperature))
    return Working.at(*values, salinity).speeds()


def in_the_end(ammonia, temperature=18.0):
    """g N/m²/day of a film that has grown as far as it stays alive, with plenty of oxygen."""
    factor = ammonia / (GROWTH.half_a + ammonia)
    warm = GROWTH.theta ** (temperature - 18)
    return float(
        GROWTH.most_a * DAY * 1e3 * warm * factor * grown(np.array([factor]), GROWTH.grow_a, GROWTH.decay_a)[0]
    )


@pytest.mark.parametrize(("ammonia", "off"), [(0.25e-3, 0.02), (0.5e-3, 0.12), (1e-3, 0.02), (2e-3, 0.25)])
def test_the_grown_film_is_the_areal_law(ammonia, off):
    """k·S^0.7 with k = 1 g/m²/day at 18 °C; equal at 0.25 and 1 mg/L, a tenth over it between."""
    assert in_the_end(ammonia) == pytest.approx((ammonia * 1e3) ** 0.7, rel=off)
    assert in_the_end(ammonia, 25.0) == pytest.approx(areal_rate(ammonia, 25.0, 1.0)[0] * 1e3 * DAY, rel=off)


def test_oxygen_lets_through_what_the_rule_says():
    """(DO − 0.5)/3.2 within 2 % at 6 mg/L and more, within a tenth at 2."""
    for oxygen, off in ((8.0, 0.01), (6.0, 0.01), (3.0, 0.04), (2.0, 0.08)):
        assert oxygen_allows(np.array([oxygen * 1e-3]), 3.2)[0][0] * 1e3 == pytest.approx((oxygen - 0.5) / 3.2, rel=off)
    assert oxygen_allows(np.zeros(1), 3.2)[0][0] == 0.0


def test_the_scarcer_sets_the_pace():
    plenty, little = at(ammonia=20e-3, oxygen=2e-3)[0].value[0], at(ammonia=0.1e-3)[0].value[0]
    allowed = float(oxygen_allows(np.array([2e-3]), 3.2)[0][0])
    assert plenty == pytest.approx(allowed / (allowed + GROWTH.half_a), rel=0.02)
    assert little == pytest.approx(0.1e-3 / (0.1e-3 + GROWTH.half_a), rel=0.02)


def test_warmth_salt_and_acid():
    assert at(temperature=28.0)[0].value / at()[0].value == pytest.approx(1.07**10, rel=1e-3)
    assert at(salinity=35.0)[0].value / at()[0].value == pytest.approx(0.6, rel=1e-2)
    assert at(ph=6.3)[0].value / at(ph=6.8)[0].value == pytest.approx(0.5, rel=1e-2)
    assert ph_factor(np.array([5.8, 6.3, 6.8, 8.0]))[0] == pytest.approx([0.0, 0.5, 1.0, 1.0])


@pytest.mark.parametrize(("ph", "temperature", "salinity"), [(8.0, 25.0, 0.0), (7.4, 18.0, 0.0), (8.2, 25.0, 35.0)])
def test_free_ammonia_is_that_of_the_water(ph, temperature, salinity):
    found = free_share(np.array([ph]), np.array([temperature]), salinity)[0][0]
    assert found == pytest.approx(free_ammonia_fraction(ph, temperature, salinity), rel=1e-12)


def test_free_ammonia_holds_nitrite_back_first():
    """0.3 mg/L free halves the second group and hardly touches the first."""
    share = free_ammonia_fraction(8.4, 25.0)
    calm, held = at(0.3e-3 / share, ph=7.0, temperature=25.0), at(0.3e-3 / share, ph=8.4, temperature=25.0)
    assert held[1].value / calm[1].value == pytest.approx(0.5, rel=0.06)
    assert held[0].value / calm[0].value > 0.97


@pytest.mark.parametrize(("temperature", "salinity"), [(25.0, 0.0), (18.0, 0.0), (25.0, 35.0), (5.0, 10.0)])
def test_saturation_is_that_of_the_water(temperature, salinity):
    value, slope = saturation(np.array([temperature]), salinity)
    assert value[0] * 1e3 == pytest.approx(oxygen_saturation(temperature, salinity), rel=1e-9)
    warmer = oxygen_saturation(temperature + 0.01, salinity) - oxygen_saturation(temperature - 0.01, salinity)
    assert slope[0] * 1e3 == pytest.approx(warmer / 0.02, rel=1e-4)


def test_falling_water_takes_up_what_the_weir_rule_says():
    """r = 1 + 0.38·1.2·h·(1 − 0.11h)(1 + 0.046T): 0.5 m at 20 °C makes 1.414, so 29 % of what is lacking."""
    assert 1 / (1 - fall_share(0.5)) == pytest.approx(1 + 0.38 * 1.2 * 0.5 * (1 - 0.055) * 1.92, rel=1e-9)
    assert fall_share(0.0) == 0.0
    assert fall_share(0.2) < fall_share(0.5) < fall_share(0.5, film=True) < 1.0
    assert fall_share(1.0, film=True) == pytest.approx(1 - np.exp(-2.0))


def test_surfaces_and_bubbles():
    """A m² of turning water: 2 m/day. 4 L/min half a metre down: 0.279 kg/m³ · 1 % of it by 9.09 mg/L."""
    assert surface_transfer(1.0, True) * DAY == pytest.approx(2.0)
    assert surface_transfer(1.0, False) * DAY == pytest.approx(0.5)
    assert surface_transfer(1.0, True, 30.0) / surface_transfer(1.0, True) == pytest.approx(1.024**10)
    air = 4e-3 / 60
    assert bubble_transfer(air, 0.5, 9.09e-3) == pytest.approx(air * 0.279 * 0.01 / 9.09e-3)
    assert bubble_transfer(air, 0.5, 9.09e-3, fine=True) == pytest.approx(2.5 * bubble_transfer(air, 0.5, 9.09e-3))


def test_a_film_that_is_not_fed_dies():
    assert grown(np.array([0.0, 0.01, 1.0]), GROWTH.grow_a, GROWTH.decay_a) == pytest.approx([0, 0, 1 - 0.04 / 0.55])


SPANS = {
    "ammonia": (0.05e-3, 60e-3),
    "nitrite": (0.05e-3, 20e-3),
    "oxygen": (0.7e-3, 9e-3),
    "ph": (5.9, 8.8),
    "temperature": (8.0, 32.0),
}


@given(st.lists(st.floats(0.0, 1.0), min_size=5, max_size=5), st.sampled_from([0.0, 30.0]))
@example([0.95, 0.5, 0.9, 0.28, 0.6], 0.0)  # acid, and much ammonia
@example([0.9, 0.5, 0.9, 0.95, 0.8], 0.0)  # poisoned by it
def test_slopes_are_those_of_the_speeds(shares, salinity):
    """By differences of each value, of both groups, 0.1 %."""
    state = {k: low + s * (high - low) for s, (k, (low, high)) in zip(shares, SPANS.items(), strict=True)}
    for group, food in enumerate(("ammonia", "nitrite")):
        made = at(**state, salinity=salinity)[group]
        named = {food: made.by_food, "oxygen": made.by_oxygen, "ph": made.by_ph, "temperature": made.by_temperature}
        if group == 0:
            named["ammonia"] = made.by_food + made.by_ammonia
        else:
            named["ammonia"] = made.by_ammonia
        for what, slope in named.items():
            step = 1e-6 * (SPANS[what][1] - SPANS[what][0])
            if what == "ph" and min(abs(state["ph"] - 5.8), abs(state["ph"] - 6.8)) < 2 * step:
                continue  # its factor bends there
            up, down = (
                at(**{**state, what: state[what] + way * step}, salinity=salinity)[group].value for way in (1, -1)
            )
            by_hand = (up - down) / (2 * step)
            assert slope == pytest.approx(by_hand, rel=1e-3, abs=1e-9 * float(made.value[0]) / step), (what, group)
