"""What the buttons of sump, overflow, return, rack and common drains set, by arithmetic of its own."""

from __future__ import annotations

import math
from functools import cache

import pytest

from fuente.catalogue import PIPES, bulkhead_for, pipe_size
from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.reading_room import reading_room
from fuente.demo.starter import starter
from fuente.devices.base import Change, Edit, Rank
from fuente.devices.plumbing_remedies import more_out
from fuente.devices.return_line.card import law_in
from fuente.devices.sump.spec import Fill
from fuente.document.system import apply
from fuente.findings import findings
from fuente.study.filters import add_filter, first_layouts
from fuente.study.known import analysed

LPH = 1e-3 / 3600
ACROSS = 0.384  # m inside the reading room's sump


def changed(system, **fields):
    """The same with fields of devices set; ``sump__chambers__0__exit__gap`` for a path."""
    changes = []
    for key, value in fields.items():
        path = tuple(int(p) if p.isdigit() else p for p in key.split("__"))
        changes.append(Change(path if path[0] == "space" else ("devices", *path), value))
    return apply(system, Edit("x", tuple(changes)))


@cache
def neighbour():
    """The demo, whose levels are first guesses for its changes, as in the window."""
    analysis = analysed(reading_room())
    findings(analysis)
    return analysis


def said(system, code, owner=None):
    """The finding of a code, of an owner where several have it."""
    found = [f for f in findings(analysed(system, neighbour())) if f.code == code and owner in (None, f.owner)]
    assert found, code
    return found[0]


def sets(finding):
    return {c.path[-1]: c.value for c in finding.edit.changes}


def level(system, cell):
    return analysed(system).running.level[cell]


# -- a sump -----------------------------------------------------------------------------------------------------------


def test_a_gap_widens_to_a_gentle_speed_on_the_next_five_millimetres():
    system = changed(reading_room(), sump__chambers__3__under__gap=0.004)
    finding = said(system, "gap-fast")
    speed = finding.values["speed"]
    through = speed * ACROSS * 0.004
    assert through == pytest.approx(analysed(system).running.flow["return.pump"], rel=1e-6)
    wanted = through / (ACROSS * 0.15)
    assert wanted <= sets(finding)["gap"] < wanted + 0.005
    assert finding.margin == pytest.approx(0.2 - speed)


def test_a_trap_widens_to_nine_centimetres_a_second():
    """By what the pump chamber spares over 120 mm."""
    system = changed(reading_room(), sump__chambers__3__width=0.045, sump__chambers__3__under__gap=0.06)
    finding = said(system, "trap-fast")
    speed, sump = finding.values["speed"], system.by_id["sump"]
    spare = sump.widths()[-1] - 0.12
    wanted = min(0.045 * speed / 0.09, 0.045 + spare)
    assert sets(finding)["width"] == pytest.approx(wanted, abs=6e-4)
    assert finding.rank is (Rank.FIX if speed > 0.2 else Rank.CONSIDER)
    assert finding.values["size"] == pytest.approx(0.0003 * math.sqrt(speed / 0.03))


def test_a_trap_takes_no_more_than_the_pump_chamber_spares():
    narrow = changed(reading_room(), sump__chambers__3__width=0.036, sump__chambers__3__under__gap=0.06)
    tight = changed(narrow, sump__chambers__2__width=0.35)
    sump = tight.by_id["sump"]
    spare = sump.widths()[-1] - 0.12
    finding = said(tight, "trap-fast")
    if spare > 0.0045:
        assert sets(finding)["width"] == pytest.approx(0.036 + spare, abs=6e-4)
    else:
        assert finding.edit is None


def test_a_trap_that_can_grow_by_three_millimetres_is_left():
    """Less than four are no change that anybody would build."""
    sump = reading_room().by_id["sump"]
    trap = sump.chambers[3].width
    for spare, offered in ((0.003, False), (0.006, True)):
        room = sump.widths()[-1] - 0.12 - spare
        system = changed(
            reading_room(),
            sump__chambers__2__width=sump.chambers[2].width + room + trap - 0.036,
            sump__chambers__3__width=0.036,
            sump__chambers__3__under__gap=0.06,
        )
        assert system.by_id["sump"].widths()[-1] - 0.12 == pytest.approx(spare, abs=1e-9)
        assert (said(system, "trap-fast").edit is not None) is offered


