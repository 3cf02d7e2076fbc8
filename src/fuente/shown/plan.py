"""The plan of the whole system, from above: what stands on each floor, its holes, its baffles, the way of its pipes.

Bodies that stand over each other in the section would cover each other here: each floor is drawn by itself, the tanks
first, their back edge at the top. Across, everything stands at the back line unless the design says more.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass

from fuente.devices import kind_of
from fuente.devices.base import Outline
from fuente.devices.contract import Device
from fuente.devices.homes import HomeSpec
from fuente.devices.pieces import Face, Hole, Panel, Parts
from fuente.drawing.primitives import Circle, Dimension, Drawing, Label, Point, Polygon, Polyline, Primitive, box
from fuente.errors import FuenteError
from fuente.study.analysis import Analysis

APART = 220.0  # mm between two floors
REACH = 0.55  # m from the front edge that a hand reaches down into a body
ARC = 12  # sides of a quarter round
WAY = 22.0  # mm: pipes are drawn alike, whatever their size


@dataclass(frozen=True)
class _Body:
    """A device's outline, and which floor it stands on."""

    device: Device
    outline: Outline
    floor: int


def own_plan(analysis: Analysis, device_id: str) -> Drawing:
    """One device alone, from above: its outline and what stands in it, inner panels by their distance from the left."""
    device = analysis.system.device(device_id)
    shapes: list[Primitive] = []
    made = _parts(analysis)[device_id].panels
    for outline in device.outlines(analysis.sites[device_id]):
        body = _Body(device, outline, 0)
        shapes += [*_drawn(body, 0.0, True), *_inner(body, 0.0, made)]
        if outline.inside:
            continue
        marks = sorted(
            p.x
            for m in made
            if m.bonded > 1 and not m.faces and m.body == device_id
            for p in m.places
            if p.lies == "yz"
        )
        step = 0.055 * max(outline.length, outline.width) * 1000
        for k, x in enumerate(marks, 1):
            left = outline.left * 1000
            shapes.append(Dimension((left, 0.0), (left + x * 1000, 0.0), x, None, step * k, device_id))
    return Drawing(tuple(shapes))


def plan(analysis: Analysis) -> Drawing:
    """All floors, one under the other; millimetres, x as in the section."""
    bodies = _floors(analysis)
    if not bodies:
        return Drawing(())
    tops = _tops(bodies)
    parts = _parts(analysis)
    shapes: list[Primitive] = []
    for floor, top in enumerate(tops):
        left = min(b.outline.left for b in bodies if b.floor == floor) * 1000
        homes = any(isinstance(b.device, HomeSpec) for b in bodies if b.floor == floor)
        words = "tanks from above" if homes else "beside and below, from above"
        shapes.append(Label((left, top), words, "label-under", "left", side=1))
    told: set[tuple[int, float, float]] = set()
    for body in bodies:
        size = (body.floor, round(body.outline.length, 3), round(body.outline.width, 3))
        shapes += _drawn(body, tops[body.floor], size not in told)
        told.add(size)
    for body in bodies:
        if not body.outline.inside:
            shapes += _inner(body, tops[body.floor], parts[body.device.id].panels)
    for hole, body in _holes(analysis, bodies, parts):
        shapes += _hole(hole, body, tops[body.floor])
    shapes += _ways(analysis, bodies, tops, parts)
    return Drawing(tuple(shapes))


def _floors(analysis: Analysis) -> list[_Body]:
    """Every body on the first floor where nothing stands in its way along the drawing; what is inside goes with it."""
    outer: list[tuple[Device, Outline]] = []
    inner: list[tuple[Device, Outline]] = []
    for device in analysis.ordered:
        for outline in device.outlines(analysis.sites[device.id]):
            (inner if outline.inside else outer).append((device, outline))
    outer.sort(key=lambda row: (not isinstance(row[0], HomeSpec), -row[1].base, row[1].left))
    placed: list[_Body] = []
    for device, outline in outer:
        floor = 0
        while any(b.floor == floor and _meet(b.outline, outline) for b in placed):
            floor += 1
        placed.append(_Body(device, outline, floor))
    where = {b.device.id: b.floor for b in placed}
    placed += [_Body(d, o, where.get(d.home, 0)) for d, o in inner]
    return placed


