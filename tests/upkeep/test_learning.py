"""What is learnt from generated histories whose truth is known: clog dates, drifts, leaks, why less flows."""

from __future__ import annotations

import math

import numpy as np
import pytest

from fuente.demo.cascade import cascade
from fuente.demo.reading_room import reading_room
from fuente.study.breaking import Broken, Fault
from fuente.study.effects import clean_pads
from fuente.study.faults import put
from fuente.study.known import analysed
from fuente.upkeep.clogging import clog, curve_of, stretches
from fuente.upkeep.decline import Moved, causes
from fuente.upkeep.drift import drift, threshold
from fuente.upkeep.places import as_new, drop_over, places_of
from fuente.upkeep.topup import drying

DAY = 86400.0
CLEAN, LIMIT = 9e-3, 44e-3


def grown(shape, low, life, age):
    """Three ways to clog, written apart from what is tested."""
    x = age / life
    if shape == "share":
        return low * (LIMIT / low) ** x
    if shape == "straight":
        return low + (LIMIT - low) * x
    return (math.sqrt(low) + (math.sqrt(LIMIT) - math.sqrt(low)) * x) ** 2


def history(seed):
    """Some months of readings each week or so, with one to six cleanings; and the day on which it would be full."""
    rng = np.random.default_rng(seed)
    shape = ("share", "straight", "square")[seed % 3]
    cycles = int(rng.integers(1, 7))
    usual = 60 * DAY * rng.uniform(0.6, 1.6)
    begins, readings, cleanings = 0.0, [], []
    for k in range(cycles):
        low, life = CLEAN * rng.lognormal(0, 0.15), usual * rng.lognormal(0, 0.2)
        last = k == cycles - 1
        stop = life * (rng.uniform(0.45, 0.85) if last else rng.uniform(0.75, 1.0))
        age = rng.uniform(1, 7) * DAY
        while age < stop:
            true = grown(shape, low, life, age)
            readings.append((begins + age, max(rng.normal(true, math.hypot(1e-3, 0.05 * true)), 1e-4)))
            age += rng.uniform(4, 11) * DAY
        if last:
            return readings, cleanings, begins + stop, begins + life
        begins += stop
        cleanings.append(begins)
    raise AssertionError


@pytest.mark.parametrize("first", [0, 100, 200])
def test_the_day_lies_in_its_band_in_four_of_five(first):
    """80 % bands of a hundred histories each: 74 to 86 of them hold the day."""
    hits = 0
    for seed in range(first, first + 100):
        readings, cleanings, today, full = history(seed)
        made = clog(readings, cleanings, 0.0, 10e-3, LIMIT, 60 * DAY, today, seed)
        assert made is not None
        early, late = made.early or 0.0, made.late or math.inf
        hits += early <= full <= late
    assert 74 <= hits <= 86


def test_a_long_history_foresees_within_days():
    """Six quiet cycles of fifty days, read twice a week: the middle within four days."""
    readings, cleanings = [], []
    for k in range(6):
        begins = 50 * DAY * k
        stop = 25 if k == 5 else 50
        readings += [(begins + a * DAY, grown("share", CLEAN, 50 * DAY, a * DAY)) for a in range(2, stop, 3)]
        if k:
            cleanings.append(begins)
    made = clog(readings, cleanings, 0.0, 10e-3, LIMIT, 80 * DAY, 275 * DAY)
    assert made.due / DAY == pytest.approx(300, abs=4)
    assert made.early < 300 * DAY < made.late
    assert made.shape == "exponential"
    assert len(made.stretches) == 6
    at, curve = curve_of(made.stretches[2], made)
    assert curve[0] == pytest.approx(CLEAN, rel=0.05)
    assert curve[-1] == pytest.approx(LIMIT, rel=0.05)
    assert at[0] == 100 * DAY


def test_cleaning_begins_anew_and_its_own_reading_is_of_before():
    rows = stretches([(1.0, 1e-2), (5.0, 2e-2), (6.0, 1e-2)], [5.0], 0.0)
    assert [list(s.drops) for s in rows] == [[1e-2, 2e-2], [1e-2]]


def test_an_odd_reading_is_flagged_and_kept():
    readings = [(a * DAY, grown("share", CLEAN, 60 * DAY, a * DAY)) for a in range(2, 40, 3)]
    readings[6] = (readings[6][0], 0.06)
    made = clog(readings, [], 0.0, 9e-3, LIMIT, 60 * DAY, 41 * DAY)
    assert list(np.flatnonzero(made.stretches[0].odd)) == [6]
    assert len(made.stretches[0].drops) == len(readings)
    assert made.due / DAY == pytest.approx(60, abs=6)


def test_without_readings_nothing_is_said_and_with_one_little():
    assert clog([], [], 0.0, CLEAN, LIMIT, 60 * DAY, 10 * DAY) is None
    one = clog([(5 * DAY, 1e-2)], [], 0.0, CLEAN, LIMIT, 60 * DAY, 5 * DAY)
    readings = [(a * DAY, grown("share", CLEAN, 60 * DAY, a * DAY)) for a in range(2, 45, 3)]
    many = clog(readings, [], 0.0, CLEAN, LIMIT, 60 * DAY, 45 * DAY)
    assert (one.late or math.inf) - one.early > 2 * (many.late - many.early)


