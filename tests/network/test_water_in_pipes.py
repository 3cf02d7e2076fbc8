"""Pipes hold water: by hand how much, that it is kept, and that it comes down where a pipe drains."""

from __future__ import annotations

import math
from dataclasses import replace

import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from amounts import LPH
from devices_of import returns, standpipes
from fuente.demo import DEMOS
from fuente.demo.starter import starter
from fuente.document.system import apply, set_value
from fuente.findings.judge import findings
from fuente.hydraulics.drains import fall_filled, mouth_flow, open_channel_capacity
from fuente.hydraulics.pipes import Pipe
from fuente.network import settle
from fuente.network.assembly import Assembly
from fuente.network.laws import Bulkhead, Standpipe
from fuente.network.level_curve import LevelCurve
from fuente.network.model import FLOOR, Cell, Link, Network
from fuente.network.steps import double_step
from fuente.network.supplies import Falls, Lines, RimSiphon
from fuente.network.transient import Event, transient
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.filters import add_filter, first_layouts
from fuente.study.wet_test import run, solution_at
from fuente.water.properties import water
from network.test_laws import LINE

WATER = water(25)
PIPE = Pipe(0.0326, 1.2, 3.4, 1.5e-6, WATER)
BORE_AREA = math.pi / 4 * 0.0326**2
STAND = Standpipe(1.0, 0.1, PIPE, 0.02, 0.045)


def vessel(key, floor, area, height=1.0):
    return Cell(key, key, floor, floor + height, LevelCurve.prism(floor, floor + height, area))


def test_a_full_fall_holds_its_bore_by_its_length():
    """1.2 m of 32.6 mm are 1.002 L; 0.2 m of it stand in the water that it ends in and are counted there."""
    assert pytest.approx(1.0016e-3, rel=1e-3) == BORE_AREA * 1.2
    assert STAND.held(1.06, 0.0)[0] == pytest.approx(BORE_AREA * 1.2)
    assert STAND.held(1.06, 0.3)[0] == pytest.approx(BORE_AREA * 1.0)
    assert STAND.held(1.0, 0.3)[0] == 0.0
    assert replace(STAND, open_share=0.0).held(1.06, 0.0)[0] == 0.0
    assert Falls(STAND, 3).held(1.06, 0.0)[0] == pytest.approx(3 * BORE_AREA * 1.2)
    assert Falls(STAND, 3, 1 / 3).held(1.06, 0.0)[0] == pytest.approx(BORE_AREA * 1.2)


def test_a_hole_through_a_wall_holds_the_mean_of_its_ends():
    """By strips across the bore: half full, and where it leaves into air seven tenths as deep; full under water."""
    bore, length = 0.05, 0.4
    hole = Bulkhead(1.0, Pipe(bore, length, 1.5, 1.5e-6, WATER))

    def wet(depth):
        y = (np.arange(20000) + 0.5) / 20000 * depth
        return float((2 * np.sqrt(y * (bore - y))).mean() * depth)

    free, under = hole.held(1.0, 0.5)[0], hole.held(1.2, 1.1)[0]
    assert free == pytest.approx(length * (wet(0.5 * bore) + wet(0.35 * bore)) / 2, rel=1e-4)
    assert under == pytest.approx(length * math.pi / 4 * bore**2, rel=1e-9)
    assert hole.held(0.5, 1.0)[0] == pytest.approx(free)
    assert hole.held(0.97, 0.97)[0] == 0.0


def test_an_open_fall_holds_the_film_of_wyly_and_eaton():
    """At the most that it carries open, 7/24 of the bore is water."""
    wide = Pipe(0.0525, 1.0, 2.0, 1.5e-6, WATER)
    low, high = 0.0, 0.2
    for _ in range(60):  # the head at which the mouth gives that flow
        middle = (low + high) / 2
        too_little = mouth_flow(middle, wide.bore)[0] < open_channel_capacity(wide.bore)
        low, high = (middle, high) if too_little else (low, middle)
    fill, _, _ = fall_filled(low, 5.0, wide, 0.15, 0.3)
    assert fill == pytest.approx(7 / 24, rel=1e-6)


