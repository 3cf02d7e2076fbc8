"""A hundred ways to write a line into the log, each by what a builder means with it."""

from __future__ import annotations

import datetime

import pytest
from hypothesis import given
from hypothesis import strategies as st

from fuente.demo.back_room import back_room
from fuente.demo.reading_room import reading_room
from fuente.one_line import one_line
from fuente.study.known import analysed
from fuente.units import UnitSystem
from fuente.upkeep.places import places_of
from fuente.upkeep.typed_line import as_of, read_line

NOW = datetime.datetime(2026, 11, 25, 18, 0, tzinfo=datetime.timezone(datetime.timedelta(hours=1)))  # a Wednesday
MG, LPH, DH = 1e-3, 1e-3 / 3600, 17.848e-3
LINES = [
    # water tests
    ("no3 20", ("nitrate", "tank", 20 * MG)),
    ("NO3 20", ("nitrate", "tank", 20 * MG)),
    ("no3: 20", ("nitrate", "tank", 20 * MG)),
    ("no3=20", ("nitrate", "tank", 20 * MG)),
    ("nitrate 20 mg/l", ("nitrate", "tank", 20 * MG)),
    ("nitrate 20 mg / L", ("nitrate", "tank", 20 * MG)),
    ("20 ppm no3", ("nitrate", "tank", 20 * MG)),
    ("20mg/l nitrate", ("nitrate", "tank", 20 * MG)),
    ("nitrate is 20", ("nitrate", "tank", 20 * MG)),
    ("nitrate was 20 in the tank", ("nitrate", "tank", 20 * MG)),
    ("no2 0.05", ("nitrite", "tank", 0.05 * MG)),
    ("no2 0,05", ("nitrite", "tank", 0.05 * MG)),
    ("nitrite .1", ("nitrite", "tank", 0.1 * MG)),
    ("nh3 0", ("ammonia", "tank", 0.0)),
    ("nh4 0.25 ppm", ("ammonia", "tank", 0.25 * MG)),
    ("nh3/nh4 0.5", ("ammonia", "tank", 0.5 * MG)),
    ("tan 0.1mg/L", ("ammonia", "tank", 0.1 * MG)),
    ("ammonia 0.25", ("ammonia", "tank", 0.25 * MG)),
    ("ph 7.4", ("ph", "tank", 7.4)),
    ("pH 7,4", ("ph", "tank", 7.4)),
    ("PH: 7.4", ("ph", "tank", 7.4)),
    ("7.4 ph", ("ph", "tank", 7.4)),
    ("kh 6", ("alkalinity", "tank", 6 * DH)),
    ("kh 6 dkh", ("alkalinity", "tank", 6 * DH)),
    ("6 dkh", ("alkalinity", "tank", 6 * DH)),
    ("kh 107 mg/l", ("alkalinity", "tank", 107 * MG)),
    ("alkalinity 120", ("alkalinity", "tank", 120 * MG)),
    ("gh 8", ("hardness", "tank", 8 * DH)),
    ("gh 8 °dh", ("hardness", "tank", 8 * DH)),
    ("po4 0.5", ("phosphate", "tank", 0.5 * MG)),
    ("o2 8.1", ("oxygen", "tank", 8.1 * MG)),
    ("do 8.1 mg/l", ("oxygen", "tank", 8.1 * MG)),
    ("oxygen 7", ("oxygen", "tank", 7 * MG)),
    ("salinity 35 ppt", ("salinity", "tank", 35.0)),
    ("salt 2", ("salinity", "tank", 2.0)),
    # warmth
    ("temp 17.9", ("temperature", "tank", 17.9)),
    ("temperature 17,9", ("temperature", "tank", 17.9)),
    ("t 17.9", ("temperature", "tank", 17.9)),
    ("17.9 C", ("temperature", "tank", 17.9)),
    ("17.9°C", ("temperature", "tank", 17.9)),
    ("temp 64.4 F", ("temperature", "tank", 18.0)),
    ("64.4°F", ("temperature", "tank", 18.0)),
    ("water temperature 18 degC", ("temperature", "tank", 18.0)),
    ("heater 16 C", ("setpoint", "tank", 16.0)),
    ("heater set to 16", ("setpoint", "tank", 16.0)),
    ("setpoint 17", ("setpoint", "tank", 17.0)),
    # levels
    ("foam 18 mm", ("drop", "sump.foam", 0.018)),
    ("foam 18", ("drop", "sump.foam", 0.018)),
    ("foam: 18mm", ("drop", "sump.foam", 0.018)),
    ("18 mm over the foam", ("drop", "sump.foam", 0.018)),
    ("foam wall 1.8 cm", ("drop", "sump.foam", 0.018)),
    ("foam 1/2 in", ("drop", "sump.foam", 0.0127)),
    ("drop foam 18 mm", ("drop", "sump.foam", 0.018)),
    ("level difference across foam 18 mm", ("drop", "sump.foam", 0.018)),
    ("socks 12 mm", ("drop", "sump.socks", 0.012)),
    ("20 ppi pad 8 mm", ("drop", "sump.foam.pad.0", 0.008)),
    ("45 ppi pad 9,5 mm", ("drop", "sump.foam.pad.2", 0.0095)),
    ("level sump 210 mm", ("level", "sump", 0.21)),
    ("level tank 493", ("level", "tank", 0.493)),
    # flows, power
    ("flow 3060 l/h", ("flow", "return", 3060 * LPH)),
    ("flow 3060", ("flow", "return", 3060 * LPH)),
    ("3060 L/h", ("flow", "return", 3060 * LPH)),
    ("real flow 3060 L/h", ("flow", "return", 3060 * LPH)),
    ("flow 51 l/min", ("flow", "return", 3060 * LPH)),
    ("bucket 10 L in 12 s", ("flow", "return", 10e-3 / 12)),
    ("10 l in 12 s", ("flow", "return", 10e-3 / 12)),
    ("bucket 10 l in 12,5 s", ("flow", "return", 10e-3 / 12.5)),
    ("timed 2 gal in 10 s", ("flow", "return", 2 * 3.785411784e-3 / 10)),
    ("10 L in 0.2 min", ("flow", "return", 10e-3 / 12)),
    ("power 45 W", ("power", "return", 45.0)),
    ("pump 45 w", ("power", "return", 45.0)),
    ("pump draws 45 watts", ("power", "return", 45.0)),
    # water in and out
    ("topped up 6 L", ("topup", "tank", 6e-3)),
    ("top up 6", ("topup", "tank", 6e-3)),
    ("6 l topped up", ("topup", "tank", 6e-3)),
    ("top-up 1.5 gal", ("topup", "tank", 1.5 * 3.785411784e-3)),
    ("changed 98 L", ("change", "tank", 98e-3)),
    ("water change 98 l", ("change", "tank", 98e-3)),
    ("wc 98 L", ("change", "tank", 98e-3)),
    ("water change 25 %", ("change", "tank", 0.25)),
    ("changed 25%", ("change", "tank", 0.25)),
    # animals, money, shelf
    ("fed 4 g", ("fed", "tank", 4e-3)),
    ("food 4", ("fed", "tank", 4e-3)),
    ("fed 0.1 oz", ("fed", "tank", 0.1 * 0.45359237 / 16)),
    ("arrived 3 white clouds", ("arrived", "tank", 3.0)),
    ("died 1 axolotl", ("died", "tank", 1.0)),
    ("1 died", ("died", "tank", 1.0)),
    ("cost 12.50 carbon", ("cost", "", 12.5)),
    ("spent 12,5 on carbon", ("cost", "", 12.5)),
    ("bought 10 socks", ("bought", "", 10.0)),
    ("used 1 carbon", ("used", "", 1.0)),
    # what was done
    ("rinsed socks", ("cleaned", "sump.socks", None)),
    ("foam cleaned", ("cleaned", "sump.foam", None)),
    ("cleaned the 30 ppi pad", None),  # a number in it: asked about below
    ("squeezed foam", ("cleaned", "sump.foam", None)),
    ("new socks", ("swapped", "sump.socks", None)),
    ("swapped the socks", ("swapped", "sump.socks", None)),
    ("cleaned the pump", ("cleaned", "return", None)),
    ("brushed the overflow", ("cleaned", "overflow", None)),
    # nothing that is known: a remark
    ("axolotl hid all day", ("note", "", None)),
    ("water looks clear", ("note", "", None)),
    ("looked for the spare heater", ("note", "", None)),
]


