"""Drain modes, schools, holes; air holes and the return's figures."""

import itertools

import pytest

from amounts import LPH
from devices_of import overflows, returns, sumps
from fuente.catalogue.loader import bulkhead_for, pipe_size
from fuente.catalogue.valves import valve_k
from fuente.devices.overflow.modes import capacity, state, states, trimmed_opening
from fuente.devices.overflow.parts import hole_at
from fuente.devices.overflow.schools import drains_for
from fuente.devices.overflow.sketch import span
from fuente.devices.overflow.spec import Overflow
from fuente.devices.pumping import PumpSpec
from fuente.devices.return_line.network import hole_works, outlet_k
from fuente.document.system import apply, set_value
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.study.analysis import Analysis
from fuente.study.lowering import water_of


def with_valve(demo, opening):
    return Analysis(apply(demo, set_value("v", ("devices", "overflow", "drains", 0, "valve"), opening)))


def test_trimmed_siphon_runs_full_and_the_open_channel_trickles(solved):
    siphon, open_, dry = states(overflows(solved.system)[0], solved.running)
    assert siphon.mode == "full siphon"
    assert open_.mode == "open"
    assert open_.quiet
    assert dry.mode == "dry"
    assert siphon.flow + open_.flow == pytest.approx(solved.through(solved.running, "sump"), rel=1e-9)


def test_an_open_valve_makes_it_gulp(demo):
    analysis = with_valve(demo, 1.0)
    assert state(overflows(analysis.system)[0], 0, analysis.running).mode in ("gulping", "open")


def test_a_shut_valve_sends_it_down_the_open_channel(demo):
    analysis = with_valve(demo, 0.1)
    siphon, open_, _ = states(overflows(analysis.system)[0], analysis.running)
    assert open_.flow > siphon.flow
    assert not open_.quiet


def test_trimming_reaches_its_aim(solved):
    over = overflows(solved.system)[0]
    aim = 0.9 * solved.through(solved.running, "sump")
    opening = trimmed_opening(over, 0, solved.running, aim)
    analysis = with_valve(solved.system, round(opening, 4))
    assert state(overflows(analysis.system)[0], 0, analysis.running).flow == pytest.approx(aim, rel=0.02)
    assert trimmed_opening(over, 0, solved.running, 1.0) is None


def test_without_an_open_channel_a_siphon_is_trimmed_for_six_centimetres_over_its_mouth(demo):
    """By hand: at the opening that it says, the valve's pipe carries the flow from there to the water below."""
    two = tuple(d for d in overflows(demo)[0].drains if d.role != "open")
    solved = Analysis(apply(demo, set_value("x", ("devices", "overflow", "drains"), two)))
    over, law = overflows(solved.system)[0], solved.laws["overflow.drain.0"]
    aim = 800 * LPH
    opening = trimmed_opening(over, 0, solved.running, aim)
    drop = law.mouth + 0.06 - max(law.release, solved.running.level["sump.socks.0"])
    k = law.pipe.k - valve_k(over.drains[0].valve) + valve_k(opening)
    pipe = Pipe(law.pipe.bore, law.pipe.length, k, law.pipe.roughness, law.pipe.water)
    assert pipe.flow_at(drop) == pytest.approx(aim, rel=1e-3)


def test_capacity_grows_with_the_box(solved):
    over, tank = overflows(solved.system)[0], solved.system.tanks[0]
    carried = [capacity(over, 2, solved.running, tank.floor + h) for h in (0.44, 0.47, 0.5, 0.53)]
    assert carried == sorted(carried)
    assert carried[0] < 1500 * LPH < carried[-1]


@pytest.mark.parametrize(("opening", "k"), [(1.0, 0.2), (0.75, 0.9), (0.5, 4.5), (0.25, 24.0)])
def test_a_gate_valve_by_perry_and_by_logarithms_between(opening, k):
    assert valve_k(opening) == pytest.approx(k)  # open as the fitting of the catalogue
    if opening < 1:
        above = valve_k(opening + 0.25)
        assert valve_k(opening + 0.125) == pytest.approx((k * above) ** 0.5)


