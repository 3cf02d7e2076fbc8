"""What a button sets, by arithmetic of its own: a remedy must be enough, and not much more than that."""

from __future__ import annotations

import math

import pytest

from devices.test_judgements import LOW, LPH, TANK, codes, wrong
from devices_of import FILTERS
from fuente.catalogue import pipe_size
from fuente.demo.reading_room import reading_room
from fuente.devices import kind_of
from fuente.devices.under_gravel.spec import UnderGravel
from fuente.document.system import System, apply, set_value
from fuente.study.filters import add_filter
from fuente.study.known import analysed
from fuente.study.sites import new_site

G = 9.80665


def judged(kind, changes, code, tank=TANK):
    """The spec that is wrong, its finding, and what the button sets: field name → value."""
    system = wrong(kind, tank, changes)
    spec = next(d for d in system.devices if d.kind == kind)
    finding = codes(system)[code]
    return spec, finding, {c.path[-1]: c.value for c in finding.edit.changes}


def fresh(kind, tank=TANK, **changes):
    """A first layout of a kind with some fields changed, and its site."""
    bare = System(devices=(tank,))
    site = new_site(bare, tank.id)
    spec = FILTERS[kind].first(site)
    return type(spec).model_validate({**spec.model_dump(), **changes}), site


def grown(kind, factor, tank=TANK, **changes):
    """What more living surface sets by a factor, or None."""
    spec, site = fresh(kind, tank, **changes)
    edit = FILTERS[kind].grow(spec, site, factor)
    return None if edit is None else {c.path[-1]: c.value for c in edit.changes}


# -- filters in a tank ------------------------------------------------------------------------------------------------


def test_a_larger_block_slows_the_water_at_its_face():
    """A block of 50 mm takes its water at 14 mm/s: its faces grow by that over 4 mm/s, and a quarter more."""
    small = {"ppi": 45.0, "length": 0.05, "width": 0.05, "height": 0.05, "tubes": 1, "bore": 0.02}
    spec, finding, sets = judged("sponge", small, "face-fast")
    speed = finding.values["speed"]
    faces = 2 * 0.05 * (spec.length + spec.width) + spec.length * spec.width  # four sides and the top
    assert spec.face == pytest.approx(faces)
    for side in ("length", "width"):
        assert sets[side] == pytest.approx(0.05 * 1.25 * speed / 4e-3, abs=0.01)


def test_a_block_out_of_the_water_is_cut_to_four_fifths_of_the_depth():
    spec, _, sets = judged("sponge", {"height": 0.6, "outlet": 0.7}, "block-high")
    depth = 0.44  # m: the first layout's tank stands at its mark
    assert spec.height == 0.6
    assert sets["height"] == pytest.approx(0.8 * depth, abs=0.011)


def test_holes_shrink_to_four_fifths_of_a_carrier_and_keep_their_area():
    """Wheels of 10 mm: 8 mm at most; as much open area as before, by more of them."""
    spec, finding, sets = judged("bottle_bed", {"hole": 0.0095}, "carriers-escape")
    assert sets["hole"] == pytest.approx(0.008)
    assert finding.margin == pytest.approx(0.008 - 0.0095)
    before, after = spec.holes * 9.5**2, sets["holes"] * 8.0**2
    assert before <= after < before + 64.0


def test_more_holes_halve_what_clings():
    """Water at 0.25 m/s and more in the holes: twice the share over the limit, or the area of 12 % of the bore."""
    _, finding, sets = judged("bottle_bed", {"holes": 5, "hole": 0.006, "roll": "hard"}, "holes-fast", LOW)
    spec, _ = fresh("bottle_bed", LOW)
    by_speed = 2 * 5 * finding.values["speed"] / 0.25
    by_area = 0.12 * (spec.diameter / 0.006) ** 2
    assert sets["holes"] == math.ceil(max(by_speed, by_area))


def test_carriers_come_out_to_the_rule():
    for rule, share in (("half", 0.5), ("two_thirds", 0.667), ("full", 0.85)):
        _, finding, sets = judged("bottle_bed", {"fill": 0.95, "schools": {"fill": rule}}, "bed-full")
        assert sets["fill"] == pytest.approx(share, abs=1e-9)
        assert finding.values["wanted"] == pytest.approx(share, abs=1e-3)


