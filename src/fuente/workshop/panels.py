"""Panels with their holes as DXF in millimetres, for a cutter."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.pieces import Panel
from fuente.drawing.dxf import new_document, written
from fuente.workshop.drawn import outline

GAP = 60.0  # mm between panels on the sheet


def panels_dxf(panels: Iterable[Panel]) -> str:
    """Every panel once, side by side, outlines on CUT, holes on HOLES, names and counts on TEXT; true size."""
    made = new_document()
    space = made.modelspace()
    x = 0.0
    for panel in panels:
        w, h = panel.length * 1000, panel.width * 1000
        edge = [(x + a, b) for a, b in outline(panel)]
        space.add_lwpolyline(edge, close=True, dxfattribs={"layer": "CUT"})
        for hole in panel.holes:
            if hole.x is not None and hole.y is not None:
                centre = (x + hole.x * 1000, hole.y * 1000)
                space.add_circle(centre, hole.diameter * 500, dxfattribs={"layer": "HOLES"})
        words = f"{panel.count} x {panel.name}, {w:.1f} x {h:.1f} x {panel.thickness * 1000:.1f} mm {panel.material}"
        space.add_text(words, height=14, dxfattribs={"layer": "TEXT"}).set_placement((x, -28))
        x += w + GAP
    return written(made)
