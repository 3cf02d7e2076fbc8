"""Pads and baskets that water crosses upwards or downwards, beside the same that stand across."""

from __future__ import annotations

import math

import pytest

from fuente.devices.base import Change, Edit
from fuente.devices.pieces import Pad as PadPiece
from fuente.devices.pieces import Panel
from fuente.devices.sump import stack
from fuente.devices.sump.card import pad_steps
from fuente.devices.sump.network import living
from fuente.devices.sump.parts import parts
from fuente.document.system import apply
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.shown.section import section
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.wet_test import run

FOAM = ("devices", "sump", "chambers", 1)
G = 9.80665
DIRT = {"pads": (20.0, 30.0, 45.0), "thick": (0.05, 0.05, 0.025)}
PERMEABLE = {20.0: 1.0e-7, 30.0: 6e-8, 45.0: 3e-8}  # m², the page's


def lying(demo, way, *changes):
    return apply(demo, Edit("", (Change((*FOAM, "way"), way), *changes)))


def head(flow, area, ppi, thick, water):
    """Darcy–Forchheimer, written apart."""
    k, v = PERMEABLE[ppi], flow / area
    return thick * (water.viscosity * v / k + water.density * 0.08 / math.sqrt(k) * v * v) / (water.density * G)


@pytest.mark.parametrize("way", ["down", "up"])
def test_the_level_lost_is_that_of_its_plan(demo, way):
    study = Analysis(lying(demo, way, Change((*FOAM, "pads", 1, "dirt"), 2.0)))
    sump, water = study.system.device("sump"), study.sites["sump"].water
    state = study.running
    flow = state.flow["sump.foam.lying"]
    across = sump.inner_width
    plan = (0.175 - 0.03) * across
    lost = [head(flow, plan, p, t, water) for p, t in zip(DIRT["pads"], DIRT["thick"], strict=True)]
    lost = [each * p.dirt for each, p in zip(lost, sump.chambers[1].pads, strict=True)]  # each its own
    gap = (flow / (0.65 * across * 0.03)) ** 2 / (2 * G)
    drop = state.level["sump.foam.0"] - state.level["sump.foam.1"]
    assert drop == pytest.approx(sum(lost) + gap, rel=2e-3)
    steps = pad_steps(sump, study.sites["sump"], sump.chambers[1], state)
    assert [s for s, _ in steps] == pytest.approx(lost, rel=2e-3)


def test_upwards_and_downwards_lose_alike(demo):
    up, down = (Analysis(lying(demo, way)).running for way in ("up", "down"))
    assert up.flow["sump.foam.lying"] == pytest.approx(down.flow["sump.foam.lying"], rel=1e-9)


@pytest.mark.parametrize("way", ["down", "up"])
def test_water_is_neither_made_nor_lost_by_it(demo, way):
    study = Analysis(lying(demo, way))
    whole = study.running.total
    for name in study.names():
        if name == "evaporated":
            continue
        solution = study.situation(name).solution
        assert solution.total == pytest.approx(whole, rel=1e-12), name
        assert min(v for c, v in solution.volume.items() if c != "floor") >= 0, name


def test_what_stands_in_it_is_its_plan_less_the_foam(demo):
    sump = lying(demo, "up").device("sump")
    study = Analysis(lying(demo, "up"))
    state = study.running
    across = sump.inner_width
    over = (0.175 - 0.03) * across * (state.level["sump.foam.1"] - sump.floor)
    foam = 0.03 * (0.175 - 0.03) * across * 0.125
    beside = 0.03 * across * (state.level["sump.foam.0"] - sump.floor)
    assert state.volume["sump.foam.1"] == pytest.approx(over - foam, rel=1e-9)
    assert state.volume["sump.foam.0"] == pytest.approx(beside, rel=1e-9)


def test_layers_lie_in_the_water_s_order(demo):
    for way, order in (("up", [0, 1, 2]), ("down", [2, 1, 0])):
        sump = lying(demo, way).device("sump")
        rows = stack.layers(sump, sump.chambers[1], 0.175)
        assert [r.pad for r in rows] == order
        assert rows[0].foot == pytest.approx(0.03)
        assert rows[-1].top == pytest.approx(0.03 + 0.125)
        assert [b.foot for b in rows[1:]] == pytest.approx([a.top for a in rows[:-1]])


def test_dirty_pads_are_gone_round_over_the_plate(demo):
    study = Analysis(lying(demo, "down"))
    dirty = study.situation("pads_dirty").solution
    assert dirty.flow["sump.foam.lying.over"] > 1e-5
    law = dirty.network.link("sump.foam.lying").law
    assert law.dirt == 25.0
    assert law.hard == study.network.link("sump.foam.lying").law.hard  # the grid's gap does not clog
    codes = {f.code for f in findings(study)}
    assert "overtops" in codes or "overtops-dirty" in codes


