"""Boxes with a mat on top and bags in them, media behind a foam wall, and vessels that an airlift feeds."""

from __future__ import annotations

import math

import pytest
from scipy.optimize import brentq

from devices_of import FILTERS
from fuente.devices.beside import BesideSpec
from fuente.devices.pieces import Medium, Pad
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.study.wet_test import run

TANK = Tank(length=0.9, width=0.4, height=0.45, thickness=0.008, bottom=0.008, stand=0.8, feed=2e-3 / 86400)
G = 9.80665
BESIDE = [kind for kind, made in FILTERS.items() if issubclass(made.spec, BesideSpec)]


def study(kind, **changes):
    bare = System(devices=(TANK,))
    first = FILTERS[kind].first(new_site(bare, "tank"))
    data = {**first.model_dump(), "id": "it"}
    for key, value in changes.items():
        data[key] = {**data[key], **value} if isinstance(value, dict) else value
    return Analysis(apply(bare, add_filter(bare, type(first).model_validate(data))))


def pieces_of(it, owner):
    kind, spec = FILTERS[it.system.device(owner).kind], it.system.device(owner)
    return {p.id.removeprefix(f"{owner}."): p for p in kind.parts(spec, it.sites[owner], it.running).pieces}


def box(**changes):
    sizes = {"length": 0.2, "width": 0.15, "height": 0.2, "drive": "pump", "slots": 0.4}
    return study("sponge", style="box", **{**sizes, **changes})


def ergun(flow, size, void, area, thick, water):
    v = flow / area
    lost = 150 * water.viscosity * (1 - void) ** 2 * v / (void**3 * size**2)
    lost += 1.75 * water.density * (1 - void) * v * v / (void**3 * size)
    return thick * lost / (water.density * G)


def darcy(flow, permeable, area, thick, water):
    v = flow / area
    lost = water.viscosity * v / permeable + water.density * 0.08 / math.sqrt(permeable) * v * v
    return thick * lost / (water.density * G)


TWO = ({"medium": "ring", "volume": 0.002}, {"medium": "pumice", "volume": 0.0015})


def test_water_from_above_goes_through_mat_and_bags_in_a_row():
    it = box(top="foam", mat=0.04, ppi=30.0, dirt=3.0, bags=TWO)
    law, water, plan = it.network.link("it.bed").law, it.sites["it"].water, 0.2 * 0.15
    q = 3e-4
    mat = darcy(q, 6e-8, plan, 0.04, water)
    assert law.soft.loss(q) == pytest.approx(mat, rel=2e-3)
    assert law.dirt == 3.0  # the mat's alone
    rest = (q / (0.62 * 0.4 * plan)) ** 2 / (2 * G)
    for bag in TWO:
        stuff = it.sites["it"].medium(bag["medium"])
        rest += ergun(q, stuff.size, stuff.void, plan, bag["volume"] / plan, water)
    assert law.hard.loss(q) == pytest.approx(rest, rel=2e-3)


def test_without_a_mat_bags_share_the_way_in_by_what_they_hold():
    whole, mixed = box(medium="ring"), box(bags=TWO)
    one = box(bags=({"medium": "ring", "volume": 0.001},))
    q = 3e-4
    rings, both = whole.network.link("it.bed").law.soft.loss(q), mixed.network.link("it.bed").law.soft.loss(q)
    assert one.network.link("it.bed").law.soft.loss(q) == pytest.approx(rings, rel=1e-12)
    pumice = box(medium="pumice").network.link("it.bed").law.soft.loss(q)
    assert both == pytest.approx((4 * rings + 3 * pumice) / 7, rel=1e-12)


def test_two_bags_of_one_medium_are_one():
    halves = box(top="foam", bags=({"medium": "ring", "volume": 0.001}, {"medium": "ring", "volume": 0.001}))
    once = box(top="foam", bags=({"medium": "ring", "volume": 0.002},))
    assert halves.running.flow["it.out"] == pytest.approx(once.running.flow["it.out"], rel=1e-12)


def test_fleece_passes_water_as_a_felt_of_a_hundred_micron():
    it = box(top="fleece", mat=0.01)
    law, water = it.network.link("it.bed").law, it.sites["it"].water
    permeable = 0.8 * (100e-6) ** 2 / (32 * 3.0)
    assert law.soft.loss(2e-4) == pytest.approx(darcy(2e-4, permeable, 0.2 * 0.15, 0.01, water), rel=1e-9)


def test_a_box_s_parts():
    it = box(top="fleece", mat=0.01, bags=TWO)
    pieces = pieces_of(it, "it")
    mat = pieces["mat"]
    assert isinstance(mat, Pad)
    assert (mat.form, mat.length, mat.width, mat.thickness) == ("Fleece", 0.2, 0.15, 0.01)
    bag = pieces["bag.1"]
    assert isinstance(bag, Medium)
    assert (bag.medium, bag.bulk, bag.bags) == ("pumice", 0.0015, 1)
    assert "grid" in pieces
    assert "media" not in pieces


def test_bags_that_do_not_go_in():
    with pytest.raises(ValueError, match="more than"):
        box(bags=({"medium": "ring", "volume": 0.006},))


