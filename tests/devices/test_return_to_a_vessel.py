"""A return that leads into another vessel: its water, its lift, what is judged of it, and how a builder gets there."""

from __future__ import annotations

import pytest

from amounts import LPH
from devices_of import returns, swapped
from fuente.catalogue.loader import pipe_size
from fuente.demo.reading_room import reading_room
from fuente.devices import kind_of
from fuente.devices.base import Change, Edit, Rank
from fuente.devices.contract import Look
from fuente.devices.recipes.growing import commands_for, second_return
from fuente.devices.return_line.card import law_in
from fuente.devices.return_line.judge import turnover
from fuente.devices.return_line.parts import parts
from fuente.document.system import apply, set_value
from fuente.drawing.primitives import Polyline
from fuente.errors import FuenteError
from fuente.findings.adding import added_well
from fuente.findings.judge import findings
from fuente.study.analysis import Analysis
from fuente.study.filters import first_layouts


def choice_of(study, line, name):
    card = kind_of(line).card(line, study.sites[line.id], study, study.running)[0]
    return next((c for c in card.choices if c.path[-1] == name), None)


@pytest.fixture(scope="module")
def twin():
    """The reading room with a tower beside its tank, and a second return as the command makes it."""
    system = reading_room()
    tower = next(s for k, s in first_layouts(system, "tank") if k.id == "trickle_tower")
    system = apply(system, added_well(system, tower))
    words, edit = second_return({d.id: d for d in system.devices}, returns(system)[0])
    assert words == "Add a return pump beside it"
    return apply(system, edit)


@pytest.fixture(scope="module")
def led(twin):
    """The second return leads into the tower."""
    study = Analysis(twin)
    return Analysis(apply(twin, choice_of(study, returns(twin)[1], "tank").make("tower")))


def test_a_second_return_has_the_same_pipes_and_shares_the_flow(twin):
    first, second = returns(twin)
    assert second.outlets == first.outlets
    assert second.id != first.id
    alone = Analysis(reading_room()).running.flow["return.pump"]
    running = Analysis(twin).running
    assert running.flow[f"{second.id}.pump"] == pytest.approx(running.flow["return.pump"], rel=1e-6)
    assert running.flow[f"{second.id}.pump"] == pytest.approx(alone, rel=0.06)  # the well stands where it stood


def test_it_is_led_with_its_chamber_and_its_outlets_within_the_vessel(led):
    line = returns(led.system)[1]
    assert (line.tank, line.chamber) == ("tower", "inlet")
    vessel = led.sites[line.id].vessels["tower"]
    assert all(o.height <= 0.9 * (vessel.rim - vessel.foot) + 1e-9 for o in line.outlets)


def test_its_water_passes_the_vessel_on_its_way_to_the_tank(led):
    flow = led.running.flow
    assert flow["return-2.pump"] > 1000 * LPH
    assert flow["tower.out"] == pytest.approx(flow["tower.feed"] + flow["return-2.pump"], rel=1e-4)
    # what the sump gets from the tank is what both pumps take out of it
    drawn = flow["return-2.pump"] + flow["return.pump"]
    assert led.through(led.running, "sump") == pytest.approx(drawn, rel=1e-4)


def test_its_lift_ends_at_its_mouth_in_the_vessel(led):
    """By hand: the highest the water must go is the mouth or the vessel's water, over the pump chamber's water; the
    pump's head there is the lift and what the pipe loses at its flow.
    """
    line = returns(led.system)[1]
    site = led.sites[line.id]
    vessel = site.vessels["tower"]
    law = law_in(line, led.running)
    below = led.running.level[site.vessels["sump"].port("pump").leave]
    mouth = min(vessel.foot + o.height for o in line.outlets)
    above = max(mouth, led.running.level[vessel.port("inlet").entry])
    flow = led.running.flow["return-2.pump"]
    assert law.lift(below, led.running.level[vessel.port("inlet").entry]) == pytest.approx(above - below, abs=1e-9)
    assert law.pipe.length == pytest.approx(vessel.rim + 0.05 - site.vessels["sump"].floor + line.run)
    assert law.curve.head(flow) > above - below + law.pipe.head_loss(flow)  # the outlets lose some more
    assert law.curve.head(flow) == pytest.approx(above - below + law.pipe.head_loss(flow), rel=0.15)
    assert law.pipe.bore == pipe_size(line.pipe).bore


