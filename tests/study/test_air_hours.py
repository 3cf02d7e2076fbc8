"""How long a power cut may last: hours of oxygen, in the verdict, the trial, the finding and the shell."""

from __future__ import annotations

import json
import math
from dataclasses import replace

import pytest
from click.testing import CliRunner

from fuente.cli import cli
from fuente.demo.lantern import lantern
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.devices.base import Rank
from fuente.document import files
from fuente.document.system import apply, set_value
from fuente.findings.breath import CODE, breath
from fuente.life.inputs import OXYGEN
from fuente.study.air_hours import FOLLOWED, NIGHT, SHORT, AirHours, air_hours, battery, decided, followed, under
from fuente.study.known import analysed
from fuente.study.trials import trials
from fuente.units import UnitSystem

METRIC = UnitSystem.METRIC


def fed(factor):
    """The reading room with a factor on its feed."""
    demo = reading_room()
    tank = demo.tanks[0]
    return apply(demo, set_value("", ("devices", "tank", "feed"), factor * tank.fed))


def at(hours, poor=None, good=None):
    return AirHours("tank", 4e-3, hours, poor, good, 3e-3)


def test_hours_are_those_of_the_curve():
    """Between two moments of the curve oxygen crosses the limit; with less gas sooner, with more later."""
    study = analysed(fed(4.0))
    found = air_hours(study, more=True)
    made = followed(study)
    oxygen = made.of(OXYGEN, "tank")
    step = int(found.usual * 3600 / (made.times[1] - made.times[0]))
    assert oxygen[step - 1] >= found.limit > oxygen[step]
    assert found.low == oxygen.min()
    assert found.poor < found.usual < (found.good or math.inf)
    assert (found.half or math.inf) > found.usual
    assert (found.stone or math.inf) > found.usual


def test_a_closed_pot_by_hand():
    """Where nothing comes through the surface the time is oxygen by breathing, to the half hour that films vary it."""
    study = analysed(fed(4.0))
    made = followed(study, gas=1e-6)
    first = made.of(OXYGEN, "tank")
    tank = made.water.water.index["tank"]
    volume = float(made.water.water.volumes[tank])
    inputs, living = made.water.inputs, made.water.living
    used = float(inputs.breathing[tank]) / volume  # nothing else lives in the tank's own water
    places = [p for p in made.water.places if p.cell == "tank"]
    assert not places
    k = 8  # two hours
    seconds = made.times[k]
    share = first[k // 2] / (first[k // 2] + 0.5e-3)  # breathing eases as oxygen goes
    assert first[0] - first[k] == pytest.approx(used * share * seconds, rel=0.03)
    assert living.n == len(made.water.water.ids)


def test_more_feed_fewer_hours():
    hours = [air_hours(analysed(fed(f))).usual for f in (2.0, 4.0, 8.0)]
    assert hours[0] > hours[1] > hours[2]


def test_the_first_tank_of_many_is_the_one_with_least():
    system = nursery()
    study = analysed(apply(system, set_value("", ("devices", "tub-3", "feed"), 20 * system.tanks[2].fed)))
    assert air_hours(study).tank == "tub-3"
    other = air_hours(study, "tub-1")
    assert other.tank == "tub-1"
    assert (other.usual or FOLLOWED + 1) > air_hours(study).usual


def test_the_verdict_is_oxygen_where_no_flood_decides():
    study = analysed(reading_room())
    cut = study.situation("power_cut")
    assert decided(cut, None) is cut.verdict
    assert decided(cut, at(30.0)).filled(METRIC) == "oxygen 30 h"
    assert decided(cut, at(None)).filled(METRIC) == "oxygen > 72 h"
    assert decided(cut, at(30.0)).rank is None
    flood = replace(cut, verdict=replace(cut.verdict, rank=Rank.STOP))
    assert decided(flood, at(2.0)) is flood.verdict
    running = study.situation("running")
    assert decided(running, at(2.0)) is running.verdict


@pytest.mark.parametrize(
    ("hours", "rank"),
    [(SHORT - 0.01, Rank.FIX), (SHORT, Rank.CONSIDER), (NIGHT - 0.01, Rank.CONSIDER), (NIGHT, None), (None, None)],
)
def test_the_finding_just_inside_and_just_outside(hours, rank):
    study = analysed(reading_room())
    found = list(breath(study, at(hours, 2.0, 20.0)))
    assert [f.rank for f in found] == ([] if rank is None else [rank])
    if found:
        assert found[0].code == CODE
        assert found[0].owner == "tank"
        text = found[0].filled(METRIC)
        assert "4.00 mg/L" in text
        assert f"{hours:.0f} h (2 h to 20 h)" in text
        assert ("before anybody" in text) == (hours < SHORT)
        assert f"{battery(1) / 3600:.0f} Wh" in found[0].reason(METRIC)


def test_of_many_tanks_the_finding_names_one_and_counts_stones():
    study = analysed(nursery())
    found = next(iter(breath(study, AirHours("tub-2", 4e-3, 3.0, None, None, 1e-3))))
    assert found.owner == "tub-2"
    assert study.system.tank("tub-2").name in found.filled(METRIC)
    assert found.values["watts"] == pytest.approx(battery(8))
    assert not list(breath(study, None))


def test_a_battery_by_hand():
    """2 L/min against half a metre of water, a tenth put to use, for twelve hours."""
    assert battery(1) == pytest.approx(2e-3 / 60 * 998.2 * 9.80665 * 0.5 / 0.1 * 12 * 3600, rel=1e-3)
    assert battery(3, 4.0) == pytest.approx(battery(1))


def test_trials_of_a_cut_say_it_and_others_do_not():
    found = {r.trial.id: r for r in trials(analysed(reading_room()))}
    assert found["cut-valve-tight"].breath is not None
    assert found["cut-valve-tight"].air.usual == air_hours(analysed(reading_room())).usual
    assert found["cut-and-return"].air is None
    assert found["pads-clogged"].air is None


def test_a_trial_fails_where_oxygen_is_gone_before_anybody_is_home():
    system = lantern()
    study = analysed(apply(system, set_value("", ("devices", "tank", "feed"), 60 * system.tanks[0].fed)))
    cut = next(r for r in trials(study) if r.trial.faults[0].kind == "power-cut" and len(r.trial.faults) == 1)
    assert cut.breath.usual < SHORT
    assert not cut.passed
    assert cut.test.verdict.rank in (None, Rank.CONSIDER)  # the water itself stays where it is


def test_the_shell_gives_the_reason(tmp_path):
    path = tmp_path / "much.fuente"
    files.save(fed(12.0), path)
    said = CliRunner().invoke(cli, ["trials", str(path)]).output
    line = next(row for row in said.splitlines() if "valve tight" in row)
    assert "oxygen under 4.00 mg/L after" in line
    rows = json.loads(CliRunner().invoke(cli, ["trials", str(path), "--json"]).output)
    tight = next(r for r in rows if r["id"] == "cut-valve-tight")
    assert tight["oxygen"]["hours"] == air_hours(analysed(fed(12.0))).usual
    assert tight["oxygen"]["tank"] == "tank"
    told = CliRunner().invoke(cli, ["check", str(path)]).output
    assert "In a power cut the oxygen is under 4.00 mg/L after" in told


def test_nothing_fed_nothing_said():
    system = apply(reading_room(), set_value("", ("devices", "tank", "feed"), 0.0))
    study = analysed(apply(system, set_value("", ("devices", "tank", "heads"), 0)))
    assert air_hours(study) is None
    assert under(followed(analysed(reading_room())), "tank", 0.0) is None
