"""What is cut and drilled as drawings at true millimetres, for the screen and for every export."""

from __future__ import annotations

from fuente.devices.pieces import Hole, Panel, Pipe
from fuente.drawing.primitives import Circle, Dimension, Drawing, Label, Point, Polygon, Polyline, Primitive, box
from fuente.shown.plan import own_plan
from fuente.shown.section import own_section
from fuente.units import UnitSystem
from fuente.workshop.lattice import Pads
from fuente.workshop.lengths import Lengths
from fuente.workshop.piping import sketch_of
from fuente.workshop.room import Room, shown_situation
from fuente.workshop.sheet_cuts import Nest
from fuente.workshop.step import Step, title_of
from fuente.workshop.templates import hole_of
from fuente.workshop.words import remark

BAR_TALL = 50.0  # mm: a length of pipe as it is drawn


def nest_drawing(nest: Nest, pads: bool = False) -> Drawing:
    """A sheet: panels with their names and sizes, cuts numbered in their order, what is left over."""
    size = (nest.board.length * 1000, nest.board.width * 1000)
    shapes: list[Primitive] = [box(0, 0, *size, "sheet")]
    for rect in nest.offcuts:
        x, y, w, h = (v * 1000 for v in (rect.x, rect.y, rect.length, rect.width))
        shapes.append(box(x, y, x + w, y + h, "offcut"))
    for placed in nest.placed:
        at = placed.at
        x, y, w, h = (v * 1000 for v in (at.x, at.y, at.length, at.width))
        shapes.append(box(x, y, x + w, y + h, "cut-pad" if pads else "cut-panel", placed.item.key))
    for cut in nest.cuts:
        shapes.append(Polyline(tuple((a * 1000, b * 1000) for a, b in (cut.start, cut.end)), "score"))
    for placed in nest.placed:
        at = placed.at
        x, y, w, h = (v * 1000 for v in (at.x, at.y, at.length, at.width))
        middle = (x + w / 2, y + h / 2)
        turned = h > 1.6 * w
        room, tall = (h, w) if turned else (w, h)
        sizes = (("a", at.length), ("b", at.width))
        words = placed.item.name
        shapes.append(
            Label(middle, words, "label-small", rotated=turned, room=room, tall=tall, side=0 if turned else 1)
        )
        if not turned:
            shapes.append(
                Label(middle, "{a:length:bare} × {b:length}", "label-small", values=sizes, room=w, tall=h / 2, side=-1)
            )
    if nest.offcuts:
        left = nest.offcuts[0]
        middle = ((left.x + left.length / 2) * 1000, (left.y + left.width / 2) * 1000)
        sizes = (("a", left.length), ("b", left.width))
        words = "left over {a:length:bare} × {b:length}"
        shapes.append(
            Label(middle, words, "label-small", values=sizes, room=left.length * 1000, tall=left.width * 1000)
        )
    radius = 0.011 * max(size)
    taken: list[Point] = []
    for cut in () if pads else nest.cuts:  # a knife follows the lines in any order
        spot = _spot(cut.start, cut.end, taken, 2.2 * radius)
        taken.append(spot)
        shapes.append(Circle(spot, radius, "number"))
        shapes.append(Label(spot, f"{cut.number}", "label-number"))
    shapes.append(Dimension((0, 0), (size[0], 0), nest.board.length, None, -0.05 * size[1]))
    shapes.append(Dimension((0, 0), (0, size[1]), nest.board.width, None, -0.03 * size[0]))
    return Drawing(tuple(shapes))


def _spot(start: Point, end: Point, taken: list[Point], apart: float) -> Point:
    """Where a cut's number stands: in its middle, or off it where another stands there."""
    for share in (0.5, 0.35, 0.65, 0.2, 0.8, 0.1, 0.9):
        x = (start[0] + share * (end[0] - start[0])) * 1000
        y = (start[1] + share * (end[1] - start[1])) * 1000
        if all(abs(x - a) > apart or abs(y - b) > apart for a, b in taken):
            return x, y
    return (start[0] + end[0]) * 500, (start[1] + end[1]) * 500


