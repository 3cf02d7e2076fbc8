"""Every piece of the filters that stand beside a tank: sizes worked out by hand, apart from their geometry."""

from __future__ import annotations

import math

from fuente.devices.beside import DrainSpec, FeedSpec
from fuente.devices.drum_train.spec import Drum, DrumTrain
from fuente.devices.pieces import Face, Fixing, Hole, Joint, Medium, Pad, Pipe, Thing
from fuente.devices.plant_bed.spec import PlantBed
from fuente.devices.pumping import PumpSpec
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.devices.sock.spec import SockStage
from fuente.devices.tank.spec import Tank
from fuente.devices.trickle_tower.spec import TrickleTower
from fuente.units import UnitSystem
from pieces_seen import holds, pieces_of, text

TANK = Tank(length=0.8, width=0.4, height=0.5, thickness=0.008, bottom=0.008, stand=0.7)
PUMP = PumpSpec(name="A pump", max_head=2.0, max_flow=3000e-3 / 3600, watts=25)
LEVEL_IN = FeedSpec(way="level", pipe="63-pn10", height=0.3, length=1.4, bends=2, count=2)
PUMP_OUT = DrainSpec(way="pump", pipe="32-pn10", length=2.1, bends=3, pump=PUMP, release=0.45)
L = 1e-3  # m³


def made(spec):
    """The pieces of a filter beside TANK."""
    return pieces_of(spec, TANK)


LINES = {
    "feed.bulkhead",
    "feed.tap",
    "feed.pipe",
    "feed.bends",
    "drain.pump",
    "drain.check",
    "drain.union",
    "drain.pipe",
    "drain.bends",
}


def drums(**changes):
    train = (
        Drum(role="settle", diameter=0.4, height=0.8, outlet=0.6, pipe="50-pn10", count=2, flush=0.3),
        Drum(role="foam", diameter=0.38, height=0.7, outlet=0.5, pipe="63-pn10", ppi=30, foam=0.12, flush=0.0),
        Drum(role="brush", diameter=0.36, height=0.7, outlet=0.5, pipe="63-pn10", flush=0.0),
        Drum(
            role="media",
            diameter=0.4,
            height=0.7,
            outlet=0.5,
            pipe="63-pn10",
            medium="scrubber",
            media=24 * L,
            grid=0.2,
            mesh=0.004,
            flush=0.2,
        ),
        Drum(role="pump", diameter=0.3, height=0.7, outlet=0.5, flush=0.5),
    )
    return DrumTrain(id="it", drums=train, feed=LEVEL_IN, drain=PUMP_OUT, stand=0.5, flush_pipe="40-pn10", **changes)


def test_a_train_of_drums():
    pieces = made(drums(bag=100e-6))
    vessels = {"0", "1", "2", "3", "4"}
    joined = {f"{k}.{what}" for k in range(4) for what in ("hole", "joint")}
    inside = {"0.flush", "1.foam", "2.brush", "3.media", "3.grid", "3.mesh", "3.flush", "bag"}
    assert set(pieces) == vessels | joined | inside | LINES
    holds(pieces["0"], Thing, diameter=0.4, height=0.8, count=1)
    assert text(pieces["0"], "what") == "Drum 1, settling cone, food-safe"
    # Two bulkheads, each through both drums' walls
    holds(pieces["0.hole"], Hole, diameter=0.064, count=4, body="it.0", face=Face.WALL)
    holds(pieces["0.joint"], Joint, fixing=Fixing.BULKHEAD, pipe="50-pn10", count=4, between=("it.0", "it.1"))
    holds(pieces["2.hole"], Hole, diameter=0.079, count=2)
    assert text(pieces["0.hole"]) == "middle 600 mm above the floor; measure your own fitting"
    holds(pieces["1.foam"], Pad, form="Foam disc", ppi=30, diameter=0.38, thickness=0.12)
    # A brush on each 120 cm² of the drum's 1018, as long as seven tenths of the outlet's height
    holds(pieces["2.brush"], Thing, count=8, length=0.35)
    holds(pieces["3.media"], Medium, medium="scrubber", bulk=24 * L, dry=24 * 0.045, wet=24 * 0.14)
    assert text(pieces["3.grid"], "size") == "200 mm above the floor"
    assert text(pieces["3.mesh"], "size") == "4.0 mm mesh"
    assert text(pieces["0.flush"], "what") == "Flush valve, 40 mm PN10"
    holds(pieces["bag"], Pad, opening=100e-6)


def test_drums_on_rubber_seals():
    pieces = made(drums(seal="grommet"))
    holds(pieces["1.joint"], Joint, fixing=Fixing.SEAL, pipe="63-pn10", count=2)
    assert text(pieces["1.joint"], "what") == "Rubber seal for 63 mm PN10"
    assert text(pieces["1.joint"]) == "hole by its own saw; edge free of burrs, soap the pipe"
    assert "bag" not in pieces


def test_the_lines_in_and_out():
    pieces = made(drums())
    # Two pipes under water through both walls
    holds(pieces["feed.bulkhead"], Joint, pipe="63-pn10", count=4, between=("it", "tank"))
    holds(pieces["feed.tap"], Thing, pipe="63-pn10", count=2)
    holds(pieces["feed.pipe"], Pipe, pipe="63-pn10", length=1.4, count=2)
    holds(pieces["feed.bends"], Thing, pipe="63-pn10", count=4)
    holds(pieces["drain.pump"], Thing, name="A pump", count=1)
    holds(pieces["drain.pipe"], Pipe, pipe="32-pn10", length=2.1, count=1)
    holds(pieces["drain.bends"], Thing, count=3)
    assert text(pieces["feed.pipe"]) == "drum train: in"
    bare = drums().model_copy(
        update={
            "feed": LEVEL_IN.model_copy(update={"bends": 0}),
            "drain": PUMP_OUT.model_copy(update={"valve": False, "bends": 0}),
        }
    )
    assert LINES - set(made(bare)) == {"feed.bends", "drain.bends", "drain.check"}


