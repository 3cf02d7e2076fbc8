"""A tank in section, looking at its front."""

from __future__ import annotations

from fuente.devices.tank.spec import Tank
from fuente.drawing.primitives import Dimension, Drawing, Label, Polyline, Primitive, box
from fuente.network.model import Solution


def sketch(tank: Tank, solution: Solution, water_from: float, water_to: float) -> Drawing:
    """Walls, water between x = water_from and water_to (m inside), and its depth."""
    x0, x1 = 0.0, tank.length * 1000
    base, floor, rim = tank.stand * 1000, tank.floor * 1000, tank.rim * 1000
    t = tank.thickness * 1000
    level = solution.level[tank.id] * 1000
    left, right = water_from * 1000, water_to * 1000
    shapes: list[Primitive] = []
    if level > floor:
        top = min(level, rim)
        shapes.append(box(left, floor, right, top, "water", tank.id))
        shapes.append(Polyline(((left, top), (right, top)), "surface", tank.id))
    if tank.gravel:
        depth = tank.gravel / (tank.inner_length * tank.inner_width) / 0.6 * 1000
        shapes.append(box(left, floor, right, floor + depth, "gravel", tank.id))
    shapes += [
        box(x0, base, x1, floor, tank.material, tank.id),
        box(x0, floor, x0 + t, rim, tank.material, tank.id),
        box(x1 - t, floor, x1, rim, tank.material, tank.id),
    ]
    sizes = (("l", tank.length), ("w", tank.width), ("h", tank.height))
    shapes.append(
        Label(
            ((left + right) / 2, floor + (level - floor) * 0.5),
            "{l:length:bare} × {w:length:bare} × {h:length}",
            "label-strong",
            values=sizes,
            owner=tank.id,
            room=right - left,
        )
    )
    depth_m = solution.level[tank.id] - tank.floor
    shapes.append(Dimension((x0, floor), (x0, level), depth_m, None, -52, tank.id))
    return Drawing(tuple(shapes))