def panel_drawing(panel: Panel) -> Drawing:
    """A panel to order from: its outline with slots, holes by their middle from two edges, its sizes."""
    w, h = panel.length * 1000, panel.width * 1000
    shapes: list[Primitive] = [Polygon(tuple(outline(panel)), "cut-panel", panel.id)]
    aside = 0.06 * max(w, h)
    shapes += _holes(panel, w, h, aside)
    shapes.append(Dimension((0, 0), (w, 0), panel.length, None, -aside))
    shapes.append(Dimension((0, 0), (0, h), panel.width, None, -aside))
    if panel.slots:
        crest = h - panel.slots.depth * 1000
        shapes.append(Dimension((w, 0), (w, crest), panel.width - panel.slots.depth, None, aside))
    return Drawing(tuple(shapes))


def outline(panel: Panel) -> list[Point]:
    """Its edge, counter-clockwise from the lower left; slots evenly along the top."""
    w, h = panel.length * 1000, panel.width * 1000
    points: list[Point] = [(0.0, 0.0), (w, 0.0)]
    if panel.slots is None:
        return [*points, (w, h), (0.0, h)]
    count, wide, deep = panel.slots.count, panel.slots.width * 1000, panel.slots.depth * 1000
    pitch = w / count
    if wide >= pitch - 1e-6:  # no tooth is left
        return [*points, (w, h - deep), (0.0, h - deep)]
    points.append((w, h))
    for k in reversed(range(count)):
        middle = (k + 0.5) * pitch
        right, left = middle + wide / 2, middle - wide / 2
        points += [(right, h), (right, h - deep), (left, h - deep), (left, h)]
    points.append((0.0, h))
    return points


def _holes(panel: Panel, w: float, h: float, aside: float) -> list[Primitive]:
    """Holes with their crosses; each middle's distance from the left edge above the panel, from the lower edge beside
    it, every distance once.
    """
    shapes: list[Primitive] = []
    known: set[tuple[str, float]] = set()
    above = right = 1
    for hole in panel.holes:
        if hole.x is None or hole.y is None:
            continue
        x, y, r = hole.x * 1000, hole.y * 1000, hole.diameter * 500
        cross = r + 0.02 * max(w, h)
        shapes += [
            Circle((x, y), r, "hole", hole.id),
            Polyline(((x - cross, y), (x + cross, y)), "cross"),
            Polyline(((x, y - cross), (x, y + cross)), "cross"),
            Label((x, y), "{d:length} hole", "label-tag", values=(("d", hole.diameter),)),
        ]
        if ("x", round(x, 1)) not in known:
            known.add(("x", round(x, 1)))
            shapes.append(Dimension((0, h), (x, h), hole.x, None, aside * above))
            above += 1
        if ("y", round(y, 1)) not in known:
            known.add(("y", round(y, 1)))
            shapes.append(Dimension((w, 0), (w, y), hole.y, None, aside * right))
            right += 1
    return shapes


def floor_drawing(length: float, width: float, holes: tuple[Hole, ...]) -> Drawing:
    """The floor of a body seen from above, its back edge on top, with the holes that go through it; each middle from
    the left edge above it, from the back edge beside it. Sizes in m.
    """
    w, h = length * 1000, width * 1000
    shapes: list[Primitive] = [box(0, 0, w, h, "cut-panel")]
    aside = 0.06 * max(w, h)
    placed = [hole for hole in holes if hole.x is not None and hole.y is not None]
    across = sorted(range(len(placed)), key=lambda i: placed[i].x or 0.0)
    down = sorted(range(len(placed)), key=lambda i: placed[i].y or 0.0)
    for i, hole in enumerate(placed):
        x, y, r = (hole.x or 0.0) * 1000, h - (hole.y or 0.0) * 1000, hole.diameter * 500
        shapes += [
            Circle((x, y), r, "hole", hole.id),
            Polyline(((x - r - 8, y), (x + r + 8, y)), "cross"),
            Polyline(((x, y - r - 8), (x, y + r + 8)), "cross"),
            Dimension((0, h), (x, h), hole.x or 0.0, None, aside * (across.index(i) + 1)),
            Dimension((0, h), (0, y), hole.y or 0.0, None, -aside * (down.index(i) + 1)),
            Label((x + r + 12, y), "{d:length} hole", "label-small", "left", values=(("d", hole.diameter),)),
        ]
    shapes.append(Dimension((0, 0), (w, 0), length, None, -aside))
    shapes.append(Dimension((w, 0), (w, h), width, None, aside))
    shapes.append(Label((w, h), "back edge", "label-small", "right", side=1))
    return Drawing(tuple(shapes))


