"""Remedies are tried before they are offered: on designs that nobody tuned, each clears its finding and brings nothing
worse; where none does, none is offered.
"""

from __future__ import annotations

import random
from dataclasses import replace

import pytest

from designs import design, tank
from fuente.demo import DEMOS
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.site import Space
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.findings.adding import added_well
from fuente.findings.tried import all_tried, grave, tried
from fuente.study.filters import first_layouts
from fuente.study.known import analysed
from fuente.units import UnitSystem


def made(code="odd", owner="tank", edit=None, **more):
    return Finding(code, Rank.FIX, "It is odd.", "So it is.", owner, action="Mend it", edit=edit, **more)


def keys(found):
    return {(f.code, f.owner) for f in found}


def check(analysis, found):
    """Every remedy that is offered, pressed."""
    before, pressed = grave(found), 0
    for finding in all_tried(analysis, found):
        if finding.edit is None:
            continue
        after = findings(analysed(apply(analysis.system, finding.edit), analysis))
        now = grave(after)
        assert (finding.code, finding.owner) not in keys(after), finding.code
        assert not [k for k, rank in now.items() if k not in before or rank < before[k]], finding.code
        pressed += 1
    return pressed


@pytest.mark.slow
@pytest.mark.parametrize("block", range(4))
def test_every_button_on_twenty_random_designs(block):  # `./check --long` presses those of thousands
    pressed = 0
    for seed in range(10 * block, 10 * block + 5):
        _, system = design(seed)
        try:
            analysis = analysed(system)
        except FuenteError:
            continue
        pressed += check(analysis, findings(analysis))
    assert pressed > 0


@pytest.mark.parametrize("name", [n for n in DEMOS if n != "back-room"])
def test_every_button_of_every_demo(name):
    analysis = analysed(DEMOS[name]())
    check(analysis, findings(analysis))


def test_what_does_nothing_or_is_refused_is_not_offered(demo):
    analysis = analysed(demo)
    same = Edit("Nothing", (Change(("devices", "tank", "gravel"), demo.tanks[0].gravel),))
    refused = Edit("Impossible", (Change(("devices", "tank", "length"), -1.0),))
    for edit in (same, refused):
        told = tried(analysis, made("no-air-hole", "return", edit))
        assert told.edit is None
        assert told.action == ""
        assert "“Mend it” was tried on this design and " in told.why
        assert "does not mend it" in told.why or "cannot be built: Length outside" in told.why
    assert tried(analysis, made()).why == "So it is."


def test_what_brings_another_fault_is_mended_with_it_or_withdrawn(demo):
    """An opening that the sump no longer fits, with a hole that is right: withdrawn. A pump too weak for the turnover,
    which the next remedy mends, makes one edit of several changes.
    """
    analysis = analysed(demo)
    found = findings(analysis)
    hole = next(f for f in found if f.code == "no-air-hole")
    bad = Edit("Thin", (*hole.edit.changes, Change(("space", "length"), 0.5)))
    told = tried(analysis, replace(hole, edit=bad), found)
    assert told.edit is None
    # Which one, with its numbers in the units that are shown.
    worse = next(f for f in findings(analysed(apply(demo, bad))) if f.code == "space")
    assert f"would bring another fault: {worse.filled(UnitSystem.METRIC)}" in told.reason(UnitSystem.METRIC)
    assert "19.69 in" in told.reason(UnitSystem.US)
    dry = Edit("Dry", (*hole.edit.changes, Change(("devices", "return", "pump", "max_flow"), 2500e-3 / 3600)))
    told = tried(analysis, replace(hole, edit=dry), found)  # and a pump too weak for the turnover, which is mended
    assert len(told.edit.changes) > len(dry.changes)
    after = findings(analysed(apply(demo, told.edit)))
    assert not {"no-air-hole", "turnover"} & {f.code for f in after}


def test_another_remedy_is_taken_where_the_first_fails(demo):
    analysis = analysed(demo)
    found = findings(analysis)
    hole = next(f for f in found if f.code == "no-air-hole")
    nothing = Edit("Nothing", (Change(("devices", "tank", "gravel"), demo.tanks[0].gravel),))
    told = tried(analysis, replace(hole, edit=nothing, action="Wait", others=(("Drill", hole.edit),)), found)
    assert told.action == "Drill"
    assert told.edit.changes == hole.edit.changes


def _clean(system, tank_id):
    """Every kind's first layout in a tank brings nothing to stop for or to fix."""
    before = grave(findings(analysed(system)))
    for kind, spec in first_layouts(system, tank_id):
        if isinstance(spec, FuenteError):
            continue
        after = findings(analysed(apply(system, added_well(system, spec))))
        assert not [k for k in grave(after) if k not in before], kind.id


@pytest.mark.slow
@pytest.mark.parametrize("seed", range(2))
def test_first_layouts_in_random_tanks_are_clean(seed):
    home = tank(random.Random(seed))
    space = Space(length=max(home.length, 0.6), depth=max(home.width, 0.4), height=home.stand - 0.02)
    _clean(System(devices=(home,), space=space), home.id)


@pytest.mark.slow
def test_first_layouts_in_a_demo_s_tank_are_clean_on_its_air_pump():
    """The others take minutes: `./check --long`."""
    system = DEMOS["window-lantern"]()
    _clean(system, system.tanks[0].id)


def test_a_remedy_that_cannot_be_built_says_why(demo):
    analysis = analysed(demo)
    found = findings(analysis)
    hole = next(f for f in found if f.code == "no-air-hole")
    high = Edit("High", (Change(("devices", "sump", "chambers", 2, "exit", "top"), 0.9),))
    told = tried(analysis, replace(hole, edit=high), found)
    assert "cannot be built: A baffle of Moving bed stands above the sump's rim." in told.why
