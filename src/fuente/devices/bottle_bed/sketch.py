"""Bottles in their tank."""

from __future__ import annotations

from fuente.devices.bottle_bed.judge import WEEK
from fuente.devices.bottle_bed.spec import NECK, BottleBed
from fuente.devices.contract import Look
from fuente.devices.filtering import Site
from fuente.devices.pocket import air_of
from fuente.devices.pocket_sketch import bubbles, inside_water, x_of, y_of
from fuente.drawing.primitives import Circle, Drawing, Handle, Point, Polyline, Primitive, box
from fuente.one_line import within


def _left(spec: BottleBed, site: Site, k: int) -> float:
    return x_of(spec, site) + k * (spec.diameter + 0.01) * 1000


def air_at(spec: BottleBed, site: Site) -> Point:
    """Where its airline ends, mm."""
    inset = 0.5 if spec.entry == "centre" else 0.15
    return _left(spec, site, 0) + inset * spec.diameter * 1000, y_of(site, spec.injector)


def _walls(spec: BottleBed, site: Site, x0: float, x1: float, owner: str) -> list[Primitive]:
    """Walls as dashes where the holes are, under a shoulder where there is one; whole between."""
    foot, top, wide = y_of(site, spec.hang), y_of(site, spec.hang + spec.height), spec.diameter * 1000
    straight = top - spec.shoulder * 1000  # as far as the walls go up
    holed = max(min(y_of(site, spec.outlet) - 20, straight - 20), foot + 60) if spec.top_holes else straight
    shapes: list[Primitive] = []
    neck = (1 - NECK) / 2 * wide if spec.shoulder else 0.0
    shapes += [
        Polyline(((x0, foot + 60), (x0, holed)), "bottle", owner, 2.5),
        Polyline(((x1, foot + 60), (x1, holed)), "bottle", owner, 2.5),
        Polyline(((x0, foot), (x1, foot)), "bottle", owner, 2.5),
    ]
    left, right = x0 + neck, x1 - neck
    if spec.cap_holes:
        shapes += [box(x, top - 2.5, min(x + 6, right), top + 2.5, "bottle", owner) for x in _steps(left, right, 12)]
    else:
        shapes.append(Polyline(((left, top), (right, top)), "bottle", owner, 5.0))
    if spec.shoulder:
        shapes += [
            Polyline(((x0, straight), (left, top)), "bottle", owner, 2.5),
            Polyline(((x1, straight), (right, top)), "bottle", owner, 2.5),
        ]
    for x in (x0, x1):
        for low, high in ((foot, foot + 60), (holed, straight)):
            shapes += [box(x - 1.2, y, x + 1.2, min(y + 6, high), "bottle", owner) for y in _steps(low, high, 12)]
    return shapes


def sketch(spec: BottleBed, site: Site, look: Look) -> Drawing:
    """Walls with their holes, carriers, air, sponge."""
    solution, path = look.solution, spec.path
    foot, top = y_of(site, spec.hang), y_of(site, spec.hang + spec.height)
    wide = spec.diameter * 1000
    lively = air_of(spec, solution) > 1e-9
    owner = spec.id
    shapes: list[Primitive] = []
    for k in range(spec.tubes):
        x0 = _left(spec, site, k)
        x1 = x0 + wide
        if spec.sponge:
            shapes.append(box(x0 - 12, foot, x1 + 12, foot + 80, "pad-medium", owner))
        shapes += inside_water(spec, site, solution, x0, x1, spec.hang, spec.hang + spec.height - spec.shoulder)
        shapes += _carriers(
            spec,
            x0,
            x1,
            foot,
            min(top, solution.level[site.tank.id] * 1000),
            lively,
            spec.age < site.medium(spec.medium).matures * WEEK,
            owner,
        )
        inset = 0.5 if spec.entry == "centre" else 0.15
        shapes += bubbles(
            x0 + inset * wide, foot + 8, min(top, solution.level[site.tank.id] * 1000) - 8, 0.3 * wide, owner, lively, 9
        )
        shapes += _walls(spec, site, x0, x1, owner)
    x1 = _left(spec, site, 0) + wide
    grips = (
        Handle(
            (x1, (foot + top) / 2),
            "x",
            (*path, "diameter"),
            spec.diameter,
            0.03,
            0.5,
            f"bore of {within(spec.name)}",
            "bottle",
            owner=owner,
        ),
        Handle(
            (_left(spec, site, 0) + 0.5 * wide, top),
            "y",
            (*path, "height"),
            spec.height,
            max(spec.outlet - spec.hang, 0.05),
            2.0,
            f"height of {within(spec.name)}",
            "bottle",
            owner=owner,
        ),
    )
    return Drawing(tuple(shapes), grips)


def _steps(low: float, high: float, step: float) -> list[float]:
    return [low + k * step for k in range(max(int((high - low) // step), 0))]


def _carriers(
    spec: BottleBed, x0: float, x1: float, foot: float, top: float, lively: bool, new: bool, owner: str
) -> list[Primitive]:
    """As many as the fill says; spread while they roll, afloat where there is no air or they are new."""
    count = round(26 * spec.fill)
    radius = min(6.0, (x1 - x0) / 9)
    floating = not lively or new
    low = top - (top - foot) * spec.fill if floating else foot
    return [
        Circle(
            (
                x0 + radius + 3 + ((k * 0.7548776662) % 1) * max(x1 - x0 - 2 * radius - 6, 0),
                low + radius + 3 + ((k * 0.5698402909) % 1) * max(top - low - 2 * radius - 6, 0),
            ),
            radius,
            "carrier",
            owner,
        )
        for k in range(count)
    ]
