"""A sump in section."""

from __future__ import annotations

from fuente.catalogue import Medium
from fuente.devices.base import Path
from fuente.devices.contract import Look
from fuente.devices.pieces import slots_of
from fuente.devices.site import Site
from fuente.devices.sump import stack
from fuente.devices.sump.network import fill_height, pad_spans
from fuente.devices.sump.spec import Baffle, Chamber, Sump, cell_ids
from fuente.drawing.primitives import Circle, Dimension, Drawing, Handle, Label, Polygon, Polyline, Primitive, box
from fuente.drawing.styles import pad_grade
from fuente.network.model import Solution
from fuente.one_line import within


def sketch(sump: Sump, site: Site, look: Look) -> Drawing:
    """Walls, water, baffles, contents and handles. Origin as the tank's left end and the room's floor."""
    solution, path = look.solution, sump.path
    shapes: list[Primitive] = []
    front: list[Primitive] = []
    handles: list[Handle] = []
    left = (sump.offset + sump.thickness) * 1000
    widths, starts = sump.widths(), sump.starts()
    for i, chamber in enumerate(sump.chambers):
        x0 = left + starts[i] * 1000
        x1 = x0 + widths[i] * 1000
        where = (*path, "chambers", i)
        owner = f"{sump.id}.{chamber.id}"
        _water(sump, chamber, solution, x0, x1, shapes, owner)
        _contents(sump, site, chamber, solution, x0, x1, shapes, handles, where, owner)
        if chamber.exit:
            t = chamber.exit.thickness * 1000
            after = sump.chambers[i + 1]
            sides = cell_ids(sump, chamber)[-1], cell_ids(sump, after)[-1 if after.role == "socks" else 0]
            _over(sump, chamber.exit.top, x1, x1 + t, solution, sides, shapes, owner)
            _baffle(sump, chamber.exit, x1, x1 + t, front, handles, (*where, "exit"), owner, chamber.title)
            handles.append(_shift(sump, i, x1 + t / 2, path, owner))
        front.append(
            Label(
                ((x0 + x1) / 2, sump.stand * 1000),
                _short(chamber),
                "label-under",
                owner=owner,
                room=x1 - x0,
                side=-1,
            )
        )
        if chamber.role == "pump":
            handles.append(
                Handle(
                    (x1 - 12, (sump.floor + chamber.level) * 1000),
                    "y",
                    (*where, "level"),
                    chamber.level,
                    chamber.intake + 0.01,
                    sump.inner_height - 0.002,
                    "running level",
                    "running level",
                    owner=owner,
                )
            )
    shapes += _walls(sump)
    shapes += front
    x1 = sump.offset * 1000
    shapes.append(
        Dimension((x1, sump.stand * 1000), (x1, sump.rim * 1000), sump.height, (*path, "height"), -52, sump.id)
    )
    return Drawing(tuple(shapes), tuple(handles))


def _short(chamber: Chamber) -> str:
    if chamber.name:
        return chamber.name.split(" 2")[0].split(" ·")[0].lower()
    return {
        "inlet": "settling",
        "socks": "socks",
        "foam": "foam wall",
        "media": "media",
        "moving_bed": "moving bed",
        "plants": "plants",
        "heater": "heater",
        "trap": "trap",
        "clean_out": "clean-out",
        "pump": "pump chamber",
    }[chamber.role]


def _walls(sump: Sump) -> list[Primitive]:
    x0, x1 = sump.offset * 1000, (sump.offset + sump.length) * 1000
    t, base, floor, rim = sump.thickness * 1000, sump.stand * 1000, sump.floor * 1000, sump.rim * 1000
    return [
        box(x0, base, x1, floor, sump.material, sump.id),
        box(x0, floor, x0 + t, rim, sump.material, sump.id),
        box(x1 - t, floor, x1, rim, sump.material, sump.id),
    ]


