"""What is due, by the log: intervals, clogging, feed, what keeps apart, what was postponed; files and shelf."""

from __future__ import annotations

import csv
import datetime
import itertools
import re

import icalendar
import pytest

from devices_of import FILTERS
from fuente.demo import DEMOS
from fuente.demo.back_room import back_room
from fuente.demo.reading_room import reading_room
from fuente.demo.year import year_of
from fuente.devices.base import Change, Edit
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply, set_value
from fuente.document.upkeep import Dosed, OwnInterval, OwnTask, Upkeep
from fuente.shown.stations import stations
from fuente.study.breaking import Broken
from fuente.study.effects import clean_pads
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.sites import new_site
from fuente.units import UnitSystem
from fuente.upkeep.agreed import clogged_as_read
from fuente.upkeep.alarms import alarms, free_ammonia
from fuente.upkeep.calendar_file import as_calendar
from fuente.upkeep.calendar_file import told as told_lines
from fuente.upkeep.csv_log import read_csv, write_csv
from fuente.upkeep.due import done, due, last_done, meanwhile, postponed
from fuente.upkeep.entry import Entry
from fuente.upkeep.learned import Learned, limit_of
from fuente.upkeep.places import drop_over, places_of
from fuente.upkeep.stock import costs, left_of, shelf
from fuente.upkeep.telling import chips, told, trend
from fuente.upkeep.upkeep_tasks import tasks_of

METRIC = UnitSystem.METRIC
DAY = 86400.0
NOW = datetime.datetime(2026, 11, 25, 18, 0, tzinfo=datetime.UTC)
MG = 1e-3


def ago(days, what, place="", value=None, **more):
    return Entry(NOW - datetime.timedelta(days=days), what, place, value, **more)


def kept(system, **values):
    return apply(system, Edit("", tuple(Change(("upkeep", k), v) for k, v in values.items())))


def rows(system, *entries):
    found = due(Learned(analysed(system), sorted(entries, key=lambda e: e.when), NOW))
    return {d.task.id: d for d in found}


def task(system, task_id):
    return next(t for t in tasks_of(analysed(system)) if t.id == task_id)


@pytest.fixture(scope="module")
def year():
    study = analysed(reading_room())
    entries, truth = year_of(study, NOW)
    return Learned(study, entries, NOW), truth


def test_every_pad_sock_and_pump_has_its_own_task():
    ids = {t.id for t in tasks_of(analysed(reading_room()))}
    assert {"sump.socks.socks", "sump.foam.pad.0", "sump.foam.pad.1", "sump.foam.pad.2", "return.pump"} <= ids
    assert {"tank.change", "tank.test", "system.cut", "system.spares"} <= ids
    for each in tasks_of(analysed(reading_room())):
        assert each.why.endswith(".")
        assert each.minutes > 0


@pytest.mark.parametrize("name", DEMOS)
def test_every_demo_has_tasks_with_ids_of_their_own(name):
    found = tasks_of(analysed(DEMOS[name]()))
    assert len({t.id for t in found}) == len(found) > 3
    assert len({d.task.id for d in due(Learned(analysed(DEMOS[name]()), [], NOW))}) >= len(found)


def test_a_rack_s_water_is_one_change_and_its_drains_one_look():
    found = tasks_of(analysed(back_room()))
    assert sum(t.id.endswith(".change") for t in found) == 1
    (drains,) = [t for t in found if "drain of" in t.name]
    assert "23 more" in drains.name
    assert drains.minutes == pytest.approx(24 * 5)
    change = next(t for t in found if t.id.endswith(".change"))
    litres = sum(analysed(back_room()).running.volume[t.id] for t in back_room().tanks)
    assert change.litres == pytest.approx(0.25 * litres)


def test_it_is_due_an_interval_after_it_was_done():
    found = rows(reading_room(), ago(3, "swapped", "sump.socks"))["sump.socks.socks"]
    assert found.last == (NOW - datetime.timedelta(days=3)).date()
    assert found.day == (NOW + datetime.timedelta(days=4)).date()
    assert found.when(NOW.date()) == "week"
    never = rows(reading_room(), ago(40, "note", text="begun"))["sump.socks.socks"]
    assert never.last is None
    assert never.left(NOW.date()) == 7 - 40


