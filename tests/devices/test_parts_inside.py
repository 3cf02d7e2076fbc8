"""Every piece of the kinds that stand in a tank: sizes worked out by hand in millimetres, apart from their geometry.

The tank is 800 × 400 × 500 mm of 8 mm glass on a stand of 700 mm: 784 × 384 inside, floor at 708, rim at 1200.
"""

from __future__ import annotations

import math

import pytest

from fuente.devices.air_supply.spec import AirPumpSpec, AirSupplySpec, DropSpec
from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.canister.spec import Canister, Layer
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.ornament.spec import Ornament
from fuente.devices.pieces import Face, Fixing, Hole, Joint, Medium, Pad, Pipe, Thing
from fuente.devices.pumping import PumpSpec
from fuente.devices.sponge.spec import Sponge
from fuente.devices.steriliser.spec import Steriliser
from fuente.devices.tank.spec import Tank
from fuente.devices.under_gravel.spec import UnderGravel
from fuente.units import UnitSystem
from pieces_seen import holds, pieces_of, text

TANK = Tank(length=0.8, width=0.4, height=0.5, thickness=0.008, bottom=0.008, stand=0.7)
PUMP = PumpSpec(name="A pump", max_head=1.2, max_flow=800e-3 / 3600, watts=7)
L = 1e-3  # m³


def made(spec, *more):
    """The pieces of a device beside TANK."""
    return pieces_of(spec, TANK, *more)


def test_a_sponge():
    pieces = made(
        Sponge(id="it", length=0.14, width=0.11, height=0.17, ppi=30, tubes=2, bore=0.022, injector=0.04, outlet=0.37)
    )
    assert set(pieces) == {"foot", "foam", "tube"}
    holds(pieces["foam"], Pad, form="Foam block", ppi=30, length=0.14, width=0.11, thickness=0.17, count=1)
    holds(pieces["tube"], Pipe, bore=0.022, length=0.33, count=2, exact=True)  # from the injector to the mouth
    assert text(pieces["foam"]) == "bore 2 holes for the tubes a little tight"
    assert text(pieces["foam"], "size") == "140 × 110 × 170 mm"
    assert text(pieces["tube"], "what") == "Rigid tube, 22 mm bore"


def test_a_box_of_media_on_a_pump():
    pieces = made(
        Sponge(
            id="it", style="box", length=0.2, width=0.1, height=0.1, drive="pump", pump=PUMP, hose="hose-12", outlet=0.3
        )
    )
    assert set(pieces) == {"box", "media", "pump", "hose"}
    holds(pieces["box"], Thing, length=0.2, width=0.1, height=0.1, count=1)
    # Nine tenths of 2 L are rings: 640 kg/m³ dry; wet a tenth of the 62 % voids is water.
    holds(pieces["media"], Medium, medium="ring", bulk=1.8 * L, dry=1.8 * 0.64, wet=1.8 * (0.64 + 0.062), bags=0)
    holds(pieces["hose"], Pipe, form="Hose", pipe="hose-12", length=0.3, count=1, exact=True)
    holds(pieces["pump"], Thing, name="A pump", count=1)
    assert text(pieces["pump"], "size") == "1.20 m at no flow, 800 L/h at no head"
    assert text(pieces["pump"]) == "7 W; hide its cable and leave a drip loop"


def test_bottles():
    spec = BottleBed(
        id="it",
        tubes=3,
        diameter=0.08,
        height=0.2,
        injector=0.05,
        outlet=0.2,
        fill=0.5,
        holes=40,
        hole=0.005,
        sponge=20,
        end="diffuser",
        medium="wheel_7",
    )
    pieces = made(spec)
    holes = {f"holes.{where}" for where in ("foot", "top", "air", "suckers")}
    assert set(pieces) == {"bottle", *holes, "carriers", "cap", "sponge", "stone", "split", "hanger"}
    bottle = math.pi / 4 * 0.8**2 * 2.0  # L
    holds(pieces["bottle"], Thing, diameter=0.08, height=0.2, volume=bottle * L, count=3)
    for where in ("foot", "top"):
        holds(pieces[f"holes.{where}"], Hole, diameter=0.005, count=120, body="it.bottle")  # 3 bottles
    bulk = 1.5 * bottle
    holds(pieces["carriers"], Medium, medium="wheel_7", bulk=bulk * L, dry=bulk * 0.17, wet=bulk * 0.252)
    assert [pieces[k].count for k in ("cap", "sponge", "stone", "split", "hanger")] == [3, 3, 3, 1, 6]
    assert text(pieces["bottle"]) == "holes each for water: 40 at its foot, 40 under its top"
    assert text(pieces["carriers"]) == "50 % of each bottle"
    assert text(pieces["split"]) == "one line to 3 bottles"
    assert set(made(BottleBed(id="it", tubes=1, end="open", sponge=0))) == {
        "bottle",
        *holes,
        "carriers",
        "cap",
        "hanger",
    }


