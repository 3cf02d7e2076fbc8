"""A sieve in section."""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.plumbing_sketch import lines_sketch, vessel_sketch
from fuente.devices.sieve_bed.lines import others_in, others_out
from fuente.devices.sieve_bed.network import ids
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.drawing.primitives import Circle, Dimension, Drawing, Handle, Label, Polyline, Primitive, box
from fuente.one_line import within


def sketch(spec: SieveBed, site: Site, look: Look) -> Drawing:
    """Chamber with its water, media, screen on its frame, float, pipes."""
    solution, owner = look.solution, spec.id
    over, chamber = ids(spec)
    x0, x1 = spec.offset, spec.offset + spec.length
    a, b = x0 * 1000, x1 * 1000
    floor, mesh = spec.stand, spec.stand + spec.screen
    shapes = vessel_sketch(
        x0, x1, floor, floor + spec.height, min(solution.level[chamber], mesh - 0.002), owner, cell=chamber
    )
    if spec.media > 0:
        shapes.append(box(a + 4, floor * 1000 + 6, b - 4, (floor + spec.media / spec.area) * 1000 + 6, "media", owner))
    shapes += _screen(spec, a, b, mesh * 1000, solution.level[over] * 1000)
    left = a - 5
    shapes.append(Dimension((left, floor * 1000), (left, mesh * 1000), spec.screen, (*spec.path, "screen"), -44, owner))
    grips = _grips(spec, a, b, mesh * 1000)
    if spec.feed.way == "float":
        part, grip = _float(spec, a, mesh * 1000)
        shapes += part
        grips.append(grip)
    own = Drawing(tuple(shapes), tuple(grips))
    whole = lines_sketch(spec, site, solution, spec.path, (x0 + 0.06, floor), (x1 - 0.12, floor), own)
    mine = site.vessels[spec.id]
    for end, others in (("feed", others_in(spec)), ("drain", others_out(spec))):
        for k, each in enumerate(others, start=1):
            around = replace(site, vessels={**site.vessels, each.id: mine})
            path = (*spec.path, f"{end}s", k - 1)
            enters, leaves = (x0 + 0.06 + 0.05 * k, floor), (x1 - 0.12 - 0.1 * k, floor)
            more = lines_sketch(each, around, solution, path, enters, leaves, Drawing(()), (end,))
            whole += Drawing(tuple(replace(s, owner=spec.id) for s in more.shapes))
    return whole


def _screen(spec: SieveBed, a: float, b: float, mesh: float, level: float) -> list[Primitive]:
    """What stands on the screen, its frame's tubes end on, and its aperture; mm."""
    owner, tube = spec.id, spec.tube * 1000
    shapes: list[Primitive] = []
    if level > mesh + 1:
        shapes += [
            box(a, mesh, b, level, "water", owner, ids(spec)[0]),
            Polyline(((a, level), (b, level)), "surface", owner),
        ]
    for k in range(spec.bars + 2):
        x = min(max(a + (b - a) * k / (spec.bars + 1), a + tube / 2), b - tube / 2)
        shapes.append(Circle((x, mesh - tube / 2 - 2), tube / 2, "ring", owner))
    at, values = ((a + b) / 2, mesh - tube), (("o", spec.aperture),)
    return [
        *shapes,
        Polyline(((a, mesh), (b, mesh)), "screen", owner),
        Label(at, "{o:micron} screen", "label-small", side=-1, owner=owner, room=b - a, values=values),
    ]


def _grips(spec: SieveBed, a: float, b: float, mesh: float) -> list[Handle]:
    path, owner = spec.path, spec.id
    highest = spec.height - spec.edge - 0.02
    middle, side = ((a + b) / 2, mesh), (b, (spec.stand + 0.5 * spec.height) * 1000)
    name = f"length of {within(spec.name)}"
    return [
        Handle(
            middle, "y", (*path, "screen"), spec.screen, 0.05, highest, "height of the screen", "screen", owner=owner
        ),
        Handle(side, "x", (*path, "length"), spec.length, 0.1, 6.0, name, "sieve", owner=owner),
    ]


def _float(spec: SieveBed, a: float, mesh: float) -> tuple[list[Primitive], Handle]:
    """The float that throttles the feed, on its arm."""
    held, owner, path = (spec.stand + spec.feed.hold) * 1000, spec.id, (*spec.path, "feed", "hold")
    shapes: list[Primitive] = [
        Circle((a + 60, held), 26.0, "ring", owner),
        Polyline(((a + 60, held + 26), (a + 8, mesh + 34)), "plate", owner),
    ]
    name, highest = "water that the float holds", spec.screen - 0.02
    return shapes, Handle((a + 60, held), "y", path, spec.feed.hold, 0.03, highest, name, "float", owner=owner)
