"""Socks in section."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.plumbing_sketch import lines_sketch, vessel_sketch
from fuente.devices.sock.network import ids
from fuente.devices.sock.spec import SockStage
from fuente.drawing.primitives import Dimension, Drawing, Handle, Label, Polyline, Primitive, box
from fuente.one_line import within


def sketch(spec: SockStage, site: Site, look: Look) -> Drawing:
    """Box, plate, socks with the water in them."""
    solution, path = look.solution, spec.path
    socks, under = ids(spec)
    x0, x1 = spec.offset, spec.offset + spec.length
    a, b = x0 * 1000, x1 * 1000
    floor = spec.stand
    owner = spec.id
    shapes: list[Primitive] = vessel_sketch(
        x0, x1, floor, floor + spec.height, solution.level[under], owner, cell=under
    )
    plate = (floor + spec.plate) * 1000
    foot = max(plate - spec.sock * 1000, floor * 1000 + 10)
    size = spec.diameter * 1000
    fit = max(1, min(spec.socks, int((b - a) // (size + 8))))
    gap = (b - a - fit * size) / (fit + 1)
    for k in range(fit):
        x = a + gap + k * (size + gap)
        shapes.append(box(x, foot, x + size, plate, "sock", owner))
        level = min(solution.level[socks] * 1000, plate + 30)
        if level > foot + 1:
            shapes += [
                box(x, foot, x + size, level, "water", owner, socks),
                Polyline(((x, level), (x + size, level)), "surface", owner),
            ]
    shapes.append(box(a, plate, b, plate + 5, "plate", owner))
    if spec.socks > fit:
        shapes.append(
            Label(((a + b) / 2, (plate + foot) / 2), f"{spec.socks} in a row", "label-tag", owner=owner, room=b - a)
        )
    shapes.append(
        Dimension(
            (a - 5, floor * 1000), (a - 5, (floor + spec.height) * 1000), spec.height, (*path, "height"), -44, owner
        )
    )
    grips = (
        Handle(
            (b, (floor + 0.4 * spec.height) * 1000),
            "x",
            (*path, "length"),
            spec.length,
            0.08,
            3.0,
            f"length of {within(spec.name)}",
            "box",
            owner=owner,
        ),
    )
    own = Drawing(tuple(shapes), grips)
    enters = (x0 + gap / 1000 + spec.diameter / 2, floor)
    return lines_sketch(spec, site, solution, path, enters, (x1 - 0.02, floor), own)
