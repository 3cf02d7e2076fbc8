"""Drums in section, in the water's order."""

from __future__ import annotations

from typing import NamedTuple

from fuente.catalogue import pipe_size
from fuente.devices.contract import Look
from fuente.devices.drum_train.network import drum_id, joint_id
from fuente.devices.drum_train.spec import Drum, DrumTrain
from fuente.devices.filtering import Site
from fuente.devices.plumbing_sketch import lines_sketch, vessel_sketch
from fuente.drawing.primitives import Circle, Dimension, Drawing, Handle, Label, Polygon, Polyline, Primitive, box
from fuente.drawing.styles import pad_grade

_SHORT = {
    "settle": "settling",
    "brush": "brushes",
    "foam": "foam",
    "media": "media",
    "stirred": "stirred",
    "moving": "moving bed",
    "pump": "pump",
}


class _Run(NamedTuple):
    """How the drums stand: each one's left side in m, and the way that water takes along them, 1 or −1."""

    lefts: list[float]
    on: float


def _run(spec: DrumTrain, site: Site) -> _Run:
    """Water runs to the right; to the left where it goes on there and came over everything."""
    goes = site.vessels.get(spec.drain.into, site.vessels[site.tank.id])
    left_on = spec.drain.way != "pump" and spec.feed.way in ("pump", "fed") and goes.left < spec.offset
    lefts = [spec.offset + x for x in spec.lefts()]
    if left_on:
        lefts = [2 * spec.offset + spec.wide - x - d.diameter for x, d in zip(lefts, spec.drums, strict=True)]
    return _Run(lefts, -1.0 if left_on else 1.0)


def sketch(spec: DrumTrain, site: Site, look: Look) -> Drawing:
    """Each drum with its contents and the level that it loses; pipes in and out."""
    solution, path = look.solution, spec.path
    run = _run(spec, site)
    shapes: list[Primitive] = []
    grips: list[Handle] = []
    for k, (drum, left) in enumerate(zip(spec.drums, run.lefts, strict=True)):
        owner, middle, tall = drum_id(spec, k), (left + drum.diameter / 2) * 1000, spec.stand + drum.height
        level = solution.level[owner]
        shapes += vessel_sketch(left, left + drum.diameter, spec.stand, tall, level, owner)
        shapes += _contents(spec, site, drum, left, level, owner)
        under, room = (middle, spec.stand * 1000 - 8), drum.diameter * 1000
        shapes.append(Label(under, _SHORT[drum.role], "label-under", owner=owner, room=room, side=-1))
        if k + 1 < len(spec.drums):
            part, grip = _joint(spec, run, k, abs(solution.flow.get(joint_id(spec, k), 0.0)) > 5e-7)
            shapes.append(part)
            grips.append(grip)
        where, low, name = (*path, "drums", k, "height"), drum.outlet + 0.05, f"rim of drum {k + 1}"
        grips.append(Handle((middle, tall * 1000), "y", where, drum.height, low, 3.0, name, "drum", owner=owner))
    left_on = run.on < 0
    first, last = spec.drums[0], spec.drums[-1]
    x = (run.lefts[0] + first.diameter) * 1000 + 5 if left_on else run.lefts[0] * 1000 - 5
    foot, top = (x, spec.stand * 1000), (x, (spec.stand + first.height) * 1000)
    shapes.append(Dimension(foot, top, first.height, (*path, "drums", 0, "height"), -46 * run.on, spec.id))
    own = Drawing(tuple(shapes), tuple(grips))
    enters = (run.lefts[0] + (first.diameter - 0.03 if left_on else 0.03), spec.stand)
    leaves = (run.lefts[-1] + (0.03 if left_on else last.diameter - 0.03), spec.stand)
    return lines_sketch(spec, site, solution, path, enters, leaves, own)


