"""What a design becomes as cells and ways: every height, width, length and loss by arithmetic of its own."""

from __future__ import annotations

import math

import pytest

from devices.test_judgements import LOW, TANK, wrong
from fuente.catalogue import pipe_size
from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices.base import Change, Edit
from fuente.devices.hang_on.spec import HangOn
from fuente.document.system import apply
from fuente.errors import FuenteError
from fuente.study.analysis import Analysis

# Loss coefficients as the engineering page has them.
ENTRANCE, REENTRANT, STRAINER, ELBOW, ELBOW_45, BRANCH, STRAIGHT, EXIT = 0.5, 0.8, 2.0, 0.9, 0.3, 1.2, 0.3, 1.0
SWING = 2.0


def study(make, *pairs):
    changes = []
    for where, value in pairs:
        path = tuple(int(p) if p.isdigit() else p for p in where.split("/"))
        changes.append(Change(("devices", *path), value))
    return Analysis(apply(make(), Edit("x", tuple(changes))) if changes else make())


def law(analysis, key):
    return analysis.network.link(key).law


def duct(analysis, key):
    return next(d for g in analysis.network.groups for d in getattr(g, "ducts", ()) if d.id == key)


def bore(pipe):
    return pipe_size(pipe).bore


# -- reading room -----------------------------------------------------------------------------------------------------


def test_an_overflows_weir_and_box():
    """560 mm of weir, a quarter of it teeth; a box of 150 × 400 mm less its pipes; the tank's floor is at 815 mm."""
    analysis = study(reading_room)
    weir = law(analysis, "overflow.weir")
    assert (weir.crest, weir.length, weir.height) == pytest.approx((0.815 + 0.492, 0.56 * 0.75, 0.492))
    box = analysis.network.cell("overflow.box")
    outside = [pipe_size(p).outside for p in ("32-pn10", "40-pn10", "40-pn10")]
    area = 0.15 * 0.40 - sum(math.pi / 4 * d * d for d in outside)
    assert box.curve.volume(box.floor + 0.1) == pytest.approx(0.1 * area)
    assert (box.floor, box.rim) == pytest.approx((0.815, 0.8 + 0.55))
    # The tank is so much smaller: box and its wall stand in it.
    wall = analysis.system.by_id["overflow"].wall
    tank = analysis.network.cell("tank")
    free = 1.47 * 0.57 - (0.15 + wall) * (0.40 + wall)
    assert tank.curve.volume(1.3) - tank.curve.volume(1.2) == pytest.approx(0.1 * free, rel=1e-6)


@pytest.mark.parametrize(
    ("index", "mouth", "run", "bends", "primes"),
    [(0, 0.34, 0.25, 2, None), (1, 0.40, 0.25, 2, "vent"), (2, 0.43, 0.2, 1, None)],
)
def test_an_overflows_drains(index, mouth, run, bends, primes):
    """Mouth over the tank's floor at 815 mm, end 270 mm over the sump's at 88 mm; re-entrant mouth, bends, exit."""
    analysis = study(reading_room)
    drain, spec = law(analysis, f"overflow.drain.{index}"), analysis.system.by_id["overflow"].drains[index]
    assert (drain.mouth, drain.release) == pytest.approx((0.815 + mouth, 0.088 + 0.27))
    assert drain.pipe.length == pytest.approx(drain.mouth - drain.release + run)
    k = drain.pipe.k - bends * ELBOW_45 - EXIT
    if spec.valve is None:
        assert k == pytest.approx(REENTRANT) or k == pytest.approx(ENTRANCE)
    else:
        assert k > 1.0  # the valve's own, 46 % open
    if primes == "vent":
        assert (drain.prime_from, drain.prime_to) == pytest.approx((spec.vent, spec.vent + 0.015))
    assert drain.prime_from < drain.prime_to