@settings(max_examples=60)
@given(st.floats(0.0005, 0.09), st.floats(-0.5, 0.12), st.sampled_from(["stand", "hole", "tube", "line", "riser"]))
def test_slopes_of_what_is_held_are_its_differences(over, under, which):
    law, a, b = {
        "stand": (STAND, 1.0 + over, 1.0 + under - 0.2),
        "hole": (Bulkhead(1.0, Pipe(0.04, 0.5, 1.5, 1.5e-6, WATER)), 0.98 + over, 0.98 + under),
        "line": (Lines(Bulkhead(1.0, Pipe(0.04, 0.5, 1.5, 1.5e-6, WATER)), 2), 0.98 + under, 0.98 + over),
        "tube": (RimSiphon(1.0, 1.0, PIPE), 1.0 + over / 20, 0.99 + over / 20),
        "riser": (replace(LINE, on=False, leak=1.0), 0.3 + over, 1.26 + under / 10),
    }[which]
    e = 1e-8
    held, by_a, by_b = law.held(a, b)
    assert 0 <= held < 2e-3
    area = math.pi / 4 * 0.04**2
    for slope, (x, y) in ((by_a, (e, 0.0)), (by_b, (0.0, e))):
        wanted = (law.held(a + x, b + y)[0] - law.held(a - x, b - y)[0]) / (2 * e)
        assert slope == pytest.approx(wanted, rel=2e-2, abs=2 * area)  # the part-full end is near enough


def test_a_riser_falls_back_only_where_air_and_a_leak_let_it():
    whole = math.pi / 4 * LINE.pipe.bore**2 * (LINE.pipe.length - (0.3 - LINE.intake))
    air = max(o.breaks_at for o in LINE.outlets)
    assert LINE.held(0.3, air - 0.1)[0] == pytest.approx(whole)  # the pump pushes
    off = replace(LINE, on=False, leak=1.0)
    assert off.held(0.3, air + 0.01)[0] == pytest.approx(whole)  # a siphon
    assert off.held(0.3, air)[0] == 0.0
    assert replace(off, leak=0.0).held(0.3, air)[0] == pytest.approx(whole)
    assert replace(off, leak=0.0, valve=False).held(0.3, air)[0] == 0.0  # what has no valve cannot be tight
    assert replace(LINE, holds=2e-3, lines=2).contents == 4e-3


def test_a_drain_that_empties_puts_its_water_below():
    """A tank at rest under the mouth, a full pipe over it: all that is in the pipe is then in the vessel below."""
    cells = (vessel("up", 0.9, 0.2), vessel("down", 0.0, 0.1))
    net = Network(cells, (Link("d", "d", "up", "down", STAND),))
    start = {"up": 1.1, "down": 0.2}
    full = Assembly(net).held_by_way(np.array([1.1, 0.2]))["d"]
    assert full == pytest.approx(BORE_AREA * 1.1)
    end = settle(net, start)
    assert end.level["up"] == pytest.approx(1.0, abs=1e-4)
    assert end.held["d"] == pytest.approx(0.0, abs=1e-7)
    assert end.volume["down"] == pytest.approx(0.1 * 0.2 + 0.2 * 0.1 + full, abs=2e-5)
    assert end.total == pytest.approx(0.2 * 0.2 + 0.1 * 0.2 + full, rel=1e-12)


def test_what_a_block_cuts_off_comes_down_as_it_ran_and_makes_no_wave():
    """A pipe shut at its mouth empties as fast as it ran: the vessel below never stands higher than its water makes."""
    drain = Link("d", "d", "up", "down", STAND)
    out = Link("o", "o", "down", FLOOR, Standpipe(0.3, -1.0, Pipe(0.06, 1.0, 2.0, 1.5e-6, WATER), 0.03, 0.06))
    floor = Cell(FLOOR, FLOOR, -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)
    big = Cell("up", "up", 0.9, 1.9, LevelCurve.prism(0.9, 1.9, 50.0))
    net = Network((big, vessel("down", 0.0, 0.02), floor), (drain, out))
    shut = net.replace_links({"d": replace(STAND, open_share=0.0)})
    history = transient(net, {"up": 1.1, "down": 0.3}, 60.0, [Event(30.0, "shut", shut)])
    level = history.level("down")
    assert level[history.times > 30.0].max() <= level[np.searchsorted(history.times, 30.0) - 1] + 1e-4
    assert np.abs(history.volumes.sum(axis=1) - history.volumes[0].sum()).max() < 1e-9