def _joint(spec: DrumTrain, run: _Run, k: int, wet: bool) -> tuple[Primitive, Handle]:
    """The pipe from a drum into the next, down under its bed where that is crossed upwards, and its bulkhead."""
    drum, after, on = spec.drums[k], spec.drums[k + 1], run.on
    y = (spec.stand + drum.outlet) * 1000
    near = (run.lefts[k] if on < 0 else run.lefts[k] + drum.diameter) * 1000 - 12 * on
    far = run.lefts[k + 1] * 1000 + (1000 * after.diameter if on < 0 else 0.0)
    points = [(near, y), (far + 12 * on, y)]
    if after.flow == "up" and after.role not in ("pump", "settle", "brush"):
        x = far + 30 * on
        points = [(near, y), (x, y), (x, (spec.stand + max(after.grid - 0.08, 0.03)) * 1000)]
    owner, wide = drum_id(spec, k), pipe_size(drum.pipe).outside * 1000
    pipe = Polyline(tuple(points), "pipe-fall" if wet else "pipe-dry", owner, wide)
    where, name = (*spec.path, "drums", k, "outlet"), f"bulkhead out of drum {k + 1}"
    high = drum.height - 0.03
    return pipe, Handle((near + 12 * on, y), "y", where, drum.outlet, 0.05, high, name, "bulkhead", owner=owner)


def _contents(spec: DrumTrain, site: Site, drum: Drum, left: float, level: float, owner: str) -> list[Primitive]:
    """What stands in a drum, by its task."""
    x0, x1 = left * 1000 + 4, (left + drum.diameter) * 1000 - 4
    floor, top = spec.stand * 1000, level * 1000
    if drum.role == "settle":
        return [_muck(x0, x1, floor, top, owner)]
    if drum.role == "brush":
        return _brushes(x0, x1, floor, top, owner)
    grid = (spec.stand + drum.grid) * 1000
    if drum.role == "foam":
        return [
            box(x0, grid, x1, grid + drum.foam * 1000, pad_grade(drum.ppi), owner),
            Label(((x0 + x1) / 2, grid + 12), f"{drum.ppi:g} ppi", "label-tag", owner=owner, room=x1 - x0),
        ]
    if drum.role == "moving" and drum.media > 0:
        count = min(round(10 + 40 * drum.media / (drum.area * max(level - spec.stand, 0.1))), 60)
        return _carriers(x0, x1, floor, top, min(11.0, drum.diameter * 25), count, owner)
    if drum.holds_media:
        high = grid + drum.media / drum.area * 1000
        words = site.medium(drum.medium).name.split(",")[0].lower()
        return [
            Polyline(((x0, grid), (x1, grid)), "screen", owner),
            box(x0, grid, x1, min(high, floor + drum.height * 1000), "media", owner),
            Label(((x0 + x1) / 2, (grid + high) / 2), words, "label-tag", owner=owner, room=x1 - x0),
        ]
    return []


def _muck(x0: float, x1: float, floor: float, top: float, owner: str) -> Primitive:
    """What settles, lower in the middle where the drain is."""
    middle, high = (x0 + x1) / 2, floor + 0.28 * (top - floor)
    low = floor + 8
    points = ((x0, high), (x0, floor), (x1, floor), (x1, high), (middle + 30, low), (middle - 30, low))
    return Polygon(points, "muck", owner)


def _brushes(x0: float, x1: float, floor: float, top: float, owner: str) -> list[Primitive]:
    found: list[Primitive] = []
    wide = 0.07 * (x1 - x0)
    for n in range(5):
        x = x0 + (n + 0.5) * (x1 - x0) / 5
        found.append(Polyline(((x, top - 8), (x, floor + 0.3 * (top - floor))), "brush", owner))
        for m in range(9):
            y = floor + (0.32 + 0.07 * m) * (top - floor)
            found.append(Polyline(((x - wide, y - 6), (x, y), (x + wide, y - 6)), "brush", owner))
    return found


def _carriers(x0: float, x1: float, floor: float, top: float, r: float, count: int, owner: str) -> list[Primitive]:
    """Carriers of a drawn radius in mm, spread evenly without a pattern."""
    wide, tall = x1 - x0 - 2 * r, max(top - floor - 2 * r - 20, 0)
    return [
        Circle(
            (x0 + r + ((k * 0.7548776662) % 1) * wide, floor + r + 10 + ((k * 0.5698402909) % 1) * tall),
            r,
            "carrier",
            owner,
        )
        for k in range(count)
    ]