def test_a_line_a_tick_and_a_test_all_count_as_done():
    system = reading_room()
    sock, test = task(system, "sump.socks.socks"), task(system, "tank.test")
    study = analysed(system)
    for entry, of in (
        (ago(1, "swapped", "sump.socks"), sock),
        (done(sock, NOW), sock),
        (ago(1, "nitrate", "tank", 0.02), test),
        (ago(2, "cleaned", "sump.foam"), task(system, "sump.foam.pad.1")),
        (ago(1, "change", "tank", 0.1), task(system, "tank.change")),
    ):
        assert last_done(of, Learned(study, [entry], NOW)) is entry
    other = ago(1, "cleaned", "sump.socks")
    assert last_done(sock, Learned(study, [other], NOW)) is None  # washed is not changed


def test_an_interval_of_your_own_and_a_task_of_your_own():
    every = OwnInterval(task="sump.socks.socks", every=3 * DAY)
    own = OwnTask(id="lid", name="Wipe the lid", every=10 * DAY)
    found = rows(kept(reading_room(), intervals=(every,), own=(own,)), ago(2, "swapped", "sump.socks"))
    assert found["sump.socks.socks"].day == (NOW + datetime.timedelta(days=1)).date()
    assert "as you set it" in found["sump.socks.socks"].why
    assert found["own.lid"].task.name == "Wipe the lid"
    with pytest.raises(ValueError, match="one interval"):
        Upkeep(intervals=(every, every))


def test_what_is_postponed_waits_and_says_so():
    system = reading_room()
    wait = postponed(task(system, "tank.change"), NOW - datetime.timedelta(days=1), 5)
    found = rows(system, ago(9, "change", "tank", 0.1), wait)["tank.change"]
    assert found.day == (NOW + datetime.timedelta(days=4)).date()
    assert found.postponed
    assert "postponed" in found.why
    assert not rows(system, wait, ago(0, "change", "tank", 0.1))["tank.change"].postponed


def test_a_pad_is_due_when_its_readings_say(year):
    learned, truth = year
    found = {d.task.id: d for d in due(learned)}["sump.foam.pad.2"]
    assert found.early <= truth.full[-1].date() <= found.late
    assert re.search(r"\d+ mm now, due at \d+ mm", found.why)


def test_what_is_fed_moves_what_has_no_readings():
    system = reading_room()
    grams = sum(t.fed for t in system.tanks) * DAY
    cleaned = ago(1, "swapped", "sump.socks")
    usual = [ago(d, "fed", "tank", 7 * grams) for d in range(56, 0, -7)]
    twice = [ago(d, "fed", "tank", 14 * grams) for d in range(56, 0, -7)]
    a, b = (rows(system, cleaned, *fed)["sump.socks.socks"] for fed in (usual, twice))
    assert a.day == (NOW + datetime.timedelta(days=6)).date()
    assert (b.day - a.day).days in (-4, -3)
    assert "more is fed" in b.why


def test_living_places_keep_apart_whatever_the_log_says():
    """Random days of cleaning: no two living tasks that are to come lie within the builder's days."""
    import random

    rng = random.Random(4)
    system = kept(reading_room(), apart=10 * DAY)
    pads = [t for t in tasks_of(analysed(system)) if t.living]
    for _ in range(20):
        entries = [ago(rng.uniform(0, 80), "cleaned", t.place) for t in pads]
        found = [d for d in rows(system, *entries).values() if d.task.living]
        days = sorted(max(d.day, NOW.date()) for d in found)
        assert all((b - a).days >= 10 for a, b in itertools.pairwise(days))
        moved = [d for d in found if d.moved]
        assert all("never two living places" in d.moved for d in moved)


def test_twin_pads_take_turns():
    """The other than was done last, whether a tick said which it was or a line only that one of them was rinsed."""
    bare = System(devices=(Tank(length=1.2, width=0.5, height=0.5, stand=0.9, feed=3e-3 / DAY),))
    spec = FILTERS["foam_wall"].first(new_site(bare, "tank")).model_copy(update={"twin": "twin"})
    system = apply(bare, add_filter(bare, spec))
    wall = next(d.id for d in system.devices if d.kind == "foam_wall")

    def turn(*entries):
        (found,) = [k for k in rows(system, ago(300, "note", text="begun"), *entries) if k.startswith(f"{wall}.rinse")]
        return int(found[-1])

    first = task(system, f"{wall}.rinse.0")
    assert turn() == 0
    assert turn(done(first, NOW)) == 1
    assert turn(ago(100, "cleaned", wall)) == 1
    assert turn(ago(100, "cleaned", wall), ago(9, "cleaned", wall)) == 0
    assert turn(done(first, NOW), ago(-0.001, "cleaned", wall)) == 0