def _column(
    sump: Sump, solution: Solution, cell: str, x0: float, x1: float, shapes: list[Primitive], owner: str
) -> None:
    floor = sump.floor * 1000
    top = min(solution.level[cell], sump.rim) * 1000
    if top > floor + 0.5:
        shapes.append(box(x0, floor, x1, top, "water", owner, cell))
        shapes.append(Polyline(((x0, top), (x1, top)), "surface", owner))


def _water(
    sump: Sump, chamber: Chamber, solution: Solution, x0: float, x1: float, shapes: list[Primitive], owner: str
) -> None:
    cells = cell_ids(sump, chamber)
    if chamber.lies:
        edge = _slot_edge(chamber, x0, x1)
        left, right = (cells[0], cells[1])
        _column(sump, solution, left, x0, edge, shapes, owner)
        _column(sump, solution, right, edge, x1, shapes, owner)
    elif chamber.role == "foam":
        spans = [(x0 + a * 1000, x0 + b * 1000) for a, b in pad_spans(chamber, (x1 - x0) / 1000)]
        edges = [x0, *((a + b) / 2 for a, b in spans), x1]
        for cell, a, b in zip(cells, edges, edges[1:], strict=False):
            _column(sump, solution, cell, a, b, shapes, owner)
    elif chamber.role == "socks":
        _column(sump, solution, cells[1], x0, x1, shapes, owner)
    elif chamber.role == "trap" and chamber.under:
        middle, half = (x0 + x1) / 2, chamber.under.thickness * 500
        _column(sump, solution, cells[0], x0, middle - half, shapes, owner)
        _column(sump, solution, cells[1], middle + half, x1, shapes, owner)
        _over(
            sump,
            chamber.under.top,
            middle - half,
            middle + half,
            solution,
            (cells[0], cells[1]),
            shapes,
            owner,
        )
        gap = min(chamber.under.gap * 1000, (solution.level[cells[0]] - sump.floor) * 1000)
        if gap > 0.5:
            floor = sump.floor * 1000
            shapes.append(box(middle - half, floor, middle + half, floor + gap, "water", owner, cells[1]))
    elif len(cells) == 2:
        middle = (x0 + x1) / 2
        _column(sump, solution, cells[0], x0, middle, shapes, owner)
        _column(sump, solution, cells[1], middle, x1, shapes, owner)
    else:
        _column(sump, solution, cells[0], x0, x1, shapes, owner)


def _over(
    sump: Sump,
    top: float,
    a: float,
    b: float,
    solution: Solution,
    sides: tuple[str, str],
    shapes: list[Primitive],
    owner: str,
) -> None:
    """Water over a baffle between two cells: standing where both sides drown it, else the sheet that falls."""
    crest = (sump.floor + top) * 1000
    up, down = solution.level[sides[0]], solution.level[sides[1]]
    high, low = min(up, sump.rim) * 1000, min(down, sump.rim) * 1000
    if high <= crest + 0.2:
        if low > crest + 0.2:
            shapes.append(box(a, crest, b, low, "water", owner, sides[1]))
        return
    if low > crest + 0.2:
        shapes.append(box(a, crest, b, min(high, low), "water", owner, sides[0]))
        return
    sheet = max(high - crest, 3.0)
    fall = crest - low
    out = b + min(6.0 + 0.15 * fall, 16.0)
    shapes.append(
        Polygon(
            (
                (a, crest),
                (a, high),
                (b + 2, high - 1),
                (out, low + 0.55 * fall),
                (out, low),
                (out - sheet, low),
                (out - sheet, low + 0.5 * fall),
                (b, crest),
            ),
            "nappe",
            owner,
        )
    )


