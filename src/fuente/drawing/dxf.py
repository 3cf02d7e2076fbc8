"""Writes panels with their holes, and the section, as DXF in millimetres."""

from __future__ import annotations

import io
from collections.abc import Iterable

from fuente.devices.base import Panel, fill
from fuente.drawing.primitives import Circle, Drawing, Label, Polygon, Polyline
from fuente.units import UnitSystem

GAP = 60.0  # mm between panels on the sheet


def _document():  # type: ignore[no-untyped-def]
    import ezdxf
    from ezdxf import units

    made = ezdxf.new("R2010")
    made.units = units.MM
    for name, colour in (("CUT", 7), ("HOLES", 1), ("TEXT", 3), ("SECTION", 7), ("WATER", 4), ("PIPES", 30)):
        made.layers.add(name, color=colour)
    return made


def _written(made: object) -> str:
    out = io.StringIO()
    made.write(out)  # type: ignore[attr-defined]
    return out.getvalue()


def panels_dxf(panels: Iterable[Panel]) -> str:
    """Every panel once, side by side, outlines on CUT, holes on HOLES, names and counts on TEXT; true size."""
    made = _document()
    space = made.modelspace()
    x = 0.0
    for panel in panels:
        w, h = panel.length * 1000, panel.width * 1000
        space.add_lwpolyline([(x, 0), (x + w, 0), (x + w, h), (x, h)], close=True, dxfattribs={"layer": "CUT"})
        for hx, hy, diameter, _ in panel.holes:
            space.add_circle((x + hx * 1000, hy * 1000), diameter * 500, dxfattribs={"layer": "HOLES"})
        words = f"{panel.count} x {panel.name}, {w:.1f} x {h:.1f} x {panel.thickness * 1000:.1f} mm {panel.material}"
        space.add_text(words, height=14, dxfattribs={"layer": "TEXT"}).set_placement((x, -28))
        x += w + GAP
    return _written(made)


def section_dxf(drawing: Drawing, units: UnitSystem) -> str:
    """The section at true size."""
    made = _document()
    space = made.modelspace()
    for shape in drawing.shapes:
        if isinstance(shape, Polygon | Polyline):
            style = shape.style
            layer = "WATER" if style in ("water", "surface") else "PIPES" if style.startswith("pipe") else "SECTION"
            closed = isinstance(shape, Polygon)
            width = 0.0 if closed or not isinstance(shape, Polyline) else shape.width
            line = space.add_lwpolyline(shape.points, close=closed, dxfattribs={"layer": layer})
            if width:
                line.dxf.const_width = width
        elif isinstance(shape, Circle):
            space.add_circle(shape.centre, shape.radius, dxfattribs={"layer": "SECTION"})
        elif isinstance(shape, Label):
            words = fill(shape.text, dict(shape.values), units).replace("\u202f", " ")
            text = space.add_text(words, height=14, dxfattribs={"layer": "TEXT"})
            text.set_placement(shape.at)
            text.dxf.rotation = 90 if shape.rotated else 0
    return _written(made)
