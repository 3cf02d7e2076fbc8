"""Quick answers about making, by hand."""

from __future__ import annotations

import math

import pytest

from fuente.answers.registry import ask
from fuente.errors import EntryError, FuenteError

BOX = {"length": "900", "width": "400", "height": "400", "thickness": "8"}


def test_panels_of_a_box_in_every_order():
    usual = ask("panel-list", BOX)
    assert (usual["long_length"], usual["long_height"]) == pytest.approx((0.9, 0.391))
    assert (usual["end_length"], usual["bottom_length"]) == pytest.approx((0.382, 0.9))
    assert usual["baffle_length"] == pytest.approx(0.382)
    glass = 0.9 * 0.4 + 2 * (0.9 + 0.382) * 0.391
    assert usual["mass"] == pytest.approx(glass * 0.008 * 2500)
    other = ask("panel-list", {**BOX, "walls": "round", "ends": "outside", "bottom": "10 mm", "glue": "2 mm"})
    assert (other["end_length"], other["end_height"]) == pytest.approx((0.4, 0.4))
    assert (other["long_length"], other["bottom_length"], other["bottom_width"]) == pytest.approx((0.88, 0.88, 0.38))
    with pytest.raises(EntryError):
        ask("panel-list", {**BOX, "width": "15"})


def test_pads_of_a_sheet():
    """500 × 1 000 into 240 × 380: two columns of two and one turned; with 5 to hold tight only four."""
    sheet = {"sheet_length": "1 m", "sheet_width": "500", "pad_length": "380", "pad_width": "240"}
    loose = ask("sheet-pads", {**sheet, "price": "20", "at_once": "2", "changed": "3 weeks"})
    assert (loose["count"], loose["bound"], loose["each"]) == (5, 5, 4.0)
    assert loose["waste"] == pytest.approx(1 - 5 * 0.38 * 0.24 / 0.5)
    assert loose["weeks"] == pytest.approx(2 * 3 * 7 * 86400)
    assert ask("sheet-pads", {**sheet, "overlap": "5"})["count"] == 4
    assert ask("sheet-pads", {**sheet, "kerf": "5"})["count"] == 4
    with pytest.raises(EntryError):
        ask("sheet-pads", {**sheet, "at_once": "1.5"})


def test_a_nest():
    made = ask("nest", {"pieces": "900x391*2, 90 cm x 40 cm, 382x391*2", "sheet_length": "2 m", "sheet_width": "1.2 m"})
    area = 2 * 0.9 * 0.391 + 0.36 + 2 * 0.382 * 0.391
    assert made["sheets"] == 1
    assert made["waste"] == pytest.approx(1 - area / 2.4) == made["bound"]
    for pieces in ("", "900", "900x400*a", "3000x100"):
        with pytest.raises(EntryError):
            ask("nest", {"pieces": pieces, "sheet_length": "2 m", "sheet_width": "1.2 m"})


def test_the_fitting_in_the_hand():
    made = ask("hole", {"thread": "41", "flange": "64", "gasket": "3", "wall": "580"})
    assert (made["smallest"], made["largest"]) == pytest.approx((0.042, 0.056))
    assert made["stands_off"] == pytest.approx(0.29 - math.sqrt(0.29**2 - 0.032**2))
    assert made["takes_up"] == pytest.approx(0.001)
    assert made["saw"] == made["edge"] == pytest.approx(0.043)  # the smallest that is sold from 42 to 56
    for bad in ({"thread": "41", "flange": "42"}, {"thread": "41", "flange": "64", "wall": "60"}):
        with pytest.raises(EntryError):
            ask("hole", bad)


def test_glass_round_a_hole():
    at = {"diameter": "43", "x": "133", "y": "82", "length": "1500", "width": "600"}
    made = ask("hole-edge", at)
    assert made["edge"] == pytest.approx(0.082 - 0.0215)
    assert made["margin"] == pytest.approx(0.082 - 0.0215 - 0.043)
    assert ask("hole-edge", {**at, "apart": "80"})["margin"] == pytest.approx(0.08 - 2 * 0.043)
    with pytest.raises(EntryError):
        ask("hole-edge", {**at, "x": "1600"})