def test_a_bottle_hangs_lower_by_what_stands_out():
    spec, finding, sets = judged("bottle_bed", {"hang": 0.32, "injector": 0.33, "outlet": 0.47}, "bottle-dry")
    over = finding.values["over"]
    assert over == pytest.approx(finding.margin * -1 + 0.02)
    for field in ("hang", "injector", "outlet"):
        assert sets[field] == pytest.approx(getattr(spec, field) - over, abs=1e-3)


def test_corner_foam_reaches_three_times_its_depth():
    spec, finding, sets = judged("foam_wall", {"shape": "corner", "reach": 0.16, "thickness": 0.08}, "bend-tight")
    assert finding.values == {"deep": pytest.approx(0.08), "inner": pytest.approx(0.08)}
    assert sets["reach"] == pytest.approx(0.25)
    assert sets["reach"] - spec.deep > 2 * spec.deep  # now it bends over more than twice its thickness


def test_foam_that_starves_its_drive_goes_ten_pores_coarser():
    changes = {
        "drive": "pump",
        "ppi": 45.0,
        "thickness": 0.15,
        "dirt": 14.0,
        "pump": {"max_head": 4.0, "max_flow": 9000 * LPH},
        "hose": "50-pn10",
    }
    _, finding, sets = judged("foam_wall", changes, "behind-low")
    assert sets == {"ppi": 35.0}
    assert finding.margin == pytest.approx(0.05 - finding.values["drop"])


def test_gaps_narrow_to_four_fifths_of_an_animal_and_keep_their_area():
    spec, finding, sets = judged("ornament", {"gap": 0.012, "animal": 0.004}, "gap-wide")
    assert sets["gap"] == pytest.approx(0.8 * 0.004)
    assert sets["gaps"] * sets["gap"] == pytest.approx(spec.gaps * spec.gap, abs=0.0017)
    assert finding.margin == pytest.approx(0.0032 - 0.012)


def test_gaps_multiply_by_a_little_more_than_the_speed():
    spec, finding, sets = judged("ornament", {"gaps": 5, "gap": 0.004}, "gap-fast")
    times = finding.values["speed"] / 0.1
    assert 5 * times < sets["gaps"] <= math.ceil(5 * times**1.3)
    assert spec.gaps == 5


def test_an_exit_passes_its_line_and_half_an_animal():
    _, _, narrow = judged("ornament", {"exit": 0.003}, "exit-narrow")
    assert narrow["exit"] == pytest.approx(0.006)  # an airline of 4/6 mm
    _, finding, wide = judged("ornament", {"exit": 0.03, "animal": 0.004}, "exit-wide")
    assert wide["exit"] == pytest.approx(0.006 + 0.5 * 0.004)
    assert finding.margin == pytest.approx(0.004 - (0.03 - 0.006))


def test_ballast_outweighs_the_lift_by_a_third():
    """Archimedes for shell and media, a third more, in stone of 2 600 kg/m³ that itself is lifted."""
    light = {"shell": "plastic", "wall": 0.002, "ballast": 0.0, "medium": "plastic_ball", "media": 0.0022, "foam": 0.0}
    system = wrong("ornament", TANK, light)
    spec = next(d for d in system.devices if d.kind == "ornament")
    stuff = analysed(system).sites[spec.id].medium("plastic_ball")
    solids = 0.0022 * (1 - stuff.void)
    lift = 1000 * (spec.shell_volume + solids) - spec.shell_mass - 0.0022 * stuff.dry
    finding = codes(system)["floats"]
    assert lift > 0
    assert finding.values["stone"] == pytest.approx(1.3 * lift / (1 - 1000 / 2600), rel=0.02)
    assert finding.edit.changes[0].value == pytest.approx(finding.values["stone"] + 0.05, abs=0.051)


def test_tubes_multiply_until_the_gravel_lives():
    """0.15 mm/s over the plan, a tenth to spare, twelve tubes at most."""
    bare = System(devices=(TANK,))
    spec = FILTERS["under_gravel"].first(new_site(bare, TANK.id))
    slow = UnderGravel.model_validate({**spec.model_dump(), "tubes": 1, "bore": 0.012})
    finding = codes(apply(bare, add_filter(bare, slow)))["gravel-slow"]
    speed = finding.values["speed"]
    assert speed < 0.15e-3
    assert finding.margin == pytest.approx(speed - 0.15e-3)
    wanted = min(math.ceil(1.1 * 0.15e-3 / speed), 12)
    assert [c.value for c in finding.edit.changes] == [wanted]
    few = UnderGravel.model_validate({**spec.model_dump(), "tubes": 2, "bore": 0.008})
    finding = codes(apply(bare, add_filter(bare, few)))["gravel-slow"]
    wanted = min(math.ceil(1.1 * 2 * 0.15e-3 / finding.values["speed"]), 12)
    assert wanted > 2
    assert [c.value for c in finding.edit.changes] == [wanted]


