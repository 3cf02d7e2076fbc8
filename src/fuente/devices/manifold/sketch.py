"""A manifold in elevation: pumps, riser, rows, and a valve over every tank that shows how far it is turned."""

from __future__ import annotations

import math
from collections.abc import Mapping

from fuente.catalogue import pipe_size
from fuente.devices.base import Basin, Path
from fuente.devices.contract import Look
from fuente.devices.manifold.network import branch_id, loop_id, pump_id
from fuente.devices.manifold.spec import LOOP_NAMES, Branch, Manifold, SideLoop
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
    flow = look.solution.flow
    wells = _wells(spec, site)
    alike = [d.id for d in site.devices.values() if d.kind == spec.kind]
    riser_x = (site.right_of_all + _RISER * (alike.index(spec.id) + 1)) * 1000
    shapes = _pumps(spec, wells, flow, riser_x)
    handles: list[Handle] = []
    for i in range(len(spec.rows)):
        part, grips = _row(spec, site, i, flow, riser_x)
        shapes += part
        handles += grips
    total = sum(flow[pump_id(spec, f)] for f in spec.feeders)
    wide = pipe_size(spec.riser).outside * 1000
    at = (riser_x + wide / 2 + 10, (rim_over(spec, wells) + spec.rows[0].height * 1000) / 2)
    values = (("flow", max(total, 0.0)),)
    shapes.append(Label(at, "{flow:flow}", "label-pumped", "middle", True, values, spec.id))
    for loop in spec.loops:
        shapes += _loop(spec, loop, site, flow, riser_x, rim_over(spec, wells) + 85)
    return Drawing(tuple(shapes), tuple(handles))


def _wells(spec: Manifold, site: Site) -> dict[str, tuple[Point, float]]:
    """Where each pump stands, in m, and the rim over it."""
    found: dict[str, tuple[Point, float]] = {}
    for n, feeder in enumerate(spec.feeders):
        source = site.vessels[feeder.source]
        well = source.port("pump")
        width = well.right - well.left
        found[feeder.id] = ((well.left + max(width * 0.62 - 0.08 * n, min(0.05, width / 2)), source.floor), source.rim)
    return found


def _pumps(
    spec: Manifold, wells: Mapping[str, tuple[Point, float]], flow: Mapping[str, float], riser_x: float
) -> list[Primitive]:
    """Each pump with its pipe up to the first row."""
    shapes: list[Primitive] = []
    for n, feeder in enumerate(spec.feeders):
        (px, py), rim = wells[feeder.id]
        px, py = px * 1000, py * 1000
        over = rim * 1000 + 45 + 30 * n
        points = ((px, py + 60), (px, over), (riser_x, over), (riser_x, spec.rows[0].height * 1000))
        wide = pipe_size(feeder.pipe).outside * 1000
        shapes += [
            Polyline(points, _style(flow[pump_id(spec, feeder)]), spec.id, wide),
            box(px - 38, py + 6, px + 38, py + 66, "pump", spec.id),
            Label((px, py + 36), "pump", "label-small", owner=spec.id, room=76),
        ]
    return shapes


def _row(
    spec: Manifold, site: Site, i: int, flow: Mapping[str, float], riser_x: float
) -> tuple[list[Primitive], list[Handle]]:
    """The riser up to a row, its pipe as far as its last tank, and its branches."""
    row, y = spec.rows[i], spec.rows[i].height * 1000
    shapes: list[Primitive] = []
    if i:
        riser = pipe_size(spec.riser).outside * 1000
        points = ((riser_x, spec.rows[i - 1].height * 1000), (riser_x, y))
        shapes.append(Polyline(points, _style(flow[f"{spec.id}.riser.{i}"]), spec.id, riser))
    homes = [site.homes[b.tank] for b in row.branches]
    ends = [outlet_x(home, home.offset) * 1000 for home in homes]
    if ends:
        far = max(ends, key=lambda x: abs(x - riser_x))
        wide = pipe_size(row.pipe).outside * 1000
        shapes.append(Polyline(((riser_x, y), (far, y)), _style(flow[f"{spec.id}.row.{i}.0"]), spec.id, wide))
    handles = []
    for k, (branch, home, x) in enumerate(zip(row.branches, homes, ends, strict=True)):
        where = (*spec.path, "rows", i, "branches", k)
        part, grip = _branch(branch, home, x, y, flow[branch_id(spec, branch.tank)], where)
        shapes += part
        handles.append(grip)
    return shapes, handles


def _loop(
    spec: Manifold, loop: SideLoop, site: Site, flow: Mapping[str, float], riser_x: float, across: float
) -> list[Primitive]:
    """A side loop from the riser through what it feeds and back, ``across`` mm over the floor."""
    into = site.vessels[loop.into]
    x, foot = (into.port(loop.chamber or "inlet").middle + 0.05) * 1000, into.floor * 1000
    key, start, right = loop_id(spec, loop), spec.rows[0].height * 1000 - 120, riser_x + 110
    bend = ((riser_x, start), (right, start), (right, across), (x, across), (x, foot + loop.height * 1000))
    words = LOOP_NAMES[loop.kind].split()[0].lower()
    return [
        Polyline(bend, _style(flow[key]), key, pipe_size(loop.pipe).outside * 1000),
        box(right - 40, start - 420, right + 40, start - 60, "pump", key),
        Label((right, start - 240), words, "label-small", "middle", True, owner=key),
    ]


def rim_over(spec: Manifold, pumps: Mapping[str, tuple[Point, float]]) -> float:
    """Elevation in mm over the filters' rims at which the pumps' pipes run sideways."""
    return max(rim for _, rim in pumps.values()) * 1000 + 45


def _branch(branch: Branch, tank: Basin, x: float, y: float, flow: float, path: Path) -> tuple[list[Primitive], Handle]:
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
