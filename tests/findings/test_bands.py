"""Bands: each doubt against a design with that figure changed by hand, their squares added, and what they unsettle."""

from math import hypot

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices.base import Finding, Rank
from fuente.document.system import apply, set_value
from fuente.findings import findings
from fuente.findings.bands import Band, Bands, banded, bands, with_bands
from fuente.hydraulics.airlift import lift_doubt
from fuente.network.laws import Weir
from fuente.network.returning import ReturnLine
from fuente.study.analysis import Analysis
from fuente.study.doubted import DOUBTS, doubted
from fuente.units import UnitSystem

METRIC = UnitSystem.METRIC


def doubt(name):
    return next(d for d in DOUBTS if d.name == name)


def left(study, name="power_cut"):
    return study.situation(name).numbers["left"]


def test_a_worn_pump_is_the_pump_s_doubt():
    """Head left of new is a field of the design: 0.85 there moves what the doubt moves."""
    base = Analysis(reading_room())
    worn = Analysis(apply(reading_room(), set_value("x", ("devices", "return", "pump", "wear"), 0.85)))
    made = doubted(base, doubt("the pump's curve"))
    assert made.running.flow == pytest.approx(worn.running.flow, rel=1e-6, abs=1e-12)
    assert left(made) == pytest.approx(left(worn), abs=1e-6)


def test_a_curve_by_points_is_surer():
    """Five in a hundred of its head, a third of what rated numbers are off by."""
    points = ((0.0, 3.6), (2500e-3 / 3600, 2.7), (5000e-3 / 3600, 0.2))
    base = apply(reading_room(), set_value("x", ("devices", "return", "pump", "points"), points))
    worn = Analysis(apply(base, set_value("x", ("devices", "return", "pump", "wear"), 0.95)))
    made = doubted(Analysis(base), doubt("the pump's curve"))
    assert made.running.flow == pytest.approx(worn.running.flow, rel=1e-6, abs=1e-12)


def test_dirt_is_the_media_s_doubt():
    """Pads and socks at 1.3 times the dirt they have."""
    base = reading_room()
    dirty = base
    foam, socks = base.by_id["sump"].chambers[1], base.by_id["sump"].chambers[0]
    for k, pad in enumerate(foam.pads):
        dirty = apply(dirty, set_value("x", ("devices", "sump", "chambers", 1, "pads", k, "dirt"), pad.dirt * 1.3))
    dirty = apply(dirty, set_value("x", ("devices", "sump", "chambers", 0, "socks", "dirt"), socks.socks.dirt * 1.3))
    made, hand = doubted(Analysis(base), doubt("foam and media")), Analysis(dirty)
    for cell in ("sump.socks.0", "sump.foam.0"):
        assert made.running.level[cell] == pytest.approx(hand.running.level[cell], abs=2e-6)


def test_pipes_lose_fifteen_in_a_hundred_more_and_hold_what_they_held():
    base = Analysis(reading_room())
    made = doubted(base, doubt("losses of pipes"))
    line = next(k.law for k in base.network.links if isinstance(k.law, ReturnLine))
    lossy = next(k.law for k in made.network.links if isinstance(k.law, ReturnLine))
    at = line.pipe.area  # 1 m/s
    assert lossy.pipe.head_loss(at) == pytest.approx(1.15 * line.pipe.head_loss(at), rel=1e-9)
    assert lossy.pipe.length == line.pipe.length
    assert (
        made.running.flow["return.pump" if "return.pump" in made.running.flow else "return"]
        < base.running.flow["return.pump" if "return.pump" in base.running.flow else "return"]
    )


def test_weirs_are_shorter_and_rims_are_not():
    made, base = doubted(Analysis(reading_room()), doubt("weirs")), Analysis(reading_room())
    for new, old in zip(made.network.links, base.network.links, strict=True):
        if isinstance(old.law, Weir):
            assert new.law.length == pytest.approx(0.95 * old.law.length)
        else:
            assert new.law == old.law


def test_tubes_on_air_lift_about_a_quarter_less():
    base = Analysis(nursery())
    made = doubted(base, doubt("the airlift"))
    for tank in base.system.tanks:
        share = made.moved(made.running, tank.id) / base.moved(base.running, tank.id)
        assert 0.7 < share < 0.95  # less lift lets water stand higher before it


