"""Bottle beds: one word for what a line ends in, noise, maturity, shoulders, brittle carriers, every hole counted."""

import math

import pytest

from devices_of import FILTERS, air_supplies
from fuente.demo.nursery import nursery
from fuente.devices import kind_of
from fuente.devices.base import Rank
from fuente.devices.bottle_bed.judge import heard
from fuente.devices.bottle_bed.network import losses
from fuente.devices.bottle_bed.sizing import wish
from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.contract import Look
from fuente.devices.pocket import flow_of
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply, set_value
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.findings.tried import tried
from fuente.study.analysis import Analysis
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.workshop.bill import bill

TANK = Tank(length=0.9, width=0.4, height=0.45, thickness=0.008, stand=0.8, feed=2e-3 / 86400)


def one(**changes):
    base = System(devices=(TANK,))
    spec = FILTERS["bottle_bed"].first(new_site(base, "tank")).model_copy(update={"age": 0.0, **changes})
    return apply(base, add_filter(base, spec))


def bed(system):
    return next(f for f in system.filters if f.kind == "bottle_bed")


def pieces(system, words):
    return [p for p in bill(Analysis(system)).pieces if words in getattr(p, "name", "")]


def codes(system):
    return {f.code: f for f in findings(Analysis(system))}


def test_one_diffuser_a_bottle_and_it_holds_back_whichever_the_drop_says():
    """The card's diffuser is the line's end: listed once, and the air pushes through it."""
    fine = one(end="diffuser", tubes=1)
    assert sum(p.count for p in (*pieces(fine, "diffuser"), *pieces(fine, "Air diffuser"))) == 1
    drop = air_supplies(fine)[0]
    for end in ("open", "diffuser"):
        said = apply(fine, set_value("x", ("devices", drop.id, "drops", 0, "end"), end))
        held = [d.diffuser for d in Analysis(said).airs[drop.id].supply.drops]
        assert held == [d.diffuser for d in Analysis(fine).airs[drop.id].supply.drops]
    opened = apply(fine, set_value("x", (*bed(fine).path, "end"), "open"))
    runs = [Analysis(s).running.flow for s in (fine, opened)]
    flows = [sum(q for key, q in flow.items() if key.startswith("air.")) for flow in runs]
    assert flows[1] > flows[0]
    assert not pieces(opened, "iffuser")


def test_a_sponge_s_drop_still_says_its_own_end():
    system = nursery()
    supply = air_supplies(system)[0]
    k = next(i for i, d in enumerate(supply.drops) if system.by_id[d.to].kind == "sponge")
    other = "open" if supply.drops[k].end == "diffuser" else "diffuser"
    after = apply(system, set_value("x", ("devices", supply.id, "drops", k, "end"), other))
    before, now = (Analysis(s).airs[supply.id].supply.drops[k].diffuser for s in (system, after))
    assert before != now


def test_what_is_heard_grows_with_air_depth_and_holes():
    """A whisper from a diffuser; the same air from an open line, from deeper, past fast holes is louder."""
    spec = BottleBed(id="b", tank="tank", diameter=0.1, outlet=0.28, injector=0.03, holes=60, hole=0.006)
    section = math.pi / 4 * 0.01
    quiet, slow = 4.5e-3 * section, 0.1 * spec.open_area
    assert heard(spec, quiet, slow) == "a whisper"
    assert heard(spec.model_copy(update={"end": "open"}), quiet, slow) == "a murmur"
    assert heard(spec.model_copy(update={"outlet": 0.03 + 0.25 * 1.3}), quiet, slow) == "a murmur"
    assert heard(spec, quiet, 0.3 * spec.open_area) == "a murmur"
    assert heard(spec, 25e-3 * section, slow) == "in the next room"


def test_carriers_are_new_as_long_as_their_medium_takes():
    week = 7 * 86400.0
    for medium, weeks in (("wheel_10", 7), ("grain", 5)):
        system = one(medium=medium)
        told = codes(system)["carriers-new"]
        assert told.values["left"] == pytest.approx(weeks * week)
        old = apply(system, set_value("x", (*bed(system).path, "age"), weeks * week + 1))
        assert "carriers-new" not in codes(old)
        assert "carriers-new" not in codes(apply(system, told.edit))


def test_air_from_the_centre_wants_a_quarter_more():
    site = new_site(System(devices=(TANK,)), "tank")
    side, centre = (bed(one(entry=entry)) for entry in ("side", "centre"))
    assert wish(centre, site) == pytest.approx(1.25 * wish(side, site))


def test_brittle_carriers_want_the_side_and_no_tumble():
    for changes in ({"entry": "centre"}, {"roll": "hard"}):
        system = one(medium="grain", **changes)
        told = codes(system)["carriers-brittle"]
        assert told.rank is Rank.CONSIDER
        after = apply(system, told.edit)
        assert (bed(after).entry, bed(after).roll) == ("side", "gentle")
        assert "carriers-brittle" not in codes(after)
        assert "carriers-brittle" not in codes(one(medium="wheel_10", **changes))


def test_a_shouldered_bottle_holds_less():
    """A cone from the bore to three tenths of it: a third of (1 + 0.3 + 0.09) of its cylinder."""
    straight = BottleBed(id="b", tank="tank", diameter=0.1, height=0.3)
    spec = straight.model_copy(update={"shoulder": 0.09})
    section = math.pi / 4 * 0.01
    assert spec.bottle == pytest.approx(section * (0.21 + 0.09 * 1.39 / 3))
    assert spec.media < straight.media
    with pytest.raises(FuenteError, match="six tenths"):
        apply(one(), set_value("x", (*bed(one()).path, "shoulder"), 0.9))


