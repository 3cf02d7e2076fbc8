"""Pumps turned low for the first days are followed as what they are: the same water with less flow."""

from __future__ import annotations

import numpy as np
import pytest

from fuente.demo.back_room import back_room
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.document.system import apply, set_value
from fuente.life.inputs import NITRATE, TEMPERATURE
from fuente.study.analysis import Analysis
from fuente.study.known import analysed
from fuente.study.living import LivingWater
from fuente.study.turned_low import turned_low
from fuente.study.weeks import Start, weeks

DAY = 86400.0


def slowed(days, make=reading_room):
    return Analysis(apply(make(), set_value("x", ("keeping", "slow"), days * DAY)))


def pumped(study, solution):
    return {w.id: solution.flow[w.id] for w in study.network.ways if w.kind.driven}


@pytest.mark.parametrize("make", [reading_room, back_room])
def test_every_pump_moves_less_and_still_a_quarter(make):
    study = analysed(make())
    low = turned_low(LivingWater(study))
    usual, less = (pumped(study, s) for s in (study.running, low.situation.solution))
    assert usual
    assert all(0.25 * usual[k] <= less[k] < 0.99 * usual[k] for k in usual)
    # The same water, but for what the drains hold more or less of.
    assert sum(low.situation.solution.volume.values()) == pytest.approx(sum(study.running.volume.values()), rel=2e-3)


def test_what_is_blown_by_air_has_no_pump_to_turn():
    study = analysed(nursery())
    assert turned_low(LivingWater(study)) is None
    assert not weeks(study, 5.0, Start("seeded")).slowed


@pytest.mark.parametrize("way", ["fishless", "seeded", "bucket", "fish"])
def test_days_with_the_pump_low_differ_and_the_rest_goes_on_from_them(way):
    """The less water goes round, the further the sump's water stands from the tank's; afterwards as ever."""
    never, four = (weeks(slowed(days), 12.0, Start(way)) for days in (0.0, 4.0))
    assert (never.slowed, four.slowed) == (False, True)
    assert never.values.shape == four.values.shape
    apart = [abs(w.of(TEMPERATURE, "sump.pump") - w.of(TEMPERATURE, "tank")) for w in (never, four)]
    early, late = slice(4, 14), slice(30, None)
    assert (apart[1][early] > 1.2 * apart[0][early]).all()
    assert apart[1][late] == pytest.approx(apart[0][late], rel=0.05)
    nitrate = [w.of(NITRATE, "tank") for w in (never, four)]
    assert np.abs(nitrate[1] - nitrate[0]).max() < 0.2 * nitrate[0].max() + 1e-9


def test_it_may_last_longer_than_is_looked_at():
    made = weeks(slowed(30.0), 6.0, Start("seeded"))
    assert made.values.shape[0] == len(made.times) == 25


def test_a_mature_design_is_not_slowed():
    assert not weeks(slowed(5.0), 3.0, Start("mature")).slowed