@pytest.fixture(scope="module")
def places():
    return places_of(analysed(reading_room()))


@pytest.mark.parametrize(("line", "meant"), [row for row in LINES if row[1] is not None])
def test_what_a_line_means(places, line, meant):
    (found,) = read_line(line, NOW, places)
    entry = found.entry
    assert (entry.what, entry.place) == meant[:2]
    assert entry.value == (None if meant[2] is None else pytest.approx(meant[2], rel=1e-9, abs=1e-12))
    assert entry.when == NOW
    assert not found.doubt


def test_there_are_a_hundred_ways():
    assert len(LINES) >= 100


@pytest.mark.parametrize(
    ("line", "whats"),
    [
        ("no3 20, ph 7.4, foam 18 mm, rinsed socks", ["nitrate", "ph", "drop", "cleaned"]),
        ("no3 20,ph 7.4", ["nitrate", "ph"]),
        ("ph 7,4, no2 0,1", ["ph", "nitrite"]),
        ("no3 20; ph 7,4; temp 18", ["nitrate", "ph", "temperature"]),
        ("ammonia 0.25 mg/l and nitrite 0.1", ["ammonia", "nitrite"]),
        ("hid all day, looks well, ph 7", ["note", "ph"]),
        ("", []),
        (" , ;", []),
    ],
)
def test_several_in_a_line(places, line, whats):
    assert [r.entry.what for r in read_line(line, NOW, places)] == whats


