"""Plants in tanks, deep gravel, drips that run by themselves, and what changes cost: nitrate in the long run."""

from __future__ import annotations

import math

import numpy as np
import pytest

from fuente.demo.reading_room import reading_room
from fuente.devices.base import Change, Edit
from fuente.document.system import apply, set_value
from fuente.life.inputs import ALKALINITY, NITRATE, OXYGEN, TEMPERATURE
from fuente.life.plants import breathed_in_the_dark, plant_uptake
from fuente.life.renewal import NITRATE_ION
from fuente.shown.carrying import carrying
from fuente.study.air_hours import air_hours, followed
from fuente.study.known import analysed
from fuente.study.limits import Limits
from fuente.study.living import LivingWater
from fuente.study.nitrate import MARSH, YEAR, changed, peak, renewal, runs_off
from fuente.study.weeks import DAY, Start, weeks
from fuente.units import UnitSystem

METRIC = UnitSystem.METRIC


def with_tank(system=None, **values):
    system = system or reading_room()
    return apply(system, Edit("", tuple(Change(("devices", "tank", k), v) for k, v in values.items())))


def kept(system=None, **values):
    return apply(system or reading_room(), Edit("", tuple(Change(("keeping", k), v) for k, v in values.items())))


def test_uptake_by_group_and_light():
    by_hand = {"floating": 0.6, "stems": 0.3, "rosettes": 0.12, "mosses": 0.04, "marsh": 0.4, "none": 0.0}
    for kind, grams in by_hand.items():
        assert plant_uptake(2.0, kind) * DAY * 1e3 == pytest.approx(2 * grams)
    assert plant_uptake(1.0, "stems", "dim") == pytest.approx(0.3 * plant_uptake(1.0, "stems"))
    assert plant_uptake(1.0, "stems", "bright") == pytest.approx(1.8 * plant_uptake(1.0, "stems"))


def test_plants_in_a_tank_take_nitrate():
    bare = analysed(reading_room())
    green = analysed(with_tank(planted=0.3, plants="floating"))
    takes = LivingWater(green).inputs.plants
    assert takes[LivingWater(green).water.index["tank"]] == pytest.approx(0.3 * 0.6e-3 / DAY)
    assert peak(green) < peak(bare)
    made = LivingWater(bare).inputs.ammonia.sum()
    lower = (
        NITRATE_ION * takes.sum() * 7 * DAY / (0.25 * LivingWater(bare).water.volumes[LivingWater(bare).tanks["tank"]])
    )
    assert peak(bare) - peak(green) == pytest.approx(min(lower, peak(bare)), rel=1e-6)
    assert takes.sum() < made


def test_plants_breathe_in_a_power_cut():
    """Without lamps they take no nitrogen and use oxygen: sooner under the limit, by what they breathe."""
    green = analysed(with_tank(planted=0.8, plants="stems", light="bright"))
    bare = analysed(reading_room())
    dark = LivingWater(green, green.situation("power_cut"))
    assert dark.inputs.plants.sum() == 0.0
    takes = plant_uptake(0.8, "stems", "bright")
    assert dark.inputs.plant_breath.sum() == pytest.approx(breathed_in_the_dark(takes))
    assert breathed_in_the_dark(1.0) == pytest.approx(10 * 0.3 * 32 / 12.011)
    assert air_hours(green).usual < air_hours(bare).usual
    assert followed(green).of(OXYGEN, "tank")[8] < followed(bare).of(OXYGEN, "tank")[8]


@pytest.mark.parametrize(("kind", "gives"), [("stems", 10 * 1.3 * 32 / 12.011), ("floating", 0.0), ("marsh", 0.0)])
def test_leaves_under_water_give_oxygen_by_day_and_all_breathe(kind, gives):
    """Over a day's mean what they bind and breathe comes from leaves under water; by night nothing does, and what is
    carried is what the night allows.
    """
    green = analysed(with_tank(planted=0.6, plants=kind))
    k = LivingWater(green).water.index["tank"]
    takes = plant_uptake(0.6, kind)
    by_day, by_night = LivingWater(green).inputs, LivingWater(green, lit=False).inputs
    assert by_day.plant_oxygen[k] == pytest.approx(gives)
    assert by_night.plant_oxygen[k] == 0.0
    for inputs in (by_day, by_night):
        assert inputs.plants[k] == pytest.approx(takes)
        assert inputs.plant_breath[k] == pytest.approx(breathed_in_the_dark(takes))
    assert Limits(green).living.inputs.plant_oxygen[k] == 0.0
    mean, night = LivingWater(green), LivingWater(green, lit=False)
    day_oxygen, night_oxygen = (w.living.of(w.mature(), OXYGEN)[k] for w in (mean, night))
    assert (day_oxygen > night_oxygen + 1e-5) == (gives > 0)
    assert followed(green).of(OXYGEN, "tank")[0] == pytest.approx(night_oxygen, rel=1e-4)


