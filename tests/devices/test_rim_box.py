"""A filter on the rim: its flow against pump and tube, its lip, what it hangs on, and what evaporation does to it."""

from __future__ import annotations

import math
from dataclasses import replace

import fluids
import pytest
from scipy.optimize import brentq

from devices_of import FILTERS
from fuente.catalogue import pipe_size
from fuente.devices.pieces import Pad
from fuente.devices.rim_box.judge import hangs, surface
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply, set_value
from fuente.findings import findings
from fuente.hydraulics.porous import foam, wall_flow
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.study.wet_test import run

TANK = Tank(length=0.9, width=0.4, height=0.45, thickness=0.008, bottom=0.008, stand=0.8, feed=2e-3 / 86400)
G = 9.80665


def study(tank=TANK, **changes):
    bare = System(devices=(tank,))
    first = FILTERS["rim_box"].first(new_site(bare, "tank"))
    data = {**first.model_dump(), "id": "it", "drive": "pump"}
    for key, value in changes.items():
        data[key] = {**data[key], **value} if isinstance(value, dict) else value
    return Analysis(apply(bare, add_filter(bare, type(first).model_validate(data))))


def codes(it):
    return {f.code: f for f in findings(it)}


@pytest.mark.parametrize("tubes", [1, 2])
def test_its_flow_is_where_its_pump_meets_lift_and_tube(tubes):
    it = study(tubes=tubes, hose="hose-12", intake=0.1)
    spec, water, state = it.system.device("it"), it.sites["it"].water, it.running
    bore = pipe_size("hose-12").bore
    pour = TANK.rim + spec.over + 0.02  # over its lip
    long = pour - (TANK.floor + 0.1) + 0.15

    def rest(q):
        v = q / tubes / (math.pi / 4 * bore**2)
        re = water.density * v * bore / water.viscosity
        rough = pipe_size("hose-12").roughness / bore
        lost = (fluids.friction.friction_factor(Re=re, eD=rough) * long / bore + 2 * 0.9 + 1.0) * v * v / (2 * G)
        return spec.pump.max_head * (1 - (q / spec.pump.max_flow) ** 2) - (pour - state.level["tank"]) - lost

    assert state.flow["it.out"] == pytest.approx(brentq(rest, 1e-7, spec.pump.max_flow), rel=0.04)


def test_water_stands_over_its_lip_and_behind_its_block():
    it = study(spout=0.1)
    spec, state = it.system.device("it"), it.running
    head = state.level["it.clean"] - (TANK.rim + spec.over)
    # Kindsvater and Carter as fluids has it, over a lip of 100 mm with all the box's depth before it.
    flow = fluids.open_flow.Q_weir_rectangular_full_Kindsvater_Carter(head, spec.lip, 0.1)
    assert state.flow["it.out"] == pytest.approx(flow, rel=0.02)
    foot = TANK.rim + spec.over - spec.lip
    a, b = state.level["it.in"] - foot, state.level["it.clean"] - foot
    block = wall_flow(a, b, spec.wide, spec.block, spec.thickness, foam(spec.ppi), it.sites["it"].water)[0]
    assert state.flow["it.bed"] == pytest.approx(block, rel=1e-9)


def test_what_stands_in_its_two_rooms():
    it = study()
    spec, state = it.system.device("it"), it.running
    foot = TANK.rim + spec.over - spec.lip
    for cell in ("it.in", "it.clean"):
        deep = state.level[cell] - foot
        foam = 0.03 * spec.wide * spec.thickness / 2 * min(deep, spec.block)  # three in a hundred of the block
        assert state.volume[cell] == pytest.approx(spec.wide * spec.off / 2 * deep - foam, rel=1e-9)


@pytest.mark.parametrize(("sunk", "drive"), [(0.74, "pump"), (0.76, "air")])
def test_a_rim_far_over_the_water_wants_a_pump(sunk, drive):
    """By rule on air; but a tube of which less than three quarters stand in water lifts little."""
    site = new_site(System(devices=(TANK,)), "tank")
    top, low = TANK.rim + 0.03, TANK.floor + 0.03
    made = FILTERS["rim_box"].first(replace(site, level=low + sunk * (top - low)))
    assert made.drive == drive


def test_a_power_cut_leaves_the_box_full_to_its_lip_and_the_floor_dry():
    it = study()
    cut = it.situation("power_cut").solution
    spec = it.system.device("it")
    assert cut.spilled == 0.0
    assert cut.level["it.clean"] == pytest.approx(TANK.rim + spec.over, abs=2e-3)
    test = run(it, (Fault("power-cut"),), 3600).history
    assert test.spilled == 0.0
    assert test.volumes.sum(axis=1) == pytest.approx(test.volumes[0].sum(), rel=1e-12)


