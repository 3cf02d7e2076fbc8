"""Each rule fires when it should, carries its number, and its button mends it."""

from functools import cache

import pytest

from devices_of import overflows
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices.base import Change, Edit, Rank
from fuente.devices.sump.spec import Pad
from fuente.document.system import System, apply, set_value
from fuente.findings import findings
from fuente.study.analysis import Analysis
from fuente.study.known import analysed
from fuente.units import UnitSystem

LEVEL = ("devices", "sump", "chambers", 4, "level")


@cache
def neighbour() -> Analysis:
    """The demo, whose levels are first guesses for its changes, as in the window."""
    analysis = analysed(reading_room())
    findings(analysis)
    return analysis


def judge(system: System):
    return findings(analysed(system, neighbour()))


def found(system: System, code: str):
    return next((f for f in judge(system) if f.code == code), None)


def changed(system: System, path, value) -> System:
    return apply(system, set_value("test", path, value))


def test_the_demo_has_two_honest_flaws(demo):
    mend = [f for f in judge(demo) if f.rank < Rank.CONSIDER]
    assert sorted(f.code for f in mend) == ["heater-dry", "no-air-hole"]
    for finding in mend:
        demo = apply(demo, finding.edit)
    assert [f for f in judge(demo) if f.rank < Rank.CONSIDER] == []


# (code, path, value): a change of the demo that must be found
CASES = [
    ("power-cut", ("space", "margin"), 0.12),
    ("evaporation", LEVEL, 0.11),
    ("turnover", ("space", "turnover"), 12 / 3600),
    ("turnover-high", ("space", "turnover"), 3 / 3600),
    ("gap-fast", ("devices", "sump", "chambers", 3, "under", "gap"), 0.008),
    ("carriers-escape", ("devices", "sump", "chambers", 2, "exit", "teeth"), 0.0),
    ("carriers-escape", ("devices", "sump", "chambers", 2, "exit", "gap"), 0.03),
    ("bed-full", ("devices", "sump", "chambers", 2, "fill", "volume"), 0.02),
    ("tank-full", ("devices", "overflow", "crest"), 0.518),
    ("siphon-gulps", ("devices", "overflow", "drains", 0, "valve"), 1.0),
    ("emergency-wet", ("devices", "overflow", "drains", 2, "mouth"), 0.36),
    ("sump-wall", ("devices", "sump", "thickness"), 0.006),
    ("tank-wall", ("devices", "tank", "thickness"), 0.008),
    ("space", ("space", "length"), 0.85),
    ("return-fast", ("devices", "return", "pipe"), "20-pn16"),
    ("outlet-dry", ("devices", "return", "outlets", 1, "height"), 0.55),
    ("mark-above-crest", LEVEL, 0.27),
]


@pytest.mark.parametrize(("code", "path", "value"), CASES)
def test_rule_fires_with_number_and_button(demo, code, path, value):
    finding = found(changed(demo, path, value), code)
    assert finding is not None
    for units in UnitSystem:
        text = finding.filled(units)
        assert "{" not in text
        assert text.endswith(".")
        assert "{" not in finding.reason(units)
    assert finding.owner


@pytest.mark.parametrize(("code", "path", "value"), [c for c in CASES if c[0] not in ("evaporation", "turnover-high")])
def test_button_mends_it(demo, code, path, value):
    system = changed(demo, path, value)
    for _ in range(4):  # a pipe may need to grow twice
        finding = found(system, code)
        if finding is None:
            break
        assert finding.edit is not None
        assert finding.action
        system = apply(system, finding.edit)
    assert found(system, code) is None


def test_fine_before_coarse(demo):
    pads = (Pad(ppi=45, thickness=0.05, height=0.33), Pad(ppi=20, thickness=0.05, height=0.33))
    system = changed(demo, ("devices", "sump", "chambers", 1, "pads"), pads)
    finding = found(system, "pad-order")
    assert found(apply(system, finding.edit), "pad-order") is None


def test_clogged_pads_overtop_and_cleaning_mends(demo):
    edit = Edit("clog", tuple(Change(("devices", "sump", "chambers", 1, "pads", k, "dirt"), 80.0) for k in range(3)))
    system = apply(demo, edit)
    finding = next(f for f in judge(system) if f.code == "overtops" and f.owner == "sump.foam")
    assert finding.values["flow"] > 0
    assert found(apply(system, finding.edit), "overtops") is None


def test_a_leak_on_the_floor_is_a_stop(demo):
    deep = [Change(("devices", "return", "outlets", k, "height"), 0.25) for k in range(2)]
    finding = found(apply(demo, Edit("deep", tuple(deep))), "no-air-hole")
    assert finding.rank is Rank.STOP
    assert finding.values["spilled"] > 0.02


def test_blocked_without_emergency_on_a_full_tank(demo):
    system = changed(demo, ("devices", "overflow", "drains"), overflows(demo)[0].drains[:2])
    system = changed(system, ("devices", "overflow", "crest"), 0.515)
    system = changed(system, ("devices", "sump", "chambers", 4, "level"), 0.24)
    finding = found(system, "drain-blocked")
    assert finding.rank is Rank.STOP
    assert "Add emergency" in finding.action
    mended = apply(system, finding.edit)
    assert [d.role for d in overflows(mended)[0].drains] == ["siphon", "open", "emergency"]


def test_a_pump_too_weak_is_one_stop(demo):
    system = changed(demo, ("devices", "return", "pump", "max_head"), 0.9)
    first = judge(system)[0]
    assert first.rank is Rank.STOP
    assert "does not reach" in first.text


def test_findings_are_ranked(solved):
    ranks = [f.rank for f in findings(analysed(solved.system))]
    assert ranks == sorted(ranks)


def test_dirty_pads_of_a_filter_without_a_sump_that_spill_are_told():
    """A screen with pores before the last drum's way out holds the water back over its rim."""
    low = apply(trough(), set_value("x", ("devices", "drums", "drums", 0, "foam"), 0.35))
    low = apply(low, set_value("x", ("devices", "drums", "drums", 0, "ppi"), 45.0))
    spilled = analysed(low).situation("pads_dirty").solution.spilled
    assert spilled > 1e-3
    told = found(low, "pads-spill")
    assert told.rank is Rank.STOP
    assert told.owner == "drums"
    assert told.values["spilled"] == pytest.approx(spilled)
    assert found(trough(), "pads-spill") is None
