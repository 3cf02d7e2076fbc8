"""What builders type, and what they read."""

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fuente.errors import EntryError
from fuente.typed import parse, parse_dimensions, registry
from fuente.unit_factors import FACTORS
from fuente.units import QUANTITIES, UnitSystem, fill, in_units, shown

US = UnitSystem.US


@pytest.mark.parametrize(
    ("text", "quantity", "si"),
    [
        ("32 mm", "length", 0.032),
        ("3/4 in", "length", 0.01905),
        ('1 1/2"', "length", 0.0381),
        ("1-1/2 in", "length", 0.0381),
        ("2 ft", "length", 0.6096),
        ("2 ft 3 in", "length", 0.6858),
        ("5' 3\"", "length", 1.6002),
        ("12in", "length", 0.3048),
        ("32", "length", 0.032),
        ("1,5 m", "length", 1.5),
        ("0,125 m", "length", 0.125),
        ("-0,125 m", "length", -0.125),
        ("0,0005 m", "length", 0.0005),
        ("1,2345 m", "length", 1.2345),
        ("1,500 gph", "flow", 1500 * 0.003785411784 / 3600),
        ("10,125 mm", "length", 10.125),
        ("900 gph", "flow", 900 * 0.003785411784 / 3600),
        ("3 240 L/h", "flow", 3.24 / 3600),
        ("3,240 L/h", "flow", 3.24 / 3600),
        ("15 gpm", "flow", 15 * 0.003785411784 / 60),
        ("77 degF", "temperature", 25.0),
        ("25 °C", "temperature", 25.0),
        ("50 %", "fraction", 0.5),
        ("50", "fraction", 0.5),
        ("0.5", "fraction", 0.005),
        ("0.2", "percent", 0.002),
        ("1,5", "percent", 0.015),
        ("7/24", "number", 7 / 24),
        ("6 × an hour", "per_hour", 6 / 3600),
        ("200 micron", "micron", 200e-6),
        ("2'3\"", "length", 0.6858),
        ("2′ 3 1/2″", "length", 0.6985),
        ("2ft3in", "length", 0.6858),
        ("2ft3 1/2in", "length", 0.6985),
        ("5½ in", "length", 5.5 * 0.0254),
        ("½in", "length", 0.0127),
        ("12 IN", "length", 0.3048),
        ("950 GPH", "flow", 950 * 0.003785411784 / 3600),
        ("950 gal per hour", "flow", 950 * 0.003785411784 / 3600),
        ("500 l/H", "flow", 0.5 / 3600),
        ("78f", "temperature", 230 / 9),
        ("25c", "temperature", 25.0),
        ("5 US gal", "volume", 5 * 0.003785411784),
        ("5 U.S. gallons", "volume", 5 * 0.003785411784),
        ("17 fl oz", "volume", 17 * 0.003785411784 / 128),
        ("17 fl. oz.", "volume", 17 * 0.003785411784 / 128),
        ("5 per hour", "per_hour", 5 / 3600),
        ("5 times an hour", "per_hour", 5 / 3600),
        ("5 x per hour", "per_hour", 5 / 3600),
        ("2 lb", "mass", 2 * 0.45359237),
        ("2 lb", "light_mass", 2 * 0.45359237),
        ("1 lb 4 oz", "mass", 1.25 * 0.45359237),
        ("0.4 oz/day", "feed", 0.4 * 0.45359237 / 16 / 86400),
        ("8 cfh", "air_flow", 8 * 0.3048**3 / 3600),
        ("2 ppm", "concentration", 2e-3),
        ("2 min", "time", 120.0),
    ],
)
def test_reads_what_builders_say(text, quantity, si):
    assert parse(text, quantity) == pytest.approx(si, rel=1e-12)


def test_a_bare_number_means_the_shown_unit():
    assert parse("12", "length", US) == pytest.approx(0.3048)
    assert parse("68", "temperature", US) == pytest.approx(20)


@pytest.mark.parametrize(
    "text", ["", "x", "12 kg", "1/0 in", "3 mm mm", "1e999 mm", "nan", "__import__('os')", "9" * 90, "5 3 1"]
)
def test_a_bad_entry_says_what_it_would_take(text):
    with pytest.raises(EntryError, match=r"type 32 mm|divides by zero"):
        parse(text, "length")


def test_three_sizes_in_one():
    assert parse_dimensions("1500x600x550") == pytest.approx((1.5, 0.6, 0.55))
    assert parse_dimensions("4 ft x 18 in x 20 in") == pytest.approx((1.2192, 0.4572, 0.508))
    assert parse_dimensions("48 x 18 x 20 in") == pytest.approx((1.2192, 0.4572, 0.508))
    with pytest.raises(EntryError, match="has 2 sizes; type 3"):
        parse_dimensions("12x13")