def _meet(one: Outline, other: Outline) -> bool:
    return one.left < other.left + other.length + 1e-6 and other.left < one.left + one.length + 1e-6


def _tops(bodies: Sequence[_Body]) -> list[float]:
    """The back line of each floor, mm."""
    tops, at = [], 0.0
    for floor in range(max(b.floor for b in bodies) + 1):
        tops.append(at)
        deep = max((b.outline.back + b.outline.width for b in bodies if b.floor == floor), default=0.0)
        at -= deep * 1000 + APART
    return tops


def _parts(analysis: Analysis) -> dict[str, Parts]:
    try:
        solution = analysis.running
    except FuenteError:
        solution = analysis.at_rest().solution
    return {d.id: kind_of(d).parts(d, analysis.sites[d.id], solution) for d in analysis.ordered}


def _corners(outline: Outline, top: float) -> tuple[float, float, float, float]:
    """Left, front, right and back of it, mm."""
    x0, y1 = outline.left * 1000, top - outline.back * 1000
    return x0, y1 - outline.width * 1000, x0 + outline.length * 1000, y1


def _drawn(body: _Body, top: float, sized: bool) -> list[Primitive]:
    """Its outline with walls, its name, its sizes where none like it said them, and how far a hand reaches into it."""
    o, owner = body.outline, body.device.id
    x0, y0, x1, y1 = _corners(o, top)
    middle = ((x0 + x1) / 2, (y0 + y1) / 2)
    if o.shape == "round":
        found: list[Primitive] = [Circle(middle, (x1 - x0) / 2, "drum", owner)]
    elif o.shape == "corner":
        arc = [
            (x0 + (x1 - x0) * math.sin(k / ARC * math.pi / 2), y1 - (y1 - y0) * math.cos(k / ARC * math.pi / 2))
            for k in range(ARC + 1)
        ]
        found = [Polygon(((x0, y1), *arc), "pad-medium", owner)]
    elif o.wall:
        t = o.wall * 1000
        found = [box(x0, y0, x1, y1, "glass", owner), box(x0 + t, y0 + t, x1 - t, y1 - t, "water", owner)]
    else:
        found = [box(x0, y0, x1, y1, ("cavity" if o.name else "plate") if o.inside else "sheet", owner)]
    if not o.name:
        return found
    style = "label-tag" if o.inside else "label-strong"
    place = middle if o.inside or o.shape != "box" else (middle[0], y0 + 0.18 * (y1 - y0))
    found.append(Label(place, o.name, style, owner=owner, room=x1 - x0, tall=y1 - y0))
    if o.inside or not sized:
        return found
    if o.shape == "box":
        found.append(Dimension((x0, y0), (x1, y0), o.length, None, -46, owner))
        found.append(Dimension((x1, y0), (x1, y1), o.width, None, 40, owner))
        if o.width > REACH + 0.1:
            y = y0 + REACH * 1000
            found.append(Polyline(((x0, y), (x1, y)), "mark", owner))
            found.append(Label((x1 - 20, y), "hand's reach from the front", "label-tag", "right", side=-1))
    else:
        found.append(Dimension((x0, y0), (x1, y0), o.length, None, -30, owner))
    return found


def _inner(body: _Body, top: float, panels: tuple[Panel, ...]) -> list[Primitive]:
    """Panels that stand or lie in it, as they are seen from above; its shell is drawn already."""
    found: list[Primitive] = []
    x, y, owner = body.outline.left * 1000, top - body.outline.back * 1000, body.device.id
    for panel in panels:
        if panel.faces or panel.body != owner:
            continue
        for place in panel.places:
            long, across = {"yz": (panel.thickness, panel.length), "xz": (panel.length, panel.thickness)}.get(
                place.lies, (panel.width, panel.length) if place.lies == "yx" else (panel.length, panel.width)
            )
            a, b = x + place.x * 1000, y - (place.y + across) * 1000
            found.append(
                box(a, b, a + long * 1000, b + across * 1000, "baffle" if place.lies[1] == "z" else "plate", owner)
            )
        if panel.places and panel.places[0].lies == "yx":
            for hole in panel.holes:
                if hole.x is not None and hole.y is not None:
                    place = panel.places[0]
                    centre = (x + (place.x + hole.y) * 1000, y - (place.y + hole.x) * 1000)
                    found.append(Circle(centre, hole.diameter * 500, "sock", owner))
    return found