def test_teeth_are_six_tenths_of_a_carrier_apart():
    """Wheels of 10 mm: slots of 6 mm; a crest without teeth is cut to four tenths."""
    wide = said(changed(reading_room(), sump__chambers__2__exit__tooth_gap=0.009), "carriers-escape")
    assert sets(wide) == {"teeth": 0.4, "tooth_gap": 0.006}
    assert wide.margin == pytest.approx(0.008 - 0.009)
    bare = said(changed(reading_room(), sump__chambers__2__exit__teeth=0.0), "carriers-escape")
    assert sets(bare)["teeth"] == 0.4
    kept = said(
        changed(reading_room(), sump__chambers__2__exit__teeth=0.55, sump__chambers__2__exit__tooth_gap=0.009),
        "carriers-escape",
    )
    assert sets(kept)["teeth"] == 0.55


def test_a_full_bed_is_emptied_to_two_thirds():
    system = changed(reading_room(), sump__chambers__2__fill__volume=0.018)
    finding, sump = said(system, "bed-full", "sump.bed"), system.by_id["sump"]
    water = sump.widths()[2] * ACROSS * 0.27  # to its crest
    assert finding.values["share"] == pytest.approx(0.018 / water, rel=1e-6)
    assert sets(finding)["volume"] == pytest.approx(0.667 * water, abs=6e-5)


def test_what_is_too_big_leaves_a_finger_s_width():
    for field, room, value in (("length", "length", 0.88), ("width", "depth", 0.38), ("height", "height", 0.38)):
        finding = said(changed(reading_room(), **{f"space__{room}": value}), "space")
        assert sets(finding) == {field: pytest.approx(value - 0.01)}
        assert finding.margin == pytest.approx(value - {"length": 0.9, "width": 0.4, "height": 0.4}[field])


def test_thicker_glass_is_the_next_sheet_that_is_enough():
    for fields, code, field in (
        ({"sump__thickness": 0.004}, "sump-wall", "thickness"),
        ({"sump__chambers__0__exit__thickness": 0.002}, "baffle", "thickness"),
    ):
        finding = said(changed(reading_room(), **fields), code)
        need = finding.values["need"]
        sheets = [0.003, 0.004, 0.005, 0.006, 0.008, 0.010, 0.012, 0.015, 0.019, 0.025]
        assert sets(finding)[field] == min(t for t in sheets if t >= need - 1e-9)
        assert finding.margin == pytest.approx(finding.values["now"] - need)


def test_a_heavy_basket_is_split_into_bags():
    system = changed(
        cascade(),
        lower__chambers__0__role="media",
        lower__chambers__0__fill=Fill(medium="gravel", volume=0.02, held="basket"),
    )
    finding = said(system, "media-heavy", "lower.bed")
    lift = system.space.lift
    bags = math.ceil(finding.values["mass"] / lift)
    assert f"{bags} bags" in finding.why
    assert sets(finding) == {"held": "bags"}


def test_a_higher_sump_takes_what_comes_down():
    """The height that is missing, on the next ten millimetres, where the mark cannot go lower."""
    system = changed(reading_room(), sump__chambers__4__intake=0.14, space__margin=0.12)
    finding = said(system, "power-cut")
    missing = finding.values["excess"] / (0.884 * ACROSS)
    assert finding.action == "Raise sump walls"
    assert missing == pytest.approx(0.12 - finding.values["left"], rel=1e-6)
    assert 0.4 + missing <= sets(finding)["height"] + 1e-9 < 0.4 + missing + 0.01


def test_a_lower_mark_takes_its_volume_from_the_pump_chamber():
    """2 % more than what comes down too much, over the chamber's plan, down to the millimetre."""
    system = changed(reading_room(), space__margin=0.08)
    finding, sump = said(system, "power-cut"), reading_room().by_id["sump"]
    plan = sump.widths()[-1] * ACROSS
    wanted = 0.215 - 1.02 * finding.values["excess"] / plan
    assert finding.action == "Lower running level"
    assert wanted - 0.001 <= sets(finding)["level"] <= wanted + 1e-9


def test_the_mark_goes_a_centimetre_under_the_last_crest():
    system = changed(reading_room(), sump__chambers__4__level=0.26)
    finding = said(system, "mark-above-crest")
    assert finding.values["over"] == pytest.approx(0.26 - 0.252)
    assert sets(finding) == {"level": pytest.approx(0.242)}


