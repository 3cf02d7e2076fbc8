"""A plant bed in section."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.plant_bed.network import ids
from fuente.devices.plant_bed.spec import PlantBed
from fuente.devices.plumbing_sketch import lines_sketch, vessel_sketch
from fuente.drawing.primitives import Dimension, Drawing, Handle, Polyline, Primitive, box
from fuente.one_line import within


def sketch(spec: PlantBed, site: Site, look: Look) -> Drawing:
    """Trough, water, gravel, plants."""
    solution, owner, floor = look.solution, spec.id, spec.stand
    head, foot = ids(spec)
    # Water comes in at the side away from where it goes.
    right = spec.offset > site.vessels.get(spec.drain.into, site.vessels[site.tank.id]).left
    x0, x1 = spec.offset, spec.offset + spec.length
    levels = (solution.level[foot], solution.level[head]) if right else (solution.level[head], solution.level[foot])
    shapes: list[Primitive] = vessel_sketch(
        x0, x1, floor, floor + spec.height, levels[0], owner, cell=foot if right else head
    )
    a, b = x0 * 1000, x1 * 1000
    if levels[1] > levels[0] + 0.001:
        high = min(levels[1], floor + spec.height) * 1000
        shapes.append(box((a + b) / 2, levels[0] * 1000, b, high, "water", owner, head if right else foot))
    top = (floor + spec.gravel) * 1000
    if spec.gravel > 0:
        inset = 0.1 * (b - a)
        shapes.append(box(a + inset, floor * 1000, b - inset, top, "gravel", owner))
    if spec.plants != "none":
        shapes += _plants(spec, a, b, top if spec.plants != "floating" else max(levels) * 1000)
    low, rim = (b + 5, floor * 1000), (b + 5, (floor + spec.height) * 1000)
    shapes.append(Dimension(low, rim, spec.height, (*spec.path, "height"), 44, owner))
    own = Drawing(tuple(shapes), _grips(spec, a, b, top))
    inside = (x1 - 0.04, x0 + 0.04) if right else (x0 + 0.04, x1 - 0.04)
    return lines_sketch(spec, site, solution, spec.path, (inside[0], floor), (inside[1], floor), own)


def _plants(spec: PlantBed, a: float, b: float, base: float) -> list[Primitive]:
    """Two leaves each, every 180 mm or so, from ``base`` mm up."""
    shapes: list[Primitive] = []
    count = max(3, round(spec.length / 0.18))
    for k in range(count):
        x = a + (k + 0.5) / count * (b - a)
        tall = 130 + 50 * ((k * 0.7548776662) % 1)
        shapes += [
            Polyline(((x, base), (x - 9, base + 0.5 * tall), (x + 7, base + tall)), "plant", spec.id),
            Polyline(((x, base), (x + 14, base + 0.45 * tall), (x + 26, base + 0.7 * tall)), "plant", spec.id),
        ]
    return shapes


def _grips(spec: PlantBed, a: float, b: float, top: float) -> tuple[Handle, Handle]:
    path, owner, name = spec.path, spec.id, f"length of {within(spec.name)}"
    side, gravel = (b, (spec.stand + 0.5 * spec.height) * 1000), ((a + b) / 2, top)
    words, high = "depth of the gravel", spec.height
    return (
        Handle(side, "x", (*path, "length"), spec.length, 0.1, 20.0, name, "bed", owner=owner),
        Handle(gravel, "y", (*path, "gravel"), spec.gravel, 0.0, high, words, "gravel", owner=owner),
    )