def test_a_block_that_clogs_is_gone_over_before_the_box_spills():
    it = study(dirt=400.0, ppi=45.0, thickness=0.1, pump={"max_flow": 1500e-3 / 3600, "max_head": 2.0})
    assert it.running.flow["it.over"] > 1e-6
    assert it.running.spilling == 0 or not it.running.spilling
    assert codes(it)["overtops"].edit is not None


def test_what_hangs_on_the_rim():
    it = study(media=0.0008)
    spec, site, state = it.system.device("it"), it.sites["it"], it.running
    water = (state.volume["it.in"] + state.volume["it.clean"]) * site.water.density
    box = 4e-3 * 1200 * (2 * (spec.off + spec.wide) * spec.height + spec.off * spec.wide)
    wanted = water + 0.0008 * site.medium("ring").dry + box
    assert hangs(spec, site, state) == pytest.approx(wanted, rel=1e-9)
    assert "rim-load" not in codes(it)
    assert "rim-load" in codes(study(wide=0.38, off=0.3, thickness=0.1))


def test_living_surface_of_block_and_bag():
    it = study(media=0.0008)
    spec, site = it.system.device("it"), it.sites["it"]
    wanted = 900 * spec.wide * spec.thickness * spec.block + 0.5 * 0.0008 * site.medium("ring").living(False)
    assert surface(spec, site) == pytest.approx(wanted, rel=1e-6)


def test_a_skimming_inlet_that_evaporation_leaves_dry():
    it = study()
    rows = stations(it, it.situation("running"))
    card = next(s for s in rows if s.id == "it")
    edit = next(c for c in card.choices if c.path[-1] == "inlet").make("skim")
    skims = Analysis(apply(it.system, edit))
    spec = skims.system.device("it")
    assert spec.inlet == "skim"
    deep = skims.running.level["tank"] - TANK.floor - spec.intake
    assert deep == pytest.approx(0.02, abs=2e-3)
    assert skims.running.flow["it.out"] > 1e-5
    shallow = study(inlet="skim", intake=round(spec.intake + 0.012, 3))
    finding = codes(shallow)["skim-dry"]
    mended = Analysis(apply(shallow.system, finding.edit))
    assert "skim-dry" not in codes(mended)


def test_on_air_it_has_a_lift_to_its_lip():
    it = study(drive="air", hose="25-pn16", intake=0.03)
    lift = next(x for g in it.airs.values() for x in g.lifts if x.owner == "it")
    spec = it.system.device("it")
    assert lift.outlet == pytest.approx(TANK.rim + spec.over + 0.02)
    assert lift.injector == pytest.approx(TANK.floor + 0.03)
    assert it.running.flow["it.out"] == pytest.approx(it.running.flow["it.feed"], rel=1e-6)
    assert it.running.flow["it.out"] > 1e-5
    bare = Analysis(it.system.model_copy(update={"devices": it.system.devices[:2]}))
    assert "no-air" in codes(bare)
    weak = next(d for d in it.system.devices if d.kind == "air_supply")
    shut = weak.drops[0].model_copy(update={"opening": 0.0})
    dry = Analysis(apply(it.system, set_value("Shut", (*weak.path, "drops"), (shut,))))
    assert "air-starved" in codes(dry)
    assert "filter-still" not in codes(dry)


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"lip": 0.27}, "as high as its walls"),
        ({"thickness": 0.15}, "its block fills the box"),
        ({"spout": 0.5}, "longer than the box"),
        ({"block": 0.3}, "stands over its walls"),
        ({"media": 0.05}, "no room for so much media"),
        ({"hose": "straw"}, "no pipe “straw”"),
        ({"intake": 0.6}, "draws above the rim"),
    ],
)
def test_what_cannot_hang_there(changes, words):
    with pytest.raises(Exception, match=words):
        study(**changes)


def test_its_parts():
    it = study(media=0.0008, inlet="skim")
    spec = it.system.device("it")
    pieces = {p.id.removeprefix("it."): p for p in FILTERS["rim_box"].parts(spec, it.sites["it"], it.running).pieces}
    assert set(pieces) == {"box", "hooks", "block", "tube", "strainer", "media", "pump"}
    block = pieces["block"]
    assert isinstance(block, Pad)
    assert (block.length, block.width, block.thickness) == (spec.wide, spec.block, spec.thickness)
    assert pieces["strainer"].name.startswith("Skimming")
    up = TANK.rim + spec.over + 0.02 - TANK.floor - spec.intake + 0.15
    assert pieces["tube"].length == pytest.approx(up)