def test_a_return_by_its_pipe_and_branches():
    """Up to 50 mm over the tank's rim from the sump's floor, and sideways; each branch a tee, an elbow, its exit."""
    analysis = study(reading_room)
    line = law(analysis, "return.pump")
    assert line.pipe.length == pytest.approx(1.35 + 0.05 - 0.088 + 1.3)
    assert line.pipe.k == pytest.approx(SWING + _fittings(analysis.system.by_id["return"]))
    assert line.intake == pytest.approx(0.088 + 0.085)
    assert [o.mouth for o in line.outlets] == pytest.approx([0.815 + 0.45, 0.815 + 0.464])
    assert [o.breaks_at for o in line.outlets] == pytest.approx([0.815 + 0.45, 0.815 + 0.464])
    b = bore("25-pn16")
    assert [o.k for o in line.outlets] == pytest.approx([BRANCH + ELBOW + EXIT + 0.02 * 0.3 / b] * 2)


def _fittings(spec):
    own = {"elbow": ELBOW, "elbow_45": ELBOW_45, "tee_straight": STRAIGHT, "tee_branch": BRANCH, "union": 0.1}
    own["ball_valve"] = 0.1
    return sum(own[f.kind] * f.count for f in spec.fittings)


def test_a_timed_bucket_multiplies_pipe_and_fittings():
    plain, timed = study(reading_room), study(reading_room, ("return/correction", 1.5))
    one, other = law(plain, "return.pump").pipe, law(timed, "return.pump").pipe
    assert (other.length, other.k) == pytest.approx((1.5 * one.length, 1.5 * one.k))


def test_a_return_without_a_valve_lets_all_back():
    free = law(study(reading_room, ("return/valve", "none")), "return.pump")
    assert free.leak == 1.0
    assert not free.valve
    assert free.pipe.k == pytest.approx(_fittings(reading_room().by_id["return"]))


@pytest.mark.parametrize(
    ("chamber", "crest", "teeth"), [("socks", 0.298, 0.3), ("foam", 0.284, 0.0), ("bed", 0.27, 0.4)]
)
def test_baffles_across_the_sump(chamber, crest, teeth):
    """384 mm inside, less the teeth; the sump's floor is at 88 mm."""
    weir = law(study(reading_room), f"sump.{chamber}.exit")
    assert (weir.crest, weir.length, weir.height) == pytest.approx((0.088 + crest, 0.384 * (1 - teeth), crest))


def test_a_notch_is_the_weir():
    weir = law(study(reading_room, ("sump/chambers/1/exit/notch", 0.1)), "sump.foam.exit")
    assert weir.length == pytest.approx(0.1)


def test_gaps_and_pads_of_the_sump():
    analysis = study(reading_room)
    gap = law(analysis, "sump.trap.under.gap")
    assert (gap.sill, gap.width, gap.height) == pytest.approx((0.088, 0.384, 0.04))
    for k, (thickness, dirt) in enumerate(((0.05, 8), (0.05, 10), (0.025, 12))):
        pad, over = law(analysis, f"sump.foam.pad.{k}"), law(analysis, f"sump.foam.pad.{k}.over")
        assert (pad.foot, pad.width, pad.height, pad.thickness) == pytest.approx((0.088, 0.384, 0.345, thickness))
        assert pad.dirt == dirt
        assert (over.crest, over.length) == pytest.approx((0.088 + 0.345, 0.384))


def test_foams_water_before_between_and_behind_its_pads():
    """Six tenths of what the pads leave stand before them; foam is water but for 3 to 5 % of itself."""
    analysis = study(reading_room)
    spare = 0.175 - 0.125
    wide = [0.6 * spare + 0.025, 0.05, 0.0375, 0.4 * spare + 0.0125]
    for k, length in enumerate(wide):
        cell = analysis.network.cell(f"sump.foam.{k}")
        whole = cell.curve.volume(0.088 + 0.39) - cell.curve.volume(0.088 + 0.37)  # over the pads
        assert whole == pytest.approx(0.02 * length * 0.384, rel=1e-6)
        within = cell.curve.volume(0.088 + 0.2)
        assert 0.94 * 0.2 * length * 0.384 < within < 0.2 * length * 0.384


