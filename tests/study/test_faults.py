"""One model of what can go wrong: the same fault settled and in time, and what a fault must not touch."""

from __future__ import annotations

import gc

import pytest

from fuente.demo import DEMOS
from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.errors import EntryError
from fuente.network.duct import PumpDuct
from fuente.network.ducts import Ducts
from fuente.network.laws import Pad, Sheet
from fuente.network.returning import ReturnLine
from fuente.study.analysis import Analysis
from fuente.study.breaking import AIR, Broken, Fault
from fuente.study.effects import clean_pads
from fuente.study.faults import KINDS, broken, fits, put, read_fault
from fuente.study.situations import SITUATIONS, applying
from fuente.study.trials import TRIALS, standard_trials
from fuente.study.wet_test import broken_in_time, run, solution_at


@pytest.mark.parametrize("name", DEMOS)
def test_no_fault_leaves_the_network_as_it_is(name):
    analysis = Analysis(DEMOS[name]())
    same = broken(analysis, (), analysis.whole)
    assert same.cells == analysis.whole.cells
    assert [k.law for k in same.links] == [k.law for k in analysis.whole.links]


def test_every_fault_says_where_it_applies():
    tank_only, rack = Analysis(reading_room()), Analysis(back_room())
    assert not fits(tank_only, "tank-drain-block")
    assert fits(rack, "tank-drain-block")
    assert fits(Analysis(cascade()), "float-open")
    assert not fits(tank_only, "float-open")
    assert fits(Analysis(nursery()), "air-worn")
    assert not fits(rack, "air-worn")
    assert fits(Analysis(trough()), "filter-pipe-block")
    assert not fits(tank_only, "filter-pipe-block")


def test_faults_that_undo_each_other(solved):
    state = Broken(solved, solved.whole)
    put(state, Fault("power-cut"))
    assert all(not k.law.on for k in state.network().links if isinstance(k.law, ReturnLine))
    put(state, Fault("power-return"))
    assert all(k.law.on for k in state.network().links if isinstance(k.law, ReturnLine))


def test_the_last_word_on_one_thing_holds_and_others_add_up(solved):
    made = broken(
        solved, (Fault("pump-wear", value=0.8), Fault("pump-wear", value=0.5), Fault("drain-block")), solved.whole
    )
    pump = next(k.law for k in made.links if isinstance(k.law, ReturnLine))
    assert pump.curve.wear == pytest.approx(0.5)
    shares = [k.law.open_share for k in made.links if k.kind == "drain"]
    assert shares.count(0.0) == 2
    assert shares.count(1.0) == 1  # the emergency drain stays


def test_one_pump_of_two_sticks():
    system = cascade()
    analysis = Analysis(system)
    for number, expected in ((0.0, False), (1.0, False)):
        made = broken(analysis, (Fault("pump-stuck", value=number),), analysis.whole)
        pumps = [d for g in made.groups if isinstance(g, Ducts) for d in g.ducts if isinstance(d, PumpDuct)]
        assert pumps[0].on is expected


def test_pads_clog_from_clean_whatever_dirt_they_hold(demo):
    """A pad at three times its loss and a clean one come out alike at 25 times the clean loss."""
    from fuente.document.system import apply, set_value

    path = ("devices", "sump", "chambers", 1, "pads", 0, "dirt")
    clean, dirty = Analysis(demo), Analysis(apply(demo, set_value("x", path, 3.0)))
    a, b = clean_pads(clean, 25.0), clean_pads(dirty, 25.0)
    assert a.keys() == b.keys()
    for key in a:
        if isinstance(a[key], Pad | Sheet):
            assert a[key].medium.permeability == pytest.approx(b[key].medium.permeability, rel=1e-12)
            assert a[key].medium.inertia == pytest.approx(b[key].medium.inertia, rel=1e-12)


