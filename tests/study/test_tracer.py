"""A dose that spreads and is changed away, and a year that tells how far it is."""

from __future__ import annotations

import numpy as np
import pytest

from fuente.demo.back_room import back_room
from fuente.demo.lantern import lantern
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.devices.base import Change, Edit
from fuente.document.system import apply
from fuente.errors import EntryError
from fuente.halting import Halted, halted_when, telling
from fuente.shown.long_charts import dose, year
from fuente.study.known import analysed
from fuente.study.tracer import EVEN, spread_of
from fuente.study.weeks import DAY, Start, weeks
from fuente.units import UnitSystem


def kept(system, **values):
    return apply(system, Edit("", tuple(Change(("keeping", k), v) for k, v in values.items())))


def test_without_changes_all_of_it_stays_and_comes_out_even():
    found = spread_of(analysed(kept(reading_room(), share=0.0)), "tank", 1e-3, days=7.0)
    volumes = found.water.water.volumes
    assert found.left == pytest.approx(1.0, abs=0.02)  # what dries and is topped up brings none
    assert found.tanks["tank"][0] == pytest.approx(1e-3 / volumes[found.water.tanks["tank"]])
    assert found.tanks["tank"][-1] == pytest.approx(1e-3 * found.left / volumes.sum(), rel=1e-3)
    assert found.even is not None


def test_a_share_goes_with_every_change():
    found = spread_of(analysed(kept(lantern(), share=0.3)), "tank", 1e-3)
    tank, whole = found.water.tanks["tank"], found.water.water.volumes
    gone = 0.3 * whole[tank] / whole.sum()
    assert found.left == pytest.approx((1 - gone) ** 3, rel=0.01)  # the fourth falls on the last moment


def test_even_is_when_all_that_it_reaches_is_near_the_mean():
    study = analysed(kept(back_room(), share=0.0))
    found = spread_of(study, "rack-2-3", 1e-3, days=2.0)
    at = int(np.searchsorted(found.times, found.even))
    mean = found.whole[at]
    assert all(abs(values[at] - mean) <= EVEN * mean for values in found.tanks.values())
    assert any(abs(values[at - 2] - found.whole[at - 2]) > EVEN * mean for values in found.tanks.values())


def test_tubs_that_share_no_water_stay_clean():
    found = spread_of(analysed(nursery()), "tub-3", 1e-4)
    assert found.tanks["tub-3"].max() > 0
    assert all(values.max() == 0 for key, values in found.tanks.items() if key != "tub-3")


@pytest.mark.parametrize(("amount", "days"), [(0.0, 7.0), (-1.0, 7.0), (1e-3, 0.0), (1e-3, 4000.0)])
def test_what_is_no_dose_is_refused(amount, days):
    with pytest.raises(EntryError, match="dosed"):
        spread_of(analysed(lantern()), "tank", amount, days)


def test_the_words_of_a_dose():
    chart = dose(analysed(back_room()), "rack-1-1", 1e-3, UnitSystem.METRIC)
    assert chart.lines[0].name == "A1"
    assert len(chart.lines) == 3
    assert chart.says.startswith("1 g makes 0.7")
    assert "dose 25 % of that again" in chart.says


def test_a_year_tells_how_far_it_is_and_can_be_stopped():
    study = analysed(kept(lantern(), start="mature"))
    told = []
    with telling(told.append):
        made = weeks(study, 365.0, Start("mature"))
    assert told == sorted(told)
    assert told[-1] == pytest.approx(made.times[-1])
    assert len(told) >= 52
    with pytest.raises(Halted), telling(told.append), halted_when(lambda: len(told) > 60):
        weeks(study, 365.0, Start("mature"))
    assert told[-1] < 365 * DAY


def test_a_year_ends_where_nitrate_stands():
    chart = year(analysed(kept(lantern(), start="mature")), "tank", UnitSystem.METRIC)
    nitrate = next(line for line in chart.lines if "nitrate" in line.name)
    assert chart.times[-1] == pytest.approx(365 / 7, abs=0.01)
    last, before = nitrate.values[-29:].max(), nitrate.values[-57:-28].max()
    assert last == pytest.approx(before, rel=0.02)
    assert "Nitrate comes to" in chart.says
