"""One pump out: what is left, against the same design without that pump."""

import pytest

from devices_of import FILTERS, swapped
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.devices.base import Rank
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply, set_value
from fuente.findings import findings
from fuente.findings.systems import LEAST_LEFT
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.movers import movers
from fuente.study.sites import new_site


def with_filter(system, kind, tank="tank", **changes):
    spec = FILTERS[kind].first(new_site(system, tank)).model_copy(update=changes)
    return apply(system, add_filter(system, spec))


def codes(system):
    return {f.code: f for f in findings(analysed(system))}


@pytest.fixture
def two():
    """The reading room with a canister on its tank as well."""
    return with_filter(reading_room(), "canister")


def test_one_pump_alone_asks_nothing():
    study = analysed(reading_room())
    assert len(movers(study)) == 1
    assert "pump_out" not in study.names()
    assert not {"pump-out", "pump-out-spills"} & codes(reading_room()).keys()


def test_what_is_left_is_what_the_other_moves(two):
    """Each share against the flow of the pump that is left, in a design where the first one never was."""
    study = analysed(two)
    assert {m.owner for m in movers(study)} == {"return", two.filters[0].id}
    whole = study.moved(study.running, "tank")
    alone = analysed(reading_room())
    by_return = alone.moved(alone.running, "tank") / whole
    canister = next(k.id for k in study.network.links if k.owner == two.filters[0].id and k.b == "tank")
    by_canister = study.running.flow[canister] / whole
    out = study.situation("pump_out")
    assert out.numbers["share"] == pytest.approx(min(by_return, by_canister), abs=0.01)
    other = study.situation("pump_out", two.filters[0].id)
    assert other.numbers["share"] == pytest.approx(by_return, abs=0.01)
    assert out.numbers["spilled"] == 0
    assert out.verdict.rank is None


def test_a_tank_that_hangs_on_one_of_two_pumps_is_told(two):
    found = codes(two)
    share = analysed(two).situation("pump_out").numbers["share"]
    weak = next(iter(two.filters)).id
    assert share > LEAST_LEFT
    assert "pump-out" not in found
    path = ("devices", weak, "pump", "speed")
    slow = next(
        apply(two, set_value("x", path, v / 100)) for v in range(60, 10, -5) if _share(two, path, v) < LEAST_LEFT
    )
    finding = codes(slow)["pump-out"]
    assert finding.rank is Rank.CONSIDER
    assert finding.owner == "return"
    assert finding.values["share"] == pytest.approx(analysed(slow).situation("pump_out").numbers["share"])
    assert finding.margin == pytest.approx(finding.values["share"] - LEAST_LEFT)


def _share(system, path, percent):
    return analysed(apply(system, set_value("x", path, percent / 100))).situation("pump_out").numbers["share"]


def test_a_fifth_of_its_flow_is_where_it_begins(two):
    """Told under a fifth and not over it, by the number and not by the rule's own."""
    assert LEAST_LEFT == 0.2
    path = ("devices", two.filters[0].id, "pump", "speed")
    seen = {}
    for percent in range(70, 15, -5):
        slow = apply(two, set_value("x", path, percent / 100))
        seen[analysed(slow).situation("pump_out").numbers["share"]] = "pump-out" in codes(slow)
    assert {told for share, told in seen.items() if share > 0.2} == {False}
    assert {told for share, told in seen.items() if share < 0.2} == {True}


def test_a_vessel_that_only_a_pump_empties_floods_when_that_stands():
    """A plant bed that one pump fills and another one empties."""
    bare = System(devices=(Tank(length=2.0, width=0.8, height=0.8, thickness=0.015, stand=0.3),))
    spec = FILTERS["plant_bed"].first(new_site(bare, "tank"))
    end = spec.drain.model_copy(update={"way": "pump", "spare": 0.0})
    filled = spec.model_copy(update={"feed": spec.feed.model_copy(update={"way": "pump"}), "drain": end})
    system = swapped(bare, filled)
    study = analysed(system)
    assert len(movers(study)) == 2
    out = study.situation("pump_out")
    assert out.numbers["spilled"] > 1e-3
    finding = codes(system)["pump-out-spills"]
    assert finding.rank is Rank.STOP
    assert finding.values["spilled"] == pytest.approx(out.numbers["spilled"])


def test_air_pumps_count_as_pumps():
    system = nursery()
    assert len(movers(analysed(system))) == 1
    system = with_filter(system, "canister", "tub-1")
    study = analysed(system)
    assert [m.owner for m in movers(study)][-1] == "air"
    assert len(movers(study)) == 2
    out = study.situation("pump_out")
    assert out.numbers["share"] == pytest.approx(0.0, abs=1e-6)  # the other tubs have air alone
    assert out.verdict.rank is Rank.CONSIDER


def test_turnover_of_a_tank_that_only_its_filters_move():
    """Half of what is wanted is told with its number; the finding ends nine tenths of the wish off."""
    system = nursery()
    study = analysed(system)
    turns = {t.id: study.moved(study.running, t.id) / study.running.volume[t.id] for t in system.tanks}
    least = min(turns.values())
    wish = least / 0.9
    path = ("space", "turnover")
    assert "turnover-slow" not in codes(apply(system, set_value("x", path, wish * 0.999)))
    told = codes(apply(system, set_value("x", path, wish * 1.001)))["turnover-slow"]
    assert told.values["got"] == pytest.approx(least, rel=1e-6)
    assert turns[told.owner] == least


def test_a_return_is_judged_with_what_else_moves_its_tank(two):
    """What the canister moves need not come from the return."""
    study, alone = analysed(two), analysed(reading_room())
    volume = study.running.volume["tank"]
    both = study.moved(study.running, "tank") / volume
    one = alone.moved(alone.running, "tank") / alone.running.volume["tank"]
    wish = set_value("x", ("space", "turnover"), (both + one) / 2 / 0.9)
    assert "turnover" in codes(apply(reading_room(), wish))
    assert "turnover" not in codes(apply(two, wish))