def test_socks_hang_from_their_plate():
    analysis = study(reading_room)
    sheet, over = law(analysis, "sump.socks.socks"), law(analysis, "sump.socks.socks.over")
    assert (sheet.foot, sheet.height) == pytest.approx((0.088 + 0.34 - 0.24, 0.24))
    assert sheet.area == pytest.approx(2 * math.pi * 0.12 * 0.24)
    assert (over.crest, over.length) == pytest.approx((0.088 + 0.34, 2 * math.pi * 0.12))
    inside = analysis.network.cell("sump.socks.0")
    assert inside.curve.volume(inside.floor + 0.1) == pytest.approx(0.1 * 2 * math.pi / 4 * 0.12**2)


def test_a_bed_of_media_takes_its_solids_from_its_chamber():
    """10 L of gravel in a chamber of 220 mm: its own voids stay; water goes through it or over it."""
    from fuente.devices.sump.spec import Fill

    analysis = study(
        reading_room,
        ("sump/chambers/2/role", "media"),
        ("sump/chambers/2/fill", Fill(medium="gravel", volume=0.01, held="loose")),
    )
    void = analysis.sites["sump"].medium("gravel").void
    width = analysis.system.by_id["sump"].widths()[2]
    cells = [c for c in analysis.network.cells if c.id.startswith("sump.bed.")]
    assert len(cells) == 2
    deep = 0.088 + 0.3
    assert sum(c.curve.volume(deep) for c in cells) == pytest.approx(0.3 * width * 0.384 - 0.01 * (1 - void), rel=1e-6)
    bed, over = law(analysis, "sump.bed.bed"), law(analysis, "sump.bed.bed.over")
    high = 0.01 / (width * 0.384)
    assert (bed.foot, bed.width, bed.height, bed.thickness) == pytest.approx((0.088, 0.384, high, width))
    assert over.crest == pytest.approx(0.088 + high)


# -- other ways down --------------------------------------------------------------------------------------------------


def test_a_hang_on_by_its_tubes_and_drain():
    base = apply(reading_room(), Edit("x", (Change(("devices", "overflow"), None),)))
    spec = HangOn(id="hung", tank="tank", into="sump", crest=0.49, tube="32-pn10", tubes=2)
    analysis = Analysis(apply(base, Edit("x", (Change(("devices", "hung"), spec),))))
    crest = 0.815 + 0.49
    weir, tube, drain = (law(analysis, f"hung.{part}") for part in ("weir", "siphon.0", "drain"))
    assert (weir.crest, weir.length) == pytest.approx((crest, spec.weir * (1 - spec.teeth)))
    end = crest - spec.tube_end
    assert tube.tube.k == pytest.approx(REENTRANT + 2 * ELBOW + EXIT)
    over = (tube.tube.length - 0.15) / 2 - (1.35 - end)
    assert 0.02 < over < 0.12  # the tube's top over the rim
    assert (drain.mouth, drain.release) == pytest.approx((crest - spec.stand, 0.088 + spec.release))
    assert drain.pipe.length == pytest.approx(drain.mouth - drain.release + spec.run)
    down = bore(spec.pipe)
    assert (drain.prime_from, drain.prime_to) == pytest.approx((0.6 * down, 1.4 * down))
    cells = [analysis.network.cell(f"hung.{c}") for c in ("inner", "outer")]
    assert [c.floor for c in cells] == pytest.approx([max(end - 0.02, 0.815)] * 2)
    assert cells[0].curve.volume(cells[0].floor + 0.05) == pytest.approx(0.05 * spec.box)


def test_a_racks_drain_falls_into_its_header():
    analysis = study(back_room)
    pipe = next(d for d in analysis.system.devices if d.kind == "standpipe")
    tank, header = analysis.system.by_id[pipe.tank], analysis.system.by_id[pipe.into]
    drain = law(analysis, f"{pipe.id}.drain")
    mouth = tank.stand + tank.bottom + pipe.mouth
    assert (drain.mouth, drain.release) == pytest.approx((mouth, header.low_end))
    assert drain.pipe.length == pytest.approx(mouth - header.low_end + pipe.run)
    entrance = STRAINER if pipe.strainer else REENTRANT
    assert drain.pipe.k == pytest.approx(entrance + _fittings(pipe) + EXIT)


