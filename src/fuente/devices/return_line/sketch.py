"""A pump and its return in section."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.catalogue import pipe_size
from fuente.devices.contract import Look
from fuente.devices.return_line.network import end_of, link_id
from fuente.devices.return_line.spec import ReturnSpec
from fuente.devices.site import Site
from fuente.drawing.primitives import Circle, Drawing, Handle, Label, Polyline, Primitive, box
from fuente.one_line import within

SEEN = 5e-7  # m³/s: less is the last trickle of a state that is at rest


def _before(line: ReturnSpec, others: Iterable[ReturnSpec]) -> int:
    """How many of these returns come before it."""
    return [each.id for each in others].index(line.id)


def sketch(line: ReturnSpec, site: Site, look: Look) -> Drawing:
    """The pump in its well, its pipe over the vessel's right rim and the tank's, the outlets."""
    tank, source, solution, path = end_of(line, site), site.vessels[line.source], look.solution, line.path
    returns = [d for d in site.devices.values() if isinstance(d, ReturnSpec)]
    place = _before(line, (d for d in returns if d.source == line.source))  # beside others of the same well
    taken = _before(line, (d for d in returns if (d.tank, d.chamber) == (line.tank, line.chamber)))
    well = source.port("pump")
    width = well.right - well.left
    pump_at = (well.left + max(width * 0.62, width - 0.06) - 0.09 * place - tank.offset, source.floor)
    sump_top = (source.right - tank.offset, source.rim)
    lift = solution.level[tank.id] - solution.level[well.leave]
    shapes: list[Primitive] = []
    handles: list[Handle] = []
    px, py = pump_at[0] * 1000, pump_at[1] * 1000
    size = pipe_size(line.pipe)
    width = size.outside * 1000
    side = max(sump_top[0], tank.length) * 1000 + 60 + 130 * place
    over_sump = sump_top[1] * 1000 + 50 + 50 * place
    over_tank = tank.rim * 1000 + 45 + 50 * place
    flow = solution.flow.get(link_id(line), 0.0)
    style = "pipe-pumped" if flow > SEEN else "pipe-back" if flow < -SEEN else "pipe-still"
    main = ((px, py + 60), (px, over_sump), (side, over_sump), (side, over_tank))
    outlets = line.outlets
    end = tank.length * 1000 - tank.thickness * 1000
    apart = min(90.0, (end - 80) / max(len(outlets), 1))  # a chamber may be narrow
    xs = [end - min(60.0, end / 2) - apart * (i + taken * len(outlets)) for i in range(len(outlets))]
    shapes.append(Polyline((*main, (xs[-1], over_tank)), style, line.id, width))
    for i, (outlet, x) in enumerate(zip(outlets, xs, strict=True)):
        mouth = (tank.floor + outlet.height) * 1000
        bore = pipe_size(outlet.pipe).outside * 1000
        shapes.append(Polyline(((x, over_tank), (x, mouth)), style, line.id, bore))
        if outlet.hole > 0:
            y = (tank.floor + outlet.hole_height) * 1000
            shapes.append(Circle((x, y), max(outlet.hole * 500, 4.0), "hole", line.id))
        handles.append(
            Handle(
                (x, mouth),
                "y",
                (*path, "outlets", i, "height"),
                outlet.height,
                0.02,
                tank.inner_height,
                f"{within(outlet.name)} mouth",
                f"{within(outlet.name)}",
                owner=line.id,
            )
        )
    shapes.append(box(px - 38, py + 6, px + 38, py + 66, "pump", line.id))
    shapes.append(Label((px, py + 36), "pump", "label-small", owner=line.id, room=76))
    words = "{flow:flow}, lift {lift:head}" if flow > SEEN else "back-siphon {flow:flow}" if flow < -SEEN else "still"
    values = (("flow", abs(flow)), ("lift", lift))
    at, tall = (side + width / 2 + 8, (over_sump + over_tank) / 2), over_tank - over_sump
    shapes.append(Label(at, words, "label-pumped", "middle", True, values, line.id, room=tall))
    return Drawing(tuple(shapes), tuple(handles)).moved(tank.offset * 1000)
