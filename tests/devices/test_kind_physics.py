"""What each kind's network says against the same physics written down apart: friction by fluids, roots by Brent, beds
by hand.
"""

from __future__ import annotations

import itertools
import math

import fluids
import pytest
from scipy.optimize import brentq

from devices_of import FILTERS
from fuente.catalogue import pipe_size, stock
from fuente.devices.tank.spec import Tank
from fuente.document.system import System, apply
from fuente.shown.stations import stations
from fuente.study.analysis import Analysis
from fuente.study.filters import add_filter
from fuente.study.sites import new_site
from fuente.water.properties import water

DAY, LPH, LPM, G = 86400.0, 1e-3 / 3600, 1e-3 / 60, 9.80665
TANK = Tank(length=1.2, width=0.5, height=0.5, stand=0.9, temperature=22.0, feed=3e-3 / DAY)
STUFF = water(22.0)
RHO, MU = STUFF.density, STUFF.viscosity


def blown(analysis):
    """Air of the first lift in m³/s at the room's pressure."""
    group = analysis.airs["air"]
    return group.air([analysis.running.level[c] for c in group.cells])[0]


def built(kind, tank=TANK, **changes):
    """A kind in a tank with some of its fields changed, solved."""
    bare = System(devices=(tank,))
    spec = FILTERS[kind].first(new_site(bare, tank.id))
    spec = type(spec).model_validate({**spec.model_dump(), **changes})
    analysis = Analysis(apply(bare, add_filter(bare, spec)))
    return spec, analysis, analysis.running


def friction(flow, bore, length, k, roughness=0.0):
    """Head in m lost in a pipe: Darcy–Weisbach by fluids, losses on its bore."""
    speed = flow / (math.pi / 4 * bore**2)
    factor = fluids.friction.friction_factor(Re=RHO * speed * bore / MU, eD=roughness / bore)
    return (factor * length / bore + k) * speed**2 / (2 * G)


def foam_head(flow, ppi, area, thick):
    """Darcy–Forchheimer by the page's permeabilities, log between them."""
    table = [(10, 1.7e-7), (20, 1.0e-7), (30, 6e-8), (45, 3e-8)]
    (p0, k0), (p1, k1) = next(pair for pair in itertools.pairwise(table) if pair[0][0] <= ppi <= pair[1][0])
    k = k0 * (k1 / k0) ** (math.log(ppi / p0) / math.log(p1 / p0))
    v = flow / area
    return thick * (MU * v / k + RHO * 0.08 / math.sqrt(k) * v * v) / (RHO * G)


def ergun_head(flow, size, void, area, thick):
    """Ergun 1952 by fluids' packed beds."""
    return fluids.packed_bed.Ergun(dp=size, voidage=void, vs=flow / area, rho=RHO, mu=MU, L=thick) / (RHO * G)


def stenning_martin(flow, air, bore, length, sunk, k):
    """The rest of the balance; zero where it closes."""
    area = math.pi / 4 * bore**2
    speed, ratio = flow / area, air / flow
    slip = 1.2 + 0.2 * ratio + 0.35 * math.sqrt(G * bore) / speed
    loss = 0.025 * length / bore + k
    return sunk / length - 1 / (1 + ratio / slip) - speed**2 / (2 * G * length) * (loss + 1 + (loss + 2) * ratio)


@pytest.mark.parametrize("ppi", [10.0, 20.0, 30.0])
@pytest.mark.parametrize("bore", [0.014, 0.02, 0.026])
def test_a_sponge_lifts_what_tube_and_foam_let_through(ppi, bore):
    """The foam lowers the water inside, and with it the submergence; tube and foam close at one flow."""
    spec, analysis, running = built("sponge", ppi=ppi, bore=bore, tubes=1)
    air = blown(analysis)
    depth = running.level["tank"] - TANK.floor
    length = spec.outlet - spec.injector
    squeezed = air * 101325 / (101325 + RHO * G * (depth - spec.injector) / 2)
    face, way = 0.7 * spec.face, 0.4 * min(spec.length, spec.width)

    def rest(q):
        inside = depth - foam_head(q, ppi, face, way)
        sunk = inside - spec.injector - max(depth - spec.outlet, 0.0)
        return stenning_martin(q, squeezed, bore, length, sunk, 0.5)

    mine = brentq(rest, 1e-7, 1e-2)
    assert running.flow["sponge.out"] == pytest.approx(mine, rel=0.03)
    assert running.level["tank"] - running.level["sponge.in"] == pytest.approx(
        foam_head(mine, ppi, face, way), rel=0.1, abs=1e-4
    )