def test_a_header_holds_its_water_and_falls():
    analysis = study(back_room)
    spec = analysis.system.by_id["rack-drain"]
    down = law(analysis, "rack-drain.down")
    sump = analysis.system.by_id[spec.into]
    release = sump.stand + sump.bottom + spec.release
    assert (down.invert, down.bore, down.slope, down.length) == pytest.approx(
        (spec.low_end, bore(spec.pipe), spec.slope, spec.length)
    )
    assert down.release == pytest.approx(release)
    assert down.down.length == pytest.approx(spec.low_end - release + spec.run)
    assert down.down.k == pytest.approx(ENTRANCE + _fittings(spec) + EXIT)
    cell = analysis.network.cell("rack-drain")
    b = bore(spec.pipe)
    assert cell.curve.volume(spec.low_end + b) == pytest.approx(math.pi / 4 * b * b * spec.length, rel=2e-3)
    assert cell.curve.volume(spec.low_end + b / 2) == pytest.approx(math.pi / 8 * b * b * spec.length, rel=0.02)
    # Over its crown it backs up in the drains that join it.
    joined = [d for d in analysis.system.devices if d.kind == "standpipe" and d.into == "rack-drain"]
    shaft = sum(math.pi / 4 * bore(d.pipe) ** 2 for d in joined)
    more = cell.curve.volume(spec.low_end + b + 0.3) - cell.curve.volume(spec.low_end + b + 0.1)
    assert more == pytest.approx(0.2 * shaft, rel=1e-6)


def test_a_gutter_is_open_and_spills_over_both_edges():
    analysis = study(
        back_room, ("rack-drain/form", "gutter"), ("rack-drain/gutter_width", 0.1), ("rack-drain/gutter_height", 0.06)
    )
    spec = analysis.system.by_id["rack-drain"]
    cell = analysis.network.cell("rack-drain")
    assert cell.curve.volume(cell.floor + 0.03) == pytest.approx(0.03 * 0.1 * spec.length)
    assert cell.rim == pytest.approx(spec.low_end + 0.06)
    spill = law(analysis, "rack-drain.spill")
    assert (spill.rim, spill.length) == pytest.approx((cell.rim, 2 * spec.length))
    assert law(analysis, "rack-drain.down").width == pytest.approx(0.1)


def test_a_join_that_falls_and_one_that_is_level():
    analysis = study(cascade)
    spec = analysis.system.by_id["fall"]
    fall = law(analysis, "fall.line")
    upper, lower = (analysis.system.by_id[k] for k in ("upper", "lower"))
    centre, release = upper.stand + upper.bottom + 0.26, lower.stand + lower.bottom + 0.25
    invert = centre - bore("63-pn10") / 2  # it drains down to that
    assert (fall.one.mouth, fall.one.release, fall.count) == pytest.approx((invert, release, 2))
    assert (fall.one.side.length, fall.one.side.k) == pytest.approx((0.0, ENTRANCE + EXIT))
    assert fall.one.pipe.length == pytest.approx(centre - release + 0.2)
    assert fall.one.pipe.k == pytest.approx(ENTRANCE + _fittings(spec) + EXIT)
    level = study(cascade, ("fall/style", "level"), ("lower/stand", 0.5), ("fall/height", 0.2), ("fall/length", 0.01))
    line = law(level, "fall.line")
    assert line.one.centre == pytest.approx(upper.stand + upper.bottom + 0.2)
    assert line.one.pipe.length == pytest.approx(0.02)  # two walls at least


def test_a_top_up_by_its_float_reservoir_and_waste():
    analysis = study(cascade, ("top-up/waste", True), ("top-up/waste_mouth", 0.3))
    lower = analysis.system.by_id["lower"]
    floor = lower.stand + lower.bottom
    valve = analysis.whole.link("top-up.valve").law
    assert (valve.level, valve.band, valve.most) == pytest.approx((floor + 0.21, 0.01, 40e-3 / 3600))
    tank = analysis.whole.cell("top-up.source")
    assert tank.curve.volume(tank.rim) == pytest.approx(0.025)
    assert tank.floor > floor + 0.21
    waste = analysis.whole.link("top-up.waste.line").law
    assert (waste.mouth, waste.release) == pytest.approx((floor + 0.3, floor + 0.3 - 0.5))
    assert waste.pipe.k == pytest.approx(REENTRANT + 1.9)


