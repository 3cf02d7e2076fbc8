"""Wet tests of whole installations: what breaks in a rack, a cascade, a hang-on, a top-up."""

import numpy as np
import pytest

from amounts import LPH
from devices_of import FILTERS, swapped, top_ups, without
from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.starter import bare
from fuente.demo.trough import trough
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.top_up.spec import TopUp
from fuente.document.system import apply, set_value
from fuente.errors import EntryError
from fuente.findings import findings
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.faults import KINDS, fits
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.study.trials import standard_trials
from fuente.study.wet_test import run, solution_at


@pytest.fixture(scope="module")
def rack():
    return Analysis(back_room())


@pytest.fixture(scope="module")
def falls():
    return Analysis(cascade())


def with_hang_on(**change):
    """The reading-room tank with a hang-on overflow in place of its box."""
    system = reading_room()
    box = HangOn(crest=0.492, weir=0.3, tubes=2, pipe="40-pn10", tube="40-pn10", **change)
    return swapped(without(system, "overflow"), box)


def closed_and_twin():
    """A bare tank with a canister, and a foam wall of two pads."""
    system = bare()
    for kind, own in (("canister", {}), ("foam_wall", {"twin": "twin", "drive": "pump"})):
        first = FILTERS[kind].first(new_site(system, "tank"))
        system = apply(system, add_filter(system, first.model_copy(update=own)))
    return system


RACKED = ("power-cut", "tank-drain-block", "header-block", "join-block", "hose-off", "pump-stuck")


def kept(test):
    total = test.history.volumes.sum(axis=1)
    return abs(total - total[0]).max() / total[0]


def some_value(kind):
    return kind.default if kind.name != "pads-clog" else 40.0


@pytest.mark.parametrize("name", KINDS)
def test_every_fault_keeps_the_water_and_the_floors(name, rack, falls):
    analysis = rack if name in RACKED else Analysis(with_hang_on()) if name == "siphon-lost" else falls
    if name.startswith("air-"):
        analysis = Analysis(nursery())
    if name in ("pad-out", "intake-hose-off", "outlet-hose-off", "lid-leak"):
        analysis = Analysis(closed_and_twin())
    if name == "filter-pipe-block":
        analysis = Analysis(trough())
    assert fits(analysis, name)
    faults = [Fault(name, 10, some_value(KINDS[name]))]
    if name == "power-return":
        faults.insert(0, Fault("power-cut", 5, 1))
    test = run(analysis, faults, 150.0)
    assert kept(test) < 1e-9
    for i, cell in enumerate(test.history.network.cells):
        if not cell.sink:
            assert test.history.levels[:, i].min() >= cell.floor - 1e-9


@pytest.mark.parametrize("situation", ["power_cut", "valve_leaks", "pads_dirty"])
def test_the_end_is_the_matching_situation(situation, rack, falls):
    faults = {
        "power_cut": [Fault("power-cut", 5, 1), Fault("check-valve-leak", 5, 0.0)],
        "valve_leaks": [Fault("power-cut", 5, 1), Fault("check-valve-leak", 5, 1.0)],
        "pads_dirty": [Fault("pads-clog", 5, 25.0)],
    }[situation]
    analysis = rack
    if situation != "power_cut":
        analysis = Analysis(without(falls.system, top_ups(falls.system)[0].id))
    test = run(analysis, faults, 2 * 3600.0)
    wanted = analysis.situation(situation).solution
    for cell in analysis.network.cells:
        if not cell.sink:
            # A film drains for hours over a mouth: what is left is under a millimetre.
            assert test.history.level(cell.id)[-1] == pytest.approx(wanted.level[cell.id], abs=1e-3), cell.id


def test_halving_the_step_moves_no_peak(rack):
    faults = [Fault("power-cut", 5, 1), Fault("check-valve-leak", 5, 1.0), Fault("power-return", 120, 1)]
    coarse = run(rack, faults, 240.0)
    fine = run(rack, faults, 240.0, tolerance=1e-4)
    for cell in rack.network.cells:
        if not cell.sink:
            assert coarse.history.peak(cell.id)[0] == pytest.approx(fine.history.peak(cell.id)[0], abs=5e-4), cell.id


def test_one_blocked_drain_floods_one_tank(rack):
    test = run(rack, [Fault("tank-drain-block", 10, 7.0)], 1800.0)  # the seventh tank is B1
    history = test.history
    assert test.spilled > 0.01
    assert history.peak("rack-2-1")[0] > rack.network.cell("rack-2-1").rim
    assert history.peak("rack-2-2")[0] < rack.network.cell("rack-2-2").rim - 0.02
    assert test.verdict.rank == 0


def test_second_drains_hold_it(rack):
    (found,) = [f for f in findings(rack) if f.code == "tank-drain-blocked"]
    mended = Analysis(apply(rack.system, found.edit), rack)
    test = run(mended, [Fault("tank-drain-block", 10, 0.0)], 1800.0)
    assert test.spilled == 0


def test_half_a_common_drain_backs_up_and_is_seen(rack):
    test = run(rack, [Fault("header-block", 10, 0.8)], 900.0)
    rise = test.history.level("rack-drain")[-1] - rack.running.level["rack-drain"]
    assert rise > 0.02


def test_a_blocked_join_starves_the_pump(rack):
    test = run(rack, [Fault("join-block", 10, 1.0)], 900.0)
    assert test.dry
    assert test.history.peak("settling.still")[0] > rack.running.level["settling.still"] + 0.05