def test_half_doses_come_round_with_what_is_left():
    system = kept(reading_room(), dosed=(Dosed(medium="carbon", tank="tank"),))
    entries = [ago(40, "bought", "", 6, text="carbon")]
    entries += [ago(d, "done", "tank", source="task dose.carbon.tank") for d in (30, 16, 2)]
    found = rows(system, *entries)["dose.carbon.tank"]
    assert found.day == (NOW + datetime.timedelta(days=12)).date()
    litres = analysed(system).running.volume["tank"]
    assert f"{litres * 1e3 * 1.0 / 2 / 1000:.3f}"[:4] in found.task.name  # a litre for each m³, half of it
    kept_ = {k.key: k for k in shelf(analysed(system), entries, NOW.date())}["carbon"]
    assert kept_.left == 3
    assert (kept_.empty - NOW.date()).days == pytest.approx(42, abs=1)
    assert (kept_.empty - kept_.order).days == 14


def test_a_new_filter_may_be_judged_after_its_media_are_mature():
    system = apply(DEMOS["nursery-on-air"](), set_value("x", ("keeping", "started"), "2026-11-01"))
    found = [d for d in rows(system).values() if d.task.id.endswith(".trial")]
    assert found
    assert all((d.day - datetime.date(2026, 11, 1)).days >= 14 for d in found)


def test_what_must_not_run_dry_is_told_from_the_cleaning_situation():
    study = analysed(reading_room())
    words = meanwhile(study, task(reading_room(), "sump.foam.pad.0"), METRIC)
    found = study.situation("cleaning", "sump.foam")
    assert words == found.verdict.filled(METRIC) != ""
    assert meanwhile(study, task(reading_room(), "system.cut"), METRIC) == ""


def test_the_limit_is_where_water_runs_over_the_frame():
    """The foam's top over the water behind it, or 25 times its clean loss, whichever is less."""
    study = analysed(reading_room())
    place = places_of(study).by_id("sump.foam")
    over = min(study.network.link(f"sump.foam.pad.{k}.over").law.crest for k in range(3))
    over -= study.running.level["sump.foam.3"]

    def dirty(times):
        network = Broken(study, study.calm)
        network.change.update(clean_pads(study, 1.0))
        laws = clean_pads(study, times)
        network.change.update({k: laws[k] for k in place.clogs})
        level = study.settle("t", network.network()).level
        return level["sump.foam.0"] - level["sump.foam.3"]

    assert limit_of(study, place) == pytest.approx(min(dirty(25.0), over), rel=1e-3)
    eager = analysed(kept(reading_room(), full=6.0))
    assert limit_of(eager, places_of(eager).by_id("sump.foam")) == pytest.approx(dirty(6.0), rel=1e-3)


def test_the_calendar_is_read_back(year):
    learned, _ = year
    found = due(learned)
    calendar = icalendar.Calendar.from_ical(as_calendar("Reading-room tank, a; b", found, NOW, METRIC))
    events = list(calendar.walk("VEVENT"))
    assert len(events) == len(found)
    assert len({str(e["UID"]) for e in events}) == len(events)
    by_name = {str(e["SUMMARY"]): e for e in events}
    pad = next(d for d in found if d.task.id == "sump.foam.pad.2")
    assert by_name[pad.task.name]["DTSTART"].dt == max(pad.day, NOW.date())
    assert "Squeeze it" in str(by_name[pad.task.name]["DESCRIPTION"])
    again = as_calendar("Reading-room tank, a; b", found, NOW, METRIC)
    assert [str(e["UID"]) for e in icalendar.Calendar.from_ical(again).walk("VEVENT")] == [
        str(e["UID"]) for e in events
    ]


def test_the_calendar_s_lines_say_the_water_only_where_some_is_carried():
    found = rows(reading_room())
    wet = [d for d in found.values() if d.task.litres > 0]
    assert 0 < len(wet) < len(found)
    for row in found.values():
        (work,) = (line for line in told_lines(row, METRIC) if re.match(r"\d+ minutes", line))
        assert ("of water" in work) == (row in wet)


