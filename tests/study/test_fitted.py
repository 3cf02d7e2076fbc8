"""A start corrected by tests: what made the tests is found again, as far as they say anything of it."""

from __future__ import annotations

from dataclasses import replace

import numpy as np
import pytest

from fuente.document import record as records
from fuente.document.record import Entry, Record
from fuente.errors import EntryError
from fuente.life.nitrifiers import GROWTH
from fuente.shown.water_charts import since, starting
from fuente.study.fitted import Seen, fitted
from fuente.study.known import analysed
from fuente.study.weeks import DAY, Start, weeks
from fuente.units import UnitSystem


def read_by(demo, growth, days, start):
    """What tests would have read on some days, to a tenth of a milligram."""
    made = weeks(analysed(demo), 60.0, start, growth=growth)
    read = [
        [round(float(np.interp(d * DAY, made.times, made.of(k, "tank"))) * 1e4) / 1e4 for k in (0, 1)] for d in days
    ]
    return [Seen(d * DAY, a, n, None) for d, (a, n) in zip(days, read, strict=True)], made


@pytest.mark.slow
def test_slower_than_thought_is_found(demo):
    """A fifth of the bacteria at first: the tests of four weeks say so, and by how much it holds later."""
    true, start = replace(GROWTH, seed=0.2 * GROWTH.seed), Start("fishless")
    seen, made = read_by(demo, true, (5, 10, 14, 18, 22, 26), start)
    fit = fitted(analysed(demo), "tank", seen, start, days=60.0)
    assert 0.12 < fit.seed < 0.33
    assert fit.surface == pytest.approx(1.0, abs=0.15)
    usual = weeks(analysed(demo), 60.0, start)
    assert fit.later == pytest.approx(made.ready - usual.ready, abs=1.1 * DAY)


def test_without_a_word_nothing_is_changed(demo):
    """Tests as expected leave what is thought; one alone moves it a little."""
    start = Start("fishless")
    seen, _ = read_by(demo, GROWTH, (5, 10, 15), start)
    fit = fitted(analysed(demo), "tank", seen, start, days=42.0)
    assert fit.seed == pytest.approx(1.0, abs=0.35)
    assert fit.surface == pytest.approx(1.0, abs=0.1)
    with pytest.raises(EntryError, match="Write down"):
        fitted(analysed(demo), "tank", [], start)


def test_tests_find_their_day():
    tests = [
        records.Tested(date="2026-11-03", tank="tank", ammonia=1e-3),
        records.Tested(date="2026-10-30", tank="tank", ammonia=2e-3),
        records.Tested(date="2026-11-03", tank="tank", nitrite=4e-4),
        records.Tested(date="2026-11-04", tank="other", nitrite=4e-4),
    ]
    record = Record().added(Entry(date="2026-11-03", what="power-cut", value=0.02))
    for test in tests:
        record = record.added(test)
    assert [t.date for t in record.tests_of("tank")] == ["2026-10-30", "2026-11-03"]
    assert record.tests_of("tank")[1].ammonia is None  # the later entry of a day stands for the earlier
    assert record.last("power-cut").value == 0.02
    assert since("2026-11-01", record.tests_of("tank")) == (Seen(2.5 * DAY, None, 4e-4, None),)
    assert since("", record.tests_of("tank")) == ()


def test_a_day_that_is_none_is_refused(demo):
    from pydantic import ValidationError

    from fuente.document.system import apply, set_value
    from fuente.errors import FuenteError

    with pytest.raises(ValidationError):
        records.Tested(date="2026-02-30", tank="tank")
    with pytest.raises(FuenteError):
        apply(demo, set_value("Day", ("keeping", "started"), "2026-13-01"))


def test_a_chart_goes_through_them(demo):
    fish = demo.model_copy(update={"keeping": demo.keeping.model_copy(update={"start": "fish"})})
    system = fish.model_copy(update={"keeping": fish.keeping.model_copy(update={"started": "2026-11-01"})})
    tests = (records.Tested(date="2026-11-22", tank="tank", ammonia=0.2e-3, nitrite=0.6e-3, nitrate=12e-3),)
    chart = starting(analysed(system), "tank", UnitSystem.METRIC, tests, days=42.0)
    assert [p.tone for p in chart.points] == ["fall", "pumped", "living"]
    assert chart.points[0].times == pytest.approx((21.5 / 7,))
    assert chart.points[2].values == pytest.approx((1.2,))
    assert chart.says.startswith("Through your tests:")
    at = int(np.searchsorted(chart.times, 21.5 / 7))
    usual = starting(analysed(fish), "tank", UnitSystem.METRIC, days=42.0)
    # Nitrite is further on than expected: the line moves towards the test.
    assert chart.lines[1].values[at] > usual.lines[1].values[at] + 0.02
