"""An ornament cut open in its tank: Fuente's own lantern, urn, shell and pot by form."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.ornament.spec import Ornament
from fuente.devices.pocket_sketch import inside_water, tube_sketch, x_of, y_of
from fuente.drawing.primitives import Circle, Drawing, Handle, Label, Point, Polygon, Primitive, box
from fuente.drawing.styles import pad_grade
from fuente.one_line import within


def _outline(spec: Ornament, x0: float, x1: float, y0: float, y1: float) -> tuple[Point, ...]:
    """The outer shape by form, mm."""
    middle, wide, tall = (x0 + x1) / 2, x1 - x0, y1 - y0
    if spec.form == "cone":
        return ((x0, y0), (x1, y0), (middle + 0.06 * wide, y1), (middle - 0.06 * wide, y1))
    if spec.form == "box":
        return ((x0, y0), (x1, y0), (x1, y1), (x0, y1))
    if spec.form == "litres":  # a rock shell
        steps = (
            (0.0, 0.0),
            (1.0, 0.0),
            (0.96, 0.4),
            (0.85, 0.72),
            (0.62, 1.0),
            (0.38, 0.94),
            (0.16, 0.7),
            (0.04, 0.35),
        )
        return tuple((x0 + a * wide, y0 + b * tall) for a, b in steps)
    return (
        (x0, y0),
        (x1, y0),
        (x1, y0 + 0.74 * tall),
        (x1 + 0.09 * wide, y0 + 0.78 * tall),
        (middle + 0.2 * wide, y0 + 0.92 * tall),
        (middle + 0.2 * wide, y1),
        (middle - 0.2 * wide, y1),
        (middle - 0.2 * wide, y0 + 0.92 * tall),
        (x0 - 0.09 * wide, y0 + 0.78 * tall),
        (x0, y0 + 0.74 * tall),
    )


def air_at(spec: Ornament, site: Site) -> Point:
    """Where its airline ends, mm."""
    return x_of(spec, site) + 0.62 * spec.width * 1000, y_of(site, spec.injector)


def sketch(spec: Ornament, site: Site, look: Look) -> Drawing:
    """Shell, layers from the foot up, lift or pump inside, gaps."""
    solution, path = look.solution, spec.path
    x0 = x_of(spec, site)
    x1 = x0 + spec.width * 1000
    foot, top = y_of(site, 0.0), y_of(site, spec.height)
    owner = spec.id
    wall = spec.wall * 1000
    shapes: list[Primitive] = [Polygon(_outline(spec, x0, x1, foot, top), "shell", owner)]
    a, b = (x0 + wall, x1 - wall) if spec.form != "cone" else (x0 + 0.22 * (x1 - x0), x1 - 0.22 * (x1 - x0))
    body = (top - foot) * (0.7 if spec.form in ("cylinder", "litres", "cone") else 0.97)
    low = foot + wall
    shapes.append(box(a, low, b, foot + body, "cavity", owner))
    shapes += inside_water(spec, site, solution, a, b, spec.wall, body / 1000)
    at = low + min(spec.gap_height * 1000 + 4, 0.3 * body)
    if spec.ppi and spec.foam > 0:
        grade = pad_grade(spec.ppi)
        thick = min(spec.foam * 1000, 0.5 * body)
        shapes.append(box(a, at, b, at + thick, grade, owner))
        shapes.append(
            Label(((a * 3 + b) / 4, at + thick / 2 - 5), f"{spec.ppi:g}", "label-tag", owner=owner, room=(b - a) / 2)
        )
        at += thick
    if spec.media > 0:
        high = min(at + spec.media / spec.plan * 1000, foot + body)
        shapes.append(box(a, at, b, high, "media", owner))
    for k in range(3):  # gaps, seen on both sides of the cut
        y = low + 3 + k * spec.gap_height * 320
        for x in (x0 - 0.5, x1 - wall - 0.5):
            shapes.append(box(x, y, x + wall + 1, y + max(spec.gap * 1000, 2.0), "cavity", owner))
    if spec.exit > 0:  # at its back, above the water inside
        shapes.append(Circle((x1 - 0.5 * wall, foot + 0.9 * body), max(spec.exit * 500, 2.0), "ring", owner))
    if spec.lid:
        shapes.append(box(a, foot + body, b, foot + body + 3, "plate", owner))
    tube = tube_sketch(spec, site, solution, x0 + 0.62 * (x1 - x0), path)
    grips = (
        Handle(
            (x1, foot + 0.5 * body),
            "x",
            (*path, "width"),
            spec.width,
            0.03,
            1.5,
            f"width of {within(spec.name)}",
            "ornament",
            owner=owner,
        ),
        Handle(
            (x0 + 0.3 * (x1 - x0), top),
            "y",
            (*path, "height"),
            spec.height,
            0.04,
            1.5,
            f"height of {within(spec.name)}",
            "ornament",
            owner=owner,
        ),
    )
    return Drawing(tuple(shapes), grips) + tube
