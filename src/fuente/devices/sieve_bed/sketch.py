"""A sieve in section."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.plumbing_sketch import lines_sketch, vessel_sketch
from fuente.devices.sieve_bed.network import ids
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.drawing.primitives import Circle, Dimension, Drawing, Handle, Label, Polyline, Primitive, box


def sketch(spec: SieveBed, site: Site, look: Look) -> Drawing:
    """Chamber with its water, media, screen on its frame, float, pipes."""
    solution, path = look.solution, spec.path
    over, chamber = ids(spec)
    x0, x1 = spec.offset, spec.offset + spec.length
    a, b = x0 * 1000, x1 * 1000
    floor, mesh = spec.stand, spec.stand + spec.screen
    owner = spec.id
    shapes: list[Primitive] = vessel_sketch(
        x0, x1, floor, floor + spec.height, min(solution.level[chamber], mesh - 0.002), owner
    )
    if spec.media > 0:
        shapes.append(box(a + 4, floor * 1000 + 6, b - 4, (floor + spec.media / spec.area) * 1000 + 6, "media", owner))
    level = solution.level[over]
    if level > mesh + 0.001:
        shapes += [
            box(a, mesh * 1000, b, level * 1000, "water", owner),
            Polyline(((a, level * 1000), (b, level * 1000)), "surface", owner),
        ]
    tube = spec.tube * 1000
    for k in range(spec.bars + 2):
        x = a + (b - a) * k / (spec.bars + 1)
        shapes.append(
            Circle((min(max(x, a + tube / 2), b - tube / 2), mesh * 1000 - tube / 2 - 2), tube / 2, "ring", owner)
        )
    shapes.append(Polyline(((a, mesh * 1000), (b, mesh * 1000)), "screen", owner))
    shapes.append(
        Label(
            ((a + b) / 2, mesh * 1000 - spec.tube * 1000),
            "{o:micron} screen",
            "label-small",
            side=-1,
            owner=owner,
            room=b - a,
            values=(("o", spec.aperture),),
        )
    )
    shapes.append(Dimension((a - 5, floor * 1000), (a - 5, mesh * 1000), spec.screen, (*path, "screen"), -44, owner))
    grips = [
        Handle(
            ((a + b) / 2, mesh * 1000),
            "y",
            (*path, "screen"),
            spec.screen,
            0.05,
            spec.height - spec.edge - 0.02,
            "height of the screen",
            "screen",
            owner=owner,
        ),
        Handle(
            (b, (floor + 0.5 * spec.height) * 1000),
            "x",
            (*path, "length"),
            spec.length,
            0.1,
            6.0,
            f"length of {spec.name.lower()}",
            "sieve",
            owner=owner,
        ),
    ]
    if spec.feed.way == "float":
        held = (floor + spec.feed.hold) * 1000
        shapes += [
            Circle((a + 60, held), 26.0, "ring", owner),
            Polyline(((a + 60, held + 26), (a + 8, mesh * 1000 + 34)), "plate", owner),
        ]
        grips.append(
            Handle(
                (a + 60, held),
                "y",
                (*path, "feed", "hold"),
                spec.feed.hold,
                0.03,
                spec.screen - 0.02,
                "water that the float holds",
                "float",
                owner=owner,
            )
        )
    own = Drawing(tuple(shapes), tuple(grips))
    return lines_sketch(spec, site, solution, path, (x0 + 0.06, floor), (x1 - 0.12, floor), own)
