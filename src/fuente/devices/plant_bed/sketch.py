"""A plant bed in section."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.plant_bed.network import ids
from fuente.devices.plant_bed.spec import PlantBed
from fuente.devices.plumbing_sketch import lines_sketch, vessel_sketch
from fuente.drawing.primitives import Dimension, Drawing, Handle, Polyline, Primitive, box


def sketch(spec: PlantBed, site: Site, look: Look) -> Drawing:
    """Trough, water, gravel, plants."""
    solution, path = look.solution, spec.path
    head, foot = ids(spec)
    # Water comes in at the side away from where it goes.
    right = spec.offset > site.vessels.get(spec.drain.into, site.vessels[site.tank.id]).left
    x0, x1 = spec.offset, spec.offset + spec.length
    a, b = x0 * 1000, x1 * 1000
    floor = spec.stand
    owner = spec.id
    middle = (x0 + x1) / 2
    levels = (solution.level[foot], solution.level[head]) if right else (solution.level[head], solution.level[foot])
    shapes: list[Primitive] = vessel_sketch(x0, x1, floor, floor + spec.height, levels[0], owner)
    if levels[1] > levels[0] + 0.001:
        shapes.append(
            box(middle * 1000, levels[0] * 1000, b, min(levels[1], floor + spec.height) * 1000, "water", owner)
        )
    top = (floor + spec.gravel) * 1000
    if spec.gravel > 0:
        inset = 0.1 * (b - a)
        shapes.append(box(a + inset, floor * 1000, b - inset, top, "gravel", owner))
    if spec.plants != "none":
        count = max(3, round(spec.length / 0.18))
        base = top if spec.plants != "floating" else max(levels) * 1000
        for k in range(count):
            x = a + (k + 0.5) / count * (b - a)
            tall = 130 + 50 * ((k * 0.7548776662) % 1)
            shapes.append(Polyline(((x, base), (x - 9, base + 0.5 * tall), (x + 7, base + tall)), "plant", owner))
            shapes.append(
                Polyline(((x, base), (x + 14, base + 0.45 * tall), (x + 26, base + 0.7 * tall)), "plant", owner)
            )
    shapes.append(
        Dimension(
            (b + 5, floor * 1000), (b + 5, (floor + spec.height) * 1000), spec.height, (*path, "height"), 44, owner
        )
    )
    grips = (
        Handle(
            (b, (floor + 0.5 * spec.height) * 1000),
            "x",
            (*path, "length"),
            spec.length,
            0.1,
            20.0,
            f"length of {spec.name.lower()}",
            "bed",
            owner=owner,
        ),
        Handle(
            ((a + b) / 2, top),
            "y",
            (*path, "gravel"),
            spec.gravel,
            0.0,
            spec.height,
            "depth of the gravel",
            "gravel",
            owner=owner,
        ),
    )
    own = Drawing(tuple(shapes), grips)
    inside = (x1 - 0.04, x0 + 0.04) if right else (x0 + 0.04, x1 - 0.04)
    return lines_sketch(spec, site, solution, path, (inside[0], floor), (inside[1], floor), own)
