"""Media matured ahead in a bucket, media that stood, and how much may be fed at once."""

from __future__ import annotations

import datetime
import json
from dataclasses import replace

import numpy as np
import pytest
from click.testing import CliRunner
from icalendar import Calendar

from fuente.cli import cli
from fuente.demo.reading_room import reading_room
from fuente.devices.base import Change, Edit
from fuente.document import files
from fuente.document.system import apply
from fuente.life.inputs import TEMPERATURE
from fuente.life.nitrifiers import GROWTH, half_life, left_alive
from fuente.shown.start_plan import as_calendar, plan
from fuente.shown.water_charts import starting
from fuente.study.bucket import AGAIN, matured
from fuente.study.cleaned import at_once
from fuente.study.known import analysed
from fuente.study.limits import Limits
from fuente.study.weeks import DAY, Start, start_of, weeks
from fuente.units import UnitSystem

NEW = np.array([0.0, 0.0, 1e-3, 8e-3, 0.15, 0.0, 0.0, 18.0])


def bucket(volume=0.02, area=5.0, dose=2e-3, temperature=26.0, **more):
    return matured(volume, area, dose, temperature, NEW, **more)


def kept(**values):
    return apply(reading_room(), Edit("", tuple(Change(("keeping", k), v) for k, v in values.items())))


def test_ready_a_day_after_a_whole_dose():
    found = bucket()
    assert found.ready == found.doses[-1][0] + DAY
    assert found.doses[0] == (0.0, pytest.approx(2e-3 * 0.02))
    assert all(n >= (1 - AGAIN) * 2e-3 * 0.02 * (1 - 1e-9) for _, n in found.doses)
    gaps = np.diff([when for when, _ in found.doses])
    assert (gaps >= DAY * (1 - 1e-9)).all()


def test_what_grows_is_what_was_dosed_not_how_much_media_there_is():
    """Films times area: the same bacteria, on twice the media half as thick; twice the bucket, twice the bacteria."""
    one, wide, large = bucket(), bucket(area=10.0), bucket(volume=0.04)
    grown = [b.films[0] * b.area for b in (one, wide, large)]
    assert grown[1] == pytest.approx(grown[0], rel=0.35)
    assert wide.films[0] < 0.75 * one.films[0]
    assert grown[2] > 1.5 * grown[0]


def test_cold_takes_longer_and_too_cold_for_ever():
    days = [bucket(temperature=t).ready for t in (28.0, 20.0, 12.0)]
    assert days[0] < days[1] < days[2]
    slow = replace(GROWTH, grow_a=0.05 / DAY)
    assert bucket(growth=slow).ready is None


def test_soft_water_is_changed_while_it_grows():
    soft = NEW.copy()
    soft[4] = 0.07
    found = matured(0.02, 5.0, 8e-3, 26.0, soft)
    assert found.changes
    assert not bucket().changes


def test_a_bucket_shortens_the_start_and_more_of_it_more():
    study = analysed(reading_room())
    bare = weeks(study, 98.0, Start("seeded", moved=GROWTH.seed)).ready
    half, whole = (weeks(study, 98.0, Start("bucket", media=m)) for m in (0.1, 1.0))
    assert whole.ready < bare
    assert half.bucket.area < whole.bucket.area
    assert half.bucket.area == pytest.approx(0.1 * sum(p.area for p in whole.water.places))
    # The films of the moved share, thinned over all surface, are where the weeks begin.
    living = whole.water.living
    assert whole.values[0][living.grown_a][0] == pytest.approx(whole.bucket.films[0])
    assert half.values[0][living.grown_a][0] == pytest.approx(0.1 * half.bucket.films[0])


def test_what_stood_without_flow_is_half_dead_in_twelve_hours():
    assert left_alive(0.0) == 1.0
    assert left_alive(6 * 3600.0) == pytest.approx(0.5**0.5)
    assert start_of(kept(stood=86400.0).keeping).alive == pytest.approx(0.25)
    study = analysed(reading_room())
    fresh, stale = (weeks(study, 84.0, Start("seeded", moved=0.01, alive=a)).ready for a in (1.0, 0.05))
    assert stale > fresh


def test_half_is_gone_in_its_half_life():
    assert half_life(18.0) / DAY == pytest.approx(np.log(2) / 0.04)
    assert half_life(28.0) < half_life(18.0)


def test_what_may_be_fed_at_once_lies_between_the_feed_and_what_is_carried():
    limits = Limits(analysed(reading_room()))
    now = at_once(limits)
    assert limits.base.fed < now < limits.carries.feed
    thin = limits.now.copy()
    grown = slice(limits.living.grown_a.start, limits.living.grown_n.stop)
    thin[grown] *= 0.25
    assert at_once(limits, thin) < now


def test_the_plan_begins_before_the_first_day():
    system = kept(start="bucket", started="2026-12-01")
    study = analysed(system)
    made = weeks(study, 84.0, start_of(system.keeping))
    days = plan(study, made, UnitSystem.METRIC)
    first = -round(made.bucket.ready / DAY)
    assert days[0].day == first
    assert "Dose the bucket" in days[0].title
    assert any(d.day == 0 and d.title.startswith("Strain the media") for d in days)
    assert [d.title for d in days if "pump" in d.title] == ["Turn the pump low for 3 days", "Turn the pump up"]
    events = Calendar.from_ical(as_calendar(days, "2026-12-01", system.name)).walk("VEVENT")
    assert min(e["dtstart"].dt for e in events) == datetime.date(2026, 12, 1) + datetime.timedelta(days=first)
    never = kept(start="bucket", slow=0.0)
    assert not [d for d in plan(analysed(never), made, UnitSystem.METRIC) if "pump" in d.title]


def test_the_words_say_the_bucket_the_feed_and_what_keeps_it():
    words = starting(analysed(kept(start="bucket")), "tank", UnitSystem.METRIC).says
    assert words.startswith("Ahead, in 20 L with air at 26.0 °C: mature after")
    assert "at once" in words
    dosed = starting(analysed(reading_room()), "tank", UnitSystem.METRIC).says
    assert "While it waits, " in dosed
    limits = Limits(analysed(reading_room()))
    warm = limits.living.of(limits.now, TEMPERATURE)[limits.base.tanks["tank"]]
    assert f"half is gone after {half_life(warm) / DAY:.0f} days" in dosed


def test_the_shell_starts_with_a_bucket(tmp_path):
    path = tmp_path / "a.fuente"
    files.save(reading_room(), path)
    said = CliRunner().invoke(cli, ["life", str(path), "--start", "bucket", "--days", "40"])
    assert "In the bucket the media are mature on day" in said.output
    rows = json.loads(CliRunner().invoke(cli, ["life", str(path), "--start", "bucket", "--days", "2", "--json"]).output)
    assert rows["times"][0] == 0.0
