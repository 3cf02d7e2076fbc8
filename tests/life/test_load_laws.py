"""Ammonia made, what a surface nitrifies, and media side by side: published figures and arithmetic."""

from __future__ import annotations

import math

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fuente.catalogue import Medium
from fuente.errors import FuenteError
from fuente.life.compare import compare
from fuente.life.load import ammonia_made, areal_rate, foam_surface, live_weight, surface_needed

DAY = 86400.0


def per_day(rate):
    """g N/m²/day of kg N/m²/s."""
    return rate * 1e3 * DAY


def test_nitrogen_of_feed_by_timmons_and_ebeling():
    """A kilogram of feed of 40 % protein a day: 36.8 g of ammonia nitrogen."""
    assert ammonia_made(1.0 / DAY, 0.40) * DAY == pytest.approx(0.0368)


@pytest.mark.parametrize(
    ("ammonia", "temperature", "wanted"),
    [
        (1.0, 18.0, 1.0),  # the rate's own point
        (0.5, 18.0, 0.5**0.7),
        (2.0, 18.0, 2.0**0.7),
        (1.0, 28.0, 1.07**10),
        (1.0, 8.0, 1.07**-10),
    ],
)
def test_a_surface_by_rusten_while_ammonia_limits(ammonia, temperature, wanted):
    rate, limit = areal_rate(ammonia * 1e-3, temperature, oxygen=12e-3)
    assert per_day(rate) == pytest.approx(wanted)
    assert limit == "ammonia"


def test_oxygen_takes_over_at_its_own_ammonia():
    """At 5 mg/L of oxygen (5 − 0.5)/3.2 = 1.41 mg/L of ammonia is all that it lets through."""
    allowed = (5.0 - 0.5) / 3.2
    below, above = areal_rate((allowed - 0.01) * 1e-3, 18.0, 5e-3), areal_rate((allowed + 0.01) * 1e-3, 18.0, 5e-3)
    assert (below[1], above[1]) == ("ammonia", "oxygen")
    assert per_day(above[0]) == pytest.approx(allowed**0.7)
    assert areal_rate(1e-3, 18.0, 0.5e-3) == (0.0, "oxygen")


def test_salt_and_acid_slow_it():
    fresh = areal_rate(1e-3, 18.0)[0]
    assert areal_rate(1e-3, 18.0, salinity=15.0)[0] == pytest.approx(fresh)
    assert areal_rate(1e-3, 18.0, salinity=35.0)[0] == pytest.approx(0.6 * fresh)
    assert areal_rate(1e-3, 18.0, ph=6.8)[0] == pytest.approx(fresh)
    assert areal_rate(1e-3, 18.0, ph=6.3)[0] == pytest.approx(0.5 * fresh)
    assert areal_rate(1e-3, 18.0, ph=5.8)[0] == areal_rate(1e-3, 18.0, ph=5.0)[0] == 0.0


def test_surface_for_a_load():
    """36.8 g N a day at 1 g/m²/day."""
    assert surface_needed(0.0368 / DAY, areal_rate(1e-3, 18.0)[0]) == pytest.approx(36.8)
    with pytest.raises(FuenteError, match="Nothing nitrifies"):
        surface_needed(1e-9, 0.0)
    with pytest.raises(FuenteError, match="below zero"):
        areal_rate(-1e-3, 18.0)
    with pytest.raises(FuenteError, match="below zero"):
        areal_rate(1e-3, 18.0, -1e-3)


@pytest.mark.parametrize(
    ("ppi", "surface"),
    [(5, 500), (10, 500), (15, 700), (20, 900), (25, 1150), (30, 1400), (37.5, 1900), (45, 2400), (60, 2400)],
)
def test_foam_between_its_typical_values(ppi, surface):
    assert foam_surface(ppi) == pytest.approx(surface)


def test_an_animal_weighs_by_its_length_cubed():
    """A fish of 100 mm without its tail: 12.5 g; of twice the length eight times as much."""
    assert live_weight(0.1) == pytest.approx(0.0125)
    assert live_weight(0.2) == pytest.approx(8 * live_weight(0.1))


STUFF = Medium("x", "Stuff", "loose", 400.0, 0.6, 300.0, 0.015, 2.5, core=100.0, cleaning=2.0)


def test_media_side_by_side():
    """20 m² at 400 m²/m³ are 50 L; drained they weigh 300 kg/m³ dry and a tenth of the 60 % voids in water."""
    made = compare(STUFF, 20.0, 8.0)
    assert made.volume == pytest.approx(0.05)
    assert made.cost == pytest.approx(50 * 2.5)
    assert made.per_litre == 2.5
    assert made.per_area == pytest.approx(125 / 20)
    assert made.minutes == pytest.approx(50 * 2.0)
    assert made.wet == pytest.approx(0.05 * (300 + 0.1 * 0.6 * 1000))
    assert made.bags == 3  # 18 kg in bags of 8 kg
    assert compare(STUFF, 20.0, 9.0).bags == 2  # exactly two
    assert compare(STUFF, 20.0, 8.0, core=True).volume == pytest.approx(20.0 / 500)


@given(st.floats(0.1, 500), st.floats(1.0, 30.0))
def test_no_bag_is_heavier_than_the_limit(surface, lift):
    made = compare(STUFF, surface, lift)
    assert made.wet / made.bags <= lift * (1 + 1e-6)
    assert made.bags == 1 or made.wet / (made.bags - 1) > lift * (1 - 1e-6)


def test_media_without_surface_or_limit_are_sentences():
    bare = Medium("x", "Glass beads", "loose", 0.0, 0.4, 1500.0, 0.015, 1.0)
    with pytest.raises(FuenteError, match="Glass beads has no surface"):
        compare(bare, 1.0)
    for surface, lift in ((0.0, 10.0), (1.0, 0.0)):
        with pytest.raises(FuenteError, match="above zero"):
            compare(STUFF, surface, lift)


def test_wet_media_by_its_voids():
    assert STUFF.wet_density(1025.0) == pytest.approx(300 + 0.06 * 1025)
    assert math.isclose(STUFF.living(), 400.0)
    assert math.isclose(STUFF.living(core=True), 500.0)