# -- under pressure ---------------------------------------------------------------------------------------------------


def test_a_manifold_piece_by_piece():
    analysis = study(cascade)
    spec = analysis.system.by_id["return"]
    lower, tank = analysis.system.by_id["lower"], analysis.system.by_id["tank"]
    pump, feeder = duct(analysis, "return.pump"), spec.feeders[0]
    floor = lower.stand + lower.bottom
    assert pump.pipe.length == pytest.approx(1.72 - floor + 1.2)
    assert pump.pipe.k == pytest.approx(_fittings(feeder) + (SWING if feeder.valve == "swing_check" else 1.0))
    assert pump.intake == pytest.approx(floor + 0.09)
    row, branch = duct(analysis, "return.row.0.0"), spec.rows[0].branches[0]
    assert row.pipe.length == pytest.approx(0.2 + 0.5)
    assert row.pipe.k == pytest.approx(ELBOW)
    spout = duct(analysis, "return.to.tank")
    assert spout.mouth == pytest.approx(tank.stand + tank.bottom + 0.52)
    assert spout.breaks_at == pytest.approx(tank.stand + tank.bottom + 0.537)
    b = bore("40-pn10")
    bar = (b**2 / (0.62 * 30 * 0.008**2)) ** 2
    assert spout.pipe.k - BRANCH - _fittings(branch) - bar == pytest.approx(0.05, abs=0.06)  # a ball valve wide open
    loop = duct(analysis, "return.uv")
    assert loop.mouth == pytest.approx(floor + spec.loops[0].height)
    assert loop.pipe.k > BRANCH + spec.loops[0].loss + EXIT  # and its valve, turned by 20 degrees


def test_rows_rise_one_from_the_other():
    analysis = study(back_room)
    spec = next(d for d in analysis.system.devices if d.kind == "manifold")
    for i in range(1, len(spec.rows)):
        riser = duct(analysis, f"{spec.id}.riser.{i}")
        assert riser.pipe.length == pytest.approx(abs(spec.rows[i].height - spec.rows[i - 1].height))
        assert riser.pipe.k == pytest.approx(STRAIGHT)
        first, second = (duct(analysis, f"{spec.id}.row.{i}.{k}") for k in (0, 1))
        assert first.pipe.k == pytest.approx(BRANCH)
        assert second.pipe.k == pytest.approx(STRAIGHT)
        assert second.pipe.length == pytest.approx(spec.rows[i].branches[1].spacing)


# -- filters beside and in a tank -------------------------------------------------------------------------------------


def test_a_trains_pipes_and_beds():
    analysis = study(trough)
    spec = analysis.system.by_id["drums"]
    for k in range(1):
        drum = spec.drums[k]
        line = law(analysis, f"drums.joint.{k}")
        one = line.one
        assert one.centre == pytest.approx(spec.stand + drum.outlet)
        assert one.pipe.length == pytest.approx(spec.gap + 0.05)
        assert one.pipe.k == pytest.approx(ENTRANCE + EXIT)
        assert one.pipe.bore == pytest.approx(bore(drum.pipe))
    out = law(analysis, "drums.out")
    assert out.one.mouth == pytest.approx(spec.stand + 0.66 - bore("75-pn10") / 2)
    assert out.one.release == pytest.approx(0.85 + 0.4)
    assert out.one.pipe.k == pytest.approx(ENTRANCE + ELBOW + EXIT)
    spare = law(analysis, "drums.spare")
    assert spare.one.mouth == pytest.approx(out.one.mouth + 0.1)
    spill = law(analysis, "drums.spill.0")
    assert (spill.rim, spill.length) == pytest.approx((spec.stand + 0.9, math.pi * 0.57))


def test_a_pumped_way_by_its_rise_and_bends():
    """From the sieve's floor to 800 mm over the drums' at 700 mm."""
    line = law(study(trough), "sieve.out")
    assert line.pipe.length == pytest.approx(1.2 + 0.7 + 0.8)
    spec = trough().by_id["sieve"].drain
    assert line.pipe.k == pytest.approx(3 * ELBOW + (SWING if spec.valve else 0.0))
    assert line.leak == (0.02 if spec.valve else 1.0)
    assert line.outlets[0].mouth == pytest.approx(0.7 + 0.8)