def test_shows_the_precision_that_models_have():
    assert shown(3238.61e-3 / 3600, "flow") == "3\u202f240 L/h"
    assert shown(0.3, "length", US) == "11 13/16 in"
    assert shown(0.4683, "volume") == "468 L"
    assert shown(1.5, "length") == "1500 mm"
    assert shown(-0.0001, "head") == "0.00 m"
    assert shown(25, "temperature", US) == "77 °F"
    assert fill("{a:length:bare} × {a:length}", {"a": 0.05}, UnitSystem.METRIC) == "50 × 50 mm"


@given(st.floats(0.01, 9.9), st.sampled_from([UnitSystem.METRIC, US]))
def test_what_is_shown_reads_back(value, system):
    again = parse(shown(value, "length", system), "length", system)
    assert again == pytest.approx(value, abs=0.0254 / 32 + 1e-9)


@given(st.text(max_size=30))
def test_any_text_is_a_number_or_a_sentence(text):
    try:
        assert isinstance(parse(text, "length"), float)
    except EntryError as error:
        assert str(error).endswith(".")


@pytest.mark.parametrize(
    ("text", "quantity", "value"),
    [
        ("380", "specific_surface", 380.0),
        ("380 m2/m3", "specific_surface", 380.0),
        ("100 ft²/ft³", "specific_surface", 328.084),
        ("500", "density", 500.0),
        ("1.05 kg/L", "density", 1050.0),
        ("640 kg/m³", "density", 640.0),
        ("1.5 %", "percent", 0.015),
        ("6", "weeks", 6 * 604800.0),
        ("90 s", "minutes", 90.0),
    ],
)
def test_figures_of_media(text, quantity, value):
    assert parse(text, quantity) == pytest.approx(value, rel=1e-5)


@pytest.mark.parametrize("quantity", QUANTITIES)
@pytest.mark.parametrize("system", UnitSystem)
def test_what_is_shown_can_be_typed_again(quantity, system):
    """Every quantity reads its own figures, in both unit systems."""
    spec = QUANTITIES[quantity]
    size = (spec.us if system == UnitSystem.US else spec.metric)[1]
    value = 25.0 if quantity in ("temperature", "angle", "salinity") else 25 * size
    assert parse(shown(value, quantity, system), quantity, system) == pytest.approx(value, rel=2e-2)


@pytest.mark.parametrize("unit", FACTORS)
def test_sizes_kept_at_hand_are_pint_s(unit):
    """What is read without the unit library reads as with it, for any number."""
    si, size = FACTORS[unit]
    assert registry().Quantity(1.0, unit).to(si).magnitude == pytest.approx(size, rel=1e-14)
    for value in (0.75, 3.0, 1234.5):
        assert float(f"{registry().Quantity(value, unit).to(si).magnitude:.15g}") == pytest.approx(
            value * size, rel=1e-14
        )
    assert si in {q.si for q in QUANTITIES.values()}


def test_a_rule_of_thumb_is_said_in_the_units_shown():
    text = "Leave {0.02:length} at least; under {1.5:speed}, {0.003:length:bare} to {0.006:length} grains."
    assert fill(text, {}, UnitSystem.METRIC) == "Leave 20 mm at least; under 1.5 m/s, 3 to 6 mm grains."
    assert fill(text, {}, US) == "Leave 13/16 in at least; under 4.92 ft/s, 1/8 to 1/4 in grains."


def test_fractions_and_decimals_do_not_stand_in_one_line():
    text = "{left:level} left, a crest of {crest:length}"
    values = {"left": 0.0794, "crest": 0.271}
    assert fill(text, values, US) == "3.13 in left, a crest of 10.67 in"
    assert fill("a crest of {crest:length}", values, US) == "a crest of 10 11/16 in"
    assert fill(text, values, UnitSystem.METRIC) == "79 mm left, a crest of 271 mm"


def test_braces_in_somebody_s_words_stay():
    assert fill("My {tank:big} {left:level}", {"left": 0.01}, UnitSystem.METRIC) == "My {tank:big} 10 mm"
    assert fill("My {x:level}", {}, UnitSystem.METRIC) == "My {x:level}"


def test_a_refusal_follows_the_units():
    text = "The chambers leave 25 mm for the pump in 40 mm PN10; it needs 40 mm."
    assert in_units(text, UnitSystem.METRIC) == text
    assert in_units(text, US) == "The chambers leave 1 in for the pump in 40 mm PN10; it needs 1 9/16 in."


@pytest.mark.parametrize(
    ("value", "quantity", "words"),
    [
        (0.150, "concentration", "150 mg/L"),
        (0.01234, "concentration", "12.3 mg/L"),
        (0.001234, "concentration", "1.23 mg/L"),
        (2802.4, "mass", "2\u202f802 kg"),
        (99.94, "mass", "99.9 kg"),
        (99.96, "mass", "100 kg"),
        (9.996, "head", "10.0 m"),
        (9881.9, "time", "9\u202f882 s"),
        (0.678, "fine_length", "678.0 mm"),  # a thickness and a gap keep theirs
        (12.34, "run", "12.34 m"),
        (28.5, "temperature", "28.5 °C"),
    ],
)
def test_a_model_says_no_more_than_three_figures(value, quantity, words):
    assert shown(value, quantity) == words
