"""The pipes of filters beside a tank in the drawing, and their vessels."""

from __future__ import annotations

import zlib
from collections.abc import Sequence

from fuente.catalogue import pipe_size
from fuente.devices.base import Path
from fuente.devices.beside import BesideSpec, DrainSpec, FeedSpec, LineSpec
from fuente.devices.filtering import Site, Vessel
from fuente.devices.plumbing import (
    drain_id,
    feed_id,
    hole_at,
    hose_end,
    other,
    riser,
    riser_end,
    spare_id,
)
from fuente.drawing.primitives import Circle, Drawing, Handle, Label, Point, Polyline, Primitive, box
from fuente.network.model import Solution
from fuente.one_line import within


def lines_sketch(
    spec: BesideSpec,
    site: Site,
    solution: Solution,
    path: Path,
    enters: Point,
    leaves: Point,
    own: Drawing,
    ends: Sequence[str] = ("feed", "drain"),
) -> Drawing:
    """A filter with its pipes, m: where water enters and leaves its walls. Falls run behind it, pumps stand in it."""
    behind: list[Primitive] = []
    before: list[Primitive] = []
    grips: list[Handle] = []
    for end, line, key in (("feed", spec.feed, feed_id(spec)), ("drain", spec.drain, drain_id(spec))):
        if line.way == "fed" or end not in ends:
            continue
        far = other(site, line.source if isinstance(line, FeedSpec) else line.into, spec.name)
        at = enters if end == "feed" else leaves
        flow = solution.flow.get(key, 0.0)
        if line.way == "pump":
            before += _pumped_sketch(spec, site, line, end, far, at, flow)
            continue
        if line.way == "air":
            before += _risen_sketch(spec, site, line, at, flow)
            continue
        shapes, start = _fall_sketch(spec, line, end, far, at, flow)
        behind += shapes
        if isinstance(line, DrainSpec) and line.spare > 0:
            higher = line.model_copy(update={"height": line.height + line.spare})
            behind += _fall_sketch(spec, higher, end, far, at, solution.flow.get(spare_id(spec), 0.0))[0]
        grips.append(
            Handle(
                (start[0] * 1000, start[1] * 1000),
                "y",
                (*path, end, "height"),
                line.height,
                0.0,
                3.0,
                f"pipe {'to' if end == 'feed' else 'from'} {within(spec.name)}",
                "pipe",
                owner=spec.id,
            )
        )
    return Drawing(tuple(behind)) + own + Drawing(tuple(before), tuple(grips))


def _edge(far: Vessel, at: Point) -> tuple[float, float]:
    """The wall of another vessel that faces a point, m, and the way into it: 1 or −1 cm."""
    right = at[0] > (far.left + far.right) / 2
    return (far.right, -0.01) if right else (far.left, 0.01)


def _pumped_sketch(
    spec: BesideSpec, site: Site, line: LineSpec, end: str, far: Vessel, at: Point, flow: float
) -> list[Primitive]:
    """A pump with its pipe over everything."""
    edge, inward = _edge(far, at)
    tops = max(v.rim for v in site.vessels.values())
    start = (
        (edge + 6 * inward, far.floor + line.intake + 0.01) if end == "feed" else (at[0], at[1] + line.intake + 0.01)
    )
    if end == "feed":
        goal = (at[0], hose_end(line, at[1], site.vessels[spec.id].foot))
    else:
        goal = (edge + 6 * inward, hose_end(line, far.floor, far.foot))
    high = max(tops + 0.1 + (_lane(spec.id) % 3) * 0.05, goal[1] + 0.06)
    style = "pipe-pumped" if flow > 5e-7 else "pipe-back" if flow < -5e-7 else "pipe-still"
    wide = pipe_size(line.pipe).outside * 1000
    shapes: list[Primitive] = [
        Polyline(_mm((start, (start[0], high), (goal[0], high), goal)), style, spec.id, wide),
        Circle((start[0] * 1000, start[1] * 1000), 38.0, "pump", spec.id),
    ]
    if flow > 5e-7:
        middle = ((start[0] + goal[0]) * 500, high * 1000 + 0.5 * wide)
        shapes.append(Label(middle, "{q:flow}", "label-pumped", values=(("q", flow),), owner=spec.id, side=1))
    return shapes


