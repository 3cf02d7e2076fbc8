"""Heaters wherever they stand: one stuck, one dead, all dead, laid bare; against a balance written apart."""

import math

import pytest

from devices_of import sumps
from fuente.demo.reading_room import reading_room
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply, set_value
from fuente.findings import findings
from fuente.study.analysis import Analysis
from fuente.units import UnitSystem
from fuente.workshop.bill import bill

GLASS = 1 / (1 / 5.8 + 0.008 / 1.0)  # W/m²K through 8 mm, the film of air and the glass in a row


def still_tank(**more):
    """A tank that nothing drains, with heaters of its own."""
    figures = {"length": 0.9, "width": 0.4, "height": 0.45, "thickness": 0.008, "cover": 0.5, "level": 0.4}
    tank = Tank(**{**figures, "heaters": 2, "heater_watts": 75.0, "temperature": 25.0, **more})
    return System(devices=(tank,))


def codes(system):
    return {f.code: f for f in findings(Analysis(system))}


def loss(tank, depth):
    """W/K by hand: upright glass to the water's depth, half the surface open, half under a cover."""
    length, width = tank.length - 0.016, tank.width - 0.016
    surface = length * width
    return GLASS * 2 * (length + width) * depth + 15 * (0.5 * surface + 0.2 * 0.5 * surface)


def test_temperatures_of_a_tank_by_hand():
    system = still_tank()
    study = Analysis(system)
    tank = system.tanks[0]
    depth = study.running.level["tank"] - tank.floor
    per_kelvin = loss(tank, depth)
    warm = study.warmth("tank")
    assert warm.one_stuck == pytest.approx(20 + 75 / per_kelvin, rel=0.01)
    assert warm.reached == pytest.approx(16 + 150 / per_kelvin, rel=0.01)
    assert warm.one_dead == pytest.approx(16 + 75 / per_kelvin, rel=0.01)
    assert warm.all_dead == pytest.approx(16.0)
    seconds = study.running.volume["tank"] * 4.17e6 / per_kelvin * math.log(9 / 7)
    assert warm.hours == pytest.approx(seconds / 3600, rel=0.01)


def test_nothing_is_said_where_nothing_heats():
    system = still_tank(heaters=0)
    assert Analysis(system).warmth("tank") is None
    assert not [c for c in codes(system) if c.startswith("heater")]


@pytest.mark.parametrize(("code", "field"), [("heater-stuck", "one_stuck"), ("heater-small", "reached")])
def test_limits_of_one_tank(code, field):
    """Each is told from its limit on, found by the watts at which the balance stands there."""
    limit = {"heater-stuck": 30.0, "heater-small": 24.5}[code]
    begin = {"heater-stuck": 20.0, "heater-small": 16.0}[code]
    number = {"heater-stuck": 1, "heater-small": 2}[code]
    study = Analysis(still_tank())
    per_kelvin = loss(study.system.tanks[0], study.running.level["tank"] - study.system.tanks[0].floor)
    watts = (limit - begin) * per_kelvin / number
    off = 1 if code == "heater-stuck" else -1
    assert code in codes(still_tank(heater_watts=watts * (1 + 0.02 * off)))
    assert code not in codes(still_tank(heater_watts=watts * (1 - 0.02 * off)))
    assert codes(still_tank(heater_watts=watts * (1 + 0.02 * off)))[code].owner == "tank"


def test_one_dead_of_two_is_told_where_both_would_do():
    study = Analysis(still_tank())
    per_kelvin = loss(study.system.tanks[0], study.running.level["tank"] - study.system.tanks[0].floor)
    enough = 9 * per_kelvin / 2 * 1.05  # both carry it to 25 °C from 16, one only half as far
    found = codes(still_tank(heater_watts=enough))
    assert "heater-small" not in found
    told = found["heater-one-dead"]
    assert told.values["cold"] == pytest.approx(16 + enough / per_kelvin, rel=0.01)
    alone = codes(still_tank(heater_watts=7.2 * per_kelvin))
    assert "heater-one-dead" not in alone  # each carries it to within 2 K


def test_heaters_of_tank_and_sump_warm_one_water():
    system = apply(reading_room(), set_value("a", ("devices", "tank", "heaters"), 1))
    system = apply(system, set_value("b", ("devices", "tank", "heater_watts"), 300.0))
    warm, before = Analysis(system).warmth("tank"), Analysis(reading_room()).warmth("tank")
    assert warm.count == before.count + 1
    assert warm.watts == before.watts + 300
    assert warm.one_stuck > before.one_stuck
    assert warm.one_dead == pytest.approx(before.reached, abs=0.05)  # the largest is dead: what was there is left


