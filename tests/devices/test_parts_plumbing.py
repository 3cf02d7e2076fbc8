"""Every piece of the kinds that lead water: sizes worked out by hand in millimetres, apart from their geometry.

A tank of 1000 × 500 × 500 mm, glass 10, stands at 900: floor at 910, rim at 1400. Under it a sump of 900 × 450 × 400,
glass 8, floor 10 thick, at 100: its floor at 110, its rim at 500.
"""

from __future__ import annotations

import itertools
import math

import pytest

from fuente.devices import kind_of
from fuente.devices.base import FittingCount
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.header.spec import HeaderSpec
from fuente.devices.join.spec import JoinSpec
from fuente.devices.manifold.spec import Branch, Feeder, Manifold, SideLoop, SupplyRow
from fuente.devices.overflow.parts import glass_left
from fuente.devices.overflow.spec import Drain, Overflow
from fuente.devices.pieces import Face, Fixing, Hole, Joint, Medium, Pad, Panel, Pipe, Thing
from fuente.devices.pumping import PumpSpec
from fuente.devices.return_line.spec import OutletSpec, ReturnSpec
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.devices.sump.spec import Baffle, Chamber, Fill, Socks, Sump
from fuente.devices.sump.spec import Pad as SumpPad
from fuente.devices.tank.spec import Tank
from fuente.devices.top_up.spec import TopUp
from fuente.document.system import System
from fuente.study.analysis import Analysis
from fuente.units import UnitSystem
from pieces_seen import holds, pieces_of, text

L = 1e-3  # m³
PUMP = PumpSpec(name="A pump", max_head=3.0, max_flow=2.0 * L, watts=40)
TANK = Tank(length=1.0, width=0.5, height=0.5, thickness=0.01, bottom=0.01, stand=0.9, name="Tall tank")
CHAMBERS = (
    Chamber(id="in", role="socks", width=0.2, socks=Socks(count=2, diameter=0.1, length=0.22), exit=Baffle(top=0.3)),
    Chamber(
        id="foam",
        role="foam",
        width=0.15,
        pads=(SumpPad(ppi=20, thickness=0.05, height=0.28), SumpPad(ppi=30, thickness=0.03, height=0.28)),
        exit=Baffle(top=0.28, teeth=0.3, tooth_gap=0.007, thickness=0.005),
    ),
    Chamber(
        id="media",
        role="media",
        width=0.15,
        fill=Fill(medium="ring", volume=20 * L, held="bags"),
        exit=Baffle(top=0.26, gap=0.05, notch=0.2, material="acrylic"),
    ),
    Chamber(
        id="trap",
        role="trap",
        width=0.1,
        under=Baffle(top=0.32, gap=0.04),
        exit=Baffle(top=0.24),
    ),
    Chamber(id="pump", role="pump", level=0.2, heaters=2, heater_watts=150),
)
SUMP = Sump(length=0.9, width=0.45, height=0.4, thickness=0.008, bottom=0.01, stand=0.1, chambers=CHAMBERS)
STAND = StandpipeSpec(mouth=0.4, pipe="40-pn10", run=0.35, fittings=(FittingCount(kind="elbow", count=3),))
RETURN = ReturnSpec(
    pump=PUMP,
    pipe="32-pn10",
    run=1.25,
    fittings=(FittingCount(kind="elbow", count=4), FittingCount(kind="union", count=0)),
    outlets=(
        OutletSpec(name="First outlet", height=0.42, hole=0.006, hole_height=0.46),
        OutletSpec(name="Second outlet", height=0.3),
    ),
)


def made(spec, *more):
    """The pieces of a device in the system of TANK and SUMP."""
    return pieces_of(spec, TANK, SUMP, *more)