def test_an_under_gravel_plate_by_ergun():
    spec, analysis, running = built("under_gravel", tubes=2, bore=0.024, grain=0.003)
    air = blown(analysis) / 2
    depth = running.level["tank"] - TANK.floor
    squeezed = air * 101325 / (101325 + RHO * G * (depth - spec.injector) / 2)
    slots = lambda q: (q / (0.62 * 0.1 * spec.area)) ** 2 / (2 * G)  # noqa: E731

    def rest(q):
        drop = ergun_head(2 * q, spec.grain, spec.void, spec.area, spec.gravel) + slots(2 * q)
        sunk = depth - drop - spec.injector - max(depth - spec.outlet, 0.0)
        return stenning_martin(q, squeezed, spec.bore, spec.outlet - spec.injector, sunk, 0.5)

    assert running.flow[f"{spec.id}.out"] == pytest.approx(2 * brentq(rest, 1e-7, 1e-2), rel=0.03)


def test_a_foam_wall_s_gauge_by_dupuit():
    """Slow flow sideways through an upright pad: q·thickness = K·(h1² − h2²)/2 a metre of wall, with the inertial term
    on the mean face.
    """
    spec, _, running = built("foam_wall", drive="pump", ppi=30.0)
    q = running.flow[f"{spec.id}.out"]
    before = running.level["tank"] - TANK.floor
    behind = (
        running.level[f"{spec.id}.between.0"] - TANK.floor
        if f"{spec.id}.between.0" in running.level
        else min(v for k, v in running.level.items() if k.startswith(spec.id)) - TANK.floor
    )
    mean = (min(before, spec.height) + behind) / 2
    assert before - behind == pytest.approx(foam_head(q, 30.0, spec.across * mean, spec.thickness), rel=0.06)


@pytest.mark.parametrize("dirt", [1.0, 30.0])
@pytest.mark.parametrize("bores", [1, 2, 3])
def test_a_canister_s_flow_is_where_its_pump_meets_its_losses(dirt, bores):
    layers = [x.model_dump() for x in FILTERS["canister"].first(new_site(System(devices=(TANK,)), TANK.id)).layers]
    layers[1]["dirt"] = dirt  # the finer foam
    spec, _, running = built("canister", layers=layers, bores=bores)
    size = pipe_size(spec.hose)
    level = running.level["tank"]
    out = TANK.floor + spec.outlet
    void = stock().medium("ring")

    def media(q):
        lost = 0.0
        for layer in spec.layers:
            thick = layer.thickness
            part = 0.95 * q  # trays let a twentieth past
            lost += layer.dirt * (
                foam_head(part, layer.ppi, spec.area, thick)
                if layer.medium == "foam"
                else ergun_head(part, void.size, void.void, spec.area, thick)
            )
        return lost

    def rest(q):
        suction = friction(q / bores, size.bore, spec.length, 2.0 + 3 * 0.3 + 2 * 0.1 + 2 * 0.5 + 1.0, size.roughness)
        rising = friction(q / bores, size.bore, spec.length, 3 * 0.3 + 2 * 0.1 + 2 * 0.5 + 1.0, size.roughness)
        head = spec.pump.max_head * (1 - (q / spec.pump.max_flow) ** 2)
        return head - max(level, out) + level - suction - rising - media(q)

    assert running.flow[f"{spec.id}.out"] == pytest.approx(brentq(rest, 1e-8, spec.pump.max_flow), rel=0.04)