@pytest.mark.parametrize(
    ("line", "day", "clock"),
    [
        ("yesterday no3 20", (11, 24), (12, 0)),
        ("today no3 20", (11, 25), (18, 0)),
        ("12 nov: no3 20", (11, 12), (12, 0)),
        ("12 November no3 20", (11, 12), (12, 0)),
        ("Nov 12 no3 20", (11, 12), (12, 0)),
        ("2026-11-01 no3 20", (11, 1), (12, 0)),
        ("2026-11-01 18:30 no3 20", (11, 1), (18, 30)),
        ("monday no3 20", (11, 23), (12, 0)),
        ("last wednesday: no3 20", (11, 18), (12, 0)),
        ("3 days ago no3 20", (11, 22), (12, 0)),
        ("7:15 no3 20", (11, 25), (7, 15)),
        ("at 7:15 am no3 20", (11, 25), (7, 15)),
        ("yesterday 9:30 pm no3 20", (11, 24), (21, 30)),
    ],
)
def test_another_day(places, line, day, clock):
    (found,) = read_line(line, NOW, places)
    assert (found.entry.when.month, found.entry.when.day) == day
    assert (found.entry.when.hour, found.entry.when.minute) == clock
    assert found.entry.what == "nitrate"


@pytest.mark.parametrize(
    ("line", "day", "clock"),
    [
        ("no3 20 yesterday", (11, 24), (12, 0)),
        ("rinsed socks 3 days ago", (11, 22), (12, 0)),
        ("foam 18 mm, rinsed socks on monday", (11, 23), (12, 0)),
        ("no3 20 on 12 nov", (11, 12), (12, 0)),
        ("no3 20 an hour ago", (11, 25), (17, 0)),
        ("2 weeks ago no3 20", (11, 11), (12, 0)),
        ("an hour ago: no3 20", (11, 25), (17, 0)),
        ("20 minutes ago rinsed socks", (11, 25), (17, 40)),
        ("12.11.2026 no3 20", (11, 12), (12, 0)),
        ("12/11/26: no3 20", (11, 12), (12, 0)),
        ("12th november 18:30 no3 20", (11, 12), (18, 30)),
        ("2026-11-1 no3 20", (11, 1), (12, 0)),
    ],
)
def test_another_day_in_other_words(places, line, day, clock):
    found_all = read_line(line, NOW, places)
    assert found_all
    for found in found_all:
        assert found.entry.what in ("nitrate", "cleaned", "drop")
        assert (found.entry.when.month, found.entry.when.day) == day
        assert (found.entry.when.hour, found.entry.when.minute) == clock
        assert not found.doubt


def test_us_units_write_the_month_first(places):
    assert read_line("11/12/2026 no3 20", NOW, places, UnitSystem.US)[0].entry.when.day == 12
    assert read_line("11.12.2025 no3 20", NOW, places, UnitSystem.US)[0].entry.when.month == 12


