"""A tank in section, looking at its front."""

from __future__ import annotations

from fuente.devices.contract import Look
from fuente.devices.offered import Share
from fuente.devices.site import Site
from fuente.devices.tank.spec import Tank
from fuente.drawing.primitives import Dimension, Drawing, Label, Polyline, Primitive, box
from fuente.network.model import Solution


def section(
    tank: Tank, solution: Solution, water_from: float, water_to: float, free: tuple[float, float] | None = None
) -> Drawing:
    """Walls, water between x = water_from and water_to (m inside), and its depth; its sizes stand where it
    is ``free``.
    """
    x0, x1 = 0.0, tank.length * 1000
    base, floor, rim = tank.stand * 1000, tank.floor * 1000, tank.rim * 1000
    t = tank.thickness * 1000
    level = solution.level[tank.id] * 1000
    left, right = water_from * 1000, water_to * 1000
    shapes: list[Primitive] = []
    if level > floor:
        top = min(level, rim)
        shapes.append(box(left, floor, right, top, "water", tank.id))
        shapes.append(Polyline(((left, top), (right, top)), "surface", tank.id))
    if tank.gravel:
        depth = tank.gravel / (tank.inner_length * tank.inner_width) / 0.6 * 1000
        shapes.append(box(left, floor, right, floor + depth, "gravel", tank.id))
    for k in range(tank.heaters):
        x = right - 24 - 18 * k
        shapes.append(box(x, floor + 40, x + 8, floor + min(260, 0.7 * (level - floor)), "heater", tank.id))
    shapes += [
        box(x0, base, x1, floor, tank.material, tank.id),
        box(x0, floor, x0 + t, rim, tank.material, tank.id),
        box(x1 - t, floor, x1, rim, tank.material, tank.id),
    ]
    sizes = (("l", tank.length), ("w", tank.width), ("h", tank.height))
    if free is not None:
        left, right = max(left, free[0] * 1000), min(right, free[1] * 1000)
    shapes.append(
        Label(
            ((left + right) / 2, floor + (level - floor) * 0.5),
            "{l:length:bare} × {w:length:bare} × {h:length}",
            "label-strong",
            values=sizes,
            owner=tank.id,
            room=right - left,
        )
    )
    depth_m = solution.level[tank.id] - tank.floor
    shapes.append(Dimension((x0, floor), (x0, level), depth_m, None, -52, tank.id))
    return Drawing(tuple(shapes))


def front(
    tank: Tank, offset: float, solution: Solution, share: Share | None, selected: bool = False, busy: bool = False
) -> Drawing:
    """One tank of many, from the front: water to its level, its name, and its share of the flow as number and bar.

    A busy tank has filters in it: its name and flow then stand under it.
    """
    x0, x1 = offset * 1000, (offset + tank.length) * 1000
    base, floor, rim = tank.stand * 1000, tank.floor * 1000, tank.rim * 1000
    t = tank.thickness * 1000
    level = solution.level[tank.id] * 1000
    shapes: list[Primitive] = []
    if level > floor:
        top = min(level, rim)
        shapes.append(box(x0 + t, floor, x1 - t, top, "water", tank.id))
        shapes.append(Polyline(((x0 + t, top), (x1 - t, top)), "surface", tank.id))
    shapes += [
        box(x0, base, x1, floor, tank.material, tank.id),
        box(x0, floor, x0 + t, rim, tank.material, tank.id),
        box(x1 - t, floor, x1, rim, tank.material, tank.id),
    ]
    if selected:
        edge = ((x0 - 8, base - 8), (x1 + 8, base - 8), (x1 + 8, rim + 8), (x0 - 8, rim + 8), (x0 - 8, base - 8))
        shapes.append(Polyline(edge, "chosen", tank.id))
    if share is None:
        wide = x1 - x0 - 2 * t - 170
        shapes.append(Label(((x0 + x1) / 2, (floor + rim) / 2), tank.name, "label-strong", owner=tank.id, room=wide))
    elif busy:
        shapes += _under(tank, x0, x1, base - 22, share)
    else:
        shapes += _inside(tank, x0 + t + 70, x1 - x0 - 2 * t - 170, share)
    return Drawing(tuple(shapes))


def _name(tank: Tank, share: Share) -> str:
    return f"{tank.name}  {share.mark}" if share.mark else tank.name


def _under(tank: Tank, x0: float, x1: float, y: float, share: Share) -> list[Primitive]:
    """Name and share beneath a tank."""
    words, values, room = share.text or "{flow:flow}", (("flow", share.flow),), x1 - x0
    return [
        Label((x0, y), _name(tank, share), "label-small", "left", owner=tank.id, room=0.55 * room),
        Label((x1, y), words, "label-share", "right", values=values, owner=tank.id, room=0.45 * room),
    ]


def _inside(tank: Tank, left: float, wide: float, share: Share) -> list[Primitive]:
    """Name, share and bar within a tank, from ``left`` mm on."""
    floor, high = tank.floor * 1000, (tank.rim - tank.floor) * 1000
    y, thick = floor + 0.12 * high, 0.08 * high
    part = left + wide * min(max(share.part, 0.0), 1.0)
    tone = {"least": "bar-least", "most": "bar-most"}.get(share.mark, "bar")
    name, words, values = _name(tank, share), share.text or "{flow:flow}", (("flow", share.flow),)
    at, under = (left, floor + 0.70 * high), (left - 30, floor + 0.45 * high)
    room, tall = wide + 90, 0.6 * high
    return [
        box(left, y, left + wide, y + thick, "bar-room", tank.id),
        box(left, y, part, y + thick, tone, tank.id),
        Label(at, name, "label-small", "left", owner=tank.id, room=wide, tall=0.3 * high),
        Label(under, words, "label-share", "left", values=values, owner=tank.id, room=room, tall=tall),
    ]


def sketch(tank: Tank, site: Site, look: Look) -> Drawing:
    """Alone, in section, with its water between overflow boxes; one of many, from the front."""
    own = site.housed.get(tank.id, ())
    spans = sorted(span for d in own if (span := d.span_inside) is not None)
    walled = [span for d in own if (span := d.walled(tank)) is not None]
    if look.many and not walled:
        return front(tank, tank.offset, look.solution, look.shares.get(tank.id), tank.id == look.focus, bool(spans))
    start, end = tank.thickness, tank.length - tank.thickness
    for a, b in walled:
        if a <= tank.thickness + 1e-9:
            start = b
        else:
            end = a
    return section(tank, look.solution, start, end, _free(tank, spans)).moved(tank.offset * 1000)


def _free(tank: Tank, spans: list[tuple[float, float]]) -> tuple[float, float] | None:
    """The widest gap between filters, m from the outer left, where the tank's sizes can stand; None for anywhere."""
    if not spans:
        return None
    edges = [0.0, *(b for _, b in spans)], [*(a for a, _ in spans), tank.inner_length]
    a, b = max(zip(*edges, strict=True), key=lambda gap: gap[1] - gap[0])
    if b - a < 0.45 * tank.inner_length:  # a plate under the gravel leaves no gap, but water over it
        return None
    return a + tank.thickness, b + tank.thickness