def test_surface_is_that_of_every_bag_and_of_the_mat():
    it = box(top="foam", mat=0.04, ppi=30.0, bags=TWO)
    site = it.sites["it"]
    wanted = sum(b["volume"] * site.medium(b["medium"]).living(False) for b in TWO) + 1400 * 0.2 * 0.15 * 0.04
    assert FILTERS["sponge"].surface(it.system.device("it"), site) == pytest.approx(wanted, rel=0.01)


def test_media_behind_a_foam_wall():
    plain, filled = study("foam_wall"), study("foam_wall", media=0.003, medium="ring")
    site = filled.sites["it"]
    surface = FILTERS["foam_wall"].surface
    more = surface(filled.system.device("it"), site) - surface(plain.system.device("it"), site)
    assert more == pytest.approx(0.5 * 0.003 * site.medium("ring").living(False))
    solid = 0.003 * (1 - site.medium("ring").void)
    a, b = plain.network.cell("it.in").curve, filled.network.cell("it.in").curve
    top = plain.network.cell("it.in").rim
    assert a.volume(top) - b.volume(top) == pytest.approx(solid, rel=1e-9)
    assert pieces_of(filled, "it")["media"].bulk == 0.003
    with pytest.raises(FuenteError, match="no room for so much media"):
        study("foam_wall", media=0.2)


# -- fed by an airlift ------------------------------------------------------------------------------------------------


def lifted(kind, **changes):
    return study(kind, feed={"way": "air", "source": "tank", "intake": 0.03, "pipe": "25-pn10", **changes})


@pytest.mark.parametrize("kind", BESIDE)
def test_an_airlift_feeds_every_vessel_or_says_that_it_does_not(kind):
    it = lifted(kind)
    air = next(d for d in it.system.devices if d.kind == "air_supply")
    assert air.air_lines() == ("it",)
    if it.running.flow["it.feed"] < 1e-9:
        assert "filter-still" in {f.code for f in findings(it)}


@pytest.mark.parametrize("kind", ["plant_bed", "sock"])
def test_its_flow_is_that_of_stenning_and_martin(kind):
    """The page's own equation at the air that its line brings, slug or churn, over the rim."""
    it = lifted(kind, bends=2)
    state, spec, site = it.running, it.system.device("it"), it.sites["it"]
    lift = next(x for g in it.airs.values() for x in g.lifts if x.owner == "it")
    foot, bore = TANK.floor + 0.03, lift.bore
    assert lift.outlet >= TANK.rim + 0.02 - 1e-12  # it crosses the rim
    long, sunk = lift.outlet - foot, state.level["tank"] - foot
    air = next(q for key, q in state.flow.items() if key != "it.feed" and key.endswith(".it.feed"))
    mean = (101325 + site.water.density * G * sunk / 2) / 101325
    gas, area = air / mean, math.pi / 4 * bore**2
    k = 0.025 * long / bore + 2 * 0.9

    def off(q):
        v = q / area
        s = 1.2 + 0.2 * gas / q + 0.35 * math.sqrt(G * bore) / v
        return sunk / long - 1 / (1 + gas / (s * q)) - v * v / (2 * G * long) * ((k + 1) + (k + 2) * gas / q)

    assert state.flow["it.feed"] == pytest.approx(brentq(off, 1e-7, 5e-3), rel=0.12)
    assert spec.on_air


def test_the_air_pump_s_card_counts_what_a_riser_gets():
    it = lifted("plant_bed")
    rows = stations(it, it.situation("running"))
    card = next(s for s in rows if s.id == next(d.id for d in it.system.devices if d.kind == "air_supply"))
    air = next(q for key, q in it.running.flow.items() if key != "it.feed" and key.endswith(".it.feed"))
    assert card.values["total"] == pytest.approx(air)
    assert air > 1e-6


def test_a_riser_crosses_the_rim_even_where_its_vessel_stands_low():
    it = lifted("drum_train")
    lift = next(x for g in it.airs.values() for x in g.lifts if x.owner == "it")
    spec = it.system.device("it")
    assert spec.stand + spec.feed.release < TANK.rim
    assert lift.outlet == pytest.approx(TANK.rim + 0.02)


def test_without_air_it_stands_still():
    it = lifted("plant_bed")
    cut = it.situation("power_cut").solution
    assert abs(cut.flow["it.feed"]) < 1e-12
    assert cut.spilled == 0.0
    still = run(it, (Fault("air-stops", 5),), 900).history
    assert still.flow("it.feed")[-1] < 1e-9


def test_no_line_is_said():
    it = lifted("plant_bed")
    devices = tuple(d for d in it.system.devices if d.kind != "air_supply")
    bare = Analysis(it.system.model_copy(update={"devices": devices}))
    codes = {f.code for f in findings(bare)}
    assert {"no-air", "filter-still"} <= codes


def test_air_that_enters_too_high_is_refused():
    with pytest.raises(FuenteError, match="the air enters above where the water leaves"):
        lifted("plant_bed", intake=0.9, release=0.0)