def test_a_plant_bed_is_gravel_with_a_way_over_it():
    analysis = study(trough)
    spec = analysis.system.by_id["plants"]
    gravel, over = law(analysis, "plants.bed"), law(analysis, "plants.over")
    assert (gravel.foot, gravel.width, gravel.height) == pytest.approx((0.85, 0.6, 0.28))
    assert 0.7 * 1.8 < gravel.thickness < 1.8  # its ends stay open
    assert (over.crest, over.length, over.height) == pytest.approx((0.85 + 0.28, 0.6, 0.28))
    bare = study(trough, ("plants/gravel", 0.0))
    none, free = law(bare, "plants.bed"), law(bare, "plants.over")
    assert none.height == pytest.approx(0.02)
    assert free.crest == pytest.approx(0.85 + 0.005)
    heads = [bare.network.cell(f"plants.{end}") for end in ("head", "foot")]
    assert sum(c.curve.volume(c.floor + 0.1) for c in heads) == pytest.approx(0.1 * 1.8 * 0.6)
    full = [analysis.network.cell(f"plants.{end}") for end in ("head", "foot")]
    assert sum(c.curve.volume(c.floor + 0.28) for c in full) == pytest.approx(0.28 * 1.8 * 0.6 * spec.void)


def test_a_socks_box_and_felt():
    system = wrong("sock", TANK, {})
    analysis = Analysis(system)
    spec = next(d for d in system.devices if d.kind == "sock")
    inner = spec.socks * math.pi / 4 * spec.diameter**2
    socks, box = analysis.network.cell(f"{spec.id}.socks"), analysis.network.cell(f"{spec.id}.box")
    assert socks.floor == pytest.approx(max(spec.stand + spec.plate - spec.sock, spec.stand + 0.01))
    assert socks.curve.volume(socks.floor + 0.1) == pytest.approx(0.1 * inner)
    assert box.curve.volume(box.floor + 0.1) == pytest.approx(0.1 * (spec.length * spec.width - inner))
    felt = law(analysis, f"{spec.id}.felt")
    assert (felt.foot, felt.height) == pytest.approx((socks.floor, spec.sock))


def test_a_sieve_by_its_mesh_and_edge():
    system = wrong("sieve_bed", LOW, {"media": 0.03})
    analysis = Analysis(system)
    spec = next(d for d in system.devices if d.kind == "sieve_bed")
    mesh = spec.stand + spec.screen
    over, chamber = (analysis.network.cell(f"{spec.id}.{c}") for c in ("over", "chamber"))
    assert (over.floor, over.rim) == pytest.approx((mesh, spec.stand + spec.height))
    edge = law(analysis, f"{spec.id}.edge")
    assert (edge.crest, edge.length, edge.height) == pytest.approx((mesh + spec.edge, spec.width, spec.edge))
    void = analysis.sites[spec.id].medium(spec.medium).void
    high = max(0.03 / spec.area, 0.02)
    held = chamber.curve.volume(chamber.floor + high)
    assert held == pytest.approx(high * spec.area - 0.03 * (1 - void), rel=1e-6)


def test_a_pipe_through_a_wall_stays_under_the_rim_and_over_the_next_one_s():
    """Its whole bore, to the millimetre."""
    rim, b = 0.46, bore("75-pn10")
    study(trough, ("plants/drain/height", rim - b / 2 - 1e-3), ("plants/drain/release", 0.7)).situation("running")
    with pytest.raises(FuenteError, match="leaves above the rim"):
        study(trough, ("plants/drain/height", rim - b / 2 + 1e-3)).situation("running")
    own = bore("63-pn10")
    study(cascade, ("fall/height", 0.4 - 0.01 - own / 2 - 1e-3)).situation("running")
    with pytest.raises(FuenteError, match="leaves above the rim"):
        study(cascade, ("fall/height", 0.4 - 0.008 - own / 2 + 3e-3)).situation("running")
