"""After a cleaning, and with a pump out: what the rest carries."""

from __future__ import annotations

import pytest
from scipy.integrate import solve_ivp

from devices_of import FILTERS
from fuente.demo.cascade import cascade
from fuente.demo.reading_room import reading_room
from fuente.document.system import apply, set_value
from fuente.life.inputs import AMMONIA, NITRITE, OXYGEN
from fuente.shown.carrying import carrying
from fuente.study.cleaned import DAY, LOST, cleaned, largest
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.limits import Limits
from fuente.study.sites import new_site
from fuente.units import UnitSystem


@pytest.fixture(scope="module")
def limits():
    return Limits(analysed(reading_room()))


def test_the_largest_are_those_that_turn_over_most(limits):
    turned = dict(zip([p.id for p in limits.base.places], limits.living.turned(limits.now)[0], strict=True))
    first, second = largest(limits)
    assert (
        turned[first] >= turned[second] >= max((v for k, v in turned.items() if k not in (first, second)), default=0.0)
    )


def test_nothing_lost_is_nothing_changed(limits):
    found = cleaned(limits, lost=0.0)
    usual = [float(limits.living.of(limits.now, w)[limits.base.tanks["tank"]]) for w in (AMMONIA, NITRITE)]
    assert found.ammonia == pytest.approx(usual[0], rel=1e-3)
    assert found.nitrite == pytest.approx(usual[1], rel=1e-3)
    assert found.over == 0.0


def test_the_feed_right_after_by_films_that_stand(limits):
    """At that feed, films held, the first of all limits is met in the tank, and by hand the films turn it over."""
    found, living = cleaned(limits), limits.living
    y = limits.now.copy()
    for k, place in enumerate(limits.base.places):
        if place.id in found.places:
            y[living.grown_a.start + k] *= 1 - LOST
            y[living.grown_n.start + k] *= 1 - LOST
    # Apart from the solver of limits: the water followed by an integrator of its own at that feed, films held.
    held = living.fed(found.feed / limits.base.fed)

    def rates(_, values):
        change = held.rates(values)
        change[8 * living.n :] = 0.0
        return change

    y = solve_ivp(rates, (0.0, 40 * DAY), y, method="Radau", rtol=1e-7, atol=1e-10).y[:, -1]
    tank, keeping = limits.base.tanks["tank"], limits.study.system.keeping
    ammonia, nitrite, oxygen = (float(living.of(y, w)[tank]) for w in (AMMONIA, NITRITE, OXYGEN))
    worst = max(ammonia / keeping.ammonia_limit, nitrite / keeping.nitrite_limit)
    assert worst == pytest.approx(1.0, rel=0.002)
    assert oxygen > keeping.oxygen_limit
    assert found.feed < limits.carries.feed


def test_more_lost_carries_less_and_rises_higher(limits):
    some, most = cleaned(limits, lost=0.4), cleaned(limits, lost=0.9)
    assert most.feed < some.feed
    assert most.ammonia > some.ammonia
    one = cleaned(limits, places=largest(limits, 1))
    assert one.feed > cleaned(limits).feed


def test_the_peaks_come_in_order_and_are_those_of_the_curve(limits):
    found = cleaned(limits)
    assert 0 < found.ammonia_day <= found.nitrite_day < 14
    fed = cascade()
    much = Limits(analysed(apply(fed, set_value("", ("devices", "tank", "feed"), 8 * fed.tanks[0].fed))))
    hard = cleaned(much, lost=0.95)
    keeping = much.study.system.keeping
    assert hard.ammonia > keeping.ammonia_limit
    assert 0 < hard.over < 42


def test_a_pump_out_has_a_row_and_carries_less():
    system = reading_room()
    spec = FILTERS["canister"].first(new_site(system, "tank"))
    study = analysed(apply(system, add_filter(system, spec)))
    rows = {r.label: r.value for _, part in carrying(study, UnitSystem.METRIC).parts for r in part}
    outs = [label for label in rows if label.startswith("With ") and label.endswith(" out")]
    assert len(outs) == 2
    whole = Limits(study).carries.feed
    assert Limits(study, "pump_out", about="return").carries.feed < whole
    assert any("Right after the two largest" in label for label in rows)


def test_a_water_that_nobody_changes_has_an_answer_too():
    """Nitrate then rises without end; what is carried hardly depends on it, and a power cut begins from live films."""
    system = apply(reading_room(), set_value("", ("keeping", "share"), 0.0))
    found = carrying(analysed(system), UnitSystem.METRIC)
    words = {r.label: r.value for r in found.water}
    assert words["Nitrate (NO₃)"] == "keeps rising"
    whole = Limits(analysed(reading_room())).carries.feed
    assert Limits(analysed(system)).carries.feed == pytest.approx(whole, rel=0.02)
    water = Limits(analysed(system)).base
    assert water.worst(water.mature())["tank"][0] < 1e-4
