"""What cannot be built is one sentence that names the part, at the entry or before anything is solved."""

from __future__ import annotations

import pytest

from devices.test_judgements import LOW, TANK
from devices_of import FILTERS
from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices.base import Change, Edit
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.sump.spec import Baffle, Chamber, Pad
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.study.analysis import Analysis
from fuente.study.filters import add_filter
from fuente.study.sites import new_site


def edited(make, *pairs):
    """A demo with values set at once; paths as words with slashes."""
    changes = []
    for where, value in pairs:
        path = tuple(int(p) if p.isdigit() else p for p in where.split("/"))
        changes.append(Change(("devices", *path), value))
    return apply(make(), Edit("x", tuple(changes)))


def lone(kind, tank, **own):
    """A tank with one filter of a kind, some of its fields set."""
    bare = System(devices=(tank,))
    spec = FILTERS[kind].first(new_site(bare, tank.id))
    data = spec.model_dump()
    for key, value in own.items():
        data[key] = {**data[key], **value} if isinstance(value, dict) else value
    first = apply(bare, add_filter(bare, spec))
    return apply(first, Edit("x", tuple(Change((*spec.path, key), data[key]) for key in own)))


def refused(make, *args, **kwargs):
    """The sentence with which a design, or its water, is refused."""
    with pytest.raises(FuenteError) as caught:
        Analysis(make(*args, **kwargs)).situation("running")
    words = str(caught.value)
    assert words.endswith((".", "…"))
    assert "\n" not in words
    assert len(words) < 300
    return words


@pytest.mark.parametrize(
    ("kind", "tank", "own", "words"),
    [
        ("bottle_bed", TANK, {"sponge": 5.0}, "8 to 60 pores per inch"),
        ("bottle_bed", TANK, {"holes": 2000, "hole": 0.008}, "leave no wall"),
        ("bottle_bed", TANK, {"injector": 0.001}, "between the bottle's foot and its top"),
        ("canister", TANK, {"hose": "rope"}, "no pipe “rope”"),
        (
            "canister",
            TANK,
            {"height": 0.2, "layers": [{"medium": "ring", "thickness": 0.12}, {"medium": "ring", "thickness": 0.12}]},
            "higher than its inside",
        ),
        ("canister", TANK, {"outlet": 0.9}, "more than 300 mm above the tank's rim"),
        ("foam_wall", TANK, {"dam": 0.46}, "leaves no foam over it"),
        ("foam_wall", TANK, {"shape": "corner", "reach": 0.05, "thickness": 0.06}, "thicker than the corner"),
        ("foam_wall", TANK, {"shape": "corner", "reach": 0.3, "walls": 2}, "Corner walls stand alone"),
        ("foam_wall", TANK, {"behind": 1.5}, "leaves no room for the tank"),
        ("foam_wall", TANK, {"shape": "corner", "reach": 0.6}, "reaches further than"),
        ("foam_wall", TANK, {"height": 0.7}, "higher than its tank"),
        ("ornament", TANK, {"ppi": 3.0}, "8 to 60 pores"),
        ("ornament", TANK, {"wall": 0.08}, "leave no cavity"),
        ("ornament", TANK, {"media": 0.05}, "more than the cavity holds"),
        ("sieve_bed", LOW, {"height": 0.6, "screen": 0.55, "edge": 0.08}, "above the rim"),
        ("sieve_bed", LOW, {"media": 0.9}, "more lower media than room"),
        ("sponge", TANK, {"length": 0.03, "width": 0.03, "bore": 0.03, "tubes": 3}, "do not fit into the block"),
        ("sponge", TANK, {"outlet": 0.9}, "more than 300 mm above"),
        ("sponge", TANK, {"injector": 0.45}, "air enters above where the water leaves"),
        ("steriliser", TANK, {"sleeve": 0.09, "diameter": 0.08}, "as wide as its chamber"),
        ("steriliser", TANK, {"hose": "straw"}, "no pipe “straw”"),
        ("trickle_tower", TANK, {"submerged": 0.9, "packing": 0.5}, "under water than there is"),
        ("under_gravel", TANK, {"length": 2.5}, "larger than the bottom"),
        ("sock", TANK, {"socks": 12, "length": 0.3}, "do not fit into their box"),
        ("sock", TANK, {"feed": {"pipe": "gutter"}}, "no pipe “gutter”"),
        ("drum_train", LOW, {"drain": {"into": "nowhere"}}, "not there"),
    ],
    ids=lambda v: v if isinstance(v, str) else "",
)
def test_a_filter_that_cannot_be(kind, tank, own, words):
    assert words in refused(lone, kind, tank, **own)