def test_a_sump():
    pieces = made(SUMP, STAND, RETURN)
    baffles = {"in.exit", "foam.exit", "foam.exit.comb", "media.exit", "trap.under", "trap.exit"}
    others = {"in.plate", "in.socks", "foam.pad.0", "foam.pad.1", "media.media", "pump.heaters"}
    assert set(pieces) == {"bottom", "long", "end"} | baffles | others
    holds(pieces["bottom"], Panel, length=0.9, width=0.45, thickness=0.01, count=1, faces=(Face.FLOOR,))
    # On the bottom of 10 with 1 of silicone; the ends between the long walls of 8 with 1 at each side
    holds(pieces["long"], Panel, length=0.9, width=0.389, thickness=0.008, count=2, faces=(Face.FRONT, Face.BACK))
    holds(pieces["end"], Panel, length=0.432, width=0.389, thickness=0.008, count=2, faces=(Face.LEFT, Face.RIGHT))
    assert pieces["long"].mass == pytest.approx(9.0 * 3.89 * 0.08 * 2.5)  # dm and kg/L
    # 434 inside, 1 free at each side; a bonded one stands on 1 of silicone, another over its gap
    sizes = {
        "in.exit": (0.299, 0.006),
        "foam.exit": (0.279, 0.005),  # to its crest: its teeth are a comb of their own
        "media.exit": (0.23, 0.006),  # so does it beside its notch
        "trap.under": (0.28, 0.006),
        "trap.exit": (0.239, 0.006),
    }
    for key, (height, thick) in sizes.items():
        holds(pieces[key], Panel, length=0.432, width=height, thickness=thick, count=1)
    holds(pieces["foam.exit.comb"], Panel, length=0.432, width=0.05, thickness=0.006, material="acrylic")
    assert [pieces[k].material for k in ("in.exit", "media.exit")] == ["glass", "acrylic"]
    holds(pieces["in.plate"], Panel, length=0.432, width=0.198, thickness=0.006, material="acrylic")
    rings = [(h.x, h.y, h.diameter) for h in pieces["in.plate"].holes]
    assert rings == [pytest.approx((0.108, 0.099, 0.1)), pytest.approx((0.324, 0.099, 0.1))]
    holds(pieces["in.socks"], Pad, form="Filter sock", opening=200e-6, diameter=0.1, length=0.22, count=2)
    holds(pieces["foam.pad.0"], Pad, ppi=20, length=0.439, width=0.28, thickness=0.05)  # 5 over for the squeeze
    holds(pieces["foam.pad.1"], Pad, ppi=30, length=0.439, width=0.28, thickness=0.03)
    # 20 L at 702 kg/m³ wet are 14.04 kg: two bags of the 10 that the builder lifts
    holds(pieces["media.media"], Medium, medium="ring", bulk=20 * L, dry=12.8, wet=14.04, bags=2)
    holds(pieces["pump.heaters"], Thing, count=2)


def test_a_sumps_remarks_in_both_systems():
    pieces = made(SUMP, STAND, RETURN)
    metric = {k: text(pieces[k]).split(";")[0] for k in ("in.exit", "media.exit", "trap.under")}
    assert metric == {
        "in.exit": "bonded to the floor",
        "media.exit": "50 mm spacer under it",
        "trap.under": "40 mm spacer under it",
    }
    assert "; notched 200 mm wide, 20 mm deep down to the crest" in text(pieces["media.exit"])
    assert "; its comb stands 20 mm over it" in text(pieces["foam.exit"])
    assert "teeth: 43 slots 7 mm wide, 20 mm deep" in text(pieces["foam.exit.comb"])
    assert text(pieces["trap.under"], units=UnitSystem.US).startswith("1 9/16 in spacer under it")
    assert text(pieces["media.media"]) == "in 2 bags"
    assert text(pieces["media.media"], "size", UnitSystem.US) == "28 lb dry, 31 lb wet"
    assert text(pieces["pump.heaters"]) == "in pump chamber"
    assert text(pieces["pump.heaters"], "size") == "150 W"