def _risen_sketch(spec: BesideSpec, site: Site, line: LineSpec, at: Point, flow: float) -> list[Primitive]:
    """An airlift's riser, from its foot over the rim."""
    own = site.vessels[spec.id]
    x, foot = (v / 1000 for v in riser_end(spec, site, own))
    top = riser(spec, site, own).outlet
    style = "pipe-pumped" if flow > 5e-7 else "pipe-back" if flow < -5e-7 else "pipe-still"
    wide = pipe_size(line.pipe).outside * 1000
    way = ((x, foot - 0.02), (x, top), (at[0], top), (at[0], top - 0.02))
    shapes: list[Primitive] = [Polyline(_mm(way), style, spec.id, wide)]
    if flow > 5e-7:
        middle = ((x + at[0]) * 500, top * 1000 + 0.5 * wide)
        shapes.append(Label(middle, "{q:flow}", "label-pumped", values=(("q", flow),), owner=spec.id, side=1))
    return shapes


def _fall_sketch(
    spec: BesideSpec, line: LineSpec, end: str, far: Vessel, at: Point, flow: float
) -> tuple[list[Primitive], Point]:
    """A pipe that falls or lies under water, and where it starts, m."""
    edge, inward = _edge(far, at)
    way = getattr(line, "way", "level")
    wide = pipe_size(line.pipe).outside * 1000
    y = hole_at(line, far.floor if end == "feed" else at[1])
    start = (edge + 3 * inward, y) if end == "feed" else (at[0], y)
    if way == "fall":
        goal = (at[0], at[1] + line.release) if end == "feed" else (edge + 6 * inward, far.floor + line.release)
        points: tuple[Point, ...] = (start, (goal[0], y), goal)
    else:
        goal = (at[0], y) if end == "feed" else (edge + 3 * inward, y)
        points = (start, goal)
    shapes: list[Primitive] = [Polyline(_mm(points), "pipe-fall" if abs(flow) > 5e-7 else "pipe-dry", spec.id, wide)]
    run = abs(points[1][0] - points[0][0]) * 1000
    if abs(flow) > 5e-7:
        middle = ((points[0][0] + points[1][0]) * 500, y * 1000 + (wide if end == "feed" else -wide) / 2)
        shapes.append(
            Label(
                middle,
                "{q:flow}",
                "label-fall",
                values=(("q", abs(flow)),),
                owner=spec.id,
                room=run,
                side=1 if end == "feed" else -1,
            )
        )
    return shapes, start


def _lane(key: str) -> int:
    """A fixed number for a name, so that two pumps' pipes do not lie on each other."""
    return zlib.crc32(key.encode())


def _mm(points: Sequence[Point]) -> tuple[Point, ...]:
    return tuple((x * 1000, y * 1000) for x, y in points)


def vessel_sketch(
    x0: float,
    x1: float,
    floor: float,
    rim: float,
    level: float,
    owner: str,
    wall: str = "drum",
    thick: float = 5.0,
    cell: str = "",
) -> list[Primitive]:
    """An open vessel in section with its water, that of a cell; sizes in m, the wall in mm."""
    a, b, low, high = x0 * 1000, x1 * 1000, floor * 1000, rim * 1000
    shapes: list[Primitive] = []
    top = min(level * 1000, high)
    if top > low + 0.5:
        shapes += [box(a, low, b, top, "water", owner, cell), Polyline(((a, top), (b, top)), "surface", owner)]
    shapes += [
        box(a - thick, low - thick, b + thick, low, wall, owner),
        box(a - thick, low, a, high, wall, owner),
        box(b, low, b + thick, high, wall, owner),
    ]
    return shapes
