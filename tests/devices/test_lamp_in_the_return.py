"""A steriliser in the return line: its loss, its dose, its heat, and what is said of it."""

from __future__ import annotations

import math

import pytest

from fuente.devices.lamps import LampSpec, dose
from fuente.devices.return_line.care import care
from fuente.devices.return_line.parts import parts
from fuente.document.system import apply, set_value
from fuente.findings import findings
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis

LAMP = ("devices", "return", "lamp")


def fitted(demo, **changes):
    return Analysis(apply(demo, set_value("x", LAMP, LampSpec(**changes))))


def test_it_costs_the_flow_its_own_loss(demo):
    bare, lamp = Analysis(demo), fitted(demo, loss=12.0)
    a, b = bare.laws["return.pump"], lamp.laws["return.pump"]
    q = 9e-4
    more = b.pipe.head_loss(q) - a.pipe.head_loss(q)
    assert more == pytest.approx(12.0 * (q / a.pipe.area) ** 2 / (2 * 9.80665), rel=1e-6)
    assert lamp.running.flow["return.pump"] < bare.running.flow["return.pump"]


def test_all_of_the_flow_passes_it(demo):
    study = fitted(demo, watts=40.0, length=0.6, diameter=0.1)
    q = study.running.flow["return.pump"]
    stays = math.pi / 4 * (0.1**2 - 0.025**2) * 0.6 / q
    wanted = 0.3 * 0.7 * 40.0 / (math.pi * 0.0625 * 0.6) * stays
    rows = stations(study, study.situation("running"))
    card = next(s for s in rows if s.id == "return")
    shown = {r.label: r.value for r in card.readings}
    assert shown["Ultraviolet, J/m²"] == pytest.approx(wanted, rel=1e-3)
    old = LampSpec(watts=40.0, length=0.6, diameter=0.1, age=270 * 86400.0)
    assert dose(old, q) == pytest.approx(0.6 * wanted, rel=1e-3)


def test_a_weak_one_is_said_and_mended(demo):
    study = fitted(demo, watts=4.0, length=0.2)
    found = next(f for f in findings(study) if f.code == "dose-low")
    assert found.values["dose"] < 150.0
    mended = Analysis(apply(study.system, found.edit))
    assert "dose-low" not in {f.code for f in findings(mended)}
    old = fitted(demo, age=300 * 86400.0, watts=60.0, length=1.0)
    assert "lamp-old" in {f.code for f in findings(old)}


def test_it_is_put_in_and_taken_out_on_the_card(demo):
    study = Analysis(demo)
    card = next(s for s in stations(study, study.situation("running")) if s.id == "return")
    put = dict(card.commands())["Put a steriliser into it"]
    system = apply(demo, put)
    assert system.device("return").lamp == LampSpec()
    study = Analysis(system)
    card = next(s for s in stations(study, study.situation("running")) if s.id == "return")
    assert any(c.path == (*LAMP, "watts") for c in card.choices)
    assert apply(system, dict(card.commands())["Take the steriliser out of it"]) == demo


def test_its_parts_upkeep_and_heat(demo):
    study = fitted(demo, watts=25.0)
    line, site = study.system.device("return"), study.sites["return"]
    piece = next(p for p in parts(line, site, study.running).pieces if p.id == "return.lamp")
    assert (piece.length, piece.diameter) == (0.5, 0.09)
    assert {t.id for t in care(line, site, study.running)} >= {"return.lamp", "return.sleeve"}
    assert line.warms == demo.device("return").warms + 25.0
    with pytest.raises(ValueError, match="as wide as its chamber"):
        LampSpec(sleeve=0.1, diameter=0.09)
