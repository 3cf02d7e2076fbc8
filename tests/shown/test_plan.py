"""The plan: every body in its place and size, holes where the list has them, floors that do not cover each other."""

from __future__ import annotations

import itertools

import ezdxf
import pytest

from fuente.demo import DEMOS
from fuente.demo.reading_room import reading_room
from fuente.demo.trough import trough
from fuente.devices.pieces import Face, Hole
from fuente.drawing.primitives import Circle, Dimension, Polygon, Polyline
from fuente.shown.plan import plan
from fuente.study.known import analysed
from fuente.workshop.bill import bill
from fuente.workshop.export import export_plan_dxf


def boxes(drawing, style):
    """Left, bottom, right, top of every upright box of a style, mm."""
    found = []
    for s in drawing.shapes:
        if isinstance(s, Polygon) and s.style == style:
            xs, ys = zip(*s.points, strict=True)
            found.append((min(xs), min(ys), max(xs), max(ys), s.owner))
    return found


def test_tank_and_sump_to_scale():
    system = reading_room()
    drawing = plan(analysed(system))
    by = {b[4]: b for b in boxes(drawing, "glass")}
    tank, sump = by["tank"], by["sump"]
    assert (tank[2] - tank[0], tank[3] - tank[1]) == pytest.approx((1500, 600))
    assert (sump[2] - sump[0], sump[3] - sump[1]) == pytest.approx((900, 400))
    assert sump[0] == pytest.approx(system.device("sump").offset * 1000)
    assert sump[3] < tank[1]  # another floor
    baffles = sorted(b[0] for b in boxes(drawing, "baffle") if b[4] == "sump")
    assert baffles[0] == pytest.approx(sump[0] + 168, abs=1)  # the first baffle, as the steps mark it
    sizes = sorted(d.value for d in drawing.shapes if isinstance(d, Dimension))
    assert sizes == pytest.approx([0.4, 0.6, 0.9, 1.5])


def test_holes_stand_where_the_list_has_them():
    analysis = analysed(reading_room())
    drawing = plan(analysis)
    tank = next(b for b in boxes(drawing, "glass") if b[4] == "tank")
    listed = [p for p in bill(analysis).pieces if isinstance(p, Hole) and p.face is Face.FLOOR]
    drawn = [s for s in drawing.shapes if isinstance(s, Circle) and s.style == "hole"]
    seen = sorted((round(c.centre[0] - tank[0]), round(tank[3] - c.centre[1]), round(2 * c.radius)) for c in drawn)
    assert seen == sorted((round(h.x * 1000), round(h.y * 1000), round(h.diameter * 1000)) for h in listed)
    assert len(seen) == 3
    ways = [s for s in drawing.shapes if isinstance(s, Polyline) and s.style == "pipe-fall"]
    assert sorted(s.points[0] for s in ways) == sorted(c.centre for c in drawn)  # each drain leads on from its hole
    assert any(s.style == "pipe-pumped" for s in drawing.shapes if isinstance(s, Polyline))


@pytest.mark.parametrize("name", list(DEMOS))
def test_no_floor_covers_another(name):
    analysis = analysed(DEMOS[name]())
    drawing = plan(analysis)
    outer = [b for b in (*boxes(drawing, "glass"), *boxes(drawing, "sheet")) if b[4] in analysis.system.by_id]
    assert len(outer) >= len(analysis.system.tanks)
    for one, other in itertools.combinations(outer, 2):
        apart = max(other[0] - one[2], one[0] - other[2], other[1] - one[3], one[1] - other[3])
        assert apart >= -1e-6, (one[4], other[4])


def test_drums_are_round_and_files_read_back(tmp_path):
    analysis = analysed(trough())
    drums = [s for s in plan(analysis).shapes if isinstance(s, Circle) and s.style == "drum"]
    assert [2 * d.radius for d in drums] == pytest.approx([570, 570])
    path = tmp_path / "p.dxf"
    export_plan_dxf(analysis, path)
    made = ezdxf.readfile(path)
    assert not made.audit().errors
    large = [2 * e.dxf.radius for e in made.modelspace() if e.dxftype() == "CIRCLE" and e.dxf.radius > 200]
    assert large == pytest.approx([570, 570])