def _contents(
    sump: Sump,
    site: Site,
    chamber: Chamber,
    solution: Solution,
    x0: float,
    x1: float,
    shapes: list[Primitive],
    handles: list[Handle],
    where: Path,
    owner: str,
) -> None:
    floor = sump.floor * 1000
    if chamber.lies:
        _lying(sump, chamber, x0, x1, shapes, owner)
    elif chamber.role == "foam":
        for k, (pad, (a, b)) in enumerate(zip(chamber.pads, pad_spans(chamber, (x1 - x0) / 1000), strict=True)):
            grade = pad_grade(pad.ppi)
            top = floor + pad.height * 1000
            shapes.append(box(x0 + a * 1000, floor, x0 + b * 1000, top, grade, owner))
            shapes.append(
                Label((x0 + (a + b) * 500, floor + 60), f"{pad.ppi:g}", "label-tag", owner=owner, room=(b - a) * 1000)
            )
            handles.append(
                Handle(
                    (x0 + (a + b) * 500, top),
                    "y",
                    (*where, "pads", k, "height"),
                    pad.height,
                    0.02,
                    sump.inner_height,
                    f"top of the {pad.ppi:g} ppi pad",
                    f"{pad.ppi:g} ppi pad",
                    owner=owner,
                )
            )
    elif chamber.role == "socks" and chamber.socks:
        _socks(sump, chamber, solution, x0, x1, shapes, owner)
    elif chamber.role == "trap" and chamber.under:
        middle, half = (x0 + x1) / 2, chamber.under.thickness * 500
        _baffle(
            sump, chamber.under, middle - half, middle + half, shapes, handles, (*where, "under"), owner, chamber.title
        )
    elif chamber.fill and chamber.fill.volume > 0:
        _media(sump, site.medium(chamber.fill.medium), chamber, solution, x0, x1, shapes, owner)
    for k in range(chamber.heaters):
        x = x0 + 16 + 16 * k
        shapes.append(box(x, floor + 25, x + 8, floor + min(240, sump.inner_height * 600), "heater", owner))
    if chamber.role == "plants":
        step = max((x1 - x0) / 5, 15)
        x = x0 + step
        while x < x1 - 5:
            shapes.append(Polyline(((x, floor), (x - 6, floor + 90), (x + 5, floor + 170)), "plant", owner))
            x += step


def _slot_edge(chamber: Chamber, x0: float, x1: float) -> float:
    """Where its plate stands, mm: upwards the slot is on the left, downwards on the right."""
    wide = stack.slot((x1 - x0) / 1000) * 1000
    return x0 + wide if chamber.way == "up" else x1 - wide


def _lying(sump: Sump, chamber: Chamber, x0: float, x1: float, shapes: list[Primitive], owner: str) -> None:
    """Layers on their grid, and the plate beside them."""
    floor, edge = sump.floor * 1000, _slot_edge(chamber, x0, x1)
    a, b = (edge, x1) if chamber.way == "up" else (x0, edge)
    for row in stack.layers(sump, chamber, (x1 - x0) / 1000):
        low, high = floor + row.foot * 1000, floor + row.top * 1000
        if row.pad is None:
            shapes.append(box(a + 2, low, b - 2, high, "media", owner))
            continue
        ppi = chamber.pads[row.pad].ppi
        shapes.append(box(a, low, b, high, pad_grade(ppi), owner))
        middle = ((a + b) / 2, (low + high) / 2)
        shapes.append(Label(middle, f"{ppi:g}", "label-tag", owner=owner, room=b - a, tall=high - low))
    foot = floor + chamber.support * 1000
    shapes.append(box(a, foot - 3, b, foot, "plate", owner))
    shapes.append(box(edge - 2, foot, edge + 2, floor + stack.plate_top(sump, chamber) * 1000, "acrylic", owner))


