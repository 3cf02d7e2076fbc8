"""An overflow and its drains in section."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.base import Basin, Path
from fuente.devices.contract import Look
from fuente.devices.overflow.network import cell_id, drain_id, foot_of
from fuente.devices.overflow.spec import ROLE_NAMES, Overflow
from fuente.devices.pieces import Slots, slots_of
from fuente.devices.site import Site
from fuente.drawing.primitives import Drawing, Handle, Label, Point, Polyline, Primitive, box
from fuente.network.model import Solution

TOOTH_GAP = 0.006  # m between teeth: what no grown fish passes


def span(overflow: Overflow, tank: Basin) -> tuple[float, float]:
    """Inner start and end of the box along the tank, m from the tank's left outer end."""
    if overflow.side == "left":
        return tank.thickness, tank.thickness + overflow.box_length
    return tank.length - tank.thickness - overflow.box_length, tank.length - tank.thickness


def comb_of(overflow: Overflow, tank: Basin, length: float) -> Slots | None:
    """The slots between its teeth along a wall of a length in m."""
    return slots_of(length, overflow.crest, tank.inner_height, 0.0, overflow.teeth, TOOTH_GAP)


def screen_span(overflow: Overflow, tank: Basin) -> tuple[float, float]:
    """Foot and top of its plant screen over the tank's floor, m: 40 mm under the crest, 40 over it, within the tank."""
    return max(overflow.crest - 0.04, 0.0), min(overflow.crest + 0.04, tank.inner_height)


def sketch(overflow: Overflow, site: Site, look: Look) -> Drawing:
    """Box, teeth, water, drains down into their vessel."""
    tank, solution, path = site.tank, look.solution, overflow.path
    end = site.end_of(overflow.into)
    inlet, sump_rim = (end.falls_at(overflow.chamber) - tank.offset, foot_of(overflow, site)), end.rim
    x0, x1 = (1000 * x for x in span(overflow, tank))
    wall = overflow.wall * 1000
    left = overflow.side == "left"
    wx0, wx1 = (x1, x1 + wall) if left else (x0 - wall, x0)
    floor, crest = tank.floor * 1000, (tank.floor + overflow.crest) * 1000
    shapes: list[Primitive] = []
    handles: list[Handle] = []
    level = min(solution.level[cell_id(overflow)], tank.rim) * 1000
    if level > floor + 0.5:
        shapes.append(box(x0, floor, x1, level, "water", overflow.id))
        shapes.append(Polyline(((x0, level), (x1, level)), "surface", overflow.id))
    shapes.append(box(wx0, floor, wx1, crest, "baffle", overflow.id))
    slots = comb_of(overflow, tank, overflow.box_width)
    if slots:
        shapes.append(box(wx0, crest, wx1, crest + slots.depth * 1000, "teeth", overflow.id))
    if overflow.screen:
        low, high = (1000 * (tank.floor + z) for z in screen_span(overflow, tank))
        at = wx1 + 10 if left else wx0 - 10
        shapes.append(Polyline(((at, low), (at, high)), "screen", overflow.id))
    shapes += _drains(overflow, tank, solution, handles, path, (x0, x1), inlet, sump_rim)
    handles.append(
        Handle(
            ((wx0 + wx1) / 2, crest),
            "y",
            (*path, "crest"),
            overflow.crest,
            0.05,
            tank.inner_height - 0.005,
            "overflow crest",
            "overflow crest",
            owner=overflow.id,
        )
    )
    return Drawing(tuple(shapes), tuple(handles)).moved(tank.offset * 1000)


def _drains(
    overflow: Overflow,
    tank: Basin,
    solution: Solution,
    handles: list[Handle],
    path: Path,
    ends: tuple[float, float],
    inlet: Point,
    sump_rim: float,
) -> list[Primitive]:
    shapes: list[Primitive] = []
    x0, x1 = ends
    count = len(overflow.drains)
    base, floor = tank.stand * 1000, tank.floor * 1000
    room = base - sump_rim * 1000
    for i, drain in enumerate(overflow.drains):
        size = pipe_size(drain.pipe)
        x = x0 + (x1 - x0) * (i + 0.5) / count
        width = size.outside * 1000
        mouth = floor + drain.mouth * 1000
        end_x = inlet[0] * 1000 + (i - (count - 1) / 2) * max(40.0, width + 6)
        end_y = (inlet[1] + overflow.release) * 1000
        # The runs stand apart in height, in the order in which they do not cross.
        order = i if end_x < x else count - 1 - i
        turn = base - room * (0.25 + 0.5 * (order + 0.5) / count)
        points = ((x, mouth), (x, turn), (end_x, turn), (end_x, end_y))
        flow = solution.flow.get(drain_id(overflow, i), 0.0)
        style = "pipe-fall" if flow > 1e-7 else "pipe-dry"
        shapes.append(Polyline(points, style, f"{overflow.id}.drains", width))
        handles.append(
            Handle(
                (x, mouth),
                "y",
                (*path, "drains", i, "mouth"),
                drain.mouth,
                0.02,
                tank.inner_height,
                f"{ROLE_NAMES[drain.role].lower()} mouth",
                f"{ROLE_NAMES[drain.role].lower()} mouth",
                owner=f"{overflow.id}.drains",
            )
        )
    total = sum(max(solution.flow.get(drain_id(overflow, i), 0.0), 0.0) for i in range(count))
    if total > 1e-7:
        far = max(inlet[0] * 1000, x1) + 70
        shapes.append(
            Label(
                (far, base - room * 0.5),
                "{flow:flow} falls {drop:head}",
                "label-fall",
                "left",
                values=(("flow", total), ("drop", solution.level[cell_id(overflow)] - inlet[1] - overflow.release)),
                owner=f"{overflow.id}.drains",
            )
        )
    return shapes