@pytest.mark.parametrize("make", [reading_room, nursery, trough])
def test_a_band_is_the_root_of_the_squares(make):
    study = Analysis(make())
    made = bands(study, findings(study))
    for name, numbers in made.situations.items():
        base = study.situation(name).numbers
        for key in {"left", "drop", "days"} & numbers.keys():
            moved = []
            for each in DOUBTS:
                other = doubted(study, each)
                if other is not None and abs(base[key]) < 1e12:
                    moved.append(other.situation(name).numbers[key] - base[key])
                elif abs(base[key]) > 1e12:
                    raise AssertionError("what never happens has no band")
            assert numbers[key].half == pytest.approx(hypot(*moved), rel=1e-6, abs=1e-9)


@given(low=st.floats(0.001, 0.2), half=st.just(0.0) | st.floats(1e-6, 0.2))
@settings(max_examples=40, deadline=None)
def test_words_hold_the_number_and_never_less_than_nothing(low, half):
    finding = Finding("x", Rank.FIX, "{left:level} are left.", "Why.", "sump", {"left": low})
    known = Bands({}, {("x", "sump"): {"left": Band(low - half, low + half, "weirs")}})
    text = with_bands((finding,), known, Analysis(reading_room()))[0]
    wide = hypot(half, 1.4e-3) > 0.03 * low and half > 0
    assert ("(" in text.filled(METRIC)) == wide
    if wide:
        assert 0 <= text.values["left_low"] <= low <= text.values["left_high"]
        assert "mostly by weirs" in text.why


def test_the_reading_room_s_margins_are_said_with_their_bands():
    study = Analysis(reading_room())
    found = findings(study)
    made = with_bands(found, bands(study, found), study)
    hole = next(f for f in made if f.code == "no-air-hole")
    assert "5.5 mm (1.5 to 9.4) would be left" in hole.filled(METRIC)
    known = bands(study, found)
    assert banded(study.situation("power_cut"), known).filled(METRIC) == "76 mm (72 to 80) left"


def test_a_margin_that_its_band_carries_over_the_rim_is_told():
    """Outlets so low that a leaking valve leaves two millimetres: fine by the number alone, told by its band."""
    base = apply(reading_room(), set_value("x", ("space", "margin"), 0.0))
    path = ("devices", "return", "outlets", 1, "height")
    now = base.by_id["return"].outlets[1].height
    tried = (apply(base, set_value("x", path, now - n * 5e-4)) for n in range(40))
    low = next(s for s in tried if left(Analysis(s), "valve_leaks") < 0.003)
    study = Analysis(low)
    assert 0 < left(study, "valve_leaks") < 0.003
    assert study.situation("valve_leaks").verdict.rank is None
    found = findings(study)
    told = next(f for f in with_bands(found, bands(study, found), study) if f.code == "margin-in-doubt")
    assert told.rank is Rank.CONSIDER
    assert told.values["left"] == pytest.approx(left(study, "valve_leaks"))
    assert told.margin < 0
    sure = Analysis(base)
    assert "margin-in-doubt" not in {f.code for f in with_bands((), bands(sure, ()), sure)}


def test_a_lift_near_its_onset_has_the_wider_band():
    """The nursery's tubes with their mouths raised: the doubt of each is that of its own state."""
    base = Analysis(nursery())
    made = doubted(base, doubt("the airlift"))
    yields = {d.lift.id: d.lift.yields for g in made.airs.values() for d in g.supply.drops}
    usual = [y for y in yields.values() if y == pytest.approx(0.75)]
    assert usual
    group = next(iter(base.airs.values()))
    for drop in group.supply.drops:
        lift = drop.lift
        if lift.bubbly or not lift.count:
            continue
        sunk = base.running.level[lift.a] - lift.injector
        air = base.running.flow[f"{group.supply.id}.{lift.id}"]
        mean = 1 + group.supply.water.density * 9.80665 * sunk / 2 / 101325
        off = lift_doubt(lift.bore, lift.outlet - lift.injector, sunk, air / mean / lift.count, lift.k)
        assert yields[lift.id] == pytest.approx(1 - off, rel=1e-6)


def test_a_check_valve_may_leak_three_times_as_much():
    base = Analysis(reading_room())
    made = doubted(base, doubt("a check valve's leak"))
    line = next(k.law for k in made.network.links if isinstance(k.law, ReturnLine))
    old = next(k.law for k in base.network.links if isinstance(k.law, ReturnLine))
    assert line.leak == pytest.approx(3 * old.leak)
    tight = apply(reading_room(), set_value("x", ("devices", "return", "valve"), "none"))
    assert doubted(Analysis(tight), doubt("a check valve's leak")) is None