def _socks(
    sump: Sump, chamber: Chamber, solution: Solution, x0: float, x1: float, shapes: list[Primitive], owner: str
) -> None:
    socks = chamber.socks
    assert socks is not None
    floor = sump.floor * 1000
    plate, foot = floor + socks.plate * 1000, floor + max(socks.plate - socks.length, 0) * 1000
    cell = cell_ids(sump, chamber)[0]
    level = solution.level[cell] * 1000
    size = socks.diameter * 1000
    fit = max(1, min(socks.count, int((x1 - x0) // (size + 6))))  # the others stand behind
    gap = (x1 - x0 - fit * size) / (fit + 1)
    for k in range(fit):
        a = x0 + gap + k * (size + gap)
        shapes.append(box(a, foot, a + size, plate, "sock", owner))
        if level > foot + 1:
            top = min(level, plate + 20)
            shapes.append(box(a, foot, a + size, top, "water", owner, cell))
            shapes.append(Polyline(((a, top), (a + size, top)), "surface", owner))
    shapes.append(box(x0, plate, x1, plate + 5, "plate", owner))
    if socks.count > fit:
        words = f"{socks.count} in a row"
        shapes.append(Label(((x0 + x1) / 2, (plate + foot) / 2), words, "label-tag", owner=owner, room=x1 - x0))


def _media(
    sump: Sump,
    stuff: Medium,
    chamber: Chamber,
    solution: Solution,
    x0: float,
    x1: float,
    shapes: list[Primitive],
    owner: str,
) -> None:
    fill = chamber.fill
    assert fill is not None
    floor = sump.floor * 1000
    if stuff.kind != "carrier":
        top = floor + fill_height(sump, chamber, (x1 - x0) / 1000) * 1000
        shapes.append(box(x0 + 4, floor, x1 - 4, top, "media", owner))
        return
    level = solution.level[cell_ids(sump, chamber)[0]] * 1000
    volume = (x1 - x0) / 1000 * sump.inner_width * max(level - floor, 1) / 1000
    share = min(fill.volume / volume, 1.0)
    # As many as the share says, spread evenly by a fixed irrational step, so that the picture does not jump.
    count = round(12 + 40 * share)
    radius = 7.0
    for k in range(count):
        x = x0 + radius + 4 + ((k * 0.7548776662) % 1) * (x1 - x0 - 2 * radius - 8)
        y = floor + radius + 4 + ((k * 0.5698402909) % 1) * max(level - floor - 2 * radius - 8, 0)
        shapes.append(Circle((x, y), radius, "carrier", owner))


def _baffle(
    sump: Sump,
    baffle: Baffle,
    a: float,
    b: float,
    shapes: list[Primitive],
    handles: list[Handle],
    path: Path,
    owner: str,
    title: str,
) -> None:
    floor = sump.floor * 1000
    top, foot = floor + baffle.top * 1000, floor + baffle.gap * 1000
    shapes.append(box(a, foot, b, top, "baffle", owner))
    slots = slots_of(sump.inner_width, baffle.top, sump.inner_height, baffle.notch, baffle.teeth, baffle.tooth_gap)
    if slots:
        shapes.append(box(a, top, b, top + slots.depth * 1000, "teeth", owner))
    what = f"crest after {within(title)}" if path[-1] == "exit" else f"top of the under-baffle of {within(title)}"
    handles.append(
        Handle(
            ((a + b) / 2, top),
            "y",
            (*path, "top"),
            baffle.top,
            baffle.gap + 0.01,
            sump.inner_height,
            what,
            "crest",
            owner=owner,
        )
    )
    if baffle.gap > 0:
        what = f"gap under the baffle of {within(title)}"
        handles.append(
            Handle(
                ((a + b) / 2, foot), "y", (*path, "gap"), baffle.gap, 0.005, baffle.top - 0.01, what, "gap", owner=owner
            )
        )


def _shift(sump: Sump, index: int, x: float, path: Path, owner: str) -> Handle:
    """Move a baffle sideways: one chamber grows, the next shrinks."""
    chamber = sump.chambers[index]
    widths = sump.widths()
    after = index + 1
    last = after == len(sump.chambers) - 1
    partner = None if last else ((*path, "chambers", after, "width"), widths[after])
    room = widths[after] - (0.05 if last else 0.022)
    return Handle(
        (x, (sump.floor + 0.4 * chamber.exit.top if chamber.exit else sump.floor) * 1000),
        "x",
        (*path, "chambers", index, "width"),
        chamber.width,
        0.022,
        chamber.width + room,
        f"baffle after {within(chamber.title)}",
        f"{within(chamber.title)} width",
        partner=partner,
        owner=owner,
    )
