"""A foam wall in its tank."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.foam_wall.network import between_id
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.pocket_sketch import tube_sketch, x_of, y_of
from fuente.drawing.primitives import Drawing, Handle, Label, Point, Polyline, Primitive, box
from fuente.drawing.styles import pad_grade


def _tube_x(spec: FoamWall, site: Site) -> float:
    room = spec.behind if spec.shape == "flat" else spec.reach - spec.deep
    return x_of(spec, site) + room * 500


def air_at(spec: FoamWall, site: Site) -> Point:
    """Where its airline ends, mm."""
    return _tube_x(spec, site), y_of(site, spec.injector)


def sketch(spec: FoamWall, site: Site, look: Look) -> Drawing:
    """From the left wall: the room behind, then foam and water by turns to the tank."""
    solution, path = look.solution, spec.path
    x = x_of(spec, site)
    floor = y_of(site, 0.0)
    top, dam = y_of(site, spec.height), y_of(site, spec.dam)
    owner = spec.id
    shapes: list[Primitive] = []
    grips: list[Handle] = []
    # The tank's own water is drawn wall to wall: behind the foam stands less, so that is wiped and drawn anew.
    behind = spec.behind if spec.shape == "flat" else spec.reach - spec.deep
    for k in range(spec.walls - 1, -1, -1):
        room = (behind if k == spec.walls - 1 else spec.spacing) * 1000
        level = solution.level[between_id(spec, k)] * 1000
        tank_level = solution.level[site.tank.id] * 1000
        shapes.append(box(x, floor, x + room, max(tank_level, level) + 2, "cavity", owner))
        if level > floor + 1:
            shapes += [
                box(x, floor, x + room, level, "water", owner),
                Polyline(((x, level), (x + room, level)), "surface", owner),
            ]
        if k == spec.walls - 1:
            behind_end = x + room
        x += room
        for ppi in reversed(spec.pads):
            wide = spec.thickness * 1000
            grade = pad_grade(ppi)
            shapes.append(box(x, dam, x + wide, top, grade, owner))
            shapes.append(Label((x + wide / 2, dam + 40), f"{ppi:g}", "label-tag", owner=owner, room=wide))
            x += wide
        if spec.dam > 0:
            shapes.append(box(x - spec.deep * 1000, floor, x, dam, "acrylic", owner))
        for y in (floor + 0.2 * (top - floor), floor + 0.8 * (top - floor)):
            shapes.append(box(x - spec.deep * 1000 - 5, y - 8, x - spec.deep * 1000, y + 8, "plate", owner))
    grips.append(
        Handle(
            (x - spec.deep * 500, top),
            "y",
            (*path, "height"),
            spec.height,
            spec.dam + 0.03,
            site.tank.inner_height,
            f"top of {spec.name.lower()}",
            "foam",
            owner=owner,
        )
    )
    field, low, high = ("behind", 0.01, 2.0) if spec.shape == "flat" else ("reach", spec.deep + 0.01, 2.0)
    grips.append(
        Handle(
            (behind_end, (floor + top) / 2),
            "x",
            (*path, field),
            getattr(spec, field),
            low,
            high,
            f"room behind {spec.name.lower()}",
            "room behind foam",
            owner=owner,
        )
    )
    tube = tube_sketch(spec, site, solution, _tube_x(spec, site), path)
    return Drawing(tuple(shapes), tuple(grips)) + tube
