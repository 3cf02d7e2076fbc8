"""Faults on the demo: ends that agree with the situations, water kept, and sentences for bad faults."""

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from devices_of import overflows
from fuente.demo.reading_room import reading_room
from fuente.errors import EntryError
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.faults import KINDS, fits, read_fault
from fuente.study.trials import standard_trials, trials
from fuente.study.wet_test import run, solution_at


@pytest.mark.parametrize(
    ("faults", "situation"),
    [
        ([Fault("power-cut", 0, 1), Fault("check-valve-leak", 0, 1.0)], "valve_leaks"),
        ([Fault("power-cut", 0, 1), Fault("check-valve-leak", 0, 0.0)], "power_cut"),
        ([Fault("drain-block", 0, 1.0)], "drain_blocked"),
        ([Fault("pads-clog", 0, 25.0)], "pads_dirty"),
    ],
)
def test_ends_where_the_situation_stands(solved, faults, situation):
    end = solved.situation(situation).solution
    test = run(solved, faults, 6 * 3600.0)
    for i, cell in enumerate(test.history.network.cells):
        if not cell.sink:
            assert test.history.levels[-1, i] == pytest.approx(end.level[cell.id], abs=4e-4), cell.id


def test_nothing_broken_nothing_moves(solved):
    test = run(solved, [], 600.0)
    assert np.ptp(test.history.levels, axis=0).max() < 1e-6
    assert test.still == 0.0
    assert test.verdict.rank is None


def test_power_returns_and_the_levels_come_back(solved):
    test = run(
        solved, [Fault("power-cut", 5, 1), Fault("check-valve-leak", 5, 0.0), Fault("power-return", 305, 1)], 3000.0
    )
    for cell in ("tank", "sump.pump", "sump.bed"):
        assert test.history.level(cell)[-1] == pytest.approx(solved.running.level[cell], abs=5e-4)


def test_hose_off_empties_the_pump_chamber_onto_the_floor(solved):
    test = run(solved, [Fault("hose-off", 10, 1)], 600.0)
    assert test.spilled > 0.008
    assert test.verdict.rank == 0
    assert test.dry


def test_a_weep_is_what_it_says(solved):
    test = run(solved, [Fault("joint-weep", 0, 30.0)], 600.0)
    assert test.spilled == pytest.approx(30e-3 / 6, rel=1e-3)


def test_a_finer_run_agrees(solved):
    faults = [Fault("power-cut", 30, 1), Fault("check-valve-leak", 30, 1.0)]
    coarse, fine = run(solved, faults, 600.0), run(solved, faults, 600.0, tolerance=1e-4)
    assert coarse.sump_margin == pytest.approx(fine.sump_margin, abs=5e-4)


def test_moment_is_a_solution_that_screens_can_draw(solved):
    test = run(solved, [Fault("power-cut", 30, 1), Fault("check-valve-leak", 30, 1.0)], 300.0)
    before, after = solution_at(solved, test, 10.0), solution_at(solved, test, 60.0)
    assert before.flow["return.pump"] > 0
    assert after.flow["return.pump"] < 0
    assert after.level["tank"] < before.level["tank"]


def test_trials_judge_the_demo_and_the_mended_demo(demo):
    from fuente.document.system import apply
    from fuente.findings import judge

    by = {r.trial.id: r for r in trials(Analysis(demo))}
    assert by["cut-valve-tight"].passed
    assert not by["cut-valve-open"].passed
    for finding in [f for f in judge(demo) if f.rank < 2]:
        demo = apply(demo, finding.edit)
    assert all(r.passed for r in trials(Analysis(demo)))


def test_without_emergency_the_trial_closes_the_drain(demo):
    from fuente.document.system import apply, set_value

    alone = apply(demo, set_value("x", ("devices", "overflow", "drains"), overflows(demo)[0].drains[:1]))
    assert any(t.faults[0].kind == "all-drains-block" for t in standard_trials(Analysis(alone)))


@pytest.mark.parametrize(
    ("text", "words"),
    [
        ("power-cut", "write it as"),
        ("flood@3", "no fault “flood”"),
        ("power-cut@3=2", "takes no number"),
        ("check-valve-leak@3=7", "from 0 to 1"),
        ("chamber-out@99999999", "within a week"),
        ("pump-wear@1.2.3", "cannot be read"),
    ],
)
def test_bad_faults_are_sentences(text, words):
    with pytest.raises(EntryError, match=words):
        read_fault(text)


def test_faults_read_as_scripts_write_them():
    assert read_fault("check-valve-leak@30=0.5") == Fault("check-valve-leak", 30.0, 0.5)
    assert read_fault("power-cut@30").kind == "power-cut"


one = st.builds(
    lambda kind, time, share: Fault(
        kind, round(time, 1), KINDS[kind].low + share * (min(KINDS[kind].high, 5.0) - KINDS[kind].low)
    ),
    st.sampled_from(sorted(KINDS)),
    st.floats(0, 250),
    st.floats(0, 1),
)


@settings(max_examples=25)
@given(st.lists(one, max_size=4))
def test_any_faults_keep_the_water(faults):
    analysis = Analysis(reading_room())
    test = run(analysis, [f for f in faults if fits(analysis, f.kind)], 300.0)
    volumes = test.history.volumes
    assert np.isfinite(volumes).all()
    assert np.abs(volumes.sum(axis=1) - volumes[0].sum()).max() <= 1e-9 * volumes[0].sum()
    floors = np.array([c.floor for c in test.history.network.cells])
    assert (test.history.levels >= floors - 1e-6).all()