@pytest.mark.parametrize("name", ["reading-room", "cascade", "courtyard-trough", "back-room"])
def test_every_situation_keeps_the_water_of_the_running_state(name):
    study = Analysis(DEMOS[name]())
    running = study.running
    assert sum(running.held.values()) > 1e-3
    for case in ("power_cut", "valve_leaks", "pads_dirty"):
        if case in study.names():
            assert study.situation(case).solution.total == pytest.approx(running.total, rel=1e-12)


def test_without_a_valve_twenty_metres_of_pipe_come_down(demo):
    """By hand: 20 m more of 32 mm PN10 pipe, and all of it runs back into the sump."""
    bare = apply(demo, set_value("none", ("devices", "return", "valve"), "none"))
    long = apply(bare, set_value("run", ("devices", "return", "run"), returns(bare)[0].run + 20.0))
    bore = Analysis(long).laws["return.pump"].pipe.bore
    one, two = Analysis(bare), Analysis(long)
    more = math.pi / 4 * bore**2 * 20.0
    assert two.running.held["return.pump"] - one.running.held["return.pump"] == pytest.approx(more, rel=1e-9)
    drained = [a.situation("power_cut") for a in (one, two)]
    assert all(case.solution.held["return.pump"] < 1e-6 for case in drained)
    gained = [c.numbers["back"] + c.numbers["spilled"] for c in drained]
    upper = [  # a slower pump raises tank, box and drains less
        sum(a.running.volume[c] for c in ("tank", "overflow.box"))
        + sum(v for k, v in a.running.held.items() if k.startswith("overflow"))
        for a in (one, two)
    ]
    assert gained[1] - gained[0] == pytest.approx(more - (upper[0] - upper[1]), rel=2e-3)


def test_a_leaking_valve_gives_the_riser_and_a_tight_one_keeps_it(demo):
    holed = apply(demo, set_value("h", ("devices", "return", "outlets", 0, "hole"), 0.006))
    holed = apply(holed, set_value("h", ("devices", "return", "outlets", 0, "hole_height"), 0.4935))
    study = Analysis(holed)
    tight, leaks = study.situation("power_cut").solution, study.situation("valve_leaks").solution
    assert tight.held["return.pump"] > 1.4e-3
    assert leaks.held["return.pump"] < 1e-6
    assert leaks.volume["sump.pump"] > tight.volume["sump.pump"]


def test_in_time_the_pipes_end_as_in_the_situation(demo):
    study = Analysis(demo)
    test = run(study, [Fault("power-cut", 5.0, 1.0), Fault("check-valve-leak", 5.0, 1.0)], 3600.0)
    end, rest = solution_at(study, test, 3600.0), study.situation("valve_leaks").solution
    assert solution_at(study, test, 0.0).held == pytest.approx(study.running.held, rel=1e-6, abs=1e-9)
    assert sum(end.held.values()) == pytest.approx(sum(rest.held.values()), abs=2e-5)
    assert end.level["sump.pump"] == pytest.approx(rest.level["sump.pump"], abs=1e-3)
    volumes = test.history.volumes.sum(axis=1)
    assert np.abs(volumes - volumes[0]).max() < 1e-12 * volumes[0]


def test_a_manifold_over_its_tanks_drains_into_them():
    """By hand: its rows' pipes and the branches with a valve; the pump's riser stays behind its tight valve."""
    study = Analysis(DEMOS["back-room"]())
    running, cut = study.running, study.situation("power_cut").solution
    own = {k: v for k, v in running.held.items() if k.startswith("rack-manifold")}
    rows = [k for k in own if ".row." in k]
    group = next(g for g in study.network.groups if any(w.id == rows[0] for w in g.ways))
    duct = {d.id: d for d in group.ducts}
    for key in rows:
        d = duct[key]
        assert own[key] == pytest.approx(math.pi / 4 * d.pipe.bore**2 * d.pipe.length)
        assert cut.held.get(key, 0.0) < 1e-6
    pump = next(k for k in own if k.endswith("pump") or k.split(".")[-1] in {f.id for f in _feeders(study)})
    assert cut.held[pump] == pytest.approx(own[pump], rel=0.1)
    assert len(standpipes(study.system)) == 24