def test_a_sweep_is_the_pump_s_alone():
    how = task(kept(reading_room(), sweep=4 * 3600.0), "system.sweep").how
    assert [line.split(":")[0] for line in how] == [reading_room().by_id["return"].title]
    assert how[0].endswith("of each 4 h")


def test_the_clogging_as_read_is_found_by_bisection():
    """Read 25 mm over the demo's foam: the design with that clogging shows 25 mm."""
    system = reading_room()
    study = analysed(system)
    place = places_of(study).by_id("sump.foam")
    for drop in (0.012, 0.025):
        made = clogged_as_read(system, stations(study), place, drop)
        again = analysed(apply(system, made))
        assert drop_over(again, places_of(again).by_id("sump.foam"), again.running) == pytest.approx(drop, rel=0.011)
    assert clogged_as_read(system, stations(study), place, 0.0) is None


def test_csv_goes_out_and_comes_back_exactly(year, tmp_path):
    learned, _ = year
    entries = [
        *learned.entries,
        ago(1, "note", text='=cmd|"/c calc"!A1'),
        ago(2, "note", text="-5 degrees outside, “cold”"),
    ]
    path = tmp_path / "log.csv"
    write_csv(path, entries, learned.places)
    assert "\"'=cmd" in path.read_text() or "'=cmd" in path.read_text()
    with path.open(encoding="utf-8", newline="") as file:
        cells = [cell for row in csv.reader(file) for cell in row]
    assert not [c for c in cells if c.startswith(("=", "@", "+"))]
    assert not [c for c in cells if c.startswith("-") and not re.fullmatch(r"-[0-9.e-]+", c)]
    found = read_csv(path, learned.places)
    assert not found.problems
    assert all(a.same_as(b) for a, b in zip(found.entries, entries, strict=True))
    again = read_csv(path, learned.places, there=entries)
    assert not again.entries
    assert len(again.known) == len(entries)


@pytest.mark.parametrize(
    ("text", "wanted"),
    [
        ("Date;NO3;pH\n25.11.2026;20;7,4\n24.11.2026;;7,3\n", [("nitrate", 0.02), ("ph", 7.4), ("ph", 7.3)]),
        (
            "date,parameter,result\n2026-11-25,nitrate,20\n2026-11-24,temp,64.4 F\n",
            [("nitrate", 0.02), ("temperature", 18.0)],
        ),
        ("when\tnote\n2026-11-25\tall quiet\n", [("note", None)]),
        ("when,what,value\n2026-11-25,flow,3240 L/h\n", [("flow", 0.0009)]),
    ],
)
def test_other_programs_tables_are_read(tmp_path, text, wanted):
    path = tmp_path / "theirs.csv"
    path.write_text(text)
    found = read_csv(path, places_of(analysed(reading_room())))
    assert not found.problems
    assert [(e.what, e.value) for e in found.entries] == [
        (w, pytest.approx(v) if v is not None else None) for w, v in wanted
    ]


def test_bad_rows_are_listed_and_the_rest_is_kept(tmp_path):
    path = tmp_path / "some.csv"
    rows = ("2026-11-25,no3,20,", "last week,no3,20,", "2026-11-24,colour,blue,", "2026-11-23,ph,7.4,attic")
    path.write_text("\n".join(("date,what,value,tank", *rows)))
    found = read_csv(path, places_of(analysed(reading_room())))
    assert len(found.entries) == 1
    assert [p.split(":")[0] for p in found.problems] == ["Row 3", "Row 4", "Row 5"]
    mapped = tmp_path / "mapped.csv"
    mapped.write_text("a,b,c\n2026-11-25,no3,20\n")
    columns = {"when": "a", "what": "b", "value": "c"}
    assert read_csv(mapped, places_of(analysed(reading_room())), columns=columns).entries[0].value == pytest.approx(
        0.02
    )


# -- what it means ----------------------------------------------------------------------------------------------------


