"""A sponge or box in its tank."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.pocket_sketch import tube_sketch, x_of, y_of
from fuente.devices.sponge.spec import Sponge
from fuente.drawing.primitives import Drawing, Handle, Label, Point, Polyline, Primitive, box
from fuente.drawing.styles import pad_grade
from fuente.one_line import within


def air_at(spec: Sponge, site: Site) -> Point:
    """Where its airline ends, mm."""
    return x_of(spec, site) + 0.5 / spec.tubes * spec.length * 1000, y_of(site, spec.injector)


def sketch(spec: Sponge, site: Site, look: Look) -> Drawing:
    """The block, its tubes, its air."""
    solution, path = look.solution, spec.path
    x0, x1 = x_of(spec, site), x_of(spec, site) + spec.length * 1000
    foot, top = y_of(site, 0.0), y_of(site, spec.height)
    owner = spec.id
    if spec.style == "sponge":
        grade = pad_grade(spec.ppi)
        shapes: list[Primitive] = [box(x0, foot, x1, top, grade, owner)]
    else:
        shapes = [
            box(x0, foot, x1, top, "media", owner),
            Polyline(((x0, top), (x0, foot), (x1, foot), (x1, top), (x0, top)), "plate", owner),
        ]
    if spec.matted:
        low = y_of(site, spec.height - spec.mat)
        grade = pad_grade(spec.ppi if spec.top == "foam" else 60.0)
        shapes += [box(x0, low, x1, top, grade, owner), box(x0, low - 2, x1, low, "plate", owner)]
    words = f"{spec.ppi:g} ppi" if spec.style == "sponge" else "media"
    shapes.append(Label(((x0 + x1) / 2, foot + 10), words, "label-tag", owner=owner, room=x1 - x0))
    drawing = Drawing(
        tuple(shapes),
        (
            Handle(
                (x1, (foot + top) / 2),
                "x",
                (*path, "length"),
                spec.length,
                0.02,
                2.0,
                f"length of {within(spec.name)}",
                "block",
                owner=owner,
            ),
            Handle(
                ((x0 * 3 + x1) / 4, top),
                "y",
                (*path, "height"),
                spec.height,
                0.02,
                1.5,
                f"height of {within(spec.name)}",
                "block",
                owner=owner,
            ),
        ),
    )
    for k in range(spec.tubes):
        x = x0 + (k + 0.5) / spec.tubes * (x1 - x0)
        tube = tube_sketch(spec, site, solution, x, path)
        drawing += tube if k == 0 else Drawing(tube.shapes)
    return drawing
