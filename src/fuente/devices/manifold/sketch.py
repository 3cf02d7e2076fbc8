"""A manifold in elevation: pumps, riser, rows, and a valve over every tank that shows how far it is turned."""

from __future__ import annotations

import math
from collections.abc import Mapping

from fuente.catalogue import pipe_size
from fuente.devices.base import Basin, Path
from fuente.devices.contract import Look
from fuente.devices.manifold.network import branch_id, loop_id, pump_id
from fuente.devices.manifold.spec import LOOP_NAMES, Branch, Manifold
from fuente.devices.site import Site
from fuente.drawing.primitives import Circle, Drawing, Handle, Label, Point, Polyline, Primitive, box

SEEN = 5e-7  # m³/s
_RISER = 0.12  # m right of everything: where manifolds rise
FROM_RIGHT = 0.09  # m from a tank's right wall to its outlet
_VALVE = 26.0  # mm, the drawn size of a valve's handle
_TURN = 260.0  # degrees a metre of drag


def outlet_x(tank: Basin, offset: float) -> float:
    """x in m of a tank's outlet."""
    return offset + tank.length - tank.thickness - FROM_RIGHT


def _style(flow: float) -> str:
    return "pipe-pumped" if flow > SEEN else "pipe-back" if flow < -SEEN else "pipe-still"


def sketch(spec: Manifold, site: Site, look: Look) -> Drawing:
    """Pumps in their wells, the riser right of everything, rows, branches and loops."""
    solution, path = look.solution, spec.path
    tanks: Mapping[str, tuple[Basin, float]] = {key: (t, t.offset) for key, t in site.homes.items()}
    pumps: dict[str, tuple[Point, float]] = {}
    for n, feeder in enumerate(spec.feeders):
        source = site.vessels[feeder.source]
        well = source.port("pump")
        width = well.right - well.left
        pumps[feeder.id] = ((well.left + max(width * 0.62 - 0.08 * n, min(0.05, width / 2)), source.floor), source.rim)
    loops: dict[str, Point] = {}
    for loop in spec.loops:
        into = site.vessels[loop.into]
        loops[loop.id] = (into.port(loop.chamber or "inlet").middle + 0.05, into.floor)
    alike = [d.id for d in site.devices.values() if d.kind == spec.kind]
    side = site.right_of_all + _RISER * (alike.index(spec.id) + 1)
    shapes: list[Primitive] = []
    handles: list[Handle] = []
    riser_x = side * 1000
    flow = solution.flow
    first_y = spec.rows[0].height * 1000
    for n, feeder in enumerate(spec.feeders):
        (px, py), rim = pumps[feeder.id]
        px, py = px * 1000, py * 1000
        over = rim * 1000 + 45 + 30 * n
        q = flow[pump_id(spec, feeder)]
        wide = pipe_size(feeder.pipe).outside * 1000
        points = ((px, py + 60), (px, over), (riser_x, over), (riser_x, first_y))
        shapes.append(Polyline(points, _style(q), spec.id, wide))
        shapes.append(box(px - 38, py + 6, px + 38, py + 66, "pump", spec.id))
        shapes.append(Label((px, py + 36), "pump", "label-small", owner=spec.id, room=76))
    riser = pipe_size(spec.riser).outside * 1000
    total = sum(flow[pump_id(spec, f)] for f in spec.feeders)
    for i, row in enumerate(spec.rows):
        y = row.height * 1000
        if i:
            q = flow[f"{spec.id}.riser.{i}"]
            shapes.append(
                Polyline(((riser_x, spec.rows[i - 1].height * 1000), (riser_x, y)), _style(q), spec.id, riser)
            )
        ends = [outlet_x(*tanks[b.tank]) * 1000 for b in row.branches]
        if ends:
            q = flow[f"{spec.id}.row.{i}.0"]
            far = max(ends, key=lambda x: abs(x - riser_x))
            shapes.append(Polyline(((riser_x, y), (far, y)), _style(q), spec.id, pipe_size(row.pipe).outside * 1000))
        for k, (branch, x) in enumerate(zip(row.branches, ends, strict=True)):
            where = (*path, "rows", i, "branches", k)
            part, grip = _branch(spec, branch, tanks[branch.tank][0], x, y, flow[branch_id(spec, branch.tank)], where)
            shapes += part
            handles.append(grip)
    words = "{flow:flow}"
    middle = (rim_over(spec, pumps) + first_y) / 2
    shapes.append(
        Label(
            (riser_x + riser / 2 + 10, middle),
            words,
            "label-pumped",
            "middle",
            True,
            (("flow", max(total, 0.0)),),
            spec.id,
        )
    )
    for loop in spec.loops:
        x, y = (v * 1000 for v in loops[loop.id])
        wide = pipe_size(loop.pipe).outside * 1000
        q = flow[loop_id(spec, loop)]
        start = first_y - 120
        key = loop_id(spec, loop)
        bend = (
            (riser_x, start),
            (riser_x + 110, start),
            (riser_x + 110, rim_over(spec, pumps) + 85),
            (x, rim_over(spec, pumps) + 85),
            (x, y + loop.height * 1000),
        )
        shapes.append(Polyline(bend, _style(q), key, wide))
        shapes.append(box(riser_x + 70, start - 420, riser_x + 150, start - 60, "pump", key))
        shapes.append(
            Label(
                (riser_x + 110, start - 240),
                LOOP_NAMES[loop.kind].split()[0].lower(),
                "label-small",
                "middle",
                True,
                owner=key,
            )
        )
    return Drawing(tuple(shapes), tuple(handles))


def rim_over(spec: Manifold, pumps: Mapping[str, tuple[Point, float]]) -> float:
    """Elevation in mm over the filters' rims at which the pumps' pipes run sideways."""
    return max(rim for _, rim in pumps.values()) * 1000 + 45


def _branch(
    spec: Manifold, branch: Branch, tank: Basin, x: float, y: float, flow: float, path: Path
) -> tuple[list[Primitive], Handle]:
    mouth = (tank.floor + branch.mouth) * 1000
    wide = pipe_size(branch.pipe).outside * 1000
    shapes: list[Primitive] = [Polyline(((x, y), (x, mouth)), _style(flow), branch.tank, wide)]
    if branch.form == "bar":
        shapes.append(Polyline(((x - 120, mouth), (x + 20, mouth)), _style(flow), branch.tank, wide * 0.8))
    if branch.air_hole > 0:
        shapes.append(
            Circle((x, (tank.floor + branch.air_height) * 1000), max(branch.air_hole * 500, 4.0), "hole", branch.tank)
        )
    at = (x, y - 34)
    # The handle lies along the pipe when open and across it when shut.
    turn = math.radians(90 - branch.angle)
    dx, dy = _VALVE * math.cos(turn), _VALVE * math.sin(turn)
    shapes.append(Circle(at, 13.0, "valve", branch.tank))
    shapes.append(Polyline(((at[0] - dx, at[1] - dy), (at[0] + dx, at[1] + dy)), "valve-handle", branch.tank))
    name = f"valve of {tank.name}"
    grip = Handle(
        at,
        "y",
        (*path, "angle"),
        branch.angle,
        0.0,
        90.0,
        name,
        name,
        -_TURN,
        owner=branch.tank,
        quantity="angle",
        quiet=True,
    )
    return shapes, grip