def test_its_pipe_is_as_long_as_the_drawing_says(led):
    line = returns(led.system)[1]
    site = led.sites[line.id]
    vessel = site.vessels["tower"]
    made = {p.id: p for p in parts(line, site, led.running).pieces}
    assert made["return-2.rise"].length == pytest.approx(vessel.rim + 0.05 - site.vessels["sump"].floor)
    first = line.outlets[0]
    down = next(p for p in made.values() if any("down into the vessel" in n.text for n in getattr(p, "notes", ())))
    assert down.length == pytest.approx(vessel.rim + 0.05 - vessel.foot - first.height)


def test_it_turns_over_no_animals(twin, led):
    """However much is wished for, what a vessel gets is not measured by it."""
    for system, codes in ((twin, {"turnover"}), (led.system, set())):
        asked = Analysis(apply(system, set_value("Wish", ("space", "turnover"), 39 / 3600)))
        line = returns(system)[1]
        assert {f.code for f in turnover(line, asked.sites[line.id], asked)} == codes


def test_more_water_than_the_vessel_takes_is_said(led):
    strong = returns(led.system)[1]
    pump = strong.pump.model_copy(update={"max_flow": 4 * strong.pump.max_flow, "max_head": 9.0, "points": ()})
    study = Analysis(swapped(led.system, strong.model_copy(update={"pump": pump})))
    over = [f for f in findings(study) if f.owner == "tower" and f.rank <= Rank.FIX]
    assert {f.code for f in over} & {"running-spill", "vessel-brim", "tray-over"}


def test_it_leads_not_into_what_it_stands_in(led):
    line = returns(led.system)[1].model_copy(update={"tank": "sump", "chamber": "inlet"})
    with pytest.raises(FuenteError, match="gives back to the vessel"):
        _ = Analysis(swapped(led.system, line)).running


def test_it_goes_back_to_a_tank(led):
    line = returns(led.system)[1]
    back = apply(led.system, choice_of(led, line, "tank").make("tank"))
    assert (returns(back)[1].tank, returns(back)[1].chamber) == ("tank", "")
    assert (line.tank, line.chamber) == ("tower", "inlet")
    study = Analysis(back)
    assert study.running.flow["return-2.pump"] > 0
    assert choice_of(study, returns(back)[1], "chamber") is None


def test_with_one_water_there_is_nothing_to_choose():
    study = Analysis(reading_room())
    assert choice_of(study, returns(study.system)[0], "tank") is None


def test_a_leaking_valve_empties_a_vessel_down_to_the_mouth():
    """Plants in a bed that stands full: the siphon takes what is above the mouth, and a hole near the water ends it."""
    system = reading_room()
    bed = next(s for k, s in first_layouts(system, "tank") if k.id == "plant_bed")
    system = apply(system, added_well(system, bed))
    line = returns(system)[0]
    vessel = Analysis(system).sites[line.id].vessels[bed.id]
    entry, foot = vessel.port("inlet").entry, vessel.foot or vessel.floor

    def left(hole):
        outlet = line.outlets[0].model_copy(update={"height": 0.05, "hole": hole, "hole_height": 0.12})
        second = line.model_copy(update={"id": "return-2", "tank": bed.id, "chamber": "inlet", "outlets": (outlet,)})
        study = Analysis(apply(system, Edit("Add", (Change(second.path, second),))))
        assert study.running.level[entry] > foot + 0.13
        return study.situation("valve_leaks").solution.level[entry]

    assert left(0.0) == pytest.approx(foot + 0.05, abs=0.003)
    assert left(0.008) == pytest.approx(foot + 0.12, abs=0.003)


def test_a_manifold_is_offered_in_place_of_a_tanks_return_only(led):
    devices = {d.id: d for d in led.system.devices}
    words = [{words for words, _ in commands_for(devices, line)} for line in returns(led.system)]
    assert "Make it a manifold" in words[0]
    assert words[0] - words[1] == {"Make it a manifold"}


def test_two_returns_of_one_well_are_drawn_apart_and_end_within_what_they_give_to(twin, led):
    for study in (Analysis(twin), led):
        drawn = {}
        for line in returns(study.system):
            drawing = kind_of(line).sketch(line, study.sites[line.id], Look(study, study.running))
            drawn[line.id] = [(x, y) for s in drawing.shapes if isinstance(s, Polyline) for x, y in s.points]
            site = study.sites[line.id]
            vessel = site.vessels.get(line.tank)
            left, right = (vessel.left, vessel.right) if vessel else (0.0, site.tank.length)
            for handle in drawing.handles:
                assert left * 1000 < handle.at[0] < right * 1000
        first, second = drawn.values()
        assert not {x for x, _ in first} & {x for x, _ in second}  # no pipe on another