def test_a_flat_foam_wall():
    spec = FoamWall(
        id="it",
        thickness=0.04,
        ppi=10,
        twin="twin",
        second=30,
        height=0.42,
        dam=0.06,
        behind=0.07,
        across=0.384,
        walls=2,
        squeeze=0.02,
        tubes=2,
        bore=0.026,
        injector=0.05,
        outlet=0.41,
    )
    pieces = made(spec)
    assert set(pieces) == {"pad.0", "pad.1", "rails", "dam", "spacers", "notch", "tube"}
    # 384 across and 420 − 60 high, each two hundredths larger
    for key, ppi in (("pad.0", 10), ("pad.1", 30)):
        holds(pieces[key], Pad, ppi=ppi, length=0.39168, width=0.3672, thickness=0.04, count=2)
    holds(pieces["rails"], Thing, length=0.36, width=0.015, count=8)
    holds(pieces["dam"], Thing, length=0.384, width=0.06, count=2)
    holds(pieces["spacers"], Thing, length=0.07, count=4)
    holds(pieces["notch"], Hole, body="it.pad.0", face=Face.LID, count=2)
    holds(pieces["tube"], Pipe, bore=0.026, length=0.36, count=2)
    assert text(pieces["rails"]).endswith("70 mm from the end wall")
    assert text(pieces["pad.0"]) == "cut 2.0 % larger, pressed in"


def test_a_corner_of_foam():
    pieces = made(FoamWall(id="it", shape="corner", reach=0.21, thickness=0.05, height=0.3, dam=0, squeeze=0.0))
    assert set(pieces) == {"pad.0", "rails", "notch", "tube"}
    middle = math.pi / 2 * 0.185  # a quarter of a circle through the middle of 50 mm
    holds(pieces["pad.0"], Pad, length=middle, width=0.3, thickness=0.05, count=1)
    holds(pieces["rails"], Thing, length=0.3, count=2)
    assert text(pieces["rails"]) == "one upright on each wall, its inner edge 210 mm from the corner"
    assert text(pieces["pad.0"]).endswith("its middle line of 291 mm")


def test_a_lantern():
    spec = Ornament(
        id="it",
        form="box",
        width=0.2,
        depth=0.15,
        height=0.25,
        wall=0.005,
        shell="plastic",
        gaps=12,
        gap=0.003,
        gap_height=0.04,
        ppi=20,
        foam=0.03,
        medium="ring",
        media=1.5 * L,
        exit=0.009,
        lid=True,
        ballast=1.7,
    )
    pieces = made(spec)
    assert set(pieces) == {"shell", "gaps", "exit", "foam", "media", "ballast", "lid", "tube"}
    holds(pieces["shell"], Thing, width=0.2, height=0.25, volume=0.0)
    holds(pieces["gaps"], Hole, width=0.003, height=0.04, count=12, body="it.shell")
    holds(pieces["exit"], Hole, diameter=0.009, face=Face.BACK, count=1)
    holds(pieces["foam"], Pad, ppi=20, thickness=0.03)
    holds(pieces["media"], Medium, bulk=1.5 * L, dry=0.96)
    assert text(pieces["ballast"], "many") == "1.7 kg"  # what was put in: these rings sink of themselves
    assert "ballast" not in made(spec.model_copy(update={"ballast": 0.0}))
    assert text(pieces["exit"]) == "at its back, smooth, for the airline"


def test_an_ornament_known_by_its_litres():
    spec = Ornament(
        id="it", form="litres", outer=5 * L, inner=3.5 * L, shell="plastic", ppi=0, media=0, lid=False, drive="pump"
    )
    pieces = made(spec)
    assert set(pieces) == {"shell", "gaps", "exit", "pump", "hose"}
    assert text(pieces["shell"], "size") == "5 L"
    assert text(pieces["exit"]).endswith("its plug does not pass a hole")
    held = made(spec.model_copy(update={"ballast": 2.4}))
    assert text(held["ballast"], "many") == "2.4 kg"