def _feeders(study):
    return study.system.by_id["rack-manifold"].feeders


def test_a_small_flow_fills_no_pipe():
    assert fall_filled(0.001, 0.9, PIPE, 0.02, 0.05)[0] < 0.05
    assert fall_filled(0.0, 0.9, PIPE, 0.02, 0.05) == (0.0, 0.0, 0.0)
    assert fall_filled(0.06, 0.9, PIPE, 0.02, 0.05)[0] == 1.0
    narrow = Pipe(0.012, 6.0, 20.0, 1.5e-6, WATER)
    assert narrow.flow_at(0.5) < 500 * LPH
    assert fall_filled(0.06, 0.5, narrow, 0.1, 0.2)[0] == 1.0  # the pipe, not the mouth, is the limit


@given(st.floats(0.01, 0.03), st.floats(0.5, 3.0), st.floats(0.1, 9.0))
def test_what_is_known_of_an_open_fall_changes_nothing(over, times, length):
    """The drop from which on a pipe is far from full is found once for each pipe: with it and without, the same."""
    law = Standpipe(1.0, 0.1, Pipe(0.0326, length, 3.4, 1.5e-6, WATER), 0.02, 0.045)
    level = 1.0 + over
    under = level - times * law.pipe.head_loss(mouth_flow(0.02, 0.0326)[0])  # about where it runs full
    low = max(under, 0.1)
    plain = fall_filled(level - max(low, 1.0), level - low, law.pipe, 0.02, 0.045)
    assert law.filled(level, under) == pytest.approx(plain[0], abs=1e-12)
    held = law.pipe.area * max(length - (min(low, 1.0) - 0.1), 0.0)
    assert law.held(level, under)[0] == pytest.approx(held * plain[0], abs=1e-12)
    assert law.held(level, under)[1] == pytest.approx(held * (plain[1] + plain[2]), abs=1e-9)


@pytest.mark.parametrize("fresh", [2e-4, 3e-4])
def test_a_riser_that_fills_within_millimetres_is_followed(fresh):
    """A pump in a narrow well whose pipe holds more than the well does in the millimetres where it takes air and water:
    a step's levels and volumes are of one state, however the pipe fills or runs empty in it.
    """
    well, tank = vessel("well", 0.0, 0.004), vessel("tank", 0.0, 0.3, 2.0)
    pump = replace(LINE, on=True, leak=0.02, intake=0.03, holds=1.2e-3, outlets=(replace(LINE.outlets[0], mouth=1.0),))
    back = Bulkhead(0.95, Pipe(0.03, 0.3, 1.5, 1.5e-6, WATER))
    links = (Link("up", "up", "well", "tank", pump), Link("down", "down", "tank", "well", back))
    assembly = Assembly(Network((well, tank), links))
    z = np.array([0.03 + fresh, 0.95])
    volumes = assembly.stored(z)[0].copy()
    volumes[0] += 3e-4
    z = assembly.levels(volumes, z)
    for step in (0.05, 0.2, 0.5, 1.0, 3.0):
        at, stored = z, volumes
        for _ in range(40):
            made = double_step(assembly, at, stored, step)
            if made is None:
                break
            at, stored = made.levels, made.volumes
            assert float(np.abs(assembly.stored(at)[0] - stored).max()) < 2e-7
            assert float(stored.sum()) == pytest.approx(float(volumes.sum()), abs=1e-12)


def test_a_stronger_pump_out_of_drums_is_followed_from_what_ran_over():
    """What the window solves from the design before, a reopened file from nothing: drums that ran over their rim get a
    pump that draws its well down to where its riser fills and empties.
    """
    system = starter()
    drums = next(s for k, s in first_layouts(system, "tank") if k.id == "drum_train")
    before = Analysis(apply(system, add_filter(system, drums)))
    over = next(f for f in findings(before) if f.code == "running-spill")
    assert over.action == "Stronger pump out"
    assert findings(before)[0] == over  # what is wrong before anything fails is told first
    stronger = apply(before.system, over.edit)
    warm, cold = Analysis(stronger, before), Analysis(stronger)
    assert not warm.running.spilling
    for name in cold.names():
        level = warm.situation(name).solution.level
        assert level == pytest.approx(cold.situation(name).solution.level, abs=1e-6)