@pytest.mark.parametrize(("depth", "there"), [(0.058, False), (0.062, True)])
def test_gravel_gasses_nitrate_where_it_lies_deep_and_counts(depth, there):
    tank = reading_room().tanks[0]
    plan = tank.inner_length * tank.inner_width
    deep = with_tank(gravel=0.6 * depth * plan)
    assert LivingWater(analysed(deep)).inputs.anoxic.sum() == 0.0
    counted = analysed(apply(deep, set_value("", ("schools", "substrate"), "counts")))
    gassed = LivingWater(counted).inputs.anoxic.sum()
    assert gassed == pytest.approx(50e-6 / DAY * plan if there else 0.0)


def test_the_peak_with_a_drip_is_that_of_the_weeks():
    """A float that gives new water all day, and changes besides: by formula and by the followed water."""
    system = kept(share=0.2)
    study = analysed(system)
    water = LivingWater(study)
    assert runs_off(water) == 0.0
    made = weeks(study, 365.0, Start("mature"), every=DAY / 2)
    top = float((NITRATE_ION * made.of(NITRATE, "tank"))[-15:].max())
    assert peak(study) == pytest.approx(top, rel=0.06)  # the filters' water mixes in after a change


def test_each_change_by_hand():
    study = analysed(kept(share=0.3, cold=15.0, alkalinity=0.25, water_price=4.0))
    found = changed(study)
    water = LivingWater(study)
    y = water.mature()
    k = water.tanks["tank"]
    warm, soft = (float(water.dripping.of(y, what)[k]) for what in (TEMPERATURE, ALKALINITY))
    litres = 0.3 * float(water.water.volumes[k])
    assert found.cools == pytest.approx(0.3 * (warm - 15.0), rel=1e-6)
    assert found.alkalinity == pytest.approx(soft + 0.3 * (0.25 - soft), rel=1e-6)
    assert found.water == pytest.approx(litres * YEAR / (7 * DAY))
    assert found.heat == pytest.approx(found.water * 4.17e6 * (warm - 15.0), rel=0.01)
    assert found.money == pytest.approx(found.water * 4.0 + found.heat / 3.6e6 * study.space.price)
    assert changed(analysed(kept(share=0.0))) is None
    assert found.salt == 0.0
    sea = analysed(apply(kept(), set_value("", ("salinity",), 35.0)))
    volume = float(LivingWater(sea).water.volumes[LivingWater(sea).tanks["tank"]])
    assert changed(sea).salt == pytest.approx(0.25 * volume * 35e-3 * 1023.3, rel=2e-3)


def test_warmer_new_water_costs_no_heat():
    found = changed(analysed(kept(cold=30.0)))
    assert found.heat == 0.0
    assert found.cools < 0


def test_the_card_says_what_a_change_does():
    parts = dict(carrying(analysed(reading_room()), METRIC).parts)
    rows = {r.label: r.value for r in parts["What each change does"]}
    assert rows["cools the tanks by"].endswith("°C")
    assert set(rows) == {"cools the tanks by", "alkalinity then", "a year: water", "heat for it", "both cost"}
    nitrate = next(v for k, v in parts.items() if k.startswith("To keep nitrate"))
    plants = next(r for r in nitrate if "marsh" in r.label).value
    area = renewal(analysed(reading_room())).plants
    assert plants.endswith(f"about {area * 16:.0f}")
    assert pytest.approx(0.4e-3 / DAY) == MARSH
    assert math.isfinite(area)
    assert np.isfinite(peak(analysed(reading_room())))