# -- filters beside a tank --------------------------------------------------------------------------------------------


def test_a_tower_is_fitted_to_its_flow():
    """Too dry: to one and a half of the least wetting, 4 m/h."""
    system = wrong("trickle_tower", TANK, {"length": 1.0, "width": 1.0, "holes": 60})
    finding = codes(system)["wetting"]
    flow = finding.values["wet"] * 1.0 * 1.0
    assert finding.values["wet"] < 4 / 3600
    assert finding.edit.changes[0].value == pytest.approx(flow / (1.5 * 4 / 3600) / 1.0, abs=0.006)


def test_tray_holes_carry_the_flow_under_thirty_millimetres():
    """Torricelli with a coefficient of 0.62, a tenth of the holes to spare."""
    system = wrong("trickle_tower", TANK, {"holes": 4})
    spec = next(d for d in system.devices if d.kind == "trickle_tower")
    flow = analysed(system).running.flow[f"{spec.id}.film"]
    each = 0.62 * math.pi / 4 * spec.hole**2 * math.sqrt(2 * G * min(0.03, spec.tray / 2))
    assert codes(system)["tray-over"].edit.changes[0].value == pytest.approx(1.1 * flow / each, abs=1.0)


def test_fewer_holes_fill_the_tray():
    """The depth over a hole goes with one over their number squared; the rule aims at 25 mm by its root, in steps."""
    spec, finding, sets = judged("trickle_tower", {"holes": 900}, "tray-shallow")
    assert sets["holes"] == max(round(900 * math.sqrt(finding.values["depth"] / 0.025)), 6)
    assert spec.holes == 900


def test_wider_tray_holes_keep_their_area():
    _, _, sets = judged("trickle_tower", {"hole": 0.002, "holes": 600}, "holes-clog")
    assert sets == {"hole": 0.006, "holes": round(600 * 4 / 36)}


def test_a_screen_is_lengthened_to_its_need_on_the_next_fifty_millimetres():
    spec, finding, sets = judged("sieve_bed", {"length": 0.12, "width": 0.12, "media": 0.0}, "screen-small", LOW)
    need = finding.values["want"] / spec.width
    assert need <= sets["length"] < need + 0.05
    assert sets["length"] / 0.05 == pytest.approx(round(sets["length"] / 0.05))


def test_bars_multiply_by_the_sag():
    """A tube carries its strip: half the strip, half the sag."""
    changes = {"tube": 0.025, "wall": 0.002, "bars": 7, "load": 40.0, "width": 0.9, "length": 0.9, "legs": 8}
    spec, finding, sets = judged("sieve_bed", changes, "frame-sags", LOW)
    bends, allowed = finding.values["sag"], finding.values["allowed"]
    assert allowed == pytest.approx(0.9 / 200)
    assert sets["bars"] == min(max(round(8 * bends / allowed), 8), 40)
    assert finding.margin == pytest.approx(allowed - bends)
    assert spec.bars == 7


def test_a_steriliser_is_slowed_to_what_germs_want():
    spec, finding, sets = judged("steriliser", {"watts": 2.0}, "dose-low")
    assert finding.margin == pytest.approx(finding.values["dose"] - 150)
    assert sets["speed"] == pytest.approx(max(spec.pump.speed * finding.values["dose"] / 450, 0.2), abs=0.006)


def test_socks_are_enough_for_a_week():
    """1 000 L/h on a sock of 180 mm; the box grows by a sock's place of its diameter and 40 mm."""
    system = wrong("sock", LOW, {"socks": 1})
    spec = next(d for d in system.devices if d.kind == "sock")
    finding = codes(system)["socks-few"]
    alike = finding.values["each"]
    sets = {c.path[-1]: c.value for c in finding.edit.changes}
    assert alike > 1.5 * 1000 * LPH
    assert sets["socks"] == math.ceil(alike / (1000 * LPH))
    assert sets["length"] == pytest.approx(sets["socks"] * (spec.diameter + 0.04) + 0.04, abs=0.006)


