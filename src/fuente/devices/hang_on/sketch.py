"""A hang-on overflow in section."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.contract import Look
from fuente.devices.hang_on.network import TUBE_OVER, drain_id, inner_id, outer_id, siphon_id
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.site import Site
from fuente.drawing.primitives import Drawing, Handle, Polyline, Primitive, box


def sketch(spec: HangOn, site: Site, look: Look) -> Drawing:
    """Boxes at the tank's left wall, the tube over the rim, the drain down into its vessel."""
    tank, solution, path = site.tank, look.solution, spec.path
    end_of = site.end_of(spec.into)
    inlet = (end_of.falls_at(spec.chamber) - tank.offset, end_of.floor)
    crest = (tank.floor + spec.crest) * 1000
    end = crest - spec.tube_end * 1000
    wide = spec.box_length * 1000
    wall = tank.thickness * 1000
    inner, outer = (wall, wall + wide), (-wide - 8, -8)
    shapes: list[Primitive] = []
    for (x0, x1), cell in ((inner, inner_id(spec)), (outer, outer_id(spec))):
        level = solution.level[cell] * 1000
        foot = end - 20
        if level > foot:
            shapes.append(box(x0, foot, x1, min(level, tank.rim * 1000), "water", spec.id, cell))
        shapes += [
            box(x0 - 4, foot - 4, x1 + 4, foot, "acrylic", spec.id),
            box(x1, foot, x1 + 4, crest if x0 > 0 else tank.rim * 1000, "acrylic", spec.id),
            box(x0 - 4, foot, x0, tank.rim * 1000, "acrylic", spec.id),
        ]
    a, b = (inner[0] + inner[1]) / 2, (outer[0] + outer[1]) / 2 + 14
    top = (tank.rim + TUBE_OVER) * 1000
    flow = solution.flow.get(siphon_id(spec, 0), 0.0)
    style = "pipe-fall" if abs(flow) > 5e-7 else "pipe-dry"
    shapes.append(
        Polyline(((a, end), (a, top), (b, top), (b, end)), style, spec.id, pipe_size(spec.tube).outside * 1000)
    )
    mouth = crest - spec.stand * 1000
    x = outer[0] + 18
    fall = "pipe-fall" if solution.flow.get(drain_id(spec), 0.0) > 5e-7 else "pipe-dry"
    low = inlet[1] * 1000 + 260
    points = ((x, mouth), (x, low), (inlet[0] * 1000, low), (inlet[0] * 1000, (inlet[1] + spec.release) * 1000))
    shapes.append(Polyline(points, fall, spec.id, pipe_size(spec.pipe).outside * 1000))
    grips = (
        Handle(
            ((inner[1] + 2), crest),
            "y",
            (*path, "crest"),
            spec.crest,
            0.05,
            tank.inner_height - 0.005,
            "hang-on crest",
            "hang-on crest",
            owner=spec.id,
        ),
        Handle(
            (x, mouth),
            "y",
            (*path, "stand"),
            spec.stand,
            0.005,
            1.0,
            "outer drain below the crest",
            "outer drain",
            -1.0,
            owner=spec.id,
        ),
    )
    return Drawing(tuple(shapes), grips).moved(tank.offset * 1000)