@pytest.mark.parametrize(
    ("line", "doubt"),
    [
        ("32/13/2026 no3 5", "32/13/2026 is no day"),
        ("31 feb: no3 5", "31 feb is no day"),
        ("2026-02-30 no3 5", "2026-02-30 is no day"),
        ("2027-01-01 no3 5", "2027-01-01 lies ahead"),
        ("24 dec 2026 no3 5", "24 dec 2026 lies ahead"),
        ("23:15 no3 5", "23:15 lies ahead"),
    ],
)
def test_a_day_that_is_none_is_no_value(places, line, doubt):
    """The number is the test's, never the date's, and that the date was not taken is said."""
    (found,) = read_line(line, NOW, places)
    assert (found.entry.what, found.entry.value, found.entry.when) == ("nitrate", pytest.approx(5 * MG), NOW)
    assert found.doubt.startswith(doubt)


@pytest.mark.parametrize(
    ("line", "what"),
    [
        ("dry since monday", "note"),
        ("last rinsed the cat 3 days ago", "note"),
        ("31 feb: the cat fished", "note"),
        ("20 ppi pad 8 mm", "drop"),
        ("may be cloudy", "note"),
    ],
)
def test_words_of_a_day_stay_in_a_note(places, line, what):
    first = read_line(line, NOW, places)[0]
    assert (first.entry.what, first.entry.when) == (what, NOW)
    if what == "note":
        assert first.entry.text == line.split(",")[0]


def test_a_second_number_is_asked_about(places):
    assert read_line("no3 20 5", NOW, places)[0].doubt == "what is 5"
    assert not read_line("bought 10 socks for 5", NOW, places)[0].doubt
    assert not read_line("arrived 3 white clouds, 2 pale", NOW, places)[0].doubt


def test_december_is_last_year_s_and_tomorrow_is_not_yet(places):
    assert read_line("24 dec: no3 20", NOW, places)[0].entry.when.year == 2025
    later = read_line("2026-12-01 no3 20", NOW, places)
    assert later[0].entry.when == NOW


def test_what_is_unlikely_is_asked_about(places):
    assert "usual" in read_line("no3 900", NOW, places)[0].doubt
    assert "usual" in read_line("ph 74", NOW, places)[0].doubt
    assert "whole" in read_line("died 1.5", NOW, places)[0].doubt
    assert "all of the water" in read_line("changed 140 %", NOW, places)[0].doubt


def test_in_us_units_a_bare_number_is_an_inch(places):
    assert read_line("foam 0.5", NOW, places, UnitSystem.US)[0].entry.value == pytest.approx(0.0127)
    assert read_line("temp 64.4", NOW, places, UnitSystem.US)[0].entry.value == pytest.approx(18.0)
    assert read_line("flow 800", NOW, places, UnitSystem.US)[0].entry.value == pytest.approx(
        800 * 3.785411784e-3 / 3600
    )


def test_in_a_rack_the_tank_is_named_or_chosen():
    places = places_of(analysed(back_room()))
    (found,) = read_line("no3 20 in B3", NOW, places)
    assert places.name(found.entry.place) == "B3"
    (open_,) = read_line("no3 20", NOW, places)
    assert open_.entry.place == ""
    assert len(open_.others) == 24
    chosen = as_of(open_, open_.others[7])
    assert chosen.entry.place == open_.others[7].id
    assert read_line("no3 20", NOW, places, tank="rack-1-1")[0].entry.place == "rack-1-1"


@given(st.text(max_size=60))
def test_nothing_typed_is_lost_or_breaks(places, line):
    """Whatever is typed is read as something, one line of it, and what is no measure keeps its words."""
    for read in read_line(line, NOW, places):
        assert read.words
        assert read.entry.value is None or read.entry.value == read.entry.value
        assert read.entry.when <= NOW
        assert one_line(read.entry.text) == read.entry.text


def test_a_name_with_a_comma_is_one_place():
    """Every pad's own name is read as that pad, and so is a tank whose name has a comma and an “and”."""
    from fuente.document.system import apply, set_value

    system = apply(reading_room(), set_value("x", ("devices", "tank", "name"), "Tank, left and low"))
    named = places_of(analysed(system))
    for place in named.clogging:
        (found,) = read_line(f"{place.name} 12 mm", NOW, named)
        assert (found.entry.what, found.entry.place) == ("drop", place.id)
    (found,) = read_line("no3 20 in Tank, left and low", NOW, named)
    assert (found.entry.what, found.entry.place) == ("nitrate", "tank")
