"""Edits by which a single tank becomes a system of more: each is undone by its like, runs, and keeps its water."""

import pytest

from devices_of import hang_ons, overflows, returns, sumps, top_ups
from fuente.devices.recipes.growing import box_instead, hang_on_instead, manifold_instead, sump_in_front
from fuente.document.system import apply
from fuente.errors import EntryError
from fuente.findings import findings
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis


def test_a_hang_on_takes_the_box_s_place_and_gives_it_back(demo, solved):
    hung = Analysis(apply(demo, hang_on_instead(demo.by_id, "overflow")))
    assert hung.running.kind_flow("siphon") == pytest.approx(hung.running.kind_flow("pump"), rel=1e-9)
    assert hung.running.kind_flow("pump") == pytest.approx(solved.running.kind_flow("pump"), rel=0.03)
    assert not {f.code for f in findings(hung)} & {"siphon-breaks", "running-spill", "no-state"}
    assert "low air hole" not in " ".join(f.text for f in findings(hung))
    boxed = Analysis(apply(hung.system, box_instead(hung.system.by_id, "hang-on")))
    assert hang_ons(boxed.system) == ()
    assert boxed.running.imbalance < 1e-12


def test_more_water_over_one_way_out_is_a_stop(demo):
    """A second sump holds more than the tank can take: blocked, the hang-on has no emergency beside it."""
    hung = apply(demo, hang_on_instead(demo.by_id, "overflow"))
    more = Analysis(apply(hung, sump_in_front(hung.by_id, "sump")))
    codes = {f.code: f for f in findings(more)}
    spilled = more.situation("drain_blocked").numbers["spilled"]
    assert spilled > 1e-3
    assert codes["hang-on-blocked"].rank == 0
    assert codes["hang-on-blocked"].values["spilled"] == pytest.approx(spilled)
    if codes["hang-on-blocked"].edit:
        lower = Analysis(apply(more.system, codes["hang-on-blocked"].edit))
        assert lower.situation("drain_blocked").numbers["spilled"] < 0.2 * spilled


def test_a_sump_in_front_takes_the_drains(demo):
    grown = Analysis(apply(demo, sump_in_front(demo.by_id, "sump")))
    assert [d.id for d in sumps(grown.system)] == ["sump-2", "sump"]
    assert overflows(grown.system)[0].into == "sump-2"
    run = grown.running
    assert run.flow["join.line"] == pytest.approx(run.kind_flow("pump"), rel=1e-9)
    assert run.level["sump-2.rest"] > run.level["sump.socks.0"]
    assert grown.situation("power_cut").solution.total == pytest.approx(run.total, rel=1e-9)
    names = [s.id for s in stations(grown)]
    assert names.index("sump-2.inlet") < names.index("join") < names.index("sump.socks")


def test_a_return_becomes_a_manifold_that_takes_a_loop(demo, solved):
    grown = Analysis(apply(demo, manifold_instead(demo.by_id, "return")))
    assert returns(grown.system) == ()
    assert grown.running.kind_flow("branch") == pytest.approx(solved.running.kind_flow("pump"), rel=0.15)
    card = next(s for s in stations(grown) if s.id == "manifold")
    looped = Analysis(apply(grown.system, dict(card.commands())["Add a steriliser loop"]))
    assert looped.running.kind_flow("loop") > 1e-5


def test_every_command_of_every_station_is_buildable(demo):
    for station in stations(Analysis(demo)):
        for _, edit in station.commands() if station.commands else ():
            try:
                assert Analysis(apply(demo, edit)).running.imbalance < 1e-9
            except EntryError as error:  # a chamber that leaves no room says so
                assert str(error).endswith(".")


def test_a_drip_brings_its_way_to_waste(demo):
    card = next(s for s in stations(Analysis(demo)) if s.id == "return")
    topped = apply(demo, dict(card.commands())["Add a top-up"])
    card = next(s for s in stations(Analysis(topped)) if s.id == "top-up-1")
    source = next(c for c in card.choices if c.label == "From")
    dripping = apply(topped, source.make("drip"))
    assert top_ups(dripping)[0].waste
    assert Analysis(dripping).running.kind_flow("waste") == pytest.approx(top_ups(dripping)[0].drip, rel=1e-6)