def test_a_steriliser_s_loop_and_its_dose():
    spec, _, running = built("steriliser")
    size = pipe_size(spec.hose)

    def rest(q):
        way = friction(q, size.bore, 2 * spec.run, 2 * (2 * 0.3 + 0.1) + 1.5 + 1.0 + spec.loss, size.roughness)
        return spec.pump.max_head * (1 - (q / spec.pump.max_flow) ** 2) - way

    q = running.flow[f"{spec.id}.out"]
    assert q == pytest.approx(brentq(rest, 1e-8, spec.pump.max_flow), rel=0.04)
    from fuente.devices.lamps import dose

    stays = spec.water / q
    irradiance = 0.3 * 0.7 * spec.watts / (math.pi * (spec.diameter + spec.sleeve) / 2 * spec.length)
    assert dose(spec, q) == pytest.approx(irradiance * stays, rel=1e-3)
    # A lamp gives six tenths after nine months, eight tenths halfway there, and never less than three tenths.
    for days, left in ((0.0, 1.0), (135.0, 0.8), (270.0, 0.6), (3000.0, 0.3)):
        worn = spec.model_copy(update={"age": days * 86400.0})
        assert dose(worn, q) == pytest.approx(left * dose(spec, q), rel=1e-6)
    assert dose(spec, 0.0) == 0.0


def test_drums_stand_higher_by_bulkhead_and_foam():
    """Between drum 1 and 2 the bulkhead and the foam that is met upwards; between 2 and 3 the bulkhead and nothing."""
    # Bulkheads low, so that they are full; the last drum's mark is its own outlet's height, where its pump stands in
    # it.
    drums = [
        {**d.model_dump(), "outlet": 0.2}
        for d in FILTERS["drum_train"].first(new_site(System(devices=(TANK,)), "tank")).drums
    ]
    drums[-1]["outlet"] = 0.45
    spec, _, running = built("drum_train", drums=drums)
    q = running.flow[f"{spec.id}.out"]
    levels = [running.level[f"{spec.id}.drum.{k}"] for k in range(3)]
    size = pipe_size(spec.drums[0].pipe)
    full = all(levels[k + 1] - spec.stand > spec.drums[k].outlet + size.bore / 2 for k in range(2))
    assert full, "the bulkheads must be under water for this comparison"
    pipe = friction(q, size.bore, spec.gap + 0.05, 1.5, size.roughness)
    wool = foam_head(q, 20.0, spec.drums[1].area, 0.1)
    assert levels[0] - levels[1] == pytest.approx(pipe + wool, rel=0.05)
    assert levels[1] - levels[2] == pytest.approx(pipe, rel=0.05)


@pytest.mark.parametrize("way", ["pump", "fall"])
def test_a_bed_before_a_fall_or_a_pump_loses_head_too(way):
    """One drum that a pump fills, 300 mm of 45 ppi foam in it: dirt multiplies what Darcy and Forchheimer take."""
    first = FILTERS["drum_train"].first(new_site(System(devices=(TANK,)), "tank"))
    drum = {**first.drums[0].model_dump(), "role": "foam", "foam": 0.3, "ppi": 45.0, "height": 0.9, "outlet": 0.4}
    drain = {**first.drain.model_dump(), "way": way, "height": 0.4, "release": 0.3 if way == "fall" else 0.52}
    feed = first.feed.model_dump()
    feed |= {"way": "pump", "release": 0.4, "pump": {**feed["pump"], "max_head": 2.0, "max_flow": 800 * LPH}}
    steps = []
    for dirt in (1.0, 30.0):
        made = {"drums": [drum], "drain": drain, "feed": feed, "dirt": dirt, "stand": 1.6 if way == "fall" else 0.0}
        if way == "pump":
            made["feed"] = {**feed, "way": "fall", "height": 0.42, "release": 0.6}
        spec, _, running = built("drum_train", **made)
        q = running.flow[f"{spec.id}.out"]
        drop = running.level[f"{spec.id}.drum.0"] - running.level[f"{spec.id}.past"]
        assert drop == pytest.approx(dirt * foam_head(q, 45.0, spec.drums[0].area, 0.3), rel=0.02)
        steps.append(drop)
        # Drum and what stands past its bed share its plan, nineteen to one.
        drum_cell, past = (running.network.cell(f"{spec.id}.{k}") for k in ("drum.0", "past"))
        whole = math.pi / 4 * spec.drums[0].diameter ** 2
        assert past.curve.volume_and_area(past.rim)[1] == pytest.approx(0.05 * whole)
        assert drum_cell.curve.volume_and_area(past.rim)[1] == pytest.approx(0.95 * whole)
    assert steps[1] > 0.02


