"""Writes the section as DXF in millimetres."""

from __future__ import annotations

import io
from typing import TYPE_CHECKING

from fuente.drawing.primitives import Circle, Drawing, Label, Polygon, Polyline
from fuente.units import UnitSystem, fill

if TYPE_CHECKING:
    import ezdxf.document


def new_document() -> ezdxf.document.Drawing:
    """A document in mm with Fuente's layers."""
    import ezdxf.filemanagement
    from ezdxf import units

    made = ezdxf.filemanagement.new("R2010")
    made.units = units.MM
    for name, colour in (
        ("CUT", 7),
        ("HOLES", 1),
        ("TEXT", 3),
        ("SECTION", 7),
        ("WATER", 4),
        ("PIPES", 30),
        ("SCORE", 30),
        ("SHEET", 8),
        ("OFFCUT", 9),
    ):
        made.layers.add(name, color=colour)
    return made


def written(made: ezdxf.document.Drawing) -> str:
    """A document as text."""
    out = io.StringIO()
    made.write(out)
    return out.getvalue()


_LAYERS = {
    "water": "WATER",
    "surface": "WATER",
    "cut-panel": "CUT",
    "cut-pad": "CUT",
    "edge": "CUT",
    "score": "SCORE",
    "sheet": "SHEET",
    "offcut": "OFFCUT",
    "hole": "HOLES",
    "cross": "HOLES",
}


def _layer(style: str) -> str:
    return _LAYERS.get(style, "PIPES" if style.startswith("pipe") else "SECTION")


def section_dxf(drawing: Drawing, units: UnitSystem) -> str:
    """A drawing at true size; what is cut, scored and drilled on layers of its own."""
    made = new_document()
    space = made.modelspace()
    for shape in drawing.flat().shapes:
        if isinstance(shape, Polygon | Polyline):
            layer = _layer(shape.style)
            closed = isinstance(shape, Polygon)
            width = 0.0 if closed or not isinstance(shape, Polyline) else shape.width
            line = space.add_lwpolyline(shape.points, close=closed, dxfattribs={"layer": layer})
            if width:
                line.dxf.const_width = width
        elif isinstance(shape, Circle):
            space.add_circle(shape.centre, shape.radius, dxfattribs={"layer": _layer(shape.style)})
        elif isinstance(shape, Label):
            words = fill(shape.text, dict(shape.values), units).replace("\u202f", " ")
            text = space.add_text(words, height=14, dxfattribs={"layer": "TEXT"})
            text.set_placement(shape.at)
            text.dxf.rotation = 90 if shape.rotated else 0
    return written(made)