def test_canister_layers_are_sorted_along_the_water():
    pads = [{"medium": "foam", "ppi": 30, "share": 0.2}, {"medium": "foam", "ppi": 10, "share": 0.2}]
    rings = {"medium": "ring", "share": 0.3}
    _, _, up = judged("canister", {"layers": [rings, *pads], "flow": "up"}, "layer-order")
    assert [(x.medium, x.ppi) for x in up["layers"]][:2] == [("foam", 10.0), ("foam", 30.0)]
    _, _, down = judged("canister", {"layers": [*pads[::-1], rings], "flow": "down"}, "layer-order")
    assert [(x.medium, x.ppi) for x in down["layers"]][-2:] == [("foam", 30.0), ("foam", 10.0)]


# -- more living surface ----------------------------------------------------------------------------------------------


@pytest.mark.parametrize(
    ("kind", "changes", "field", "factor", "least", "most"),
    [
        ("sponge", {"length": 0.2, "at": 0.1}, "length", 1.5, 0.30, 0.31),
        ("foam_wall", {"thickness": 0.05}, "thickness", 1.3, 0.065, 0.0701),
        ("under_gravel", {"gravel": 0.06}, "gravel", 1.4, 0.084, 0.0951),
        ("canister", {"height": 0.4}, "height", 1.25, 0.5, 0.511),
        ("trickle_tower", {"packing": 0.5}, "packing", 2.0, 1.0, 1.031),
        ("plant_bed", {"length": 2.0}, "length", 1.5, 3.0, 3.11),
        ("bottle_bed", {"tubes": 2}, "tubes", 1.5, 3, 3),
        ("bottle_bed", {"tubes": 2}, "tubes", 1.51, 4, 4),
    ],
)
def test_a_filter_grows_by_what_is_missing_and_a_touch_more(kind, changes, field, factor, least, most):
    tank = LOW if kind in ("bottle_bed", "plant_bed") else TANK
    sets = grown(kind, factor, tank, **changes)
    assert least <= sets[field] + 1e-12
    assert sets[field] <= most + 1e-12


@pytest.mark.parametrize(
    ("kind", "changes", "fits", "too_much"),
    [
        ("sponge", {"length": 0.5, "at": 0.1}, 2.0, 2.3),  # 1 184 mm of water from 100 mm on
        ("foam_wall", {"thickness": 0.1}, 1.45, 1.55),  # 150 mm
        ("under_gravel", {"gravel": 0.06}, 1.9, 2.1),  # 120 mm
        ("canister", {"height": 0.6}, 1.95, 2.05),  # 1.2 m
        ("trickle_tower", {"packing": 1.0}, 1.97, 2.05),  # 2 m
        ("plant_bed", {"length": 6.0}, 1.98, 2.02),  # 12 m
        ("bottle_bed", {"tubes": 6}, 2.0, 2.1),  # a dozen
    ],
)
def test_a_filter_grows_no_further_than_it_can(kind, changes, fits, too_much):
    tank = LOW if kind in ("bottle_bed", "plant_bed") else TANK
    assert grown(kind, fits, tank, **changes) is not None
    assert grown(kind, too_much, tank, **changes) is None


def test_bottles_stand_side_by_side_within_the_tank():
    """In 800 mm of glass from 200 mm on: as many of their diameter and 10 mm as fit, and no more."""
    short = TANK.model_copy(update={"length": 0.8})
    spec, _ = fresh("bottle_bed", short)
    fits = math.floor((0.8 - 2 * TANK.thickness - 0.2) / (spec.diameter + 0.01))
    assert 2 < fits < 12
    assert grown("bottle_bed", fits, short, tubes=1, at=0.2) == {"tubes": fits}
    assert grown("bottle_bed", fits + 1, short, tubes=1, at=0.2) is None


def test_an_ornament_takes_more_media_while_its_foam_stays():
    """Twice the surface, of which foam has its part: media carry all that is missing."""
    spec, site = fresh("ornament", media=0.001, medium="ring", foam=0.02, ppi=30.0)
    per = site.medium("ring").surface
    whole = FILTERS["ornament"].surface(spec, site)
    sets = grown("ornament", 1.2, media=0.001, medium="ring", foam=0.02, ppi=30.0)
    assert sets["media"] == pytest.approx(0.001 + 0.2 * whole / per, abs=1.01e-4)
    room = 0.9 * spec.cavity - spec.foam_bulk
    most = 1 + (room - 0.001) * per / whole
    assert grown("ornament", most * 0.999, media=0.001, medium="ring", foam=0.02, ppi=30.0) is not None
    assert grown("ornament", most * 1.001, media=0.001, medium="ring", foam=0.02, ppi=30.0) is None


