"""Foam walls: the geometry of a quarter of a circle, dams, and two pads of which one is out."""

from __future__ import annotations

import math

import pytest
from scipy.optimize import minimize_scalar

from devices_of import FILTERS
from fuente.devices.foam_wall.parts import parts
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply
from fuente.hydraulics.porous import foam, wall_flow
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.study.wet_test import run
from fuente.units import UnitSystem, fill

TANK = Tank(length=0.9, width=0.4, height=0.45, thickness=0.008, bottom=0.008, stand=0.8, feed=2e-3 / 86400)


def study(**changes):
    bare = System(devices=(TANK,))
    first = FILTERS["foam_wall"].first(new_site(bare, "tank"))
    data = {**first.model_dump(), "id": "it", "drive": "pump", "twin": "twin", "height": 0.4, **changes}
    return Analysis(apply(bare, add_filter(bare, type(first).model_validate(data))))


def pieces_of(spec):
    bare = System(devices=(TANK,))
    site = new_site(bare, "tank")
    return {p.id.removeprefix(f"{spec.id}."): p for p in parts(spec, site, None).pieces}


def corner(**changes):
    return FoamWall(
        id="it", shape="corner", **{"reach": 0.22, "thickness": 0.05, "height": 0.36, "dam": 0.06, **changes}
    )


@pytest.mark.parametrize("inner", [0.05, 0.12, 0.17])
def test_what_fits_in_the_corner(inner):
    """Against a search: a circle whose middle stands on the diagonal, as wide as walls and foam let it be."""
    spec = corner(reach=inner + 0.05)

    def room(at):  # distance of its middle from either wall: the nearer of wall and foam
        return -min(at, inner - math.sqrt(2) * at)

    best = minimize_scalar(room, bounds=(0.0, inner), method="bounded", options={"xatol": 1e-10})
    assert spec.fits == pytest.approx(-2 * best.fun, rel=1e-6)


def test_a_dam_in_a_corner_is_a_chord():
    under = corner()
    pieces = pieces_of(under)
    assert pieces["dam"].length == pytest.approx(math.hypot(0.195, 0.195))  # ends of the middle line, on both walls
    assert under.foam_height == pytest.approx(0.3)
    assert pieces["pad.0"].width == pytest.approx(0.3 * 1.015)
    before = corner(dam_at="before")
    pieces = pieces_of(before)
    assert pieces["dam"].length == pytest.approx(math.hypot(0.17, 0.17))  # behind the inner face
    assert pieces["pad.0"].width == pytest.approx(0.36 * 1.015)  # down to the floor
    assert before.open_height == under.open_height  # but water comes through over the dam alone
    assert "spacers" not in pieces
    flat = FoamWall(id="it", across=0.384, height=0.36, dam=0.06)
    assert pieces_of(flat)["dam"].length == pytest.approx(0.384)


def test_foam_that_bends_too_tightly_is_cut_behind():
    assert corner(reach=0.15).wedges == 0  # 100 mm inside: twice its thickness
    tight = corner(reach=0.13)
    # The inner face is an eighth of a metre where the middle line is 165 mm; foam takes a fifth of that.
    shorter = math.pi / 2 * 0.025 - 0.2 * math.pi / 2 * 0.105
    assert tight.wedges == math.ceil(shorter / 0.006)
    words = [fill(n.text, n.values, UnitSystem.METRIC) for n in pieces_of(tight)["pad.0"].notes]
    assert any(w.startswith(f"{tight.wedges} wedges of 6 mm") for w in words), words


def test_two_pads_side_by_side_share_the_face():
    one, two = corner(), corner(twin="beside")
    assert two.deep == one.deep
    a, b = pieces_of(one)["pad.0"], pieces_of(two)["pad.0"]
    assert (b.count, b.length) == (2, pytest.approx(a.length / 2))


def test_one_of_two_in_a_row_leaves_the_other():
    """The level then lost, by the second pad alone at the flow that the pump still moves."""
    it = study(ppi=10.0, second=45.0, thickness=0.04, pump={**pump(), "max_flow": 3000e-3 / 3600})
    out = it.situation("pad_out")
    water, spec = it.sites["it"].water, it.system.device("it")
    state = out.solution
    a, b = state.level["tank"] - TANK.floor, state.level["it.in"] - TANK.floor
    alone = wall_flow(a, b, spec.across, spec.height, 0.04, foam(45.0), water)[0]
    assert state.flow["it.bed.0"] == pytest.approx(alone, rel=1e-9)
    assert out.numbers["drop"] == pytest.approx(a - b)
    assert out.numbers["past"] == 0.0
    both = it.running
    assert 0 < out.numbers["drop"] < both.level["tank"] - both.level["it.in"]


def pump():
    return FoamWall(id="x").pump.model_dump()


def test_one_of_two_side_by_side_lets_water_past():
    it = study(twin="beside", ppi=30.0)
    out = it.situation("pad_out")
    assert out.numbers["past"] > 0.8  # an open half beside a pad
    assert out.verdict.filled(UnitSystem.METRIC).endswith("unfiltered")
    law = out.solution.network.link("it.bed.0").law
    a, b = out.solution.level["tank"], out.solution.level["it.in"]
    assert law.flow(a, b)[0] == pytest.approx(law.first.flow(a, b)[0] + law.open.flow(a, b)[0])


def test_a_pad_is_taken_out_in_the_wet_test_too():
    it = study(ppi=10.0, second=45.0)
    test = run(it, (Fault("pad-out", 10),), 1800)
    end = it.situation("pad_out").solution
    assert test.history.level("it.in")[-1] == pytest.approx(end.level["it.in"], abs=2e-5)


def test_a_single_pad_is_not_taken_out():
    assert "pad_out" not in study(twin="single").names()