def _holes(analysis: Analysis, bodies: Sequence[_Body], parts: dict[str, Parts]) -> list[tuple[Hole, _Body]]:
    """Holes through floors, with the body whose floor it is."""
    by_id = {b.device.id: b for b in bodies if not b.outline.inside}
    return [
        (piece, by_id[piece.body])
        for made in parts.values()
        for piece in made.pieces
        if isinstance(piece, Hole)
        and piece.face is Face.FLOOR
        and piece.x is not None
        and piece.y is not None
        and piece.body in by_id
    ]


def _hole(hole: Hole, body: _Body, top: float) -> list[Primitive]:
    """A hole with its middle from the left and the back edge."""
    o = body.outline
    x, y = (o.left + (hole.x or 0.0)) * 1000, top - (o.back + (hole.y or 0.0)) * 1000
    r = hole.diameter * 500
    words = "{d:length:bare}, {x:length:bare} from left, {y:length} from back"
    values = (("d", hole.diameter), ("x", hole.x or 0.0), ("y", hole.y or 0.0))
    return [
        Circle((x, y), r, "hole", hole.id),
        Polyline(((x - r - 10, y), (x + r + 10, y)), "cross"),
        Polyline(((x, y - r - 10), (x, y + r + 10)), "cross"),
        Label((x + r + 14, y), "hole " + words, "label-tag", "left", values=values),
    ]


def _ways(
    analysis: Analysis, bodies: Sequence[_Body], tops: Sequence[float], parts: dict[str, Parts]
) -> list[Primitive]:
    """Where pipes lead, from body to body: from a hole or the middle of where they begin to where they end. Straight,
    since the design says how long they are and not how they lie.
    """
    found: list[Primitive] = []
    holes: dict[str, list[Point]] = {}
    for made_of, made in parts.items():
        for piece in made.pieces:
            if isinstance(piece, Hole) and piece.face is Face.FLOOR and piece.x is not None and piece.y is not None:
                body = next((b for b in bodies if b.device.id == piece.body and not b.outline.inside), None)
                if body is not None:
                    o = body.outline
                    at = ((o.left + piece.x) * 1000, tops[body.floor] - (o.back + piece.y) * 1000)
                    holes.setdefault(made_of, []).append(at)
    for device in analysis.ordered:
        ends = {end.role: end for end in device.ends()}
        begin = ends.get("draws") or ends.get("stands")
        stop = ends.get("gives") or ends.get("drains")
        if begin is None or stop is None or begin.to == stop.to:
            continue
        to = _port(analysis, bodies, tops, stop.to, stop.port)
        middle = _port(analysis, bodies, tops, begin.to, begin.port)
        starts = holes.get(device.id) or ([middle] if middle is not None else [])
        if to is None:
            continue
        pumped = begin.role == "draws"
        for start in starts:
            corner = (to[0], start[1]) if pumped else (start[0], to[1])
            found.append(Polyline((start, corner, to), "pipe-pumped" if pumped else "pipe-fall", device.id, WAY))
            found.append(Circle(to, 9.0, "valve", device.id))
    return found


def _port(
    analysis: Analysis, bodies: Sequence[_Body], tops: Sequence[float], device_id: str, port: str
) -> Point | None:
    """The middle of a port of a body, mm."""
    body = next((b for b in bodies if b.device.id == device_id and not b.outline.inside), None)
    if body is None:
        return None
    x0, y0, x1, y1 = _corners(body.outline, tops[body.floor])
    vessel = analysis.sites[device_id].vessels.get(device_id)
    if vessel is not None and port not in ("", "water") and port in vessel.ports:
        spot = vessel.port(port)
        x0, x1 = spot.left * 1000, spot.right * 1000
    return (x0 + x1) / 2, (y0 + y1) / 2
