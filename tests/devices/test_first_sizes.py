"""What Fuente lays out of itself: chambers, pumps, pipes, and what a device can become, by the rules worked by hand."""

from __future__ import annotations

import itertools
import math

import pytest

from amounts import LPH
from devices_of import FILTERS, joins, manifolds, overflows, returns, sumps, top_ups
from fuente.catalogue import PIPES
from fuente.demo.reading_room import reading_room
from fuente.devices.first_sizes import fall_back, fall_pipe_for, pipe_for, turnover_pump
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.overflow.spec import Overflow
from fuente.devices.plumbing import (
    sealed_curve,
)
from fuente.devices.pumping import PumpSpec, pump_for, suction_head, suction_pipe, with_suction
from fuente.devices.recipes.growing import (
    add_top_up,
    box_instead,
    hang_on_instead,
    manifold_instead,
    sump_in_front,
)
from fuente.devices.sump.chambers import new_chamber
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply
from fuente.hydraulics.pipes import Pipe
from fuente.study.analysis import Analysis
from fuente.study.sites import new_site
from fuente.water.properties import water

ACROSS, DEEP = 0.4, 0.39  # inside a sump
TANK = Tank(length=0.8, width=0.4, height=0.5, thickness=0.008, bottom=0.008, stand=0.7)


def chamber(role, width, flow, crest=0.3):
    return new_chamber(role, "c", width, crest, ACROSS, DEEP, flow)


@pytest.mark.parametrize(("lph", "count"), [(900, 1), (2400, 1), (2600, 2), (8000, 3)])
def test_socks_by_2500_litres_an_hour_and_by_room(lph, count):
    made = chamber("socks", 0.13, lph * LPH)
    assert made.socks.count == count  # no more than the width takes at 115 mm each: three
    assert (made.socks.plate, made.socks.length) == (0.345, 0.24)
    assert made.exit.teeth == 0.2
    assert made.exit.top == 0.3


def test_two_grades_of_foam_where_each_is_thick_enough():
    wide, narrow = chamber("foam", 0.18, 2000 * LPH), chamber("foam", 0.10, 2000 * LPH)
    assert [(p.ppi, p.thickness, p.height) for p in wide.pads] == [(20, 0.065, 0.355), (30, 0.065, 0.355)]
    assert [(p.ppi, p.thickness) for p in narrow.pads] == [(20, 0.05)]
    low = chamber("foam", 0.18, 2000 * LPH, crest=0.36)
    assert {p.height for p in low.pads} == {0.378}  # 12 mm under the rim


def test_media_beds_and_clean_outs():
    media = chamber("media", 0.2, 2000 * LPH)
    assert (media.fill.medium, media.fill.volume, media.fill.held) == ("ring", 0.0272, "bags")  # 200 × 400 × 340 mm
    bed = chamber("moving_bed", 0.22, 2000 * LPH)
    assert (bed.fill.medium, bed.fill.volume) == ("wheel_10", 0.0132)  # half of 220 × 400 × 300 mm
    assert (bed.exit.teeth, bed.exit.tooth_gap) == (0.4, 0.006)
    assert chamber("clean_out", 0.12, 2000 * LPH).exit.top == 0.225


def test_under_a_low_rim_contents_stop_short_of_it():
    """390 mm deep with crests at 370: media 20 under the rim, a sock plate 10, an under-baffle 5."""
    assert chamber("media", 0.2, 2000 * LPH, crest=0.37).fill.volume == pytest.approx(0.2 * 0.4 * 0.37, abs=5e-5)
    assert chamber("socks", 0.13, 2000 * LPH, crest=0.37).socks.plate == 0.38
    assert chamber("trap", 0.09, 1000 * LPH, crest=0.37).under.top == 0.385
    short = chamber("socks", 0.13, 2000 * LPH, crest=0.2)
    assert short.socks.length == 0.2  # no longer than the water is deep


@pytest.mark.parametrize(("lph", "gap"), [(1000, 0.03), (8000, 0.04), (12000, 0.06)])
def test_a_trap_s_gap_holds_water_under_140_millimetres_a_second(lph, gap):
    made = chamber("trap", 0.09, lph * LPH)
    assert (made.under.gap, made.under.top) == (gap, 0.36)
    assert lph * LPH / (ACROSS * gap) <= 0.14