def test_pads_are_sorted_and_washed():
    pads = reading_room().by_id["sump"].chambers[1].pads
    system = changed(reading_room(), sump__chambers__1__pads=pads[::-1])
    finding = said(system, "pad-order")
    assert [p.ppi for p in finding.edit.changes[0].value] == [20, 30, 45]
    dirty = changed(reading_room(), **{f"sump__chambers__1__pads__{i}__dirt": 120.0 for i in range(3)})
    assert {c.value for c in said(dirty, "overtops", "sump.foam").edit.changes} == {1.0}
    assert len(said(dirty, "overtops", "sump.foam").edit.changes) == 3


# -- an overflow ------------------------------------------------------------------------------------------------------


def test_the_crest_goes_down_until_two_centimetres_are_left():
    system = changed(reading_room(), overflow__crest=0.512, overflow__weir=0.3)
    finding = said(system, "tank-full")
    left = finding.values["left"]
    assert left == pytest.approx(0.8 + 0.55 - level(system, "tank"), abs=1e-6)
    assert sets(finding)["crest"] == pytest.approx(0.512 - (0.02 - left), abs=6e-5)


def test_a_dry_pipe_stands_over_the_water():
    """A dozen millimetres over it in the box, 20 mm over the highest mouth, 5 mm under the crest."""
    two = tuple(d for d in reading_room().by_id["overflow"].drains if d.role != "emergency")
    system = changed(reading_room(), overflow__drains=two, tank__length=1.8)
    finding = next(f for f in findings(analysed(system, neighbour())) if f.action == "Add emergency")
    made = finding.edit.changes[0].value[-1]
    water = level(system, "overflow.box") - 0.815
    assert made.role == "emergency"
    assert made.mouth == pytest.approx(min(max(water + 0.012, 0.40 + 0.02), 0.492 - 0.005), abs=6e-4)
    assert made.pipe == "40-pn10"  # as the pipe with the highest mouth


def test_a_wet_emergency_is_raised_over_the_water():
    system = changed(reading_room(), overflow__drains__2__mouth=0.35)
    finding = said(system, "emergency-wet")
    water = level(system, "overflow.box") - 0.815
    assert sets(finding)["mouth"] == pytest.approx(min(water + 0.012, 0.492 - 0.002), abs=6e-5)


def test_a_wider_drain_is_the_next_bore_of_its_grade():
    small = changed(reading_room(), overflow__drains__2__pipe="25-pn16", overflow__drains__2__mouth=0.485)
    small = changed(small, tank__height=0.53)
    finding = said(small, "drain-blocked")
    alike = [p for p in PIPES.values() if p.id.endswith("pn16") and p.bore > pipe_size("25-pn16").bore * 1.08]
    assert finding.action == "Widen emergency"
    assert sets(finding) == {"pipe": min(alike, key=lambda p: p.bore).id}


def test_a_hole_wants_its_own_width_of_glass():
    system = changed(reading_room(), overflow__box_length=0.1)
    finding = said(system, "hole-edge")
    saw = bulkhead_for(pipe_size("32-pn10")).saw
    assert finding.values["saw"] >= saw
    assert finding.margin == pytest.approx(finding.values["edge"] - finding.values["saw"])


# -- a return ---------------------------------------------------------------------------------------------------------


def test_an_outlet_in_the_air_goes_two_centimetres_under():
    system = changed(reading_room(), return__outlets__0__height=0.53)
    finding = said(system, "outlet-dry")
    water = level(system, "tank") - 0.815
    assert finding.values["over"] == pytest.approx(0.53 - water, abs=1e-6)
    assert sets(finding)["height"] == pytest.approx(water - 0.02, abs=6e-4)


def test_an_air_hole_in_the_air_goes_just_under():
    system = changed(reading_room(), return__outlets__0__hole=0.006, return__outlets__0__hole_height=0.52)
    finding = said(system, "air-hole-dry")
    assert sets(finding)["hole_height"] == pytest.approx(level(system, "tank") - 0.815 - 0.004, abs=6e-5)


def test_an_air_hole_lies_a_little_over_the_crest_and_under_the_water():
    finding = said(reading_room(), "no-air-hole")
    water = level(reading_room(), "tank") - 0.815
    made = sets(finding)
    assert made["hole_height"] == pytest.approx(min(0.492 + 0.002, water - 0.003), abs=6e-5)
    assert made["hole"] in [pytest.approx(0.006 + 0.001 * k) for k in range(7)]


