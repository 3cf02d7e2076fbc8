"""Every drawing is to scale: dimensions, levels, walls and handles of every demo and every kind, in millimetres."""

from __future__ import annotations

import math
from functools import lru_cache

import pytest

from devices_of import FILTERS
from fuente.document.system import apply, set_value, value_at
from fuente.drawing.primitives import Dimension, Label, Polygon, Polyline
from fuente.shown.section import section
from fuente.study.analysis import Analysis
from fuente.units import UnitSystem, fill
from golden.recorder import cases

DEMOS = ("reading-room", "cascade", "courtyard-trough", "window-lantern", "nursery-on-air", "back-room", "grown")
KINDS = tuple(f"with-{kind}" for kind in FILTERS)
# Cells whose water is not drawn as a surface of its own: closed vessels, films, supplies, and pockets drowned in the
# tank's own water; a header's water lies in its pipe.
UNDRAWN = {"in", "film", "source", "head", "inner", "outer", "rack-drain", "past"}


@lru_cache(maxsize=32)
def analysed(name):
    return Analysis(cases()[name]())


def drawn(analysis, situation="running"):
    state = analysis.try_situation(situation)
    return state, section(analysis, state, analysis.system.tanks[-1].id)


@pytest.mark.parametrize("name", [*DEMOS, *KINDS])
def test_a_dimension_is_as_long_as_it_says(name):
    _, made = drawn(analysed(name))
    dims = [s for s in made.shapes if isinstance(s, Dimension)]
    assert dims or name == "nursery-on-air"  # many tanks, none chosen: they are told by their shares
    for dim in dims:
        assert math.dist(dim.start, dim.end) == pytest.approx(dim.value * 1000, abs=0.51), dim
        if dim.path is not None:
            assert value_at(analysed(name).system, dim.path) == pytest.approx(dim.value)


@pytest.mark.parametrize("situation", ["running", "power_cut"])
@pytest.mark.parametrize("name", [*DEMOS, *KINDS])
def test_water_is_drawn_at_its_own_level(name, situation):
    analysis = analysed(name)
    if situation not in analysis.names():
        pytest.skip("a design that nothing drives has no such situation")
    state, made = drawn(analysis, situation)
    heights = [y for s in made.shapes if isinstance(s, Polyline) and s.style == "surface" for _, y in s.points]
    seen = 0
    for cell in analysis.network.cells:
        level = state.solution.level[cell.id]
        if cell.sink or level < cell.floor + 0.005 or cell.id.rsplit(".", 1)[-1] in UNDRAWN:
            continue
        level = min(level, cell.rim)
        assert min(abs(level * 1000 - y) for y in heights) < 0.6, cell.id
        seen += 1
    assert seen


@pytest.mark.parametrize("name", KINDS)
def test_a_filters_handles_move_with_their_value(name):
    """4 mm more is 4 mm further along its axis, up to its own gain."""
    analysis = analysed(name)
    system = analysis.system
    own = next(d.id for d in system.devices if d.kind == name.removeprefix("with-"))
    grips = [h for h in drawn(analysis)[1].handles if h.path[1] == own]
    assert grips or own in ("steriliser",) or name == "with-sock"
    for grip in grips:
        value = value_at(system, grip.path)
        assert grip.low <= value <= grip.high
        other = value + 0.004 if value + 0.004 <= grip.high else value - 0.004
        moved = Analysis(apply(system, set_value("x", grip.path, other)))
        again = next(h for h in drawn(moved)[1].handles if h.path == grip.path)
        along = 0 if grip.axis == "x" else 1
        assert again.at[along] - grip.at[along] == pytest.approx((other - value) * 1000 / grip.gain, abs=0.5), grip.name


def test_a_hose_is_drawn_to_where_its_water_is_computed_to_fall():
    """Raised packing lifts the tray over where the hose was led: the drawing and the law end it at the tray."""
    system = cases()["with-trickle_tower"]()
    tower = next(f for f in system.filters if f.kind == "trickle_tower")
    analysis = Analysis(apply(system, set_value("x", (*tower.path, "packing"), 1.5)))
    tray = next(c for c in analysis.network.cells if c.id == f"{tower.id}.tray")
    hose = next(
        s
        for s in drawn(analysis)[1].shapes
        if isinstance(s, Polyline)
        and s.owner == tower.id
        and "pipe-" in s.style
        and "fall" not in s.style
        and "dry" not in s.style
    )
    law = analysis.network.link(f"{tower.id}.feed").law
    assert tray.floor > tower.stand + tower.feed.release
    assert hose.points[-1][1] / 1000 == pytest.approx(tray.floor, abs=1e-6)
    assert law.outlets[0].mouth == pytest.approx(tray.floor, abs=1e-9)


@pytest.mark.parametrize("name", [*DEMOS, *KINDS])
def test_a_tank_is_as_wide_and_as_high_as_it_is(name):
    analysis = analysed(name)
    shapes = drawn(analysis)[1].shapes
    for tank in analysis.system.tanks:
        walls = [s for s in shapes if isinstance(s, Polygon) and s.owner == tank.id and s.style == tank.material]
        assert walls, tank.id
        xs = [x for s in walls for x, _ in s.points]
        ys = [y for s in walls for _, y in s.points]
        assert (min(xs), max(xs)) == pytest.approx((tank.offset * 1000, (tank.offset + tank.length) * 1000))
        assert (min(ys), max(ys)) == pytest.approx((tank.stand * 1000, (tank.stand + tank.height) * 1000))


def test_pads_are_as_thick_as_they_are_cut():
    system = analysed("reading-room").system
    shapes = drawn(analysed("reading-room"))[1].shapes
    pads = [s for s in shapes if isinstance(s, Polygon) and s.style.startswith("pad-")]
    wide = sorted(max(x for x, _ in s.points) - min(x for x, _ in s.points) for s in pads)
    assert wide == pytest.approx(sorted(p.thickness * 1000 for p in system.by_id["sump"].chambers[1].pads))
    grades = [s.style for s in sorted(pads, key=lambda s: s.points[0][0])]
    assert grades == ["pad-medium", "pad-medium", "pad-fine"]  # 20, 30, 45 ppi along the water


def test_chambers_stand_at_their_widths():
    """From the sump's left wall: chamber, baffle, chamber, as the section's baffles stand."""
    analysis = analysed("reading-room")
    sump = analysis.system.by_id["sump"]
    shapes = drawn(analysis)[1].shapes
    baffles = [s for s in shapes if isinstance(s, Polygon) and s.style == "baffle"]
    lefts = sorted({round(min(x for x, _ in s.points), 1) for s in baffles})
    at = sump.offset + sump.thickness
    for chamber, width in zip(sump.chambers[:-1], sump.widths(), strict=False):
        at += width
        assert min(abs(at * 1000 - x) for x in lefts) < 0.2, chamber.id
        at += chamber.exit.thickness
    assert at + sump.widths()[-1] == pytest.approx(sump.offset + sump.length - sump.thickness)


@pytest.mark.parametrize("units", list(UnitSystem))
@pytest.mark.parametrize("name", [*DEMOS, *KINDS])
def test_every_label_is_filled_and_has_its_unit(name, units):
    for shape in drawn(analysed(name))[1].shapes:
        if isinstance(shape, Label):
            words = fill(shape.text, dict(shape.values), units)
            assert "{" not in words
            assert words.strip()
            if "{" in shape.text:
                assert any(c.isdigit() for c in words) or "none" in words
                assert any(c.isalpha() or c in '"″%' for c in words), words
