"""Panels put back together, by geometry written apart: they close to the sump's outer sizes in every joint order."""

from __future__ import annotations

import itertools

import pytest

from fuente.demo.back_room import back_room
from fuente.demo.cascade import cascade
from fuente.demo.reading_room import reading_room
from fuente.devices.base import Change, Edit
from fuente.devices.glazed import plate_wall
from fuente.devices.pieces import Panel, slots_of
from fuente.document.system import apply
from fuente.study.known import analysed
from fuente.workshop.bill import bill

AXES = {"xz": (0, 2, 1), "yz": (1, 2, 0), "xy": (0, 1, 2), "yx": (1, 0, 2)}  # length, width and thickness run along


def solids(panels: tuple[Panel, ...]):
    """Each panel where it stands: its name, and from where to where along x, y, z in mm."""
    for panel in panels:
        assert len(panel.places) == panel.count
        for k, place in enumerate(panel.places):
            low = [place.x, place.y, place.z]
            high = list(low)
            for axis, size in zip(AXES[place.lies], (panel.length, panel.width, panel.thickness), strict=True):
                high[axis] += size
            yield f"{panel.id}.{k}", [(a * 1000, b * 1000) for a, b in zip(low, high, strict=True)]


def gap(one, other):
    """How far two boxes are apart along each axis, mm; less than nothing is how far they reach into each other."""
    return [max(b[0] - a[1], a[0] - b[1]) for a, b in zip(one, other, strict=True)]


@pytest.mark.parametrize(("walls", "ends"), list(itertools.product(("on", "round"), ("between", "outside"))))
def test_the_box_closes(walls, ends):
    shop = (Change(("shop", "walls"), walls), Change(("shop", "ends"), ends), Change(("shop", "glue"), 0.0015))
    system = apply(reading_room(), Edit("Joint order", shop))
    sump = system.device("sump")
    panels = tuple(p for p in bill(analysed(system)).panels if p.body == "sump")
    there = dict(solids(panels))
    shell = {k: v for k, v in there.items() if k.startswith(("sump.bottom", "sump.long", "sump.end"))}
    assert len(shell) == 5
    outer = [(min(v[i][0] for v in shell.values()), max(v[i][1] for v in shell.values())) for i in range(3)]
    sizes = (sump.length, sump.width, sump.height)
    assert outer == [pytest.approx((0, s * 1000), abs=0.1) for s in sizes]
    # No two panels of the shell share a place, and those that meet leave the glue gap between their faces.
    meets = 0
    for one, other in itertools.combinations(shell.values(), 2):
        apart = sorted(gap(one, other))
        assert apart[-1] > 0.1
        if apart[1] < 0 and apart[-1] < 100:  # they face each other across one axis
            assert apart[-1] == pytest.approx(1.5, abs=0.1)
            meets += 1
    assert meets == 8  # four upright edges, four along the bottom
    # Inside is what the design floods: thickness taken off at each side.
    walls_x = [v[0] for k, v in shell.items() if k.startswith("sump.end")]
    assert max(a for a, _ in walls_x) - min(b for _, b in walls_x) == pytest.approx(sump.inner_length * 1000, abs=0.1)
    walls_y = [v[1] for k, v in shell.items() if k.startswith("sump.long")]
    assert max(a for a, _ in walls_y) - min(b for _, b in walls_y) == pytest.approx(sump.inner_width * 1000, abs=0.1)
    # Baffles stand where their chambers end, clear of both long walls, their crest where the water meets it.
    t = sump.thickness * 1000
    for chamber, start, width in zip(sump.chambers, sump.starts(), sump.widths(), strict=True):
        if chamber.exit is None:
            continue
        x, y, z = there[f"sump.{chamber.id}.exit.0"]
        assert x[0] == pytest.approx(t + (start + width) * 1000, abs=0.1)
        assert y == pytest.approx((t + 1, t + sump.inner_width * 1000 - 1), abs=0.1)
        panel = next(p for p in panels if p.id == f"sump.{chamber.id}.exit")
        depth = panel.slots.depth if panel.slots else 0.0
        assert z[1] - depth * 1000 == pytest.approx((sump.bottom + chamber.exit.top) * 1000, abs=0.1)


@pytest.mark.parametrize("make", [reading_room, back_room, cascade])
def test_no_panel_stands_in_another(make):
    by_body: dict[str, list[Panel]] = {}
    for panel in bill(analysed(make())).panels:
        by_body.setdefault(panel.body, []).append(panel)
    for panels in by_body.values():
        for (name, one), (also, other) in itertools.combinations(solids(tuple(panels)), 2):
            assert max(gap(one, other)) > -0.1, f"{name} and {also}"


def test_strips_lie_in_the_rim():
    """A ring of 40 mm strips: flush with the rim, inside the walls, none in another; and it makes the wall safer."""
    system = apply(
        reading_room(),
        Edit("Ring", (Change(("devices", "sump", "strip"), 0.04), Change(("devices", "sump", "thickness"), 0.006))),
    )
    sump = system.device("sump")
    panels = tuple(p for p in bill(analysed(system)).panels if p.body == "sump")
    there = dict(solids(panels))
    strips = {k: v for k, v in there.items() if "strip" in k}
    assert len(strips) == 4
    for box in strips.values():
        assert box[2][1] == pytest.approx(sump.height * 1000, abs=0.1)
        assert box[0][0] > sump.thickness * 1000
        assert box[1][1] < (sump.width - sump.thickness) * 1000
    for (name, one), (also, other) in itertools.combinations(there.items(), 2):
        if "strip" in name and "strip" in also:
            assert max(gap(one, other)) > -0.1, f"{name} and {also}"
    free = apply(system, Edit("None", (Change(("devices", "sump", "strip"), 0.0),))).device("sump")
    wide = apply(system, Edit("Wide", (Change(("devices", "sump", "strip"), 0.1),))).device("sump")
    assert plate_wall(wide).safety > plate_wall(free).safety


@pytest.mark.parametrize(("walls", "ends"), list(itertools.product(("on", "round"), ("between", "outside"))))
def test_holes_stay_where_they_are_in_the_sump(walls, ends):
    """Whatever the joints, a drilled end has its holes at the same place over the floor and across the inside."""
    shop = (Change(("shop", "walls"), walls), Change(("shop", "ends"), ends))
    system = apply(cascade(), Edit("Joint order", shop))
    sump = system.device("upper")
    panel = next(p for p in bill(analysed(system)).panels if p.body == "upper" and p.holes)
    place = panel.places[0]
    across = [place.y + h.x - sump.thickness for h in panel.holes]
    up = {round(place.z + h.y - sump.bottom, 6) for h in panel.holes}
    third = sump.inner_width / 3
    assert sorted(across) == pytest.approx([third, 2 * third], abs=0.03)
    assert sum(across) / 2 == pytest.approx(sump.inner_width / 2)
    assert up == {round(system.device("fall").height, 6)}


def test_teeth_stand_no_higher_than_the_rim():
    assert slots_of(0.4, 0.3, 0.4, 0.0, 0.25, 0.006).depth == pytest.approx(0.02)
    assert slots_of(0.4, 0.395, 0.4, 0.0, 0.25, 0.006).depth == pytest.approx(0.005)
    assert slots_of(0.4, 0.4, 0.4, 0.0, 0.25, 0.006) is None
    assert slots_of(0.4, 0.3, 0.4, 0.0, 0.25, 0.006).count == round(0.75 * 0.4 / 0.006)
    assert slots_of(0.4, 0.3, 0.4, 0.5, 0.0, 0.006).width == 0.4
