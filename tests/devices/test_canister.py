"""A closed vessel: where its dirt sits, what its hoses let out, what presses on its lid, and files from before."""

from __future__ import annotations

import math

import numpy as np
import pytest
from scipy.integrate import quad
from scipy.optimize import brentq

from devices_of import FILTERS
from fuente.catalogue import pipe_size
from fuente.devices.canister.judge import lifts, pressed
from fuente.devices.canister.network import layer_loss, media_loss, sponge_loss
from fuente.devices.canister.spec import Canister, Layer
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply, set_value
from fuente.findings import findings
from fuente.hydraulics.porous import foam
from fuente.network.model import FLOOR
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.study.wet_test import run
from fuente.water.properties import GRAVITY

TANK = Tank(length=0.9, width=0.4, height=0.45, thickness=0.008, bottom=0.008, stand=0.8, feed=2e-3 / 86400)
INSIDE = 0.884 * 0.384  # m² of water


def design(**changes):
    bare = System(devices=(TANK,))
    first = FILTERS["canister"].first(new_site(bare, "tank"))
    spec = type(first).model_validate({**first.model_dump(), "id": "it", **changes})
    return apply(bare, add_filter(bare, spec))


def at(system):
    study = Analysis(system)
    return system.device("it"), study.sites["it"], study


# -- dirt sits where it is caught --------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("flow", "layers", "caught"),
    [
        ("up", [("foam", 10), ("foam", 30), ("ring", 20)], 1),
        ("up", [("foam", 30), ("ring", 20), ("foam", 30)], 0),  # of two alike the first along the water
        ("down", [("foam", 30), ("ring", 20), ("foam", 30)], 2),
        ("up", [("foam", 45), ("floss", 20), ("ring", 20)], 1),  # floss before all foam
    ],
)
def test_the_finest_catches(flow, layers, caught):
    spec = Canister(
        id="it", height=0.5, flow=flow, layers=tuple(Layer(medium=m, ppi=p, thickness=0.05) for m, p in layers)
    )
    assert spec.catches == caught


def test_pads_that_clog_are_the_one_that_catches():
    spec, site, study = at(design())
    caught, dirt, rest = media_loss(spec, site)
    assert caught == layer_loss(spec, site, spec.layers[1])
    assert dirt == 1.0
    # At 25 times: the finest alone, all other losses as they were.
    dirty = study.situation("pads_dirty").solution
    law = dirty.network.link("it.bed").law
    assert (law.soft, law.dirt, law.rest) == (caught, 25.0, rest)


def test_each_layer_has_dirt_of_its_own():
    layers = (Layer(ppi=10, thickness=0.03, dirt=9.0), Layer(ppi=30, thickness=0.03, dirt=4.0))
    spec, site, _ = at(design(layers=layers))
    caught, dirt, rest = media_loss(spec, site)
    q = 2e-4
    one, two = (layer_loss(spec, site, x).loss(q) for x in layers)
    assert caught.loss(q) * dirt + rest.loss(q) == pytest.approx(9 * one + 4 * two, rel=1e-12)


def test_a_sponge_on_the_intake_loses_by_rings_that_narrow():
    spec, site, _ = at(design(sponge=30.0, sponge_long=0.12, bores=2, hose="hose-16"))
    inner, wall = pipe_size("hose-16").outside / 2, 0.03
    stuff, q = foam(30.0), 3e-4

    def slope(r):
        v = q / (2 * 2 * math.pi * r * 0.12)  # two of them
        return site.water.viscosity * v / stuff.permeability + site.water.density * stuff.inertia * v * v

    lost = quad(slope, inner, inner + wall)[0] / (site.water.density * GRAVITY)
    assert sponge_loss(spec, site).loss(q) == pytest.approx(lost, rel=1e-9)
    assert spec.catches is None


def test_hoses_may_differ_by_way():
    same = at(design(hose="hose-16", bores=1, length=1.5))[2].running.flow["it.out"]
    wide = at(design(hose="hose-16", bores=1, length=1.5, back="hose-25"))[2].running.flow["it.out"]
    more = at(design(hose="hose-16", bores=1, length=1.5, back_bores=3))[2].running.flow["it.out"]
    long = at(design(hose="hose-16", bores=1, length=1.5, back_length=6.0))[2].running.flow["it.out"]
    assert long < same < min(wide, more)
    spec = design(hose="hose-16", bores=2, length=1.5).device("it")
    assert (spec.back_hose, spec.backs, spec.back_run) == ("hose-16", 2, 1.5)


# -- what comes off and what leaks -------------------------------------------------------------------------------------


def test_a_hose_off_lets_the_tank_out_down_to_its_intake():
    _, _, study = at(design(intake=0.15, bores=1))
    start = study.running
    off = study.situation("hose_off")
    over = start.level["tank"] - TANK.floor - 0.15
    assert off.numbers["spilled"] == pytest.approx(INSIDE * over, rel=0.03)  # air comes in a centimetre over it
    assert off.solution.level["tank"] == pytest.approx(TANK.floor + 0.15, abs=0.011)
    assert off.about == "it"
    assert off.verdict.rank is not None


def test_the_hose_back_is_a_siphon_down_to_its_mouth_with_the_pump_off():
    _, _, study = at(design(intake=0.05, outlet=0.2, bores=1))
    faults = (Fault("power-cut"), Fault("outlet-hose-off", 5))
    low = run(study, faults, 3600).history
    # Through the standing pump it empties down to the intake, by the hose back to its mouth: to the lower of them.
    assert low.level("tank")[-1] == pytest.approx(TANK.floor + 0.05, abs=0.012)
    _, _, sealed = at(design(intake=0.3, outlet=0.2, bores=1))
    high = run(sealed, faults, 3600).history
    assert high.level("tank")[-1] == pytest.approx(TANK.floor + 0.2, abs=0.012)
    total = sum(high.volumes[0])
    assert high.volumes.sum(axis=1) == pytest.approx(np.full(len(high.times), total), rel=1e-12)