def test_a_bag_on_the_outlet_counts_wherever_the_water_goes():
    """Felt of 25 µm at fifteen times its clean loss: a drum that falls into the tank stands higher by it."""
    first = FILTERS["drum_train"].first(new_site(System(devices=(TANK,)), "tank"))
    drum = {**first.drums[0].model_dump(), "role": "settle", "height": 0.9, "outlet": 0.4}
    drain = {**first.drain.model_dump(), "way": "fall", "height": 0.4, "release": 0.3}
    feed = {**first.feed.model_dump(), "way": "pump", "release": 0.4}
    feed["pump"] = {**feed["pump"], "max_head": 2.0, "max_flow": 800 * LPH}
    made = {"drums": [drum], "drain": drain, "feed": feed, "dirt": 15.0, "stand": 1.6}
    spec, _, bare = built("drum_train", **made)
    assert f"{spec.id}.past" not in bare.level
    spec, _, bagged = built("drum_train", **made, bag=25e-6)
    rise = bagged.level[f"{spec.id}.drum.0"] - bare.level[f"{spec.id}.drum.0"]
    assert rise == pytest.approx(bagged.level[f"{spec.id}.drum.0"] - bagged.level[f"{spec.id}.past"], rel=0.02)
    assert rise > 5e-3


def test_a_tower_s_tray_and_film():
    spec, analysis, running = built("trickle_tower")
    q = running.flow[f"{spec.id}.holes"]
    depth = running.level[f"{spec.id}.tray"] - running.network.cell(f"{spec.id}.tray").floor
    assert q == pytest.approx(0.62 * spec.open_area * math.sqrt(2 * G * depth), rel=0.01)
    held = running.volume[f"{spec.id}.tray"] + running.volume[f"{spec.id}.film"]
    cut = analysis.situation("power_cut").solution
    left = cut.volume[f"{spec.id}.tray"] + cut.volume[f"{spec.id}.film"]
    down = (
        cut.volume["tank"] + cut.volume[f"{spec.id}.base"] - running.volume["tank"] - running.volume[f"{spec.id}.base"]
    )
    assert held > 0.3e-3
    in_pipes = sum(running.held.values()) - sum(cut.held.values())
    assert down == pytest.approx(held - left + in_pipes, abs=1e-9)
    assert left < 0.05 * held


def test_a_sieve_s_float_holds_what_its_pump_takes():
    """The chamber stands where the float gives what the pump takes against its lift."""
    tank = Tank(length=2.0, width=1.0, height=0.8, thickness=0.019, bottom=0.019, stand=0.0, temperature=22.0)
    spec, _, running = built("sieve_bed", tank)
    level = running.level[f"{spec.id}.chamber"] - spec.stand
    assert spec.feed.hold - 0.03 <= level < spec.feed.hold
    size = pipe_size(spec.drain.pipe)
    top = tank.floor + spec.drain.release
    k = spec.drain.bends * 0.9 + (2.0 if spec.drain.valve else 0.0) + 1.0

    def rest(q):
        lift = max(top, running.level["tank"]) - running.level[f"{spec.id}.chamber"]
        return (
            spec.drain.pump.max_head * (1 - (q / spec.drain.pump.max_flow) ** 2)
            - lift
            - friction(q, size.bore, spec.drain.length + top - spec.stand, k, size.roughness)
        )

    assert running.flow[f"{spec.id}.out"] == pytest.approx(brentq(rest, 1e-8, spec.drain.pump.max_flow), rel=0.03)


