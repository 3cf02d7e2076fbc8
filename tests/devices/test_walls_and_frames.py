"""Walls that are no plates are said so, and a sieve's frame sags by both of its spans; by hand."""

from __future__ import annotations

import math

import pytest

from fuente.demo import DEMOS
from fuente.demo.reading_room import reading_room
from fuente.devices.box_walls import box_walls
from fuente.devices.sieve_bed.judge import bar_sag, edge_sag, feed_most
from fuente.document.system import apply, set_value
from fuente.findings import judge
from fuente.shown.stations import stations
from fuente.structure.framed import batten_depth
from fuente.structure.plates import wall
from fuente.study.analysis import Analysis


def trough():
    return DEMOS["courtyard-trough"]()


def sieve(system):
    return next(d for d in system.devices if d.kind == "sieve_bed")


def put(system, key, *where_value):
    *where, value = where_value
    return apply(system, set_value("x", ("devices", key, *where), value))


def codes(system):
    return [f.code for f in judge(system)]


def reading(system, station, label):
    analysis = Analysis(system)
    row = next(s for s in stations(analysis) if s.id == station)
    return next(r.value for r in row.readings if r.label == label)


def test_a_wall_says_what_its_safety_should_be():
    tank = reading_room().tanks[0]
    depth = tank.inner_height
    check = wall(tank.inner_length, depth, tank.thickness)
    assert reading(reading_room(), "tank", "Wall safety") == f"{check.safety:.1f} of 3.8"
    assert check.safety > 3.8
    acrylic = put(reading_room(), "tank", "material", "acrylic")
    assert str(reading(acrylic, "tank", "Wall safety")).endswith("of 1.0")


def test_plywood_is_a_plate_until_battens_stand_behind_it():
    """The trough of 12 mm board: as one plate it wants more, from batten to batten by the strip's own formulas."""
    system = put(put(trough(), "trough", "material", "plywood"), "trough", "thickness", 0.012)
    tank = system.tanks[0]
    told = next(f for f in judge(system) if f.code == "tank-wall" and f.owner == "trough")
    plate = wall(tank.inner_length, tank.inner_height, material="plywood", braced=tank.braced)
    assert told.values["need"] == pytest.approx(plate.needed)
    assert told.action.startswith("Battens every")
    cured = apply(system, told.edit)
    assert "tank-wall" not in codes(cured)
    apart, foot = cured.tanks[0].battens, 1000 * 9.80665 * tank.inner_height
    stress = 6 * (foot * apart**2 / 8) / 0.012**2
    bow = 5 * foot * apart**4 / (384 * 6.0e9 * 0.012**3 / 12)
    assert stress <= 6.0e6 + 1
    assert bow <= apart / 250 * 1.001
    wider = put(cured, "trough", "battens", apart + 0.1)
    assert "tank-wall" in codes(wider)  # the greatest multiple of 50 mm that serves
    assert reading(cured, "trough", "Wall safety") == f"{24.0e6 / stress:.1f} of 4.0"


def test_battens_bear_their_share_of_the_water():
    """A triangular load, held at both ends or at the foot alone, by its own sums."""
    high, apart, wide = 0.9, 0.35, 0.045
    foot = 1000 * 9.80665 * high * apart
    for held, moment, bow in ((True, 9 * math.sqrt(3), 0.00652), (False, 6.0, 1 / 30)):
        deep = batten_depth(high, apart, held)
        stress = foot * high**2 / moment / (wide * deep**2 / 6)
        bows = bow * foot * high**4 / (8.0e9 * wide * deep**3 / 12)
        assert max(stress / 8.0e6, bows / (high / 250)) == pytest.approx(1.0, rel=1e-3)
    assert batten_depth(high, apart, False) > batten_depth(high, apart, True)


def test_a_large_box_of_unknown_walls_is_told_and_a_small_one_not():
    told = {f.owner for f in judge(trough()) if f.code == "walls-unknown"}
    assert told == {"sieve", "plants"}
    small = put(put(put(trough(), "plants", "length", 0.5), "plants", "width", 0.4), "plants", "height", 0.45)
    assert {f.owner for f in judge(small) if f.code == "walls-unknown"} == {"sieve"}


@pytest.mark.parametrize(("height", "told"), [(0.401, True), (0.399, False)])
def test_a_box_is_told_from_a_hundred_and_twenty_litres_on(height, told):
    assert bool(list(box_walls("x", "Box", 0.6, 0.5, height))) is told


def test_a_frame_sags_between_its_edges_and_between_its_legs():
    spec = sieve(trough())
    inertia = math.pi / 64 * (spec.tube**4 - (spec.tube - 2 * spec.wall) ** 4)
    for legs in (2, 3, 5):
        made = spec.model_copy(update={"legs": legs})
        span = spec.length / (legs - 1)
        line = spec.load * 9.80665 * spec.width / 2
        assert edge_sag(made).bends == pytest.approx(5 * line * span**4 / (384 * 2.8e9 * inertia))
        assert edge_sag(made).allowed == pytest.approx(span / 200)
    line = spec.load * 9.80665 * spec.length / (spec.bars + 1)
    assert bar_sag(spec).bends == pytest.approx(5 * line * spec.width**4 / (384 * 2.8e9 * inertia))


def test_long_edges_on_two_legs_get_more_legs_and_then_hold():
    system = put(put(trough(), "sieve", "length", 2.4), "sieve", "legs", 2)
    told = next(f for f in judge(system) if f.code == "frame-sags" and "legs" in f.text)
    assert told.values["span"] == pytest.approx(2.4)
    mended = apply(system, told.edit)
    spec = sieve(mended)
    assert edge_sag(spec).bends <= edge_sag(spec).allowed
    assert edge_sag(spec.model_copy(update={"legs": spec.legs - 1})).short > 1.0


@pytest.mark.parametrize(("pipe", "mends"), [("32-pn10", True), ("40-pn10", True), ("20-pn16", False)])
def test_a_pump_that_outruns_its_float_is_told_and_slowed_where_that_helps(pipe, mends):
    """One pipe too narrow for its pump: the chamber falls to the intake. Of the narrowest no speed leaves a tenth."""
    system = trough()
    assert "pump-outruns" not in codes(system)
    starved = put(put(system, "sieve", "feed", "pipe", pipe), "sieve", "feed", "count", 1)
    told = next(f for f in judge(starved) if f.code == "pump-outruns")
    study, spec = Analysis(starved), sieve(starved)
    assert spec.feed.way == "float"
    assert study.running.level["sieve.chamber"] < spec.stand + spec.drain.intake + 0.012
    assert told.values["flow"] == pytest.approx(told.values["most"], rel=1e-3)  # the float is wide open
    assert told.values["flow"] == pytest.approx(study.running.flow["sieve.out"], rel=1e-3)
    assert (told.edit is not None) is mends
    if mends:
        slowed = apply(starved, told.edit)
        assert "pump-outruns" not in codes(slowed)
        left = Analysis(slowed).running.flow["sieve.out"]
        assert 0 < left <= 0.93 * told.values["most"]


def test_what_another_pump_could_take_is_bounded_by_the_pipe_in():
    wide, narrow = trough(), put(trough(), "sieve", "feed", "pipe", "32-pn10")
    more = [reading(s, "sieve", "Another pump could take") for s in (wide, narrow)]
    study = Analysis(narrow)
    gives = feed_most(sieve(narrow), study.sites["sieve"], study, study.running)
    assert more[1] <= max(gives - study.running.flow["sieve.out"], 0.0) + 1e-9
    assert more[1] < more[0]