def test_a_bed_of_media_in_a_sump_does_not_count_as_a_pad(demo):
    from fuente.devices.sump.spec import Baffle, Chamber, Fill
    from fuente.document.system import apply, set_value

    rows = demo.device("sump").chambers
    media = Chamber(id="media", role="media", width=0.1, fill=Fill(medium="ring", volume=0.008), exit=Baffle(top=0.26))
    analysis = Analysis(apply(demo, set_value("x", ("devices", "sump", "chambers"), (*rows[:3], media, rows[4]))))
    assert "sump.media.bed" in analysis.laws
    assert "sump.media.bed" not in clean_pads(analysis, 25.0)
    analysis.situation("pads_dirty")


@pytest.mark.parametrize("name", ["power_cut", "valve_leaks", "drain_blocked", "pads_dirty"])
def test_a_situation_is_where_the_wet_test_of_its_faults_ends(name):
    """Drip and float are left out of a situation; the reading room has neither."""
    analysis = Analysis(reading_room())
    faults = {
        "power_cut": (Fault("power-cut", 1), Fault("check-valve-leak", 1, 0.0)),
        "valve_leaks": (Fault("power-cut", 1), Fault("check-valve-leak", 1, 1.0)),
        "drain_blocked": (Fault("drain-block", 1, 1.0),),
        "pads_dirty": (Fault("pads-clog", 1, 25.0),),
    }[name]
    test = run(analysis, faults, 4000.0)
    settled = analysis.situation(name).solution
    for cell in analysis.network.cells:
        if not cell.sink:
            assert test.history.level(cell.id)[-1] == pytest.approx(settled.level[cell.id], abs=4e-4), cell.id


def test_evaporation_takes_its_rate_from_open_water():
    analysis = Analysis(reading_room())
    test = run(analysis, (Fault("evaporation", 0.0, 100.0),), 3600.0)
    lost = float(test.history.volumes[-1, test.history.network.index[AIR]])
    assert lost == pytest.approx(100 * analysis.evaporation_rate() * 3600, rel=1e-3)
    assert test.spilled == 0


def test_networks_of_a_run_have_the_same_cells(solved):
    found = broken_in_time(solved, (Fault("power-cut", 1), Fault("chamber-out", 5, 2.0), Fault("evaporation", 9)))
    assert len({tuple(c.id for c in n.cells) for n in found}) == 1


def test_each_moment_has_its_own_flow(solved):
    """Flows of passing solutions are their own, though one lies where another lay in memory."""
    test = run(solved, (Fault("power-cut", 60),), 300.0)
    flows = []
    for t in (10.0, 100.0, 20.0, 200.0):
        flows.append(solved.through(solution_at(solved, test, t), "sump"))
        gc.collect()
    assert flows[0] == pytest.approx(flows[2], rel=1e-6)
    assert flows[0] > 10 * max(flows[1], flows[3])


def test_situations_and_trials_ask_only_for_what_is_there():
    for make in DEMOS.values():
        analysis = Analysis(make())
        assert set(applying(analysis)) <= set(SITUATIONS)
        for trial in standard_trials(analysis):
            assert all(fits(analysis, f.kind) for f in trial.faults)
    assert {f.kind for t in TRIALS for f in t.faults} <= set(KINDS)


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("", "is not a fault"),
        ("flood@3", "no fault"),
        ("power-cut@3=1", "no number"),
        ("pump-wear@3=7", "from 0.05 to 1"),
        ("power-cut@9999999", "within a week"),
        ("drain-block@1=1.2.3", "cannot be read"),
    ],
)
def test_a_bad_fault_is_said(text, words):
    with pytest.raises(EntryError, match=words):
        read_fault(text)
    assert read_fault("drain-block@3=0.5") == Fault("drain-block", 3.0, 0.5)


@pytest.mark.parametrize(
    ("kind", "value"), [("tank-drain-block", 99.0), ("chamber-out", 99.0), ("filter-pipe-block", 99.0)]
)
def test_a_number_beyond_what_is_there_is_said(kind, value):
    analysis = Analysis(trough()) if kind.startswith("filter") else Analysis(back_room())
    with pytest.raises(EntryError, match="There is no"):
        broken(analysis, (Fault(kind, 0, value),), analysis.whole)