def test_a_pump_for_a_turnover():
    """0.784 × 0.384 × 0.4428 m of water four times an hour at 1 m: a parabola of 2.1 m wants 847 L/h with its spare."""
    pump = turnover_pump(new_site(System(devices=(TANK,)), "tank"), 4 / 3600, 1.0, "P")
    assert (pump.name, pump.max_head, pump.watts) == ("P", 2.1, 8)
    assert pump.max_flow == pytest.approx(1000 * LPH)
    tiny = turnover_pump(new_site(System(devices=(TANK,)), "tank"), 0.1 / 3600, 0.1)
    assert (tiny.max_head, tiny.max_flow) == (0.8, pytest.approx(500 * LPH))  # never under 300 L/h and 0.8 m


def test_the_next_class_of_pump_reaches():
    top, most = pump_for(2.0, 2600 * LPH, 1.5, 2000 * LPH)
    assert top == 2.0
    assert round(most / (500 * LPH)) * 500 == 4000  # 2.0 (1 − (2000/4000)²) is 1.5
    assert pump_for(1.0, 1000 * LPH, 2.0, 500 * LPH)[0] == 2.7  # 1.35 times the head


METRIC = sorted((p for p in PIPES.values() if p.family == "metric" and p.id.endswith("pn10")), key=lambda p: p.bore)


@pytest.mark.parametrize(("small", "large"), list(itertools.pairwise(METRIC)))
def test_a_quiet_fall_takes_a_third_more(small, large):
    """Half of 27.8 (7/24)^5/3 D^8/3 US gallons a minute, D in inches."""
    carries = 0.5 * 27.8 * (7 / 24) ** (5 / 3) * (small.bore / 0.0254) ** (8 / 3) * 3.785411784e-3 / 60
    assert fall_pipe_for(carries / 1.34) == small.id
    assert fall_pipe_for(carries / 1.32) == large.id
    full = 0.7 * math.pi / 4 * small.bore**2
    assert pipe_for(0.999 * full) == small.id
    assert pipe_for(1.001 * full) == large.id


def test_a_way_back_that_falls():
    site = new_site(System(devices=(TANK,)), "tank")
    line = fall_back(site, 800 * LPH)
    bore = PIPES[line.pipe].bore
    assert line.height == pytest.approx(math.ceil((0.02 + bore) / 0.01) * 0.01)
    assert line.spare == pytest.approx(math.ceil(1.5 * bore / 0.01) * 0.01)
    assert (line.release, line.length, line.bends) == (0.443, 0.4, 1)
    assert fall_back(site, 800 * LPH, 0.31).height == 0.31


def test_a_closed_vessel_gives_by_five_hundredths():
    curve = sealed_curve(1.0, 3.0, 0.01)
    assert (curve.levels, curve.volumes) == ((1.0, 3.0), (pytest.approx(0.0095), pytest.approx(0.0105)))


def test_a_suction_pipe_counts_by_its_bore():
    """A 40 mm pipe (36.2 bore) of 0.6 m with bulkhead and bend, in front of one of 28.4 mm."""
    pump = PumpSpec(beside=True, suction="40-pn10", suction_length=0.6, axis=0.15)
    rising = Pipe(0.0284, 3.0, 5.0)
    whole = with_suction(pump, rising)
    assert whole.length == pytest.approx(3.0 + 0.6 * (28.4 / 36.2) ** 4.75)
    assert whole.k == pytest.approx(5.0 + 1.4 * (28.4 / 36.2) ** 4)
    assert with_suction(pump.model_copy(update={"beside": False}), rising) is rising
    flow, stuff = 3000 * LPH, water(20)
    front = suction_pipe(pump, stuff)
    speed = flow / (math.pi / 4 * 0.0362**2)
    wanted = front.head_loss(flow) + speed**2 / 19.6133 + 0.2 + 0.15 - 0.3  # axis 50 mm over the water
    assert suction_head(pump, flow, 0.3, 0.2, stuff) == pytest.approx(wanted, rel=1e-12)


# -- what a device can become -----------------------------------------------------------------------------------------


