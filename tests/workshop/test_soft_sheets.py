"""Fleece, mesh and discs from sheets, screens against plants, soft walls, rails in the plan, bodies made alike."""

from __future__ import annotations

import datetime
import math

import pytest

from devices_of import FILTERS
from fuente.demo import DEMOS
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.devices.base import Change, Edit
from fuente.devices.overflow.modes import covered_rise
from fuente.devices.pieces import Pad
from fuente.devices.tank.spec import Tank
from fuente.document.record import EMPTY
from fuente.document.system import System, apply, set_value
from fuente.findings import judge
from fuente.shown.plan import own_plan
from fuente.structure.walls import drawn_flat, largest_flange, stands_off
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.sites import new_site
from fuente.units import UnitSystem
from fuente.workshop.clocks import Stand, build_stand, done
from fuente.workshop.purchase import purchase
from fuente.workshop.room import room_of
from fuente.workshop.templates import templates
from fuente.workshop.words import remark

METRIC = UnitSystem.METRIC


TANK = Tank(length=1.2, width=0.5, height=0.5, stand=0.9, temperature=22.0, feed=3e-3 / 86400)


def with_filter(kind, **own):
    system = System(devices=(TANK,))
    spec = FILTERS[kind].first(new_site(system, system.tanks[0].id))
    return apply(system, add_filter(system, type(spec).model_validate({**spec.model_dump(), **own})))


def put(system, key, *where_value):
    *where, value = where_value
    return apply(system, set_value("x", ("devices", key, *where), value))


def lots(system):
    return {p.lot.key: p for p in room_of(analysed(system)).pads}


def test_discs_are_cut_from_the_square_about_them():
    layers = [{"medium": "floss", "thickness": 0.02, "share": 0.1}, {"medium": "foam", "ppi": 20, "thickness": 0.05}]
    found = lots(with_filter("canister", diameter=0.24, layers=layers))
    floss = next(p for p in found.values() if p.lot.material == "floss")
    foam = next(p for p in found.values() if p.lot.material == "foam" and p.lot.fine == 20)
    for each in (floss, foam):
        (item, *_) = each.lot.items
        assert (item.length, item.width) == (pytest.approx(0.24 * 1.015), pytest.approx(0.24 * 1.015))
    # 1000 × 500 gives four by two of 244 mm.
    assert floss.single[0][1].count == 8


def test_a_sieve_s_screen_is_cut_with_its_hem_and_bought_as_mesh():
    system = DEMOS["courtyard-trough"]()
    sieve = next(d for d in system.devices if d.kind == "sieve_bed")
    lot = next(p.lot for p in lots(system).values() if p.lot.material == "mesh")
    assert [(i.length, i.width) for i in lot.items] == [
        (pytest.approx(sieve.length + 0.2), pytest.approx(sieve.width + 0.2))
    ]
    bought = {b.what: b for b in purchase(analysed(system), METRIC).lines if b.group == "Mesh"}
    assert sum(b.amount for b in bought.values()) >= 1
    assert not any(b.what.startswith("Screen,") for b in purchase(analysed(system), METRIC).lines)


def test_a_screen_narrows_the_crest_and_is_judged_half_covered():
    plain = reading_room()
    screened = put(plain, "overflow", "screen", 0.4)
    before, after = (analysed(s).running.level["tank"] for s in (plain, screened))
    crest = 0.815 + 0.492
    # The same flow over 0.6 of the length, both corrected by a millimetre (Kindsvater and Carter).
    free = 0.56 * 0.75
    asked = ((free - 1e-3) / (0.6 * free - 1e-3)) ** (2 / 3) * (before - crest + 1e-3) - 1e-3
    assert after - crest == pytest.approx(asked, rel=0.01)
    mesh = next(p for p in room_of(analysed(screened)).pieces if isinstance(p, Pad) and p.id == "overflow.screen")
    assert (mesh.length, mesh.opening) == (0.56, 0.005)
    assert "screen-covered" not in {f.code for f in judge(screened)}
    high = put(screened, "overflow", "crest", 0.515)
    told = next(f for f in judge(high) if f.code == "screen-covered")
    head = analysed(high).running.level["tank"] - 0.815 - 0.515
    free = 0.56 * 0.75 * 0.6
    asked = ((free - 1e-3) / (free / 2 - 1e-3)) ** (2 / 3) * (head + 1e-3) - 1e-3
    assert told.values["rise"] == pytest.approx(asked - head, rel=0.02)
    cured = apply(high, told.edit)
    assert "screen-covered" not in {f.code for f in judge(cured)}
    assert "screen-covered" not in {f.code for f in judge(put(high, "overflow", "screen", 0.0))}