def test_every_hole_is_counted_and_sized():
    system = one(
        tubes=2,
        holes=40,
        hole=0.005,
        top_holes=30,
        top_hole=0.0045,
        cap_holes=12,
        cap_hole=0.004,
        entry="centre",
        airline=0.008,
        suckers=3,
        sucker=0.007,
    )
    found = {p.name: (p.count, p.diameter) for p in bill(Analysis(system)).pieces if "Hole" in getattr(p, "name", "")}
    assert found == {
        "Hole at the foot": (80, 0.005),
        "Hole under the top": (60, 0.0045),
        "Hole in the cap": (24, 0.004),
        "Hole for the airline, at the middle of the foot": (2, pytest.approx(0.0075)),
        "Hole for suckers or hangers": (6, 0.007),
    }
    assert [p.count for p in pieces(system, "Hanger or sucker")] == [6]
    assert not pieces(one(suckers=0), "sucker")


def test_a_file_from_before_has_at_the_top_what_it_has_at_the_foot():
    old = BottleBed.model_validate({"id": "b", "tank": "tank", "holes": 44, "hole": 0.005})
    assert (old.top_holes, old.top_hole, old.cap_holes) == (44, 0.005, 0)
    said = BottleBed.model_validate({"id": "b", "tank": "tank", "holes": 44, "top_holes": 20, "top_hole": 0.004})
    assert (said.holes, said.top_holes, said.hole, said.top_hole) == (44, 20, 0.006, 0.004)
    again = BottleBed.model_validate(said.model_dump())
    assert again == said


def test_water_leaves_by_the_top_and_the_cap_in_series_with_the_foot():
    """An orifice each, C = 0.62: h = (Q / (C A))² / 2g, one after the other."""
    site = new_site(System(devices=(TANK,)), "tank")
    spec = BottleBed(
        id="b", tank="tank", tubes=2, holes=50, hole=0.005, top_holes=20, top_hole=0.004, cap_holes=10, cap_hole=0.003
    )
    foot = 2 * 50 * math.pi / 4 * 0.005**2
    out = 2 * math.pi / 4 * (20 * 0.004**2 + 10 * 0.003**2)
    assert (spec.open_area, spec.way_out, spec.narrowest) == pytest.approx((foot, out, out))
    flow = 300e-3 / 3600
    by_hand = sum((flow / (0.62 * area)) ** 2 / (2 * 9.80665) for area in (foot, out))
    assert losses(spec, site)[1].square * flow**2 == pytest.approx(by_hand, rel=1e-3)


def test_narrow_holes_at_the_top_are_told_and_widened_there():
    tall = {"height": 0.36, "outlet": 0.38, "hang": 0.02, "injector": 0.03, "roll": "hard", "diameter": 0.05}
    system = one(holes=120, hole=0.006, top_holes=3, top_hole=0.006, **tall)
    wide = one(holes=120, hole=0.006, top_holes=120, top_hole=0.006, **tall)
    through = [flow_of(bed(s), Analysis(s).running) for s in (system, wide)]
    assert through[0] < 0.8 * through[1]
    told = codes(system)["holes-fast"]
    speed = through[0] / bed(system).way_out
    assert told.values["speed"] == pytest.approx(speed, rel=1e-6)
    after = apply(system, tried(Analysis(system), told).edit)
    assert bed(after).holes == 120
    assert bed(after).top_holes > 3
    assert "holes-fast" not in codes(after)


@pytest.mark.parametrize("which", ["hole", "top_hole", "cap_hole"])
def test_no_hole_lets_carriers_through(which):
    system = one(cap_holes=6, **{which: 0.011})
    told = codes(system)["carriers-escape"]
    assert told.values["hole"] == 0.011
    after = bed(apply(system, told.edit))
    assert getattr(after, which) < 0.011
    kept = [k for k in ("hole", "top_hole", "cap_hole") if k != which]
    assert [getattr(after, k) for k in kept] == [getattr(bed(system), k) for k in kept]
    assert "carriers-escape" not in codes(apply(system, told.edit))
    assert "carriers-escape" not in codes(one(cap_holes=0, cap_hole=0.011))  # no hole, no way through


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"top_holes": 0, "cap_holes": 0}, "under its top or in its cap"),
        ({"top_holes": 2000, "top_hole": 0.01}, "no wall at the bottle's top"),
        ({"holes": 2000, "hole": 0.01}, "no wall at the bottle's foot"),
        ({"cap_holes": 400, "cap_hole": 0.01}, "leave no cap"),
    ],
)
def test_a_bottle_keeps_its_walls_and_a_way_out(changes, words):
    with pytest.raises(ValueError, match=words):
        BottleBed(id="b", tank="tank", **changes)


def test_a_shouldered_bottle_s_walls_end_at_its_shoulder():
    """Nothing of the wall stands beside the shoulder, and the cap is as wide as the neck, whole or with its holes."""
    for cap in (0, 12):
        system = one(shoulder=0.06, cap_holes=cap, cap_hole=0.003)
        study = Analysis(system)
        spec = bed(system)
        drawing = kind_of(spec).sketch(spec, study.sites[spec.id], Look(study, study.running))
        shapes = [s for s in drawing.shapes if getattr(s, "style", "") == "bottle"]
        points = [p for s in shapes for p in s.points]
        low, high = min(x for x, _ in points), max(x for x, _ in points)
        top = max(y for _, y in points)
        shoulder = [p for p in points if p[1] > top - 40]
        assert all(low + 3 < x < high - 3 for x, _ in shoulder)
        assert high - low == pytest.approx(spec.diameter * 1000, abs=3)