def test_rings_that_do_not_fit_are_said():
    tight = CHAMBERS[0].model_copy(update={"socks": Socks(count=4, diameter=0.1, length=0.22)})
    crowded = SUMP.model_copy(update={"chambers": (tight, *CHAMBERS[1:])})
    analysis = Analysis(System(devices=(TANK, crowded, STAND, RETURN)))
    found = kind_of(crowded).parts(crowded, analysis.sites["sump"], analysis.at_rest().solution)
    plate = next(p for p in found.panels if p.id == "sump.in.plate")
    # 432 by four is 108 a ring: 8 beside each hole of 100, and 12 are wanted
    assert text(plate) == "rings do not fit: make the chamber longer"


def test_a_standpipe():
    pieces = made(STAND, RETURN)
    assert set(pieces) == {"bulkhead", "pipe", "elbow", "strainer"}
    holds(pieces["bulkhead"], Joint, fixing=Fixing.BULKHEAD, pipe="40-pn10", between=("tank",), count=1)
    # from 910 + 400 down to 110 + 250, and 350 sideways
    holds(pieces["pipe"], Pipe, pipe="40-pn10", length=1.3, count=1, exact=False)
    holds(pieces["elbow"], Thing, pipe="40-pn10", count=3)
    assert text(pieces["bulkhead"]) == "drain of Tall tank; hole 51 to 55 mm; measure your own"
    assert text(pieces["bulkhead"], "size") == "saw 53 mm"
    assert "strainer" not in made(STAND.model_copy(update={"strainer": False}), RETURN)


def test_a_return():
    pieces = made(RETURN, STAND)
    assert set(pieces) == {"pump", "rise", "run", "elbow", "valve", "First outlet", "Second outlet"}
    holds(pieces["rise"], Pipe, pipe="32-pn10", length=1.34)  # from 110 to 50 over the rim
    holds(pieces["run"], Pipe, pipe="32-pn10", length=1.25)
    holds(pieces["elbow"], Thing, pipe="32-pn10", count=4)
    # from 50 over the rim, 540 over the floor, down to each mouth
    holds(pieces["First outlet"], Pipe, pipe="25-pn16", length=0.12, exact=True)
    holds(pieces["Second outlet"], Pipe, pipe="25-pn16", length=0.24, exact=True)
    assert text(pieces["First outlet"]) == "first outlet: down into the tank; air hole 6 mm"
    assert text(pieces["Second outlet"]) == "second outlet: down into the tank; no air hole"
    assert "valve" not in made(RETURN.model_copy(update={"valve": "none"}), STAND)


def test_an_overflow():
    drains = (
        Drain(role="siphon", pipe="40-pn10", mouth=0.3, run=0.2, valve=0.4),
        Drain(role="open", pipe="50-pn10", mouth=0.36, run=0.3, fittings=(FittingCount(kind="elbow", count=1),)),
    )
    box = Overflow(
        crest=0.42, weir=0.48, teeth=0.25, box_length=0.24, box_width=0.48, wall=0.005, drains=drains, release=0.3
    )
    pieces = made(box, RETURN)
    one = {"drain.0." + k for k in ("stand", "fall", "bulkhead", "hole", "elbow_45", "valve")}
    two = {"drain.1." + k for k in ("stand", "fall", "bulkhead", "hole", "elbow")}
    assert set(pieces) == {"wall", "side"} | one | two
    holds(pieces["wall"], Panel, length=0.48, width=0.44, thickness=0.005, material="acrylic", count=1)
    holds(pieces["side"], Panel, length=0.24, width=0.44, count=1)  # 480 reaches across: one end is enough
    assert text(pieces["wall"]) == "teeth take 25 % of the crest: 60 slots 6 mm wide, 20 mm deep down to the crest"
    holds(pieces["drain.0.stand"], Pipe, length=0.3, exact=True)
    # the tank's floor at 910 to 110 + 300, and sideways
    holds(pieces["drain.0.fall"], Pipe, pipe="40-pn10", length=0.7)
    holds(pieces["drain.1.fall"], Pipe, pipe="50-pn10", length=0.8)
    assert (pieces["drain.0.elbow_45"].count, pieces["drain.1.elbow"].count) == (2, 1)
    # Side by side at a quarter and three quarters of 480; along, the first a flange's half from the box's far end at
    # 250, the second a saw and a half from the glass's end
    holds(pieces["drain.0.hole"], Hole, body="tank", face=Face.FLOOR, diameter=0.053, x=0.25 - 0.038, y=0.13)
    holds(pieces["drain.1.hole"], Hole, diameter=0.064, x=1.5 * 0.064, y=0.37)
    assert text(pieces["drain.0.hole"]) == "104 mm of glass to the nearest edge"  # 130 − 26.5
    assert text(pieces["drain.1.hole"]) == "64 mm of glass to the nearest edge"
    assert text(pieces["drain.1.hole"], "size") == "64 mm at 96 mm from the left, 370 mm from the back"