def pads_drawing(pads: Pads) -> Drawing:
    """A sheet of equal pads."""
    w, h = pads.sheet[0] * 1000, pads.sheet[1] * 1000
    shapes: list[Primitive] = [box(0, 0, w, h, "sheet")]
    shapes += [
        box(r.x * 1000, r.y * 1000, (r.x + r.length) * 1000, (r.y + r.width) * 1000, "cut-pad") for r in pads.laid
    ]
    shapes.append(Dimension((0, 0), (w, 0), pads.sheet[0], None, -0.06 * h))
    shapes.append(Dimension((0, 0), (0, h), pads.sheet[1], None, -0.04 * w))
    return Drawing(tuple(shapes))


def lengths_drawing(lengths: Lengths) -> Drawing:
    """Lengths of pipe under each other, each with its pieces."""
    shapes: list[Primitive] = []
    longest = max((bar.length for bar in lengths.bars), default=1.0) * 1000
    step = max(BAR_TALL * 2.2, longest * 0.06)
    for k, bar in enumerate(lengths.bars):
        y, x = -k * step, 0.0
        shapes.append(box(0, y, bar.length * 1000, y + BAR_TALL, "sheet"))
        for name, length in bar.pieces:
            wide = length * 1000
            shapes.append(box(x, y, x + wide, y + BAR_TALL, "cut-panel", name))
            middle = (x + wide / 2, y + BAR_TALL / 2)
            shapes.append(Label(middle, "{a:length}", "label-small", values=(("a", length),), room=wide))
            x += wide + bar.kerf * 1000
        words = "yours, {a:run} long" if bar.own else "{a:run} long"
        words += ", {r:length} left over" if bar.rest > 0.05 else ""
        values = (("a", bar.length), ("r", bar.rest))
        shapes.append(Label((0, y), words, "label-under", "left", values=values, side=-1))
    return Drawing(tuple(shapes) or (box(0, 0, 1, 1, "sheet"),))


def drawing_of(room: Room, step: Step) -> Drawing | None:
    """What a step is about: the panel, the floor, the run of pipe; None where there is nothing to draw."""
    key = step.shows
    if key.startswith("plan."):
        made = own_plan(room.analysis, key.removeprefix("plan."))
        return made if made.shapes else None
    if key.startswith("run."):
        return sketch_of(room.runs[int(key.removeprefix("run."))])
    panel = room.panel(key)
    if panel is not None:
        return panel_drawing(panel)
    found = piece_drawing(room, key)
    return found[0] if found is not None else None


def piece_drawing(room: Room, key: str, units: UnitSystem = UnitSystem.METRIC) -> tuple[Drawing, str] | None:
    """What is looked at of any piece but a panel, and what that is: the floor with its holes, a row of holes laid flat,
    a hole with its flange, pads on their sheet, a run of pipe; else the device that it belongs to, in section.
    """
    holes = room.holes_with(key)
    floor = room.floor_of(holes)
    if floor is not None:
        return floor_drawing(floor[1], floor[2], holes), "the floor from above"
    piece = next((p for p in room.pieces if p.id == key), None)
    if isinstance(piece, Hole) and piece.diameter:
        made = hole_of(room, piece)
        return made.drawing, remark(made.words, units)
    pads = next((laid for lot in room.pads for pad, laid in lot.single if pad.id == key), None)
    if pads is not None:
        return pads_drawing(pads), f"{pads.count} of it from a sheet"
    if isinstance(piece, Pipe):
        run = next((r for r in room.runs if r.pipe == piece.pipe and key.startswith(f"{r.owner}.")), None)
        if run is not None:
            return sketch_of(run), "its run; which way it turns is yours"
    owner = room.owners.get(key)
    if owner is None:
        return None
    drawing = own_section(room.analysis, shown_situation(room.analysis), owner)
    if not drawing.shapes:
        return None
    return drawing, f"{title_of(room.analysis.system.device(owner)).lower()} in section"
