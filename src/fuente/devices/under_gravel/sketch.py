"""An under-gravel plate in its tank."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.pocket_sketch import tube_sketch, x_of, y_of
from fuente.devices.under_gravel.spec import UnderGravel
from fuente.drawing.primitives import Drawing, Handle, Label, Point, Polyline, Primitive, box
from fuente.one_line import within


def _tube_x(spec: UnderGravel, site: Site, k: int) -> float:
    """Tubes stand along the back, the first near the left end, mm."""
    return x_of(spec, site) + 1000 * spec.length * (k + 0.5) / spec.tubes


def air_at(spec: UnderGravel, site: Site) -> Point:
    """Where its airline ends, mm."""
    return _tube_x(spec, site, 0), y_of(site, spec.injector)


def sketch(spec: UnderGravel, site: Site, look: Look) -> Drawing:
    """Gravel, plate on its feet, tubes."""
    solution, path = look.solution, spec.path
    x0 = x_of(spec, site)
    x1 = x0 + spec.length * 1000
    floor, plate, top = y_of(site, 0.0), y_of(site, spec.gap), y_of(site, spec.gap + spec.gravel)
    owner = spec.id
    shapes: list[Primitive] = [
        box(x0, plate, x1, top, "gravel", owner),
        *(
            box(x0 + (x1 - x0) * k / 8 - 4, floor, x0 + (x1 - x0) * k / 8 + 4, plate, "plate", owner)
            for k in range(1, 8)
        ),
        Polyline(((x0, plate), (x1, plate)), "plate", owner, 4.0),
        Label(
            ((x0 + x1) / 2, top - 16),
            "{g:fine_length} gravel",
            "label-tag",
            owner=owner,
            room=x1 - x0,
            values=(("g", spec.grain),),
        ),
    ]
    grips = (
        Handle(
            (x1, (plate + top) / 2),
            "x",
            (*path, "length"),
            spec.length,
            0.05,
            site.tank.inner_length,
            f"length of {within(spec.name)}",
            "plate",
            owner=owner,
        ),
        Handle(
            (x0 + 0.25 * (x1 - x0), top),
            "y",
            (*path, "gravel"),
            spec.gravel,
            0.01,
            0.3,
            "depth of the gravel",
            "gravel",
            owner=owner,
        ),
    )
    drawing = Drawing(tuple(shapes), grips)
    for k in range(spec.tubes):
        tube = tube_sketch(spec, site, solution, _tube_x(spec, site, k), path)
        drawing += tube if k == 0 else Drawing(tube.shapes)
    return drawing