def test_pads_on_a_basket(demo):
    """Media that water comes up through with a pad on it: the pad clogs, the media does not, and nothing “goes over the
    media”.
    """
    media = (
        Change((*FOAM, "role"), "media"),
        Change((*FOAM, "fill"), {"medium": "ring", "volume": 0.006, "held": "basket"}),
        Change((*FOAM, "pads"), ({"ppi": 30.0, "thickness": 0.03, "dirt": 3.0},)),
    )
    study = Analysis(lying(demo, "up", *media))
    sump = study.system.device("sump")
    rows = stack.layers(sump, sump.chambers[1], 0.175)
    assert [r.pad for r in rows] == [None, 0]
    law = study.network.link("sump.foam.lying").law
    assert law.dirt == 3.0
    water, plan = study.sites["sump"].water, (0.175 - 0.03) * sump.inner_width
    assert law.soft.loss(5e-4) == pytest.approx(head(5e-4, plan, 30.0, 0.03, water), rel=2e-3)
    assert "media-bypassed" not in {f.code for f in findings(study)}
    down = lying(demo, "down", *media).device("sump")
    assert [r.pad for r in stack.layers(down, down.chambers[1], 0.175)] == [None, 0]  # on top, and met first
    surface = dict(living(sump, study.sites["sump"]))["sump.foam.0"]
    ring = study.sites["sump"].medium("ring").living(False)
    assert surface > 0.006 * ring  # the pad's with it


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ([Change((*FOAM, "support"), 0.3)], "higher than the plate beside it"),
        (
            [
                Change((*FOAM, "role"), "media"),
                Change((*FOAM, "fill"), {"medium": "ring", "volume": 0.006}),
                Change((*FOAM, "way"), "across"),
            ],
            "only where water crosses it",
        ),
    ],
)
def test_what_cannot_lie_there(demo, changes, words):
    with pytest.raises(FuenteError, match=words):
        Analysis(lying(demo, "up", *changes))


def test_its_parts(demo):
    study = Analysis(lying(demo, "down"))
    sump, site = study.system.device("sump"), study.sites["sump"]
    pieces = {p.id: p for p in parts(sump, site, study.running).pieces}
    pad = pieces["sump.foam.pad.0"]
    assert isinstance(pad, PadPiece)
    squeeze = pad.length - sump.inner_width
    assert pad.width - squeeze == pytest.approx(0.175 - 0.03)
    plate = pieces["sump.foam.beside"]
    assert isinstance(plate, Panel)
    assert plate.width == pytest.approx(0.284 + 0.05 - 0.03)  # 50 mm over the crest, the void under it left
    assert pieces["sump.foam.grid"].height == pytest.approx(0.03)


@pytest.mark.parametrize("way", ["down", "up"])
def test_it_is_drawn_where_it_lies(demo, way):
    study = Analysis(lying(demo, way))
    sump = study.system.device("sump")
    drawing = section(study, study.situation("running"))
    pads = [
        s
        for s in drawing.shapes
        if getattr(s, "owner", "") == "sump.foam" and getattr(s, "style", "").startswith("pad-")
    ]
    tall = sorted(max(y for _, y in s.points) - min(y for _, y in s.points) for s in pads)
    assert tall == pytest.approx([25.0, 50.0, 50.0])
    wide = {round(max(x for x, _ in s.points) - min(x for x, _ in s.points), 3) for s in pads}
    assert wide == {145.0}
    assert min(min(y for _, y in s.points) for s in pads) == pytest.approx(sump.floor * 1000 + 30)


def test_a_power_cut_ends_in_time_where_the_situation_stands(demo):
    study = Analysis(lying(demo, "up"))
    end = run(study, (Fault("power-cut"), Fault("check-valve-leak", value=0.0)), 6 * 3600).history
    cut = study.situation("power_cut").solution
    for cell in ("sump.foam.0", "sump.foam.1", "sump.pump"):
        assert end.level(cell)[-1] == pytest.approx(cut.level[cell], abs=2e-4)


def test_water_that_only_reaches_its_foot_seeps_by_its_share(demo):
    """Ten millimetres over the grid all of it takes water; at half of that, half of what the same head would pass."""
    study = Analysis(lying(demo, "down"))
    law = study.network.link("sump.foam.lying").law
    foot = study.system.device("sump").floor + 0.03
    half = law.flow(foot + 0.005, foot - 0.02)[0]
    flow, _ = (law.soft.times(law.dirt) + law.hard).flow_and_slope(0.005)
    assert half == pytest.approx(0.5 * flow, rel=1e-9)
    assert law.flow(foot - 0.001, foot - 0.02)[0] == 0.0


def test_which_pad_is_due_is_said_of_water_that_runs(solved):
    """In a power cut none takes anything, and none is due before another."""
    running = {s.id: s for s in stations(solved)}["sump.foam"]
    assert next(r.value for r in running.readings if r.label == "Due first").startswith("pad ")
    still = {s.id: s for s in stations(solved, solved.situation("power_cut"))}["sump.foam"]
    takes = [r.value for r in still.readings if r.label.endswith("takes")]
    assert len(takes) == 3
    assert max(takes) < 1e-5
    assert "Due first" not in {r.label for r in still.readings}