SUMP = "sump/chambers"
ROOM = reading_room().by_id["sump"].chambers


@pytest.mark.parametrize(
    ("pairs", "words"),
    [
        ([("tank/thickness", 0.05), ("tank/width", 0.1)], "leave no room inside"),
        ([("tank/gravel", 0.4)], "more than 60 %"),
        ([(f"{SUMP}/1/pads", ())], "needs at least one pad"),
        ([(f"{SUMP}/1/pads", (Pad(ppi=20, thickness=0.2),))], "thicker together than the chamber"),
        ([(f"{SUMP}/0/socks", None)], "needs its socks described"),
        ([(f"{SUMP}/3/under", None)], "needs an under-baffle"),
        ([(f"{SUMP}/3/under/gap", 0.001)], "needs an under-baffle"),
        ([(f"{SUMP}/3/width", 0.024)], "too narrow for its under-baffle"),
        ([(f"{SUMP}/2/width", 0.01)], "narrower than 20 mm"),
        ([(f"{SUMP}/2/width", 0.4)], "for the pump; it needs 40 mm"),
        ([(f"{SUMP}/2/exit", None)], "needs a baffle to the next"),
        ([(f"{SUMP}/4/exit", Baffle(top=0.2))], "without a baffle after it"),
        ([(f"{SUMP}/2/exit/top", 0.45)], "above the sump's rim"),
        ([(f"{SUMP}/2/exit/gap", 0.28)], "nothing of it is left"),
        ([(f"{SUMP}/4/level", 0.4)], "marked above the sump's rim"),
        ([(f"{SUMP}/4/level", 0.08)], "at or below the pump's intake"),
        ([(f"{SUMP}/1/id", "socks")], "same id"),
        ([(SUMP, (Chamber(id="early", role="pump", width=0.2, exit=Baffle(top=0.2)), *ROOM[-1:]))], "Only the last"),
        ([("sump/width", 0.1), ("sump/thickness", 0.04)], "leave no room inside"),
        ([("overflow/crest", 0.6)], "crest is above the tank's rim"),
        ([("overflow/box_length", 1.47)], "does not fit in the tank"),
        ([("overflow/box_length", 0.05), ("overflow/box_width", 0.05)], "do not fit side by side"),
        ([("overflow/drains", ())], "one to six drains"),
        ([("overflow/drains/0/pipe", "stovepipe")], "no pipe “stovepipe”"),
        ([("overflow/release", 1.2)], "water needs a fall"),
        ([("return/outlets", ())], "one to eight outlets"),
        ([("return/outlets/0/height", 0.9)], "more than 300 mm above the rim of Reading-room tank"),
        ([("return/pump/max_head", 0.5)], "does not reach"),
        ([("return/pipe", "lead")], "no pipe “lead”"),
        ([("return/pump/points", ((0.0, 3.0),))], "two or more"),
        ([("return/pump/points", ((0.0, 3.0), (1e-3, 3.5)))], "must fall as its flow rises"),
        ([("return/pump/suction", "lead")], "no pipe “lead”"),
        ([("return/tank", "cellar")], "not there"),
        ([("return/tank", "sump")], "which is no tank"),
    ],
)
def test_a_sump_system_that_cannot_be(pairs, words):
    assert words in refused(edited, reading_room, *pairs)