def test_a_stronger_pump_meets_the_wish_at_its_head():
    """Lift and plumbing's loss at the wished flow; the new curve gives that flow and not half as much again."""
    system = changed(reading_room(), space__turnover=10.0 / 3600)
    finding = said(system, "turnover")
    made = sets(finding)
    study = analysed(system)
    need = 10.0 / 3600 * study.running.volume["tank"]
    law = law_in(system.by_id["return"], study.running)
    lift = law.lift(study.running.level["sump.pump"], study.running.level["tank"])
    head = lift + law.loss(need)[0]
    given = made["max_head"] * (1 - (need / made["max_flow"]) ** 2)
    assert head <= given < 2.5 * head
    assert made["speed"] == 1.0
    assert made["points"] == ()
    assert "turnover" not in {f.code for f in findings(analysed(apply(system, finding.edit), neighbour()))}


def test_a_pump_is_slowed_to_the_step_that_still_meets_the_wish():
    system = changed(reading_room(), space__turnover=2.5 / 3600)
    finding = said(system, "turnover-high")
    speed = sets(finding)["speed"]
    assert round(speed * 20) == pytest.approx(speed * 20)  # steps of five hundredths

    def turns(share):
        study = analysed(changed(system, return__pump__speed=share))
        return study.running.flow["return.pump"] / study.running.volume["tank"]

    assert turns(speed) > 0.97 * 2.5 / 3600
    assert turns(speed + 0.05) > 2.5 / 3600


def test_fast_pipes_take_the_next_wider():
    slow = changed(reading_room(), return__pipe="20-pn16")
    finding = said(slow, "return-fast")
    wider = [p for p in PIPES.values() if p.id.endswith("pn16") and p.bore > pipe_size("20-pn16").bore]
    assert sets(finding) == {"pipe": min(wider, key=lambda p: p.bore).id}
    speed = finding.values["speed"]
    assert finding.rank is (Rank.FIX if speed > 3.0 else Rank.CONSIDER)


# -- racks ------------------------------------------------------------------------------------------------------------


def test_second_drains_stand_a_little_over_the_first():
    finding = said(back_room(), "tank-drain-blocked")
    system = back_room()
    for change in finding.edit.changes:
        first = next(d for d in system.devices if d.id == change.value.id.removesuffix("-2"))
        inner = system.by_id[first.tank].inner_height
        assert change.value.mouth == pytest.approx(min(first.mouth + 0.014, inner - 0.006), abs=6e-4)
        assert change.value.emergency
        assert (change.value.pipe, change.value.into) == (first.pipe, first.into)


def test_a_gutter_is_widened_by_half():
    header = next(d for d in back_room().devices if d.kind == "header")
    where = header.id
    system = changed(back_room(), **{f"{where}__form": "gutter", f"{where}__gutter_width": 0.06})
    system = changed(system, **{f"{where}__gutter_height": 0.03})
    found = [f for f in findings(analysed(system)) if f.owner == where and f.action == "Wider header"]
    assert found
    assert sets(found[0]) == {"gutter_width": pytest.approx(0.09)}


def test_what_lets_more_out_of_a_full_vessel_by_hand():
    """A quarter more than comes in at the head that it is pumped to; one pipe more; its own pump at 0.85 of its
    speed, down to 0.4.
    """
    system = starter()
    kinds = {k.id: s for k, s in first_layouts(system, "tank")}
    study = analysed(apply(system, add_filter(system, kinds["drum_train"])))
    drums = kinds["drum_train"]
    ((words, edit),) = more_out(drums, study.running)
    assert words == "Stronger pump out"
    pump = edit.changes[0].value
    flow = study.running.flow
    need = 1.25 * (flow["drums.out"] + sum(q for key, q in flow.items() if key.startswith("drums.spill")))
    link = study.network.link("drums.out")
    head = link.law.lift(study.running.level[link.a], study.running.level[link.b]) + link.law.loss(need)[0]
    assert pump.max_head * (1 - (need / pump.max_flow) ** 2) >= head
    smaller = pump.max_flow - 500e-3 / 3600
    assert smaller < drums.drain.pump.max_flow or pump.max_head * (1 - (need / smaller) ** 2) < head
    tower = kinds["trickle_tower"]
    study = analysed(apply(system, add_filter(system, tower)))
    offers = {words: edit.changes for words, edit in more_out(tower, study.running)}
    assert set(offers) == {"Another pipe out", "Turn its pump down"}
    assert offers["Another pipe out"][0].value == tower.drain.count + 1
    assert offers["Turn its pump down"][0].value == pytest.approx(0.85 * tower.feed.pump.speed)
    slow = tower.feed.model_copy(update={"pump": tower.feed.pump.model_copy(update={"speed": 0.4})})
    most = tower.drain.model_copy(update={"count": 8})
    assert more_out(tower.model_copy(update={"feed": slow, "drain": most}), study.running) == ()