def test_an_overflow_at_the_right_that_is_too_small():
    drains = tuple(Drain(role=r, pipe="40-pn10", mouth=0.3) for r in ("open", "emergency"))
    box = Overflow(side="right", crest=0.42, box_length=0.1, box_width=0.12, teeth=0.0, drains=drains)
    pieces = made(box, RETURN)
    holds(pieces["side"], Panel, count=2)  # 120 of 480: its ends meet no glass
    # 100 of box less two half flanges of 38, less a saw and a half from the end: nothing is left, so both in the middle
    holds(pieces["drain.0.hole"], Hole, x=0.94, y=0.04)
    holds(pieces["drain.1.hole"], Hole, x=0.94, y=0.1)
    assert text(pieces["drain.0.hole"]) == "too near an edge: 14 mm of glass, 53 mm wanted"  # 40 − 26.5
    assert text(pieces["wall"]) == "plain crest"


def test_a_hang_on():
    spec = HangOn(crest=0.4, box_length=0.09, box_width=0.16, tubes=2, tube_end=0.1, stand=0.04, run=0.25, release=0.3)
    pieces = made(spec, RETURN)
    assert set(pieces) == {"boxes", "tube", "drain"}
    holds(pieces["boxes"], Thing, length=0.09, width=0.16, count=2)
    # up from 100 under the crest at 1310 to 80 over the rim at 1400, over and down as far, 150 in the bends
    holds(pieces["tube"], Pipe, pipe="25-pn16", length=2 * 0.27 + 0.15, count=2, exact=True)
    holds(pieces["drain"], Pipe, pipe="32-pn10", length=1.31 - 0.04 - 0.41 + 0.25)


def test_a_common_drain_as_a_pipe_and_as_a_gutter():
    header = HeaderSpec(
        length=2.2, low_end=0.7, down="63-pn10", run=0.4, release=0.2, fittings=(FittingCount(kind="elbow", count=2),)
    )
    drain = STAND.model_copy(update={"into": "header"})
    more = STAND.model_copy(update={"id": "spare", "into": "header", "emergency": True, "mouth": 0.43})
    pieces = made(header, drain, more, RETURN)
    assert set(pieces) == {"pipe", "tees", "cap", "down", "elbow"}
    holds(pieces["pipe"], Pipe, pipe="75-pn10", length=2.2)
    holds(pieces["tees"], Thing, pipe="75-pn10", count=2)
    holds(pieces["down"], Pipe, pipe="63-pn10", length=0.7 - 0.31 + 0.4)
    holds(pieces["elbow"], Thing, pipe="63-pn10", count=2)
    assert text(pieces["down"]) == "Common drain: down"
    gutter = header.model_copy(update={"form": "gutter", "gutter_width": 0.12, "gutter_height": 0.07})
    pieces = made(gutter, drain, RETURN)
    assert set(pieces) == {"gutter", "down", "elbow"}
    assert text(pieces["gutter"], "size") == "2.20 m, 120 × 70 mm"
    assert text(pieces["gutter"], "size", UnitSystem.US) == "7.2 ft, 4 3/4 × 2 3/4 in"


