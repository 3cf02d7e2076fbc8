"""Filters inside a tank in the drawing: their water, tubes, bubbles."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.base import Path
from fuente.devices.filtering import FilterSpec, Site
from fuente.devices.pocket import (
    PocketSpec,
    air_of,
    cell_id,
    flow_of,
)
from fuente.drawing.primitives import Circle, Drawing, Handle, Polyline, Primitive, box
from fuente.network.model import Solution
from fuente.one_line import within


def x_of(spec: PocketSpec, site: Site) -> float:
    """Its left edge in the drawing, mm."""
    return (site.tank.offset + site.tank.thickness + spec.at) * 1000


def y_of(site: Site, height: float) -> float:
    """A height over the tank's floor in the drawing, mm."""
    return (site.tank.floor + height) * 1000


def inside_water(
    spec: FilterSpec, site: Site, solution: Solution, x0: float, x1: float, low: float, top: float
) -> list[Primitive]:
    """The pocket's water between two x in mm and from ``low`` m up, at most to ``top`` m above the tank's floor."""
    level = min(solution.level[cell_id(spec)], site.tank.floor + top) * 1000
    foot = y_of(site, low)
    if level <= foot + 0.5:
        return []
    return [
        box(x0, foot, x1, level, "water", spec.id, cell_id(spec)),
        Polyline(((x0, level), (x1, level)), "surface", spec.id),
    ]


def bubbles(
    x: float, low: float, high: float, wide: float, owner: str, lively: bool, most: int = 14
) -> list[Primitive]:
    """Air rising in a tube of a width in mm between two heights; a fixed pattern that does not jump."""
    if not lively or high - low < 12:
        return []
    count = max(3, min(most, int((high - low) / 22)))
    size = max(min(wide * 0.28, 9.0), 1.6)
    return [
        Circle(
            (x + wide * (0.25 + 0.5 * ((k * 0.7548776662) % 1) - 0.5), low + (k + 0.5) / count * (high - low)),
            size * (0.6 + 0.4 * ((k * 0.5698402909) % 1)),
            "bubble",
            owner,
        )
        for k in range(count)
    ]


def tube_sketch(spec: PocketSpec, site: Site, solution: Solution, x: float, path: Path) -> Drawing:
    """The lift tube, or the pump's hose, standing at x mm, with handles on its mouth and on the air's entry."""
    flow = flow_of(spec, solution)
    top = y_of(site, spec.outlet)
    foot = y_of(site, spec.injector)
    owner = spec.id
    mouth = Handle(
        (x, top),
        "y",
        (*path, "outlet"),
        spec.outlet,
        spec.injector + 0.02,
        site.tank.inner_height + 0.25,
        f"mouth of {within(spec.name)}",
        "mouth",
        owner=owner,
    )
    if spec.drive == "pump":
        wide = pipe_size(spec.hose).outside * 1000
        style = "pipe-pumped" if flow > 5e-7 else "pipe-still"
        size = 22.0
        shapes: list[Primitive] = [
            Polyline(((x, foot + size), (x, top), (x + 2.2 * wide, top)), style, owner, wide),
            Circle((x, foot + size / 2), size * 0.75, "pump", owner),
        ]
        return Drawing(tuple(shapes), (mouth,))
    wide = spec.bore * 1000
    lively = air_of(spec, solution) > 1e-9
    shapes = [
        box(x - wide / 2 - 1.5, foot, x + wide / 2 + 1.5, top, "tube", owner),
        *bubbles(x, foot, top - wide * 0.3, wide, owner, lively),
    ]
    entry = Handle(
        (x, foot),
        "y",
        (*path, "injector"),
        spec.injector,
        0.0,
        max(spec.outlet - 0.02, 0.01),
        f"air entry of {within(spec.name)}",
        "air entry",
        owner=owner,
    )
    return Drawing(tuple(shapes), (mouth, entry))