@pytest.mark.parametrize(
    ("make", "pairs", "words"),
    [
        (cascade, [("fall/second", "upper"), ("fall/entry", "heat")], "joins a chamber to itself"),
        (cascade, [("fall/height", 0.6)], "leaves above the rim"),
        (cascade, [("fall/release", 0.39), ("lower/stand", 0.45)], "water needs a fall"),
        (cascade, [("fall/pipe", "reed")], "no pipe “reed”"),
        (cascade, [("fall/entry", "attic")], "a chamber that is not there"),
        (cascade, [("top-up/level", 0.6)], "shuts above the sump's rim"),
        (cascade, [("top-up/source", "drip")], "needs an overflow to waste"),
        (
            cascade,
            [("top-up/source", "drip"), ("top-up/waste", True), ("top-up/waste_mouth", 0.5)],
            "above the sump's rim",
        ),
        (cascade, [("return/rows/0/branches/0/mouth", 1.4)], "more than 500 mm above its rim"),
        (cascade, [("return/rows", ())], "must have at least 1"),
        (cascade, [("return/loops/0/id", "pump")], "same id"),
        (cascade, [("return/riser", "hemp")], "no pipe “hemp”"),
        (nursery, [("air/drops/1/to", "bed-1")], "Two drops lead to the same place"),
        (nursery, [("air/pump/points", ((0.0, 1e4), (0.0, 5e3)))], "need rising flow"),
        (nursery, [("air/pump/points", ((0.0, 1e4), (1e-4, 2e4)))], "must fall as its flow rises"),
        (nursery, [("air/drops/1/to", "tub-1")], "takes no air"),
        (trough, [("drums/drums/0/outlet", 0.95)], "above its rim"),
        (trough, [("drums/drums/1/media", 0.3)], "more media than fits"),
        (trough, [("sieve/feed/hold", 0.495)], "holds the water over the screen"),
        (trough, [("sieve/feed/source", "sieve")], "not there"),
        (trough, [("plants/drain/into", "plants")], "not there"),
        (trough, [("plants/drain/height", 0.6)], "leaves above the rim"),
        (trough, [("plants/drain/release", 1.2)], "mm of fall"),
        (back_room, [("rack-drain/low_end", 0.2)], "water needs a fall"),
        (back_room, [("rack-drain/pipe", "bark")], "no pipe “bark”"),
        (back_room, [("rack-1-1-drain/mouth", 0.9)], "above the rim of"),
        (back_room, [("rack-1-1-drain/pipe", "bark")], "no pipe “bark”"),
    ],
    ids=lambda v: v if isinstance(v, str) else "",
)
def test_a_system_that_cannot_be(make, pairs, words):
    assert words in refused(edited, make, *pairs)


@pytest.mark.parametrize(
    ("own", "words"),
    [
        ({"crest": 0.6}, "crest is above the tank's rim"),
        ({"release": 1.3}, "no fall"),
        ({"tube": "vine"}, "no pipe “vine”"),
    ],
)
def test_a_hang_on_that_cannot_be(own, words):
    def make():
        fields = {"crest": 0.49, "tube": "32-pn10", **own}
        system = apply(reading_room(), Edit("x", (Change(("devices", "overflow"), None),)))
        box = HangOn(crest=0.49, tube="32-pn10").model_copy(update={**fields, "id": "hung", "into": "sump"})
        return apply(system, Edit("x", (Change(("devices", "hung"), box),)))

    assert words in refused(make)


def test_plates_want_the_bottom_for_themselves():
    bare = System(devices=(TANK.model_copy(update={"gravel": 0.02}),))
    with pytest.raises(FuenteError, match="Take the gravel off"):
        FILTERS["under_gravel"].first(new_site(bare, TANK.id))


def test_a_system_has_a_tank_and_no_two_parts_of_one_id():
    with pytest.raises(FuenteError, match="Devices must have at least 1"):
        apply(System(devices=(TANK,)), Edit("x", (Change(("devices", TANK.id), None),)))
    with pytest.raises(ValueError, match="same id"):
        System(devices=(TANK, TANK))
