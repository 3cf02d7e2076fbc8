"""A trickle tower in section."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.plumbing_sketch import lines_sketch, vessel_sketch
from fuente.devices.trickle_tower.network import ids
from fuente.devices.trickle_tower.spec import TrickleTower
from fuente.drawing.primitives import Dimension, Drawing, Handle, Polyline, Primitive, box
from fuente.one_line import within


def sketch(spec: TrickleTower, site: Site, look: Look) -> Drawing:
    """Base, packing in air, tray with its water and drips."""
    solution, path = look.solution, spec.path
    tray, _, base = ids(spec)
    x0, x1 = spec.offset, spec.offset + spec.length
    floor, low = spec.stand, spec.stand + spec.base
    top = low + spec.packing
    owner = spec.id
    a, b = x0 * 1000, x1 * 1000
    shapes = vessel_sketch(x0, x1, floor, low, solution.level[base], owner, cell=base)
    layers = spec.trays if spec.style == "trays" else 1
    tall = spec.packing / layers
    for k in range(layers):
        y = low + k * tall
        gap = 0.25 * tall if layers > 1 else 0.0
        shapes.append(box(a, y * 1000, b, (y + tall - gap) * 1000, "media", owner))
        shapes.append(Polyline(((a, y * 1000), (b, y * 1000)), "screen", owner))
    shapes += [Polyline(((x, low * 1000), (x, top * 1000)), "drum", owner) for x in (a, b)]
    shapes += vessel_sketch(x0, x1, top, top + spec.tray, solution.level[tray], owner, thick=4.0, cell=tray)
    if solution.flow.get(f"{spec.id}.holes", 0.0) > 1e-7:
        drips: list[Primitive] = []
        for k in range(7):
            x = a + (k + 0.5) / 7 * (b - a)
            drips += [
                Polyline(((x, y * 1000), (x, y * 1000 - 16)), "surface", owner)
                for y in (top - 0.02, top - 0.3 * spec.packing, top - 0.65 * spec.packing)
            ]
        shapes += drips
    shapes.append(Dimension((a - 4, low * 1000), (a - 4, top * 1000), spec.packing, (*path, "packing"), -44, owner))
    grips = (
        Handle(
            ((a + b) / 2, top * 1000),
            "y",
            (*path, "packing"),
            spec.packing,
            0.05,
            3.0,
            "height of the packing",
            "packing",
            owner=owner,
        ),
        Handle(
            (b, (low + top) * 500),
            "x",
            (*path, "length"),
            spec.length,
            0.05,
            3.0,
            f"length of {within(spec.name)}",
            "tower",
            owner=owner,
        ),
    )
    own = Drawing(tuple(shapes), grips)
    return lines_sketch(spec, site, solution, path, (x0 + 0.3 * spec.length, floor), (x1 - 0.02, floor), own)
