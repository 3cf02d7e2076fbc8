"""Upkeep of every device: what comes round, how often in days, and which part it names."""

from __future__ import annotations

import pytest

from devices.test_judgements import LOW, TANK, wrong
from devices_of import FILTERS
from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.devices import kind_of
from fuente.devices.base import Change, Edit
from fuente.document.system import System, apply, set_value
from fuente.study.analysis import Analysis
from fuente.study.filters import add_filter
from fuente.study.sites import new_site

DAY = 86400.0


def of(system, device_id):
    """A device's tasks: the end of each id → (days, words)."""
    analysis = Analysis(system)
    spec = system.by_id[device_id]
    found = kind_of(spec).care(spec, analysis.sites[device_id], analysis.running)
    for task in found:
        assert task.why.endswith(".")
        assert task.id.startswith(device_id) or task.owner == device_id
    assert len({t.id for t in found}) == len(found)
    return {t.id.removeprefix(device_id + "."): (t.interval / DAY, t.name) for t in found}


def _both(*pairs):
    """Several fields of the top-up at once."""
    return Edit("x", tuple(Change(("devices", "top-up", key), value) for key, value in pairs))


def days(found):
    return {key: value[0] for key, value in found.items()}


@pytest.mark.parametrize(
    ("kind", "changes", "tank", "wanted"),
    [
        ("sponge", {}, TANK, {"squeeze": 28, "air": 7}),
        ("bottle_bed", {"sponge": 20.0, "end": "diffuser"}, TANK, {"look": 7, "sponge": 14, "stone": 182}),
        ("bottle_bed", {"sponge": 0.0, "end": "open"}, TANK, {"look": 7}),
        ("foam_wall", {}, TANK, {"gauge": 7, "rinse": 91}),
        ("ornament", {}, TANK, {"rinse": 28, "gaps": 7}),
        ("under_gravel", {}, TANK, {"vacuum": 14, "air": 7}),
        ("canister", {}, TANK, {"rinse": 56, "seal": 182, "drain": 14}),
        ("canister", {"sponge": 30.0, "drain": False}, TANK, {"rinse": 56, "seal": 182, "sponge": 14}),
        ("trickle_tower", {}, TANK, {"holes": 7, "base": 91}),
        ("plant_bed", {}, TANK, {"cut": 28, "head": 91}),
        ("sock", {}, TANK, {"change": 5}),
        ("steriliser", {}, TANK, {"lamp": 270, "sleeve": 90}),
        ("sieve_bed", {}, LOW, {"screen": 2, "float": 28}),
    ],
)
def test_a_filter_comes_round(kind, changes, tank, wanted):
    system = wrong(kind, tank, changes)
    spec = next(d for d in system.devices if d.kind == kind)
    assert days(of(system, spec.id)) == pytest.approx(wanted)


def test_twin_pads_are_rinsed_one_at_a_time():
    one, two = (wrong("foam_wall", TANK, {"twin": twin}) for twin in ("single", "twin"))
    found = [of(s, next(d.id for d in s.devices if d.kind == "foam_wall")) for s in (one, two)]
    assert found[0]["rinse"][1].startswith("Rinse it in")
    assert days(found[1]) == {"gauge": 7, "rinse.0": 91, "rinse.1": 91}
    assert found[1]["rinse.1"][1].startswith("Rinse the second pad")


def test_each_drum_by_its_task_and_number():
    bare = System(devices=(LOW,))
    spec = FILTERS["drum_train"].first(new_site(bare, "tank"))
    row = spec.drums[0].model_dump()
    roles = ("settle", "brush", "foam", "media", "stirred", "moving")
    drums = [{**row, "role": role, "ppi": 20, "foam": 0.1, "grid": 0.25, "mesh": 0.006} for role in roles]
    for drum in drums:
        drum["media"] = 0.03 if drum["role"] in ("media", "stirred", "moving") else 0.0
        drum["flush"] = 0.3 if drum["role"] != "brush" else 0.0
    made = type(spec).model_validate({**spec.model_dump(), "drums": drums, "flush_every": 3 * DAY})
    found = of(apply(bare, add_filter(bare, made)), made.id)
    assert days(found) == {"flush.0": 3, "foam.2": 14, "media.3": 182, "flush.4": 3}
    assert found["flush.0"][1] == "Flush drum 1, settling cone"
    assert found["foam.2"][1] == "Rinse the foam of drum 3"
    assert found["media.3"][1] == "Flush drum 4 and swish half of its media"
    assert found["flush.4"][1].startswith("Stir it with air, then flush drum 5")


def test_what_stands_round_a_tank_comes_round():
    system = reading_room()
    assert days(of(system, "tank")) == {}
    heated = apply(system, set_value("x", ("devices", "tank", "heaters"), 2))
    assert days(of(heated, "tank")) == {"heaters": 90}
    assert days(of(system, "overflow")) == {"teeth": 30, "emergency": 30}
    assert days(of(system, "return")) == {"pump": 90, "valve": 90}
    holed = apply(system, set_value("hole", ("devices", "return", "outlets", 0, "hole"), 0.006))
    assert days(of(holed, "return")) == {"pump": 90, "valve": 90, "hole": 30}
    assert days(of(system, "sump")) == {"socks.socks": 7, "foam.pad.0": 28, "foam.pad.1": 28, "foam.pad.2": 14}


def test_what_is_not_there_is_not_kept():
    bare = apply(reading_room(), set_value("x", ("devices", "return", "valve"), "none"))
    assert "valve" not in of(bare, "return")
    shut = apply(reading_room(), set_value("x", ("devices", "return", "outlets", 0, "hole"), 0.0))
    assert "hole" not in of(shut, "return")
    one = apply(
        reading_room(), set_value("x", ("devices", "overflow", "drains"), reading_room().by_id["overflow"].drains[:2])
    )
    assert days(of(one, "overflow")) == {"teeth": 30}


def test_sump_chambers_by_their_task():
    system = cascade()
    assert days(of(system, "upper")) == {"inlet.muck": 28, "foam.pad.0": 28, "foam.pad.1": 28, "foam.pad.2": 14}
    media = apply(system, set_value("x", ("devices", "lower", "chambers", 0, "role"), "media"))
    assert days(of(media, "lower")) == {"bed.media": 182}


def test_shared_plumbing_comes_round():
    system = cascade()
    assert days(of(system, "fall")) == {"brush": 90}
    assert days(of(system, "return")) == {"pump": 90, "valves": 90, "holes": 30, "bars": 30}
    assert days(of(system, "top-up")) == {"float": 30}
    drip = apply(system, _both(("source", "drip"), ("waste", True)))
    assert days(of(drip, "top-up")) == {"drip": 30}


def test_a_rack_comes_round_tank_by_tank():
    system = back_room()
    pipe = next(d for d in system.devices if d.kind == "standpipe")
    found = of(system, pipe.id)
    assert found["strainer"] == (7, f"Look at the drain of {system.by_id[pipe.tank].name}")
    header = next(d for d in system.devices if d.kind == "header")
    assert days(of(system, header.id)) == {"flush": 90}


def test_air_comes_round_and_its_stones_where_there_are_any():
    system = nursery()
    assert days(of(system, "air")) == {"dust": 91, "membrane": 728, "check": 182}
    supply = system.by_id["air"]
    k = next(i for i, d in enumerate(supply.drops) if system.by_id[d.to].kind == "sponge")
    stones = apply(system, set_value("x", ("devices", "air", "drops", k, "end"), "diffuser"))
    assert days(of(stones, "air"))["stones"] == 182