def test_half_of_a_screened_crest_is_what_the_rise_says():
    """Half of the free length, solved for the whole system."""
    open_, half = (put(put(reading_room(), "overflow", "teeth", 0.0), "overflow", "screen", s) for s in (0.2, 0.6))
    crest = 0.815 + 0.492
    heads = [analysed(s).running.level["tank"] - crest for s in (open_, half)]
    assert covered_rise(open_.device("overflow"), heads[0]) == pytest.approx(heads[1] - heads[0], rel=0.01)


def test_a_soft_wall_gives_until_its_skin_is_strained():
    """A 300 mm drum of 2 mm: its curvature of 2/0.3 less 2 × 1 % / 2 mm is lower than nothing: flat."""
    assert math.isinf(drawn_flat(0.3, 0.002))
    assert stands_off(0.3, 0.1, 0.002) == 0.0
    assert drawn_flat(0.15, 0.004) == pytest.approx(1 / (1 / 0.15 - 0.01 / 0.004))
    assert largest_flange(0.3, 0.003) == pytest.approx(2 * math.sqrt(0.15**2 - 0.149**2))
    assert largest_flange(0.3, 0.003, 0.002) == pytest.approx(0.2)
    assert largest_flange(0.15, 0.003) < largest_flange(0.15, 0.003, 0.004) < 0.1


def test_a_flange_that_a_stiff_drum_refuses_sits_on_a_soft_one():
    system = with_filter("drum_train", seal="bulkhead")
    train = next(d for d in system.devices if d.kind == "drum_train")
    tight = apply(
        system, Edit("", tuple(Change((*train.path, "drums", k, "diameter"), 0.3) for k in range(len(train.drums))))
    )
    assert "flange-curve" in {f.code for f in judge(tight)}
    soft = apply(tight, set_value("x", (*train.path, "soft"), 0.003))
    assert "flange-curve" not in {f.code for f in judge(soft)}


@pytest.mark.parametrize(("shape", "count"), [("corner", 2), ("flat", 4)])
def test_rails_stand_in_the_plan(shape, count):
    system = with_filter("foam_wall", shape=shape)
    wall = next(d for d in system.devices if d.kind == "foam_wall")
    rails = [s for s in own_plan(analysed(system), wall.id).shapes if getattr(s, "style", "") == "plate"]
    assert len(rails) == count
    xs = sorted({round(min(x for x, _ in r.points), 1) for r in rails})
    if shape == "corner":
        assert xs[1] - xs[0] == pytest.approx(wall.reach * 1000)
    else:
        assert xs[1] - xs[0] == pytest.approx((wall.deep + 0.015) * 1000, abs=0.1)


def test_each_of_the_bottles_gets_a_strip_of_its_own():
    one, three = (with_filter("bottle_bed", tubes=n, holes=16) for n in (1, 3))
    strips = [
        {remark(t.words, METRIC) for t in templates(room_of(analysed(s))) if "along the wall" in t.words.text}
        for s in (one, three)
    ]
    assert strips[0] == strips[1]
    assert any(s.startswith("16 holes") for s in strips[0])


def test_what_was_done_of_bodies_made_alike_stays_with_each():
    """One of 24 alike is changed after their steps were done: all others keep their ticks."""
    system = nursery()
    room = room_of(analysed(system))
    shared = next(s for s in room.steps if s.likewise)
    now = datetime.datetime(2026, 3, 1, tzinfo=datetime.UTC)
    record = EMPTY.added(*done(shared, now))
    assert len(record.built) == 1 + len(shared.likewise)
    partly = EMPTY.added(*done(shared, now)[:-1])
    stood = {s.step.id: s for s in build_stand(room.steps, partly, now)}
    assert stood[shared.id].stand is not Stand.DONE
    first = next(d for d in system.devices if shared.id.startswith(d.id + ":"))
    fields = {"sponge": ("ppi", 45.0), "bottle_bed": ("holes", 12)}
    changed = apply(system, set_value("x", (*first.path, fields[first.kind][0]), fields[first.kind][1]))
    again = {
        s.step.id: s for s in build_stand(room_of(analysed(changed)).steps, record, now + datetime.timedelta(days=30))
    }
    assert again[shared.likewise[0]].stand is Stand.DONE