def test_schools_keep_the_pipes_that_are_there(demo):
    over = overflows(demo)[0]
    two = drains_for(over, ("siphon", "emergency"))
    assert two == (over.drains[0], over.drains[2])
    alone = Overflow(drains=(over.drains[1],))
    three = drains_for(alone, ("siphon", "open", "emergency"))
    assert [d.role for d in three] == ["siphon", "open", "emergency"]
    assert three[0].mouth < three[2].mouth < alone.crest


def test_bulkheads_follow_the_pipe_s_own_standard():
    assert bulkhead_for(pipe_size("40-pn10")).size == "40 mm"
    assert bulkhead_for(pipe_size("1.5in-40")).size == "1 1/2 in"
    assert pipe_size("1in-40").bore == pytest.approx(0.02664)  # never the nominal inch
    assert pipe_size("32-pn10").bore == pytest.approx(0.0284)


def test_holes_keep_apart(demo):
    over, tank = overflows(demo)[0], demo.tanks[0]
    places = [hole_at(over, tank, i) for i in range(3)]
    gaps = [b[1] - a[1] for a, b in itertools.pairwise(places)]
    assert all(g > 2 * 0.053 for g in gaps)


@pytest.mark.parametrize("side", ["left", "right"])
def test_holes_stand_in_a_zigzag_within_the_box(demo, side):
    """Flanges stay over the box's floor, a saw's width of glass stays to the tank's end, and neighbours
    part both ways.
    """
    over, tank = overflows(demo)[0].model_copy(update={"side": side}), demo.tanks[0]
    x0, x1 = span(over, tank)
    places = [hole_at(over, tank, i) for i in range(3)]
    for i, (x, _) in enumerate(places):
        fit = bulkhead_for(pipe_size(over.drains[i].pipe))
        assert x0 + fit.flange / 2 - 1e-9 <= x <= x1 - fit.flange / 2 + 1e-9
        assert min(x, tank.length - x) - fit.saw / 2 >= fit.saw - 1e-9
    turns = [b[0] - a[0] for a, b in itertools.pairwise(places)]
    assert turns[0] * turns[1] < 0
    assert min(map(abs, turns)) > 0.01


def test_a_lone_hole_stands_in_the_middle_and_so_do_holes_without_room(demo):
    over, tank = overflows(demo)[0], demo.tanks[0]
    x0, x1 = span(over, tank)
    lone = over.model_copy(update={"drains": over.drains[:1]})
    assert hole_at(lone, tank, 0)[0] == pytest.approx((x0 + x1) / 2)
    narrow = over.model_copy(update={"box_length": 0.07})
    x0, x1 = span(narrow, tank)
    assert {round(hole_at(narrow, tank, i)[0], 9) for i in range(3)} == {round((x0 + x1) / 2, 9)}


def test_a_drain_without_fall_is_refused(demo):
    with pytest.raises(SpecError, match="water needs a fall"):
        Analysis(apply(demo, set_value("low", ("devices", "tank", "stand"), 0.0)))


def test_a_crest_over_the_rim_is_refused(demo):
    with pytest.raises(SpecError, match="above the tank's rim"):
        Analysis(apply(demo, set_value("high", ("devices", "overflow", "crest"), 0.6)))


def test_a_pinhole_does_not_break_the_siphon(demo):
    line, tank = returns(demo)[0], demo.tanks[0]
    floor, stuff = sumps(demo)[0].floor, water_of(demo)
    holed = line.outlets[0].model_copy(update={"hole": 0.006, "hole_height": 0.494})
    assert hole_works(line, tank, holed, floor, stuff)
    pin = holed.model_copy(update={"hole": 0.001})
    assert not hole_works(line, tank, pin, floor, stuff)


def test_worn_or_slow_pump_gives_less(demo, solved):
    slow = Analysis(apply(demo, set_value("s", ("devices", "return", "pump", "speed"), 0.8)))
    assert slow.through(slow.running, "sump") < 0.85 * solved.through(solved.running, "sump")
    assert outlet_k(returns(demo)[0].outlets[0]) > 3


def test_a_pump_curve_must_fall():
    with pytest.raises(ValueError, match="must fall"):
        PumpSpec(points=((0.0, 1.0), (1e-3, 2.0)))
