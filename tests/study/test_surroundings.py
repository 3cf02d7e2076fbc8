"""What a cell knows of its surroundings: walls to the room, open water, cover, warmth, and what lives in it."""

from __future__ import annotations

import math

import pytest

from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.nursery import nursery
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices import kind_of
from fuente.document.system import apply, set_value
from fuente.study.analysis import Analysis
from golden.recorder import with_kind


def cell(system, key):
    return Analysis(system).network.cell(key)


def test_a_tank_has_its_own_glass_and_lid():
    found = cell(reading_room(), "tank")
    assert (found.walls.material, found.walls.thickness) == ("glass", 0.015)
    # 1500 × 600 mm outside of 15 mm glass: 1.47 × 0.57 m inside.
    assert found.walls.around == pytest.approx(2 * (1.47 + 0.57))
    assert found.walls.foot == pytest.approx(1.47 * 0.57)
    assert found.walls.area(0.5) == pytest.approx(0.5 * 4.08 + 0.8379)
    assert found.walls.area(-1.0) == pytest.approx(0.8379)
    assert found.cover == 0.6
    assert found.open_area == pytest.approx(1.47 * 0.57 * 0.4)


def test_chambers_share_the_sumps_outer_walls():
    """900 × 400 mm outside of 8 mm glass; what two chambers share is no wall to the room."""
    cells = [c for c in Analysis(reading_room()).network.cells if c.owner == "sump" and c.walls]
    baffles = 900 - 16 - sum(1000 * c.walls.foot / 0.384 for c in cells)  # mm along it that baffles take
    assert 0 < baffles < 60
    along = sum(c.walls.foot for c in cells) / 0.384
    assert sum(c.walls.around for c in cells) == pytest.approx(2 * along + 2 * 0.384)
    assert {(c.walls.material, c.walls.thickness) for c in cells} == {("glass", 0.008)}
    clear = apply(reading_room(), set_value("x", ("devices", "sump", "material"), "acrylic"))
    assert {c.walls.material for c in Analysis(clear).network.cells if c.owner == "sump" and c.walls} == {"acrylic"}


def test_drums_are_round_and_of_plastic():
    found = cell(trough(), "drums.drum.1")
    assert found.walls.material == "plastic"
    assert found.walls.around == pytest.approx(math.pi * 0.57)
    assert found.walls.foot == pytest.approx(math.pi / 4 * 0.57**2)


@pytest.mark.parametrize(
    ("kind", "parts"),
    [("plant_bed", ("head", "foot")), ("sieve_bed", ("chamber",)), ("trickle_tower", ("base",)), ("sock", ("box",))],
)
def test_boxes_beside_the_tank_stand_in_the_room(kind, parts):
    system = with_kind(kind)
    spec = next(d for d in system.devices if d.kind == kind)
    walls = [cell(system, f"{spec.id}.{part}").walls for part in parts]
    assert sum(w.around for w in walls) == pytest.approx(2 * (spec.length + spec.width))
    assert sum(w.foot for w in walls) == pytest.approx(spec.length * spec.width)


@pytest.mark.parametrize("kind", ["sponge", "bottle_bed", "ornament", "under_gravel", "foam_wall"])
def test_what_stands_in_the_tank_meets_no_room(kind):
    system = with_kind(kind)
    spec = next(d for d in system.devices if d.kind == kind)
    inside = [c for c in Analysis(system).network.cells if c.owner == spec.id]
    assert inside
    assert all(c.walls is None and c.open_area == 0 for c in inside)


@pytest.mark.parametrize("make", [reading_room, cascade, nursery, trough, back_room])
def test_life_stands_in_the_cell_that_its_kind_says(make):
    analysis = Analysis(make())
    wanted: dict[str, float] = {}
    for device in analysis.system.devices:
        for key, surface in kind_of(device).surfaces(device, analysis.sites[device.id]):
            wanted[key] = wanted.get(key, 0.0) + surface
    found = {c.id: c.living for c in analysis.network.cells if c.living}
    assert found == pytest.approx({k: v for k, v in wanted.items() if v})
    assert sum(found.values()) > 0
    # It is where media stand: never loose in a tank.
    assert not {t.id for t in analysis.system.tanks} & found.keys()


def test_every_bed_of_a_train_lives_in_its_own_drum():
    network = Analysis(trough()).network
    assert network.cell("drums.past").living == 0  # behind the last bed
    # 100 mm of foam of 20 ppi, 900 m²/m³; 60 L of 10 mm wheels, 500 m²/m³.
    assert network.cell("drums.drum.0").living == pytest.approx(900 * 0.1 * math.pi / 4 * 0.57**2)
    assert network.cell("drums.drum.1").living == pytest.approx(0.06 * 500)
    halves = [network.cell(f"plants.{end}").living for end in ("head", "foot")]
    assert halves[0] == halves[1] > 0


def test_a_tower_lives_in_the_air_and_in_its_base():
    """Six tenths of the packing in air, all of what stands in the base's water."""
    system = with_kind("trickle_tower")
    tower = next(d for d in system.devices if d.kind == "trickle_tower")
    system = apply(system, set_value("x", (*tower.path, "submerged"), 0.1))
    per = Analysis(system).sites[tower.id].medium(tower.medium).surface
    assert cell(system, f"{tower.id}.base").living == pytest.approx(per * tower.plan * 0.1)
    assert cell(system, f"{tower.id}.film").living == pytest.approx(per * 0.6 * tower.plan * (tower.packing - 0.1))


def test_warmth_is_the_tanks_own():
    """Eight tubs of 23 °C, one turned colder: its filters are as cold, the others are not."""
    system = nursery()
    third = system.tanks[2]
    network = Analysis(apply(system, set_value("x", (*third.path, "temperature"), 18.0))).network
    assert {c.id: c.temperature for c in network.cells if c.owner in ("bed-3", "sponge-3", third.id)} == {
        "bed-3.in": 18.0,
        "sponge-3.in": 18.0,
        third.id: 18.0,
    }
    assert network.cell("bed-4.in").temperature == 23.0


def test_a_sump_is_as_warm_as_its_tank_throughout():
    assert {c.temperature for c in Analysis(cascade()).network.cells if c.owner in ("upper", "lower")} == {19.0}
