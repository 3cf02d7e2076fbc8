"""The load of the feed against the living surface in the filters."""

import pytest

from devices_of import sumps
from fuente.demo.cascade import cascade
from fuente.document.system import apply, set_value
from fuente.findings import findings
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.loads import living_surface

DAY = 86400.0


def fed(demo, grams):
    return Analysis(apply(demo, set_value("x", ("devices", "tank", "feed"), grams * 1e-3 / DAY)))


def codes(analysis):
    return {f.code: f for f in findings(analysis)}


def test_surface_is_that_of_carriers_and_foam(demo):
    """11 L of wheels at 500 m²/m³, and the wet part of three pads at 900, 1 400 and 2 400."""
    analysis = Analysis(demo)
    everything = {c.id for c in analysis.network.cells}
    wet = 0.384 * 0.284
    foam = wet * (0.05 * 900 + 0.05 * 1400 + 0.025 * 2400)
    assert living_surface(analysis, everything) == pytest.approx(11e-3 * 500 + foam, rel=1e-6)
    assert living_surface(analysis, set()) == 0


def test_more_feed_wants_more_surface_and_says_how_much(demo):
    assert "surface-short" not in codes(fed(demo, 6))
    short = codes(fed(demo, 400))["surface-short"]
    assert short.values["nitrogen"] == pytest.approx(400e-3 / DAY * 0.45 * 0.092)
    assert short.values["need"] > short.values["have"]
    assert short.margin == pytest.approx(short.values["have"] - short.values["need"])


def test_carriers_are_added_up_to_two_thirds(demo):
    found = codes(fed(demo, 400))["surface-short"]
    assert found.action == "Add carriers"
    (change,) = found.edit.changes
    assert change.value > sumps(demo)[0].chambers[2].fill.volume
    assert change.value <= 2 / 3 * 0.22 * 0.384 * 0.27 + 1e-4


def test_without_feed_nothing_is_said(demo):
    analysis = fed(demo, 0)
    assert "surface-short" not in codes(analysis)
    assert all(r.label != "Ammonia made" for s in stations(analysis) for r in s.readings)


def test_the_card_says_what_the_feed_makes():
    card = next(s for s in stations(Analysis(cascade())) if s.id == "tank")
    made = next(r for r in card.readings if r.label == "Ammonia made")
    assert made.value * DAY * 1e3 == pytest.approx(5 * 0.45 * 0.092)


def test_the_load_is_judged_once_for_two_sumps():
    system = apply(cascade(), set_value("x", ("devices", "tank", "feed"), 900e-3 / DAY))
    found = [f for f in findings(Analysis(system)) if f.code == "surface-short"]
    assert len(found) == 1