def test_a_bulkhead_on_a_drum():
    made = ask("drum-hole", {"drum": "580", "flange": "90"})
    falls = 0.29 - math.sqrt(0.29**2 - 0.045**2)
    assert made["margin"] == pytest.approx(0.001 - falls)
    assert 0 < made["largest_flange"] < 0.09
    with pytest.raises(EntryError):
        ask("drum-hole", {"drum": "80", "flange": "90"})


def test_a_tray_sags():
    made = ask("frame-sag", {"span": "1 m", "outside": "32", "wall": "1.8", "load": "3 kg"})
    inertia = math.pi / 64 * (0.032**4 - 0.0284**4)
    assert made["sag"] == pytest.approx(5 * 3 * 9.80665 / (384 * 2.8e9 * inertia), rel=1e-6)
    held = ask("frame-sag", {"span": "1 m", "outside": "32", "wall": "1.8", "load": "3 kg", "ends": "held"})
    assert held["sag"] == pytest.approx(made["sag"] / 5)
    with pytest.raises(EntryError):
        ask("frame-sag", {"span": "1 m", "outside": "3", "wall": "1.8", "load": "3 kg"})


def test_weight_glue_and_cement():
    full = ask("wet-weight", {"length": "1500", "width": "600", "depth": "500", "thickness": "10"})
    assert full["water"] == pytest.approx(1.48 * 0.58 * 500)
    assert full["per_area"] == pytest.approx(full["total"] / 0.9)
    with pytest.raises(EntryError):
        ask("wet-weight", {"length": "1500", "width": "600", "depth": "500", "thickness": "10", "legs": "4.5"})
    tubes = ask("silicone", BOX)
    assert tubes["seams"] == pytest.approx(2 * 1.3 + 1.6)
    assert tubes["volume"] == pytest.approx(4.2 * (8e-6 + 18e-6))
    assert tubes["cure"] == pytest.approx(6 / 2.5 * 86400)
    large = ask("silicone", {"length": "2 m", "width": "800", "height": "800", "thickness": "12", "bead": "10"})
    assert large["cartridges"] == math.ceil((2 * 2.8 + 3.2) * (12e-6 + 50e-6) * 1.2 / 310e-6) == 3
    glue = ask("cement", {"pipe": "32 mm", "joints": "10"})
    assert glue["cement"] == pytest.approx(10 * math.pi * 0.032 * 0.022 * 0.6e-3)
    with pytest.raises(EntryError):
        ask("cement", {"pipe": "33 mm", "joints": "10"})


@pytest.mark.parametrize(
    ("given", "off"),
    [
        ({}, 2 * 0.55 * 0.032),
        ({"first": "end", "last": "tee"}, 0.55 * 0.032),
        ({"between": "union, ball valve"}, (1.1 + 2 * 0.25 + 2 * 0.9) * 0.032),
    ],
)
def test_pipe_between_two_fittings(given, off):
    made = ask("pipe-cuts", {"run": "1.3 m", "pipe": "32 mm", **given})
    assert made["taken_off"] == pytest.approx(off)
    assert made["cut"] + made["taken_off"] == pytest.approx(1.3)
    assert made["each"] * made["pieces"] == pytest.approx(made["cut"])


def test_pipe_that_cannot_be():
    with pytest.raises(EntryError, match="too short"):
        ask("pipe-cuts", {"run": "60 mm", "pipe": "1 in"})
    for bad in ({"first": "thing"}, {"pipe": "7 in"}, {"pipe": "x in"}):
        with pytest.raises(FuenteError):
            ask("pipe-cuts", {"run": "1 m", "pipe": "1 in", **bad})


def test_a_ring_lies_between_rimless_and_braced():
    tank = {"length": "1500", "width": "600", "depth": "600"}
    free, ring, held = (
        ask("glass-thickness", {**tank, "brace": b})["wall_thickness"] for b in ("rimless", "ring", "braced")
    )
    assert held < ring < free
    long = ask("glass-thickness", {**tank, "school": "long"})["wall_thickness"]
    assert long / free == pytest.approx(math.sqrt(19.2 / 3.8 / 7.0), rel=1e-6)
    with pytest.raises(EntryError):
        ask("glass-thickness", {**tank, "brace": "ring", "strip": "0 mm"})