def test_joins_below_water_and_by_a_fall():
    other = SUMP.model_copy(update={"id": "second", "name": "Second", "offset": 1.2})
    fittings = (FittingCount(kind="elbow", count=1),)
    level = JoinSpec(
        first="sump", chamber="pump", second="second", entry="in", count=2, height=0.1, length=0.35, fittings=fittings
    )
    pieces = made(level, other, STAND, RETURN.model_copy(update={"source": "second"}))
    assert set(pieces) == {"bulkhead", "pipe", "elbow"}
    holds(pieces["bulkhead"], Joint, pipe="50-pn10", between=("sump", "second"), count=4)
    holds(pieces["pipe"], Pipe, length=0.35, count=2, exact=True)
    holds(pieces["elbow"], Thing, count=2)
    assert text(pieces["bulkhead"]) == "Joining line; hole 62 to 67 mm; measure your own"
    fall = level.model_copy(update={"style": "fall", "height": 0.18, "release": 0.1})
    holds(made(fall, other, STAND, RETURN)["bulkhead"], Joint, between=("sump",), count=2)
    # The sump's end that faces the other is drilled in thirds of 434, seen from outside; the other end stays whole.
    # The panel begins a millimetre of silicone inside the sump and over its floor.
    ends = made(SUMP, other, level, STAND, RETURN.model_copy(update={"source": "second"}))
    holds(ends["end"], Panel, count=1, faces=(Face.LEFT,))
    drilled = ends["end.right"]
    holds(drilled, Panel, count=1, faces=(Face.RIGHT,), length=0.432)
    assert [(h.x, h.y, h.diameter) for h in drilled.holes] == [
        pytest.approx((0.434 / 3 - 0.001, 0.099, 0.064)),
        pytest.approx((0.434 * 2 / 3 - 0.001, 0.099, 0.064)),
    ]
    assert "2 holes of 64 mm, seen from outside" in text(drilled)


def test_a_manifold():
    branches = (
        Branch(tank="tank", spacing=0.3, length=0.45, form="bar", holes=14, hole_bore=0.005),
        Branch(tank="b", spacing=0.5, length=0.35, pipe="hose-16"),
    )
    rows = (
        SupplyRow(height=1.5, lead=0.2, branches=branches),
        SupplyRow(height=0.9, lead=0.25, pipe="40-pn10", branches=(Branch(tank="c", spacing=0.6, length=0.55),)),
    )
    feeder = Feeder(id="left", pump=PUMP.model_copy(update={"stages": 2}), run=0.8)
    loops = (SideLoop(id="uv", length=2.4, pipe="25-pn16", into="sump"),)
    spec = Manifold(feeders=(feeder,), rows=rows, loops=loops)
    tanks = [TANK.model_copy(update={"id": key, "name": key, "offset": 1.2 * n}) for n, key in enumerate("bc", 1)]
    drains = [STAND.model_copy(update={"id": f"d-{t.id}", "tank": t.id}) for t in (TANK, *tanks)]
    pieces = made(spec, *tanks, *drains)
    feeding = {"left", "left.rise", "left.elbow", "left.union", "left.ball_valve", "left.valve"}
    tees = {"tee.32-pn10.hose-12", "tee.32-pn10.hose-16", "tee.40-pn10.hose-12"}
    along = {"row.32-pn10", "row.40-pn10", "riser"}
    own = {"valve.hose-12", "valve.hose-16", "hose.hose-12", "hose.hose-16", "bar.hose-12.14", "uv", "uv.valve"}
    assert set(pieces) == feeding | tees | along | own
    assert pieces["left"].count == 2
    holds(pieces["left.rise"], Pipe, pipe="50-pn10", length=1.5 - 0.11 + 0.8)
    holds(pieces["riser"], Pipe, pipe="40-pn10", length=0.6)
    holds(pieces["row.32-pn10"], Pipe, length=0.2 + 0.3 + 0.5)
    holds(pieces["row.40-pn10"], Pipe, length=0.25 + 0.6)
    holds(pieces["hose.hose-12"], Pipe, length=0.45 + 0.55)
    holds(pieces["hose.hose-16"], Pipe, length=0.35)
    assert [pieces[k].count for k in ("valve.hose-12", "valve.hose-16", "tee.32-pn10.hose-12")] == [2, 1, 1]
    holds(pieces["bar.hose-12.14"], Pipe, holes=14, hole_bore=0.005, count=1)
    holds(pieces["uv"], Pipe, pipe="25-pn16", length=2.4)
    assert text(pieces["hose.hose-12"], "what") == "12 mm vinyl hose"
    assert text(pieces["bar.hose-12.14"], "size") == "14 holes of 5.0 mm"


