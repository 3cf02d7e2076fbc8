"""Drums in section, in the water's order."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.contract import Look
from fuente.devices.drum_train.network import drum_id, joint_id
from fuente.devices.drum_train.spec import Drum, DrumTrain
from fuente.devices.filtering import Site
from fuente.devices.plumbing_sketch import lines_sketch, vessel_sketch
from fuente.drawing.primitives import Circle, Dimension, Drawing, Handle, Label, Polygon, Polyline, Primitive, box

_SHORT = {
    "settle": "settling",
    "brush": "brushes",
    "foam": "foam",
    "media": "media",
    "stirred": "stirred",
    "moving": "moving bed",
    "pump": "pump",
}


def sketch(spec: DrumTrain, site: Site, look: Look) -> Drawing:
    """Each drum with its contents and the level that it loses; pipes in and out."""
    solution, path = look.solution, spec.path
    shapes: list[Primitive] = []
    grips: list[Handle] = []
    owner = spec.id
    # Water runs to the right; to the left where it goes on there and came over everything.
    goes = site.vessels.get(spec.drain.into, site.vessels[site.tank.id])
    left_on = spec.drain.way != "pump" and spec.feed.way in ("pump", "fed") and goes.left < spec.offset
    lefts = [spec.offset + x for x in spec.lefts()]
    if left_on:
        lefts = [2 * spec.offset + spec.wide - x - d.diameter for x, d in zip(lefts, spec.drums, strict=True)]
    on = -1.0 if left_on else 1.0
    for k, (drum, left) in enumerate(zip(spec.drums, lefts, strict=True)):
        right = left + drum.diameter
        owner = drum_id(spec, k)
        level = solution.level[drum_id(spec, k)]
        shapes += vessel_sketch(left, right, spec.stand, spec.stand + drum.height, level, owner)
        shapes += _contents(spec, site, drum, left, level, owner)
        shapes.append(
            Label(
                ((left + right) * 500, spec.stand * 1000 - 8),
                _SHORT[drum.role],
                "label-under",
                owner=owner,
                room=drum.diameter * 1000,
                side=-1,
            )
        )
        if k + 1 < len(spec.drums):
            y = (spec.stand + drum.outlet) * 1000
            wide = pipe_size(drum.pipe).outside * 1000
            style = "pipe-fall" if abs(solution.flow.get(joint_id(spec, k), 0.0)) > 5e-7 else "pipe-dry"
            after = spec.drums[k + 1]
            near = (left if left_on else right) * 1000 - 12 * on
            far = lefts[k + 1] * 1000 + (1000 * after.diameter if left_on else 0.0)
            points = [(near, y), (far + 12 * on, y)]
            if after.flow == "up" and after.role not in ("pump", "settle", "brush"):  # down a pipe under the next bed
                x = far + 30 * on
                points = [(near, y), (x, y), (x, (spec.stand + max(after.grid - 0.08, 0.03)) * 1000)]
            shapes.append(Polyline(tuple(points), style, owner, wide))
            grips.append(
                Handle(
                    (near + 12 * on, y),
                    "y",
                    (*path, "drums", k, "outlet"),
                    drum.outlet,
                    0.05,
                    drum.height - 0.03,
                    f"bulkhead out of drum {k + 1}",
                    "bulkhead",
                    owner=owner,
                )
            )
        grips.append(
            Handle(
                ((left + right) * 500, (spec.stand + drum.height) * 1000),
                "y",
                (*path, "drums", k, "height"),
                drum.height,
                drum.outlet + 0.05,
                3.0,
                f"rim of drum {k + 1}",
                "drum",
                owner=owner,
            )
        )
    owner = spec.id
    x = lefts[0] * 1000 - 5 if not left_on else (lefts[0] + spec.drums[0].diameter) * 1000 + 5
    shapes.append(
        Dimension(
            (x, spec.stand * 1000),
            (x, (spec.stand + spec.drums[0].height) * 1000),
            spec.drums[0].height,
            (*path, "drums", 0, "height"),
            -46 * on,
            owner,
        )
    )
    own = Drawing(tuple(shapes), tuple(grips))
    first, last = spec.drums[0].diameter, spec.drums[-1].diameter
    enters = (lefts[0] + (first - 0.03 if left_on else 0.03), spec.stand)
    leaves = (lefts[-1] + (0.03 if left_on else last - 0.03), spec.stand)
    return lines_sketch(spec, site, solution, path, enters, leaves, own)


def _contents(spec: DrumTrain, site: Site, drum: Drum, left: float, level: float, owner: str) -> list[Primitive]:
    x0, x1 = left * 1000 + 4, (left + drum.diameter) * 1000 - 4
    floor, grid = spec.stand * 1000, (spec.stand + drum.grid) * 1000
    top = level * 1000
    if drum.role == "settle":
        middle = (x0 + x1) / 2
        return [
            Polygon(
                (
                    (x0, floor + 0.28 * (top - floor)),
                    (x0, floor),
                    (x1, floor),
                    (x1, floor + 0.28 * (top - floor)),
                    (middle + 30, floor + 8),
                    (middle - 30, floor + 8),
                ),
                "muck",
                owner,
            )
        ]
    if drum.role == "brush":
        found: list[Primitive] = []
        for n in range(5):
            x = x0 + (n + 0.5) * (x1 - x0) / 5
            found.append(Polyline(((x, top - 8), (x, floor + 0.3 * (top - floor))), "brush", owner))
            for m in range(9):
                y = floor + (0.32 + 0.07 * m) * (top - floor)
                found.append(
                    Polyline(((x - 0.07 * (x1 - x0), y - 6), (x, y), (x + 0.07 * (x1 - x0), y - 6)), "brush", owner)
                )
        return found
    if drum.role == "foam":
        grade = "pad-coarse" if drum.ppi < 16 else "pad-medium" if drum.ppi < 36 else "pad-fine"
        return [
            box(x0, grid, x1, grid + drum.foam * 1000, grade, owner),
            Label(((x0 + x1) / 2, grid + 12), f"{drum.ppi:g} ppi", "label-tag", owner=owner, room=x1 - x0),
        ]
    if drum.role == "moving" and drum.media > 0:
        count = min(round(10 + 40 * drum.media / (drum.area * max(level - spec.stand, 0.1))), 60)
        r = min(11.0, drum.diameter * 25)
        return [
            Circle(
                (
                    x0 + r + ((k * 0.7548776662) % 1) * (x1 - x0 - 2 * r),
                    floor + r + 10 + ((k * 0.5698402909) % 1) * max(top - floor - 2 * r - 20, 0),
                ),
                r,
                "carrier",
                owner,
            )
            for k in range(count)
        ]
    if drum.holds_media:
        high = grid + drum.media / drum.area * 1000
        return [
            Polyline(((x0, grid), (x1, grid)), "screen", owner),
            box(x0, grid, x1, min(high, floor + drum.height * 1000), "media", owner),
            Label(
                ((x0 + x1) / 2, (grid + high) / 2),
                site.medium(drum.medium).name.split(",")[0].lower(),
                "label-tag",
                owner=owner,
                room=x1 - x0,
            ),
        ]
    return []