@pytest.mark.parametrize("gap", [1.0, 4.0])
def test_a_lid_leaks_by_its_pressure(gap):
    """Against Torricelli's own law, 0.6·A·√(2gh), with the pressure that stands there."""
    spec, _, study = at(design())
    test = run(study, (Fault("lid-leak", 0, gap),), 600).history
    lid = spec.stand + spec.height
    heads = test.level("it.in") - lid
    rates = 0.6 * gap * 1e-6 * np.sqrt(2 * GRAVITY * heads)
    wanted = float(np.sum((rates[1:] + rates[:-1]) / 2 * np.diff(test.times)))
    assert test.spilled == pytest.approx(wanted, rel=0.003)
    assert heads[0] == pytest.approx(study.running.level["it.in"] - lid)


def test_a_lid_under_suction_loses_nothing():
    system = design(stand=0.8, offset=1.2, hose="hose-12", bores=1, length=4.0, intake=0.06)
    _, _, study = at(apply(system, set_value("Clog", ("devices", "it", "layers", 1, "dirt"), 400.0)))
    cell = next(c for c in study.network.cells if c.lid is not None)
    assert study.running.level[cell.id] < cell.lid
    leaks = run(study, (Fault("lid-leak", 0, 5.0),), 300).history
    assert leaks.spilled == 0.0


def test_what_is_lifted_out_at_once():
    """From divider to divider: wet foam at 150 kg/m³, rings by their own."""
    layers = (Layer(ppi=20, thickness=0.04), Layer(medium="ring", thickness=0.06, divider=True))
    spec, site, _ = at(design(layers=layers, diameter=0.2, height=0.2, dividers=0.0))
    plan = math.pi / 4 * 0.04
    ring = site.medium("ring").wet_density()
    assert lifts(spec, site) == pytest.approx([plan * 0.04 * 150, plan * 0.06 * ring])
    whole = spec.model_copy(update={"layers": (layers[0], layers[1].model_copy(update={"divider": False}))})
    assert lifts(whole, site) == pytest.approx([plan * (0.04 * 150 + 0.06 * ring)])


def test_a_higher_intake_keeps_seven_tenths_of_the_depth():
    _, _, study = at(design(intake=0.05))
    found = next(f for f in findings(study) if f.code == "hose-off-floods")
    depth = study.running.level["tank"] - TANK.floor
    wanted = {c.path[-1]: c.value for c in found.edit.changes}
    assert wanted["intake"] == pytest.approx(0.7 * depth, abs=0.005)
    higher = Analysis(apply(study.system, found.edit))
    assert "hose-off-floods" not in {f.code for f in findings(higher)}


def test_what_presses_on_its_lid():
    spec, site, study = at(design(diameter=0.3))
    level = study.running.level["tank"]
    force = 997.8 * 9.80665 * (level - spec.stand - spec.height) * math.pi * 0.15**2  # N at 22 °C
    assert pressed(spec, site, level) * 9.80665 == pytest.approx(force, rel=2e-3)


def test_no_closed_vessel_has_no_hose_to_lose(demo):
    study = Analysis(demo)
    assert "hose_off" not in study.names()
    assert "hose_off" in Analysis(design()).names()
    assert FLOOR in Analysis(design()).network.index


# -- files from before -------------------------------------------------------------------------------------------------


def test_shares_of_before_are_thicknesses_now():
    old = {
        "kind": "canister",
        "id": "it",
        "height": 0.4,
        "dirt": 3.0,
        "layers": [{"medium": "foam", "ppi": 20.0, "share": 0.25}, {"medium": "ring", "share": 0.5}],
    }
    spec = Canister.model_validate(old)
    assert [x.thickness for x in spec.layers] == pytest.approx([0.1, 0.2])
    assert [x.dirt for x in spec.layers] == [3.0, 3.0]
    assert old["layers"][0] == {"medium": "foam", "ppi": 20.0, "share": 0.25}  # and what was read is left alone
    assert "dirt" not in spec.model_dump()


def test_layers_are_typed_by_the_litre_too():
    from fuente.errors import EntryError
    from fuente.typed import parse_layer
    from fuente.units import UnitSystem

    plan = math.pi / 4 * 0.25**2
    assert parse_layer("60 mm", plan) == pytest.approx(0.06)
    assert parse_layer("2.5 L", plan) == pytest.approx(2.5e-3 / plan)
    assert parse_layer("1 gal", plan, UnitSystem.US) == pytest.approx(3.785411784e-3 / plan)
    with pytest.raises(EntryError):
        parse_layer("2 kg", plan)


def test_the_first_layout_s_head_is_where_pump_and_losses_meet():
    spec, site, study = at(design(sponge=20.0))
    q = study.running.flow["it.out"]
    law, pump = study.laws["it.bed"], study.laws["it.out"]

    def short(flow):
        caught, dirt, rest = media_loss(spec, site)
        lost = caught.loss(flow) * dirt + rest.loss(flow) + law.pipe.loss_and_slope(flow / spec.bores)[0]
        level = study.running.level["tank"]
        return level - lost + pump.curve.head(flow) - pump.loss(flow)[0] - max(level, TANK.floor + spec.outlet)

    assert q == pytest.approx(brentq(short, 1e-7, spec.pump.max_flow), rel=1e-3)