def test_the_year_is_understood(year):
    """One clogging pad, one ageing pump, one heater that drifts: each told, and nothing else."""
    learned, truth = year
    found = {t.key.split(".")[0]: t for t in told(learned, METRIC)}
    assert set(found) == {"decline", "drift", "fine"}
    assert "pump" in found["decline"].head
    assert "1.0 °C high" in found["drift"].head
    (place, made, aim) = learned.drifts()[0]
    assert made.shift == pytest.approx(truth.shift, abs=0.2)
    assert made.noticed - truth.drifts.timestamp() < 14 * DAY
    assert aim == 17.0
    assert place.id == "tank"


def test_quiet_years_are_quiet():
    """Twenty seeds without the three faults: nothing is told in nine of ten."""
    import fuente.demo.year as made

    study = analysed(reading_room())
    cried = 0
    before = made.WORN, made.DRIFTS
    try:
        made.WORN, made.DRIFTS = 1.0, 0.0
        for seed in range(20):
            entries, _ = year_of(study, NOW, seed)
            cried += any(t.rank != "fine" for t in told(Learned(study, entries, NOW), METRIC))
    finally:
        made.WORN, made.DRIFTS = before
    assert cried <= 2


def test_trends_have_points_and_fit_together(year):
    learned, truth = year
    keys = [key for key, _ in chips(learned)]
    assert keys[0] == f"drop@{truth.clogs}"
    made = trend(learned, keys[0], METRIC)
    assert len(made.points) == len(learned.series("drop", truth.clogs).rows)
    assert len(made.curves) == 4
    assert made.limit[0] == pytest.approx(limit_of(learned.study, learned.places.by_id(truth.clogs)) * 1e3)
    for key in keys:
        drawn = trend(learned, key, UnitSystem.US)
        assert drawn.points
        assert drawn.as_csv().count("\n") == len(drawn.points) + 1
    assert trend(learned, "drop@nowhere", METRIC) is None


@pytest.mark.parametrize(
    ("tests", "head", "rank"),
    [
        ({"ammonia": 2 * MG, "ph": 8.4, "temperature": 25.0}, "Free ammonia", "stop"),
        ({"ammonia": 2 * MG, "ph": 6.5, "temperature": 17.0}, "Free ammonia", "watch"),
        ({"nitrite": 2 * MG}, "Nitrite 2 mg/L", "stop"),
        ({"nitrite": 0.5 * MG}, "Nitrite 0.5 mg/L", "watch"),
        ({"oxygen": 2 * MG}, "Oxygen 2 mg/L", "stop"),
        ({"temperature": 24.0}, "24.0 °C", "stop"),
        ({"level": 0.40}, "Level 400 mm", "watch"),
    ],
)
def test_alarms_say_what_to_do(tests, head, rank):
    study = analysed(reading_room())
    entries = [ago(0.1, what, "tank", value) for what, value in tests.items()]
    found = alarms(study, entries, NOW.timestamp())
    (first,) = [a for a in found if a.head.startswith(head)]
    assert first.rank == rank
    assert first.act
    old = [ago(10, what, "tank", value) for what, value in tests.items()]
    assert alarms(study, old, NOW.timestamp()) == []


def test_free_ammonia_by_today_s_water():
    """Emerson: 5.38 % at pH 8 and 25 °C."""
    assert free_ammonia(1e-3, 8.0, 25.0) == pytest.approx(5.38e-5, rel=0.01)
    fine = {"ammonia": 0.0, "nitrite": 0.0, "ph": 7.4, "temperature": 17.0, "oxygen": 9 * MG}
    entries = [ago(0.1, what, "tank", value) for what, value in fine.items()]
    assert alarms(analysed(reading_room()), entries, NOW.timestamp()) == []


def test_stock_by_what_was_bought_and_used():
    assert left_of([ago(9, "bought", "", 10, text="socks"), ago(2, "used", "", 3, text="socks")], "sock") == 7
    assert left_of([ago(2, "used", "", 3, text="socks")], "sock") is None
    assert left_of([ago(9, "bought", "", 2, text="socks"), ago(2, "used", "", 3, text="sock")], "sock") == 0


def test_a_year_s_money_by_hand():
    system = reading_room()
    study = analysed(system)
    watts = sum(d.draws for d in system.devices)
    made = costs(study, [ago(100, "cost", "", 12.5), ago(400, "cost", "", 99.0)], NOW)
    assert made.power_ahead == pytest.approx(watts * 8766 / 1000 * system.space.price)
    assert made.used_behind == 12.5
    assert sum(cost for _, cost in made.by_device) == pytest.approx(made.power_ahead)