def test_one_of_two_pumps_sticks(rack):
    (found,) = [f for f in findings(rack) if f.code == "single-pump"]
    double = Analysis(apply(rack.system, found.edit))
    test = run(double, [Fault("pump-stuck", 10, 1.0)], 300.0)
    first, second = test.history.flow("rack-manifold.pump"), test.history.flow("rack-manifold.pump-2")
    assert first[-1] <= 0  # its valve lets a little back
    assert second[-1] > second[0] * 1.1  # the other one takes over part of it
    assert "one-pump" in {t.id for t in standard_trials(double)}


def test_a_hose_off_puts_the_pump_chamber_on_the_floor(rack):
    test = run(rack, [Fault("hose-off", 10, 1)], 600.0)
    assert test.spilled > 0.03
    assert test.history.flow("rack-manifold.to.rack-4-1")[-1] == pytest.approx(0.0, abs=1e-9)


def test_a_float_stuck_open_lets_the_reservoir_in(falls):
    test = run(falls, [Fault("float-open", 10, 1)], 3600.0)
    let_in = np.trapezoid(test.history.flow("top-up.valve"), test.history.times)
    assert let_in == pytest.approx(0.025, rel=0.02)
    assert test.history.level("top-up.source")[-1] == pytest.approx(0.03 + 0.21 + 0.5, abs=0.006)
    assert test.spilled == 0


def test_a_float_makes_up_what_is_taken(falls):
    test = run(falls, [Fault("joint-weep", 10, 30.0)], 1800.0)
    assert test.history.flow("top-up.valve")[-1] == pytest.approx(30 * LPH, rel=0.1)
    stuck = run(falls, [Fault("float-shut", 5, 1), Fault("joint-weep", 10, 30.0)], 1800.0)
    assert stuck.history.flow("top-up.valve")[-1] == 0
    assert stuck.history.level("lower.pump")[-1] < test.history.level("lower.pump")[-1] - 0.02


def test_mains_stuck_open_without_a_way_to_waste_is_a_stop(falls):
    mains = TopUp(id="mains", into="lower", source="mains", level=0.21, most=60 * LPH)
    system = swapped(falls.system, mains)
    codes = {f.code: f for f in findings(Analysis(system))}
    assert codes["top-up-mains"].rank == 0
    mended = apply(system, codes["top-up-mains"].edit)
    test = run(Analysis(mended), [Fault("float-open", 10, 1)], 3 * 3600.0)
    assert test.spilled == 0
    assert kept(test) < 1e-9
    without = run(Analysis(system), [Fault("float-open", 10, 1)], 3 * 3600.0)
    assert without.spilled > 0.02


def test_a_hang_on_that_waits_starts_again():
    analysis = Analysis(with_hang_on())
    running = analysis.running
    assert running.kind_flow("siphon") == pytest.approx(running.kind_flow("pump"), rel=1e-9)
    test = run(analysis, [Fault("power-cut", 10, 1), Fault("power-return", 310, 1)], 1200.0)
    tubes = test.history.flow("hang-on.siphon.0") + test.history.flow("hang-on.siphon.1")
    assert tubes[-1] == pytest.approx(running.kind_flow("siphon"), rel=0.01)
    assert "siphon-breaks" not in {f.code for f in findings(analysis)}


def test_a_hang_on_that_breaks_floods_the_tank():
    analysis = Analysis(with_hang_on())
    faults = [Fault("power-cut", 10, 1), Fault("power-return", 70, 1), Fault("siphon-lost", 70, 1)]
    test = run(analysis, faults, 1200.0)
    assert test.history.flow("hang-on.siphon.0")[-1] == 0
    assert test.history.level("tank")[-1] > analysis.running.level["tank"] + 0.01
    assert "siphon-lost" in {t.id for t in standard_trials(analysis)}
    bad = Analysis(with_hang_on(stand=0.14))
    (found,) = [f for f in findings(bad) if f.code == "siphon-breaks"]
    assert found.rank == 0
    assert "siphon-breaks" not in {f.code for f in findings(Analysis(apply(bad.system, found.edit)))}


def test_a_moment_of_a_run_reads_like_a_solution(rack):
    test = run(rack, [Fault("power-cut", 30, 1)], 120.0)
    before, after = solution_at(rack, test, 20.0), solution_at(rack, test, 110.0)
    assert before.kind_flow("pump") == pytest.approx(rack.running.kind_flow("pump"), rel=1e-6)
    assert after.kind_flow("pump") <= 0


def test_trials_suit_the_system(rack, falls):
    assert {t.id for t in standard_trials(rack)} >= {"tank-drain-blocked", "header-half", "cut-and-return"}
    assert "float-open" in {t.id for t in standard_trials(falls)}
    assert "header-half" not in {t.id for t in standard_trials(falls)}


def test_a_tank_that_is_not_there_is_a_sentence(rack):
    with pytest.raises(EntryError, match="no tank 99"):
        run(rack, [Fault("tank-drain-block", 10, 99.0)], 60.0)


def test_what_is_not_there_cannot_break(rack):
    with pytest.raises(EntryError, match="nothing that float-open"):
        run(rack, [Fault("float-open", 10, 1)], 60.0)


def test_wear_is_one_of_the_pump_and_of_the_fault(rack):
    worn = apply(rack.system, set_value("x", ("devices", "rack-manifold", "feeders", 0, "pump", "wear"), 0.9))
    analysis = Analysis(worn, rack)
    assert analysis.running.kind_flow("pump") < rack.running.kind_flow("pump")
    test = run(analysis, [Fault("pump-wear", 10, 0.9)], 120.0)
    assert test.history.flow("rack-manifold.pump")[-1] < analysis.running.kind_flow("pump")