def test_a_top_up():
    pieces = made(TopUp(source="reservoir", volume=25 * L, waste=True), STAND, RETURN)
    assert set(pieces) == {"tub", "valve", "waste"}
    holds(pieces["tub"], Thing, volume=25 * L)
    holds(pieces["waste"], Pipe, pipe="32-pn10", length=1.5)
    assert set(made(TopUp(source="mains"), STAND, RETURN)) == {"valve"}
    assert made(TopUp(source="drip", drip=0.0), STAND, RETURN)["valve"].name == "Drip emitter or needle valve"


@pytest.mark.parametrize(("changes", "says"), [({"source": "mains"}, True), ({"source": "reservoir"}, False)])
def test_only_water_from_outside_wants_a_plumber(changes, says):
    spec = TopUp(**changes)
    analysis = Analysis(System(devices=(TANK, SUMP, STAND, RETURN, spec)))
    found = kind_of(spec).parts(spec, analysis.sites[spec.id], analysis.at_rest().solution)
    assert any("licensed plumber" in c for c in found.cautions) is says


def test_a_tank_adds_only_its_cautions():
    analysis = Analysis(System(devices=(TANK,)))
    found = kind_of(TANK).parts(TANK, analysis.sites["tank"], analysis.at_rest().solution)
    assert found.pieces == ()
    assert any("structural engineer" in c for c in found.cautions)


def test_glass_to_every_edge_and_between_unequal_holes():
    three = tuple(Drain(role="open", pipe="40-pn10", mouth=0.3) for _ in range(3))
    pieces = made(Overflow(crest=0.42, box_length=0.3, box_width=0.48, drains=three), RETURN)
    # Sixths of 480 from the back: the last stands 90 from the front edge of 500, its own half 26.5
    holds(pieces["drain.2.hole"], Hole, x=0.272, y=0.41)
    assert [text(pieces[f"drain.{i}.hole"]) for i in (0, 2)] == ["64 mm of glass to the nearest edge"] * 2
    two = (Drain(role="open", pipe="40-pn10", mouth=0.3), Drain(role="emergency", pipe="63-pn10", mouth=0.34))
    pieces = made(Overflow(crest=0.42, box_length=0.26, box_width=0.3, drains=two), RETURN)
    first, second = (pieces[f"drain.{i}.hole"] for i in (0, 1))
    apart = math.hypot(first.x - second.x, first.y - second.y) - 0.0265 - 0.0395
    assert (first.x, second.x) == (pytest.approx(0.232), pytest.approx(0.1185))
    assert apart == pytest.approx(0.1221, abs=1e-4)
    box = Overflow(crest=0.42, box_length=0.26, box_width=0.3, drains=two)
    assert glass_left(box, TANK, 0)[1] == pytest.approx(apart)
    assert glass_left(box, TANK, 1)[1] == pytest.approx(apart)
    assert text(second) == "79 mm of glass to the nearest edge"


@pytest.mark.parametrize(
    ("count", "saw", "width"), [(1, 0.053, 0.3), (2, 0.064, 0.384), (3, 0.053, 0.382), (4, 0.043, 0.5), (6, 0.064, 0.4)]
)
def test_holes_in_a_row_keep_a_hole_s_width_apart_where_there_is_room(count, saw, width):
    from fuente.devices.sump.shell import spread

    xs = spread(count, saw, width)
    assert len(xs) == count
    assert sum(xs) / count == pytest.approx(width / 2)
    room = (2 * count + 1) * saw <= width  # holes, gaps and edges, each a hole wide
    gaps = [b - a - saw for a, b in itertools.pairwise(xs)]
    edge = xs[0] - saw / 2
    if room:
        assert min([*gaps, edge]) >= saw - 1e-9
    assert edge > 0