# -- drift ------------------------------------------------------------------------------------------------------------


def test_a_false_alarm_is_as_rare_as_asked():
    """400 quiet years read each day to each week: three in a hundred, give or take three standard errors."""
    cried = 0
    for seed in range(400):
        rng = np.random.default_rng(seed)
        every = rng.choice([1, 2, 3.5, 7])
        times = np.arange(0, 365, every)
        values = rng.normal(0, rng.uniform(0.1, 0.4), len(times)).round(1)
        cried += drift(list(zip(times * DAY, values, strict=True)), 0.1, len(times)) is not None
    assert cried / 400 < 0.03 + 3 * math.sqrt(0.03 * 0.97 / 400)


@pytest.mark.parametrize("size", [0.7, 1.0, -1.0])
def test_a_heater_that_slips_is_found_within_two_weeks(size):
    """Of a hundred histories, read each day, that slip over five days."""
    late = 0
    for seed in range(100):
        rng = np.random.default_rng(seed)
        times = np.arange(0, 160.0)
        slip = np.clip((times - 100) / 5, 0, 1) * size
        values = (rng.normal(0, 0.15, len(times)) + slip).round(1)
        found = drift(list(zip(times * DAY, values, strict=True)), 0.1)
        late += found is None or not 100 <= found.noticed / DAY <= 114
        if found is not None and found.noticed > 108 * DAY:
            assert math.copysign(1, found.shift) == math.copysign(1, size)
    assert late <= 5


def test_one_odd_reading_is_no_drift():
    values = [0.0, 0.1, -0.1, 0.0, 0.1, 0.0, -0.1, 5.0, 0.0, 0.1, 0.0, -0.1, 0.0]
    assert drift([(k * DAY, v) for k, v in enumerate(values)], 0.1) is None


def test_the_threshold_rises_with_how_rare_it_is_to_cry():
    assert threshold(52) < threshold(365) < threshold(8760)
    assert threshold(365, 0.3) < threshold(365, 0.03)


# -- top-ups ----------------------------------------------------------------------------------------------------------


def tops(rng, dries, leak_from=None, more=0.0, days=150):
    rows, at = [], 0.0
    while at < days:
        span = rng.uniform(3, 8)
        extra = more if leak_from is not None and at >= leak_from else 0.0
        rows.append(((at + span) * DAY, (dries * rng.normal(1, 0.12) + extra) * span * DAY))
        at += span
    return rows


def test_leaks_are_told_from_what_dries():
    dries = 2e-3 / DAY
    cried = missed = 0
    for seed in range(100):
        rng = np.random.default_rng(seed)
        quiet = drying(tops(rng, dries * rng.uniform(0.75, 1.3)), 150 * DAY, dries)
        cried += quiet.leaks or quiet.rose
        wet = drying(tops(rng, dries, 110, 1.5 * dries), 150 * DAY, dries)
        missed += not (wet.leaks or wet.rose)
    assert cried <= 10
    assert missed <= 10
    assert drying([(0.0, 1e-3), (DAY, 1e-3)], DAY, dries) is None


# -- why less flows ---------------------------------------------------------------------------------------------------


def put_in(study, places, rng, pump):
    """A fault that costs something, its name, and the water with it; all else as new."""
    state = Broken(study, study.calm)
    state.change.update(clean_pads(study, 1.0))
    if pump:
        put(state, Fault("pump-wear", value=rng.uniform(0.65, 0.82)))
        return "pump", study.settle("t", state.network())
    place = places[int(rng.integers(len(places)))]
    dirt = clean_pads(study, rng.uniform(6, 16))
    state.change.update({k: law for k, law in dirt.items() if k in place.clogs})
    return place.id, study.settle("t", state.network())


@pytest.mark.parametrize("make", [reading_room, cascade])
def test_an_ageing_pump_is_told_from_a_clogging_pad(make):
    """Of forty, with a bucket good to 2 % and a ruler to a millimetre: nine of ten."""
    study = analysed(make())
    places = places_of(study)
    pads = [p for p in places.clogging if "pad" not in p.id]
    pump, right = places.pumps[0], 0
    for seed in range(40):
        rng = np.random.default_rng(seed)
        truth, now = put_in(study, pads, rng, seed % 2 == 0)
        seen = []
        before, after = (abs(s.flow[pump.pump]) for s in (as_new(study), now))
        sure = 0.02 * before
        seen.append(Moved("flow", pump.id, rng.normal(before, sure / 2), rng.normal(after, sure / 1.5), sure))
        for pad in pads:
            a, b = (drop_over(study, pad, s) for s in (as_new(study), now))
            sure = math.hypot(1e-3, 0.06 * b)
            seen.append(Moved("drop", pad.id, rng.normal(a, 1e-3), rng.normal(b, sure), sure))
        found = causes(study, places, seen)
        right += bool(found) and (found[0].place or found[0].kind) == truth
        if found:
            assert sum(c.likely for c in found) == pytest.approx(1.0)
    assert right >= 36


def test_where_nothing_moved_there_is_no_cause():
    study = analysed(reading_room())
    same = Moved("flow", "return", 9e-4, 8.98e-4, 2e-5)
    assert causes(study, places_of(study), [same]) == []