def test_a_shallow_tank_leaves_its_heater_bare_in_a_week():
    """A thimble of a tank under an open top: its week of evaporation passes the heater."""
    low = still_tank(height=0.16, level=0.075, cover=0.0, temperature=30.0)
    told = codes(low)["heater-bare"]
    assert told.values["depth"] < 0.06
    assert "heater-bare" not in codes(still_tank())


def test_heaters_are_on_the_card_and_the_list():
    study = Analysis(still_tank())
    things = [p for p in bill(study).pieces if getattr(p, "name", "") == "Heater"]
    assert [t.count for t in things] == [2]


def test_a_finer_pad_before_a_coarse_one_in_another_chamber():
    """Across chambers as within one; a sheet that only holds others is in no order; the button sorts all pores."""
    system = reading_room()
    sump = sumps(system)[0]
    k = next(i for i, c in enumerate(sump.chambers) if c.role == "foam")
    foam = sump.chambers[k]
    second = foam.model_copy(update={"id": "foam-2", "pads": (foam.pads[0].model_copy(update={"ppi": 10.0}),)})
    narrow = foam.model_copy(update={"width": foam.width})
    row = (*sump.chambers[:k], narrow, second, *sump.chambers[k + 1 :])
    longer = sump.model_copy(update={"length": sump.length + foam.width + 0.01, "chambers": row})
    both = system.model_copy(update={"devices": tuple(longer if d.id == sump.id else d for d in system.devices)})
    told = codes(both)["pad-order"]
    assert "behind a finer one of foam wall" in told.text
    after = apply(both, told.edit)
    grades = [p.ppi for c in sumps(after)[0].chambers for p in c.pads]
    assert grades == sorted(grades)
    assert "pad-order" not in codes(after)
    holding = apply(both, set_value("h", ("devices", sump.id, "chambers", k + 1, "pads", 0, "holds"), True))
    assert "pad-order" not in codes(holding)


@pytest.mark.parametrize("height", [0.3, 0.31, 0.33])
def test_the_highest_safe_mark_leaves_just_the_margin(height):
    """In low sumps, whose last crest does not end it first: marked so, a power cut leaves what is wanted."""
    system = reading_room()
    low = apply(system, set_value("x", ("devices", "sump", "height"), height + 0.05))
    study = Analysis(low)
    mark = _mark(study)
    crest = sumps(low)[0].chambers[-2].exit.top
    marked = Analysis(apply(low, set_value("m", ("devices", "sump", "chambers", 4, "level"), mark)))
    left = marked.situation("power_cut").numbers["left"]
    assert left >= low.space.margin - 0.001
    if mark < crest - 0.0051:
        assert left == pytest.approx(low.space.margin, abs=0.001)
    else:
        assert mark == pytest.approx(crest - 0.005)


def _mark(study):
    from fuente.shown.stations import stations

    running = study.situation("running")
    for known in (False, True):
        row = next(s for s in stations(study, running) if s.id == "sump.pump")
        mark = next(r.value for r in row.readings if r.label == "Highest safe mark")
        assert (mark != "…") == known  # no card solves a power cut of its own
        study.situation("power_cut")
    return mark


def test_the_pump_chamber_tells_the_litres_of_all():
    from fuente.shown.stations import stations

    study = Analysis(reading_room())
    row = next(s for s in stations(study, study.situation("running")) if s.id == "sump.pump")
    told = next(r.value for r in row.readings if r.label == "Water in the whole system")
    assert told == pytest.approx(sum(study.running.volume.values()) + sum(study.running.held.values()))


def test_a_design_that_does_not_run_still_has_its_cards():
    from fuente.shown.stations import stations

    weak = apply(reading_room(), set_value("x", ("devices", "return", "pump", "max_head"), 0.9))
    study = Analysis(weak)
    assert study.warmth("tank") is None
    rows = {s.id: s for s in stations(study, study.at_rest())}
    assert "One heater stuck on" not in {r.label for r in rows["sump.pump"].readings}


def test_a_cold_water_is_told_in_the_units_shown():
    study = Analysis(still_tank())
    per_kelvin = loss(study.system.tanks[0], study.running.level["tank"] - study.system.tanks[0].floor)
    told = codes(still_tank(heater_watts=9 * per_kelvin / 2 * 1.05))["heater-one-dead"]
    assert "fallen to 23.0 °C after" in told.reason(UnitSystem.METRIC)
    assert "fallen to 73 °F after" in told.reason(UnitSystem.US)


def test_a_sump_s_own_rule_tells_of_its_dry_heaters_alone():
    low = apply(reading_room(), set_value("x", ("devices", "sump", "chambers", 4, "intake"), 0.03))
    told = codes(low)
    assert "heater-dry" in told
    assert "heater-bare" not in told
