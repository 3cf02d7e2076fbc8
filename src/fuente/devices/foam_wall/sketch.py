"""A foam wall in its tank."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.foam_wall.network import between_id
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.pocket_sketch import tube_sketch, x_of, y_of
from fuente.drawing.primitives import Drawing, Handle, Label, Point, Polyline, Primitive, box
from fuente.drawing.styles import pad_grade
from fuente.one_line import within


def _tube_x(spec: FoamWall, site: Site) -> float:
    return x_of(spec, site) + _behind(spec) * 500


def air_at(spec: FoamWall, site: Site) -> Point:
    """Where its airline ends, mm."""
    return _tube_x(spec, site), y_of(site, spec.injector)


def sketch(spec: FoamWall, site: Site, look: Look) -> Drawing:
    """From the left wall: the room behind, then foam and water by turns to the tank."""
    solution = look.solution
    x, floor, top = x_of(spec, site), y_of(site, 0.0), y_of(site, spec.height)
    highest = solution.level[site.tank.id] * 1000
    shapes: list[Primitive] = []
    behind = _behind(spec)
    # The tank's own water is drawn wall to wall: behind the foam stands less, so that is wiped and drawn anew.
    for k in range(spec.walls - 1, -1, -1):
        room = (behind if k == spec.walls - 1 else spec.spacing) * 1000
        level = solution.level[between_id(spec, k)] * 1000
        shapes.append(box(x, floor, x + room, max(highest, level) + 2, "cavity", spec.id))
        if level > floor + 1:
            shapes += [
                box(x, floor, x + room, level, "water", spec.id, between_id(spec, k)),
                Polyline(((x, level), (x + room, level)), "surface", spec.id),
            ]
        x += room
        shapes += _foam(spec, site, x)
        x += spec.deep * 1000
    tube = tube_sketch(spec, site, solution, _tube_x(spec, site), spec.path)
    return Drawing(tuple(shapes), _grips(spec, site, x, (floor + top) / 2)) + tube


def _behind(spec: FoamWall) -> float:
    """Room in m between the tank's end and the foam, or the corner and its arc."""
    return spec.behind if spec.shape == "flat" else spec.reach - spec.deep


def _foam(spec: FoamWall, site: Site, x: float) -> list[Primitive]:
    """One wall of pads from x mm on, with its dam and its rails."""
    floor, top, dam = y_of(site, 0.0), y_of(site, spec.height), y_of(site, spec.dam)
    shapes: list[Primitive] = []
    left, wide = x, spec.thickness * 1000
    for ppi in reversed(spec.pads):
        shapes += [
            box(x, dam if spec.dam_at == "over" else floor, x + wide, top, pad_grade(ppi), spec.id),
            Label((x + wide / 2, dam + 40), f"{ppi:g}", "label-tag", owner=spec.id, room=wide),
        ]
        x += wide
    if spec.dam > 0:
        ends = (left, x) if spec.dam_at == "over" else (left - 8, left)
        shapes.append(box(ends[0], floor, ends[1], dam, "acrylic", spec.id))
    for y in (floor + 0.2 * (top - floor), floor + 0.8 * (top - floor)):
        shapes.append(box(left - 5, y - 8, left, y + 8, "plate", spec.id))
    return shapes


def _grips(spec: FoamWall, site: Site, x: float, middle: float) -> tuple[Handle, Handle]:
    """Its top and the room behind it; x mm is its face to the tank."""
    path, owner, name = spec.path, spec.id, within(spec.name)
    top, low, high = y_of(site, spec.height), spec.dam + 0.03, site.tank.inner_height
    above = (x - spec.deep * 500, top)
    field, value, least = (
        ("behind", spec.behind, 0.01) if spec.shape == "flat" else ("reach", spec.reach, spec.deep + 0.01)
    )
    back = (x_of(spec, site) + _behind(spec) * 1000, middle)
    room = f"room behind {name}"
    return (
        Handle(above, "y", (*path, "height"), spec.height, low, high, f"top of {name}", "foam", owner=owner),
        Handle(back, "x", (*path, field), value, least, 2.0, room, "room behind foam", owner=owner),
    )