def test_an_under_gravel_plate():
    spec = UnderGravel(
        id="it", length=0.6, width=0.35, gravel=0.05, grain=0.003, void=0.38, tubes=2, bore=0.025, outlet=0.38
    )
    pieces = made(spec)
    assert set(pieces) == {"plate", "gravel", "tube"}
    holds(pieces["plate"], Thing, length=0.6, width=0.35, count=1)
    holds(pieces["gravel"], Medium, bulk=10.5 * L, dry=10.5 * 0.62 * 2.65, wet=None, grain=0.003)
    assert text(pieces["gravel"], "size") == "3.0 mm, 17.3 kg dry"
    assert text(pieces["gravel"], "many") == "10.5 L"


@pytest.mark.parametrize(("style", "held", "holders"), [("canister", "trays", 3), ("bucket", "loose", 1)])
def test_a_canister_and_a_bucket(style, held, holders):
    layers = (Layer(ppi=10, thickness=0.06), Layer(ppi=30, thickness=0.03), Layer(medium="ring", thickness=0.15))
    spec = Canister(
        id="it",
        style=style,
        diameter=0.2,
        height=0.3,
        dividers=0.1,
        layers=layers,
        held=held,
        hose="hose-16",
        bores=2,
        length=1.4,
        pump=PUMP,
    )
    pieces = made(spec)
    inside = math.pi * 3.0  # L: a bore of 2 dm, 3 dm high
    extra = {"bulkheads"} if style == "bucket" else set()
    assert set(pieces) == {"vessel", "0", "1", "2", "held", "hose", "taps", "strainer", "pump"} | extra
    holds(pieces["vessel"], Thing, diameter=0.2, height=0.3, volume=inside * L)
    holds(pieces["0"], Pad, form="Foam disc", ppi=10, diameter=0.2, thickness=0.06)
    holds(pieces["1"], Pad, ppi=30, diameter=0.2, thickness=0.03)
    bulk = inside * 0.5 * 0.9
    holds(pieces["2"], Medium, medium="ring", bulk=bulk * L, dry=bulk * 0.64, wet=bulk * 0.702)
    holds(pieces["hose"], Pipe, pipe="hose-16", length=1.4, count=4)
    assert (pieces["held"].count, pieces["taps"].count, pieces["strainer"].count) == (holders, 4, 2)
    if extra:
        holds(pieces["bulkheads"], Joint, fixing=Fixing.BULKHEAD, count=4, between=("it.vessel",))
        assert text(pieces["bulkheads"], "what") == "Bulkhead, 20 mm"


def test_a_steriliser():
    pieces = made(Steriliser(id="it", length=0.4, watts=18, run=1.7, hose="hose-12", pump=PUMP))
    assert set(pieces) == {"lamp", "pump", "hose", "tap"}
    assert text(pieces["lamp"], "size") == "400 mm, 18 W"
    holds(pieces["hose"], Pipe, form="Hose", pipe="hose-12", length=1.7, count=2, exact=False)
    assert pieces["tap"].count == 2
    assert text(pieces["hose"], "what") == "Hose, 12 mm vinyl hose"


def test_an_air_supply():
    drops = (
        DropSpec(to="a", spacing=0.4, length=1.1, bore=0.004, end="diffuser"),
        DropSpec(to="b", spacing=0.5, length=0.9, bore=0.004, check=False),
        DropSpec(to="c", spacing=0.25, length=2.0, bore=0.006, end="diffuser"),
    )
    sponges = [Sponge(id=key, at=0.03 + 0.2 * k, outlet=0.38) for k, key in enumerate("abc")]
    pump = AirPumpSpec(name="Membrane", max_pressure=25e3, max_flow=30e-3 / 60, watts=22)
    pieces = made(AirSupplySpec(pump=pump, pumps=2, bore=0.012, drops=drops), *sponges)
    assert set(pieces) == {"pump", "main", "valves", "checks", "stones", "line.0.004", "line.0.006"}
    assert pieces["pump"].count == 2
    assert text(pieces["pump"], "size") == "25.0 kPa at no flow, 30.0 L/min at no pressure"
    holds(pieces["main"], Pipe, bore=0.012, length=1.15)
    assert [pieces[k].count for k in ("valves", "checks", "stones")] == [3, 2, 2]
    holds(pieces["line.0.004"], Pipe, bore=0.004, length=2.0)
    holds(pieces["line.0.006"], Pipe, bore=0.006, length=2.0)
    assert text(pieces["line.0.004"], "what", UnitSystem.US) == "Airline, 3/16 in bore"