def test_a_sieve_takes_media_to_seven_tenths_of_its_chamber():
    spec, _ = fresh("sieve_bed", LOW, media=0.02)
    room = 0.7 * spec.length * spec.width * spec.screen
    sets = grown("sieve_bed", 1.5, LOW, media=0.02)
    assert 0.03 <= sets["media"] <= 0.0351
    assert grown("sieve_bed", (room - 0.0055) / 0.02, LOW, media=0.02) is not None
    assert grown("sieve_bed", (room + 0.001) / 0.02, LOW, media=0.02) is None
    assert grown("sieve_bed", 2.0, LOW, media=0.0) is None


def test_drums_take_media_to_two_thirds_of_the_water_over_their_grid():
    """Foam stays as it is: the drums with media carry all that is missing, and each its 66 %."""
    spec, site = fresh("drum_train", LOW)
    drums = [d.model_dump() for d in spec.drums]
    held = [k for k, d in enumerate(spec.drums) if d.holds_media]
    for k in held:
        drums[k]["media"] = 0.02
    spec = type(spec).model_validate({**spec.model_dump(), "drums": drums})
    own = sum(0.02 * site.medium(spec.drums[k].medium).surface for k in held if spec.drums[k].role == "moving")
    whole = FILTERS["drum_train"].surface(spec, site)
    assert own > 0
    edit = FILTERS["drum_train"].grow(spec, site, 1.1)
    factor = 1 + 0.1 * whole / own
    assert [c.value for c in edit.changes] == pytest.approx([0.02 * factor] * len(held), abs=1.01e-3)
    least = min(0.66 * math.pi / 4 * d.diameter**2 * (d.outlet - d.grid) for d in (spec.drums[k] for k in held))
    most = 1 + (least / 0.02 - 1) * own / whole
    assert FILTERS["drum_train"].grow(spec, site, most * 0.999) is not None
    assert FILTERS["drum_train"].grow(spec, site, most * 1.001) is None


def test_a_sump_takes_carriers_to_two_thirds_of_its_moving_bed():
    """220 mm less nothing × 384 mm × 270 mm to the crest, two thirds of it, less the 11 L that are in."""
    system = reading_room()
    sump, site = system.by_id["sump"], analysed(system).sites["sump"]
    k = [c.id for c in sump.chambers].index("bed")
    room = 2 / 3 * sump.widths()[k] * 0.384 * 0.27 - 0.011
    more = kind_of(sump).more_living
    edit, words = more(sump, site, 1.0)  # 1 m² at 500 m²/m³ is 2 L, and a twentieth more
    assert words == "Add carriers"
    assert edit.changes[0].value == pytest.approx(0.011 + min(1.05 * 1.0 / 500, room), abs=6e-5)
    edit, _ = more(sump, site, 1000.0)
    assert edit.changes[0].value == pytest.approx(0.011 + room, abs=6e-5)
    full = apply(system, set_value("x", ("devices", "sump", "chambers", k, "fill", "volume"), 0.011 + room))
    assert more(full.by_id["sump"], site, 1.0) == (None, "")


# -- drums ------------------------------------------------------------------------------------------------------------


def train(**change):
    bare = System(devices=(LOW,))
    made = FILTERS["drum_train"].first(new_site(bare, "tank"))
    rows = [d.model_dump() for d in made.drums]
    for k, own in change.items():
        rows[int(k[1:])].update(own)
    spec = type(made).model_validate({**made.model_dump(), "drums": rows})
    return spec, codes(apply(bare, add_filter(bare, spec)))


def test_a_drums_screen_is_six_tenths_of_its_media():
    for mesh, code in ((0.012, "mesh-wide"), (0.0, "no-screen")):
        _, found = train(d2={"mesh": mesh})
        assert found[code].edit.changes[0].value == pytest.approx(0.6 * 0.01)


def test_a_drums_carriers_come_out_to_two_thirds():
    spec, found = train(d2={"media": 0.075})
    share = found["bed-full"].values["share"]
    assert found["bed-full"].edit.changes[0].value == pytest.approx(0.075 * (2 / 3) / share, abs=6e-4)
    deep = 0.075 / share / spec.drums[2].area
    assert 0.3 < deep < spec.drums[2].height