def test_a_fall_goes_through_one_wall_and_a_float_through_the_wall_it_leaves():
    bed = PlantBed(
        id="it",
        stand=0.6,
        feed=FeedSpec(way="float", pipe="25-pn16", height=0.2, count=2, bends=1, length=0.8),
        drain=DrainSpec(way="pump", pump=PUMP, release=0.45),
    )
    pieces = made(bed)
    holds(pieces["feed.bulkhead"], Joint, count=2, between=("tank",))
    assert pieces["feed.float"].count == 2
    high = PlantBed(
        id="it",
        stand=1.3,
        feed=FeedSpec(way="pump", pump=PUMP, release=0.3),
        drain=DrainSpec(way="fall", pipe="50-pn10", height=0.2, release=0.45, count=3),
    )
    holds(made(high)["drain.bulkhead"], Joint, count=3, between=("it",))


def test_a_trickle_tower_as_packing_and_as_trays():
    tower = TrickleTower(
        id="it",
        length=0.4,
        width=0.25,
        packing=0.5,
        holes=70,
        hole=0.007,
        tray=0.09,
        base=0.28,
        stand=1.3,
        feed=FeedSpec(way="pump", pump=PUMP, release=0.95),
    )
    pieces = made(tower)
    assert {k for k in pieces if "." not in k} == {"base", "trays", "spread", "holes", "media"}
    holds(pieces["base"], Thing, length=0.4, width=0.25, height=0.28)
    holds(pieces["trays"], Thing, length=0.4, width=0.25, count=1)
    holds(pieces["spread"], Thing, length=0.4, width=0.25, height=0.09)
    holds(pieces["holes"], Hole, diameter=0.007, count=70, body="it.spread", face=Face.FLOOR)
    holds(pieces["media"], Medium, medium="plastic_ball", bulk=50 * L, dry=50 * 0.07, wet=50 * 0.162)
    trays = made(tower.model_copy(update={"style": "trays", "trays": 4}))
    assert trays["trays"].count == 4


def test_a_sieve():
    sieve = SieveBed(
        id="it",
        length=0.9,
        width=0.5,
        height=0.7,
        screen=0.45,
        aperture=250e-6,
        open_share=0.35,
        tube=0.04,
        bars=4,
        medium="scrubber",
        media=12 * L,
        waste="50-pn10",
        stand=0.0,
        feed=FeedSpec(way="float", pipe="50-pn10", height=0.35, hold=0.3),
        drain=PUMP_OUT,
    )
    pieces = made(sieve)
    assert {k for k in pieces if "." not in k} == {"box", "mesh", "along", "across", "legs", "waste", "media"}
    holds(pieces["box"], Thing, length=0.9, width=0.5, height=0.7)
    holds(pieces["mesh"], Pad, form="Screen", opening=250e-6, length=0.9, width=0.5)
    holds(pieces["along"], Pipe, length=0.9, outside=0.04, count=2, exact=True)
    holds(pieces["across"], Pipe, length=0.5, outside=0.04, count=6)
    holds(pieces["legs"], Thing, height=0.45, count=6)
    holds(pieces["media"], Medium, bulk=12 * L, dry=12 * 0.045, wet=12 * 0.14)
    assert text(pieces["mesh"]) == "35 % open"
    assert text(pieces["waste"], "what") == "Waste outlet with valve, 50 mm PN10"
    assert "media" not in made(sieve.model_copy(update={"media": 0.0}))


def test_a_plant_bed():
    bed = PlantBed(
        id="it",
        length=1.5,
        width=0.6,
        height=0.35,
        gravel=0.2,
        grain=0.01,
        void=0.42,
        planted=0.7,
        stand=1.3,
        feed=FeedSpec(way="pump", pump=PUMP, release=0.3),
    )
    pieces = made(bed)
    assert {k for k in pieces if "." not in k} == {"trough", "gravel", "plants"}
    holds(pieces["trough"], Thing, length=1.5, width=0.6, height=0.35)
    holds(pieces["gravel"], Medium, bulk=180 * L, dry=180 * 0.58 * 2.65, wet=None, grain=0.01)
    assert pieces["plants"].count == 6  # nine on each of 0.63 m²
    assert text(pieces["gravel"], "size", UnitSystem.US) == "0.394 in, 610 lb dry"


def test_socks():
    stage = SockStage(
        id="it",
        socks=2,
        diameter=0.15,
        sock=0.35,
        micron=100e-6,
        length=0.4,
        width=0.25,
        height=0.55,
        stand=0.1,
        feed=FeedSpec(way="fall", height=0.4, release=0.5),
        drain=DrainSpec(way="pump", pump=PUMP, release=0.45),
    )
    pieces = made(stage)
    assert {k for k in pieces if "." not in k} == {"box", "plate", "socks"}
    holds(pieces["box"], Thing, length=0.4, width=0.25, height=0.55)
    holds(pieces["plate"], Thing, length=0.4, width=0.25)
    holds(pieces["socks"], Pad, opening=100e-6, diameter=0.15, length=0.35, count=4)
    assert text(pieces["plate"]) == "2 holes of 150 mm"
    one = made(stage.model_copy(update={"socks": 1}))
    assert text(one["plate"], units=UnitSystem.US) == "1 hole of 5 7/8 in"
    assert math.isclose(one["socks"].count, 2)