def test_a_hang_on_in_place_of_a_box_and_back():
    demo = reading_room()
    over, tank = overflows(demo)[0], demo.tanks[0]
    hung = apply(demo, hang_on_instead(demo.by_id, over.id))
    (made,) = hung.of(HangOn)
    assert made.crest == over.crest
    assert made.weir == min(over.weir, tank.inner_width - 0.02)
    assert (made.tubes, made.tube, made.pipe, made.release) == (2, "40-pn10", "50-pn10", over.release)
    back = apply(hung, box_instead(hung.by_id, made.id))
    (box,) = back.of(Overflow)
    assert (box.crest, box.release) == (over.crest, over.release)
    assert box.weir == 0.4
    assert box.box_width == 0.3
    (drain,) = box.drains
    assert (drain.pipe, drain.mouth) == ("50-pn10", round(over.crest - 0.1, 3))
    low = made.model_copy(update={"crest": 0.1})
    assert box_instead({**hung.by_id, low.id: low}, low.id).changes[1].value.drains[0].mouth == 0.05


def test_another_sump_in_front():
    demo = reading_room()
    old = sumps(demo)[0]
    both = apply(demo, sump_in_front(demo.by_id, old.id))
    made = next(s for s in sumps(both) if s.id != old.id)
    assert (made.length, made.width, made.height, made.thickness) == (old.length, old.width, old.height, old.thickness)
    assert made.offset == pytest.approx(old.offset - old.length - 0.25)
    settle, rest = made.chambers
    entry = old.chambers[0]
    assert settle.width == round(0.45 * old.inner_length, 3)
    assert rest.width == round(0.5 * old.inner_length, 3)
    assert settle.exit.top == pytest.approx(min(entry.exit.top + 0.02, old.inner_height - 0.02), abs=5e-4)
    assert rest.level == entry.exit.top
    (join,) = joins(both)
    assert (join.first, join.second, join.entry, join.count, join.length) == (made.id, old.id, entry.id, 2, 0.27)
    assert join.height == min(0.12, round(0.5 * entry.exit.top, 3))
    assert overflows(both)[0].into == made.id
    Analysis(both).situation("running")


def test_a_manifold_in_place_of_a_return():
    demo = reading_room()
    line, tank = returns(demo)[0], demo.tanks[0]
    made = manifolds(apply(demo, manifold_instead(demo.by_id, line.id)))[0]
    (feeder,), (row,) = made.feeders, made.rows
    assert (feeder.pump, feeder.pipe, feeder.run, feeder.valve) == (line.pump, line.pipe, line.run, line.valve)
    assert (feeder.leak, feeder.fittings) == (line.leak, line.fittings)
    assert row.height == pytest.approx(tank.rim + 0.06, abs=5e-4)
    (branch,) = row.branches
    assert (row.lead, branch.spacing, branch.length) == (0.2, 0.2, 0.4)
    assert (branch.mouth, branch.air_hole) == (line.outlets[0].height, line.outlets[0].hole)


def test_a_top_up_is_offered_once_and_at_the_mark():
    demo = reading_room()
    ((name, edit),) = add_top_up(demo.by_id, "sump")
    assert name == "Add a top-up"
    after = apply(demo, edit)
    assert top_ups(after)[0].level == sumps(demo)[0].chambers[-1].level
    assert add_top_up(after.by_id, "sump") == ()


@pytest.mark.parametrize(
    ("kind", "own", "changed", "wanted"),
    [
        ("sponge", {"at": 0.58, "length": 0.12}, "length", 0.18),  # 580 + 180 of 784
        ("sponge", {"at": 0.62, "length": 0.12}, "length", None),
        ("bottle_bed", {"at": 0.45, "tubes": 2, "diameter": 0.09}, "tubes", 3),  # each takes 100
        ("bottle_bed", {"at": 0.5, "tubes": 2, "diameter": 0.09}, "tubes", None),
        ("foam_wall", {"thickness": 0.06}, "thickness", 0.092),
        ("foam_wall", {"thickness": 0.1}, "thickness", None),  # 150 mm at most
        ("under_gravel", {"gravel": 0.06}, "gravel", 0.1),
        ("under_gravel", {"gravel": 0.09}, "gravel", None),  # 120 mm at most
        ("canister", {"height": 0.4}, "height", 0.605),
    ],
)
def test_half_as_much_again_where_there_is_room(kind, own, changed, wanted):
    system = System(devices=(TANK,))
    site = new_site(system, "tank")
    spec = FILTERS[kind].first(site).model_copy(update=own)
    edit = FILTERS[kind].grow(spec, site, 1.5)
    if wanted is None:
        assert edit is None
        return
    (change,) = (c for c in edit.changes if c.path[-1] == changed)
    assert change.value == pytest.approx(wanted, abs=0.006)