def test_a_bulkhead_goes_a_bore_under_the_water():
    spec, found = train(d0={"outlet": 0.8, "height": 0.9})
    finding = found["bulkhead-dry"]
    bore = pipe_size(spec.drums[0].pipe).bore
    deep = finding.edit.changes[0].value + bore
    assert 0.05 < deep < 0.9
    # Set so, it is covered: its crown stands half a bore under the water.
    assert finding.edit.changes[0].value + bore / 2 < deep - bore / 2 + 0.0051


def test_more_socks_than_fit_are_not_offered():
    """Twelve at most: beyond 1 500 L/h on each of twelve (as of 180 mm) no button would mend it."""

    def offered(alike):
        strong = {"socks": 1, "feed": {"pump": {"max_head": 4.0, "max_flow": 12000 * LPH}}}
        system = wrong("sock", LOW, strong)
        spec = next(d for d in system.devices if d.kind == "sock")
        flow = codes(system)["socks-few"].values["each"] * spec.diameter / 0.18
        narrow = flow * 0.18 / (alike * LPH)
        found = codes(wrong("sock", LOW, {**strong, "diameter": round(narrow, 4)}))["socks-few"]
        assert found.values["each"] == pytest.approx(alike * LPH, rel=0.03)
        return found.edit is not None

    assert offered(17000)
    assert not offered(19000)


@pytest.mark.parametrize("kind", ["sponge", "foam_wall", "ornament", "under_gravel"])
def test_a_pump_in_a_filter_draws_two_centimetres_over_its_foot(kind):
    """And lifts to its mouth through a hose ten centimetres longer than that, with a bend and what leaves it."""
    system = wrong(kind, TANK, {"drive": "pump"})
    spec = next(d for d in system.devices if d.kind == kind)
    analysis = analysed(system)
    link = next(k for k in analysis.network.links if k.owner == spec.id and k.kind.driven)
    foot = analysis.network.cell(link.a).floor
    assert link.law.intake == pytest.approx(foot + 0.02)
    rise = max(spec.outlet - (foot - analysis.system.tanks[0].floor), 0.05)
    assert link.law.pipe.length == pytest.approx(rise + 0.1)
    assert link.law.pipe.bore == pytest.approx(pipe_size(spec.hose).bore)
    assert [o.mouth for o in link.law.outlets] == pytest.approx([analysis.system.tanks[0].floor + spec.outlet])


def test_a_gap_is_judged_by_its_media_where_no_foam_lies_before_them():
    """Rings of 15 mm may not pass a gap: four fifths of them is 12 mm; with foam before them only animals count."""
    bare = {"gap": 0.0125, "animal": 0.05, "medium": "ring", "foam": 0.0, "ppi": 0.0, "media": 0.001}
    spec, finding, sets = judged("ornament", bare, "gap-wide")
    size = analysed(wrong("ornament", TANK, bare)).sites[spec.id].medium("ring").size
    assert size == pytest.approx(0.015)
    assert sets["gap"] == pytest.approx(0.8 * size)
    assert finding.margin == pytest.approx(0.8 * size - 0.0125)
    assert "gap-wide" not in codes(wrong("ornament", TANK, {**bare, "gap": 0.0119}))
    assert "gap-wide" not in codes(wrong("ornament", TANK, {**bare, "ppi": 20.0, "foam": 0.02}))


def test_a_float_is_set_to_three_quarters_under_the_screen():
    system = wrong("sieve_bed", LOW, {"feed": {"way": "level", "height": 0.5}})
    spec = next(d for d in system.devices if d.kind == "sieve_bed")
    finding = codes(system)["screen-drowned"]
    sets = {c.path[-1]: c.value for c in finding.edit.changes}
    assert sets == {"way": "float", "hold": pytest.approx(0.75 * spec.screen, abs=6e-3)}


def test_media_are_rounded_up_to_a_tenth_of_a_litre():
    """So that the rounding never leaves less than what is missing."""
    for factor in (1.02, 1.11, 1.17):
        sets = grown("ornament", factor, media=0.001, medium="ring", foam=0.0, ppi=0.0)
        assert 0.001 * factor <= sets["media"] + 1e-12 < 0.001 * factor + 1.01e-4