def test_a_plant_bed_s_head_by_ergun_on_its_mean_depth():
    spec, _, running = built("plant_bed", grain=0.004)
    q = running.flow[f"{spec.id}.bed"]
    head, foot = (running.level[f"{spec.id}.{end}"] - spec.stand for end in ("head", "foot"))
    area = spec.width * (min(head, spec.gravel) + foot) / 2
    lost = ergun_head(q, spec.grain, spec.void, area, 0.8 * spec.length)
    assert running.flow[f"{spec.id}.over"] == 0
    assert head - foot == pytest.approx(lost, rel=0.05)


def test_socks_fill_until_their_wet_felt_carries_the_flow():
    from fuente.hydraulics.porous import felt

    spec, _, running = built("sock", dirt=120.0)
    q = running.flow[f"{spec.id}.felt"]
    cell = running.network.cell(f"{spec.id}.socks")
    deep = running.level[cell.id] - max(running.level[f"{spec.id}.box"], cell.floor)
    share = min((running.level[cell.id] - cell.floor) / spec.sock, 1.0)
    stuff = felt(spec.micron)
    v = q / (spec.felt * share)
    lost = 120.0 * 0.003 * (MU * v / stuff.permeability + RHO * stuff.inertia * v * v) / (RHO * G)
    assert deep == pytest.approx(lost, rel=0.1)


def test_an_ornament_s_flow_through_gaps_foam_and_tube():
    spec, analysis, running = built("ornament", gap=0.003, gaps=6)
    q = running.flow[f"{spec.id}.out"]
    drop = running.level["tank"] - running.level[f"{spec.id}.in"]
    gaps = (q / (0.62 * spec.open_area)) ** 2 / (2 * G)
    assert drop >= gaps * 0.98
    depth = running.level["tank"] - TANK.floor
    squeezed = blown(analysis) * 101325 / (101325 + RHO * G * (depth - spec.injector) / 2)
    sunk = depth - drop - spec.injector - max(depth - spec.outlet, 0.0)
    assert abs(stenning_martin(q, squeezed, spec.bore, spec.outlet - spec.injector, sunk, 0.5)) < 0.01


def test_a_bottle_bed_s_wide_lift_follows_drift_flux():
    """Bubbly: void = jg/(1.05·j + 0.25); its weight against the water outside, holes and bed in a row."""
    spec, analysis, running = built("bottle_bed", tubes=1)
    q = running.flow[f"{spec.id}.out"]
    depth = running.level["tank"] - TANK.floor
    air = blown(analysis) * 101325 / (101325 + RHO * G * (depth - spec.injector) / 2)
    area = math.pi / 4 * spec.diameter**2
    void = air / area / (1.05 * (air + q) / area + 0.25)
    length = spec.outlet - spec.injector
    inside = running.level[f"{spec.id}.in"] - TANK.floor
    sunk = inside - spec.injector - max(depth - spec.outlet, 0.0)
    dynamic = (
        (q / area) ** 2
        / (2 * G * length)
        * ((0.025 * length / spec.diameter + 1) + (0.025 * length / spec.diameter + 2) * air / q)
    )
    assert sunk / length - (1 - void) == pytest.approx(dynamic, abs=0.004)


def test_a_plant_bed_s_uptake_beside_what_the_feed_makes():
    """0.4 g a m² a day of marsh plants against feed × protein × 0.092 of all tanks on the water."""
    spec, analysis, _ = built("plant_bed", planted=0.5)
    rows = stations(analysis, analysis.situation("running"))
    shown = {r.label: r.value for s in rows if s.id == spec.id for r in s.readings}
    given = TANK.feed * TANK.protein * 0.092
    takes = 0.4e-3 / 86400 * spec.length * spec.width * 0.5
    assert shown["Of the nitrogen that the feed makes"] == pytest.approx(takes / given, rel=1e-6)
    spec, analysis, _ = built("plant_bed", tank=TANK.model_copy(update={"feed": 0.0}))
    rows = stations(analysis, analysis.situation("running"))
    assert not [r for s in rows if s.id == spec.id for r in s.readings if r.label.startswith("Of the nitrogen")]
