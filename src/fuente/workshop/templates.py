"""Drill templates at 1:1: a hole with its cross, its flange and what stays clear, and rows that wrap round a wall."""

from __future__ import annotations

import math
from dataclasses import dataclass

from fuente.catalogue import Bulkhead, bulkhead_for, pipe_size
from fuente.devices.pieces import Hole, Joint, Note, Panel, Shelf, Thing, note
from fuente.drawing.primitives import Circle, Drawing, Label, Polyline, Primitive, box
from fuente.one_line import within
from fuente.workshop.room import Room

BAR = 100.0  # mm, to check the printer by
ROW_APART = 14.0  # mm
BOTTLE = 0.08  # m: a body whose width nobody gave


@dataclass(frozen=True)
class Template:
    """A drawing at 1:1, and what it is for."""

    title: str
    drawing: Drawing
    words: Note


def hole_template(title: str, diameter: float, fit: Bulkhead | None = None, wrap: float = 0.0) -> Template:
    """A hole of a diameter in m; with its fitting, the flange round it and the glass to keep. ``wrap`` is the diameter
    of a round wall, m, on which the flange's fall is said.
    """
    r = diameter * 500
    cross = r + 8
    shapes: list[Primitive] = []
    if fit is not None:
        keep = r + fit.edge_distance * 1000
        shapes.append(Circle((0, 0), keep, "offcut"))
        shapes.append(Circle((0, 0), fit.flange * 500, "ring"))
        cross = max(cross, fit.flange * 500 + 6)
    shapes += [
        Circle((0, 0), r, "hole"),
        Polyline(((-cross, 0), (cross, 0)), "cross"),
        Polyline(((0, -cross), (0, cross)), "cross"),
        Circle((0, 0), 1.0, "number"),
    ]
    words, values = "hole {d:fine_length}", {"d": diameter}
    if fit is not None:
        words += (
            "; flange {f:length} (thin ring); no edge and no other hole within the outer ring, {k:length} from the"
            " middle"
        )
        values |= {"f": fit.flange, "k": keep / 1000}
    if wrap and fit is not None:
        radius, half = wrap / 2, min(fit.flange / 2, wrap / 2)
        falls = radius - math.sqrt(radius**2 - half**2)
        words += "; on a wall {w:length} across the flange stands {s:fine_length} off at its sides"
        values |= {"w": wrap, "s": falls}
    return Template(title, Drawing(tuple(shapes)), Note(words, values))


def row_template(title: str, count: int, diameter: float, around: float, rows: int = 1) -> Template:
    """Small holes evenly round a body: a strip as long as it is round, to wrap about it. Sizes in m; ``around`` is the
    length along the wall, π times its diameter on a round one. In two rows and more they stand in a zigzag.
    """
    length, r = around * 1000, diameter * 500
    tall = ROW_APART * (rows + 1)
    shapes: list[Primitive] = [box(0, 0, length, tall, "offcut")]
    per = math.ceil(count / rows)
    pitch = length / per
    left = count
    for row in range(rows):
        shift = pitch / 4 if row % 2 else -pitch / 4
        shift = shift if rows > 1 else 0.0
        for k in range(min(per, left)):
            x, y = (k + 0.5) * pitch + shift, ROW_APART * (row + 1)
            shapes.append(Circle((x, y), r, "hole"))
            shapes.append(Polyline(((x - r - 2, y), (x + r + 2, y)), "cross"))
            shapes.append(Polyline(((x, y - r - 2), (x, y + r + 2)), "cross"))
        left -= min(per, left)
    shapes.append(Label((0, tall), "this end meets the other", "label-small", "left", side=1))
    words = (
        f"{count} holes of {{d:fine_length}}, {{p:fine_length}} apart along the wall, {{l:length}} round; measure round"
        " yours: where the ends do not meet, print it that much larger"
    )
    return Template(title, Drawing(tuple(shapes)), note(words, d=diameter, p=pitch / 1000, l=around))


def templates(room: Room) -> tuple[Template, ...]:
    """A template for each size of hole in each kind of wall, and a strip for rows of small ones."""
    found: dict[tuple[object, ...], Template] = {}
    panels = (h for p in room.bill.panels for h in p.holes)
    for hole in (*panels, *(p for p in room.pieces if isinstance(p, Hole))):
        if hole.diameter:
            row = _on_each(room, hole) if _in_a_row(room, hole) else 0
            key = (row, round(hole.diameter, 4), round(_around(room, hole), 3))
            found.setdefault(key, hole_of(room, hole))
    return tuple(found.values())


def hole_of(room: Room, hole: Hole) -> Template:
    """A hole's template: a strip to wrap round the wall for a row of small ones, else the hole with its flange."""
    around = _around(room, hole)
    if _in_a_row(room, hole):
        wide = around or BOTTLE
        each = _on_each(room, hole)
        rows = max(math.ceil(each * hole.diameter * 2.2 / (math.pi * wide)), 1)
        return row_template(hole.name, each, hole.diameter, math.pi * wide, rows)
    fit = next((f for f in _fits(room) if abs(f.saw - hole.diameter) < 5e-5), None)
    return hole_template(_name(hole, room), hole.diameter, fit, around)


def _in_a_row(room: Room, hole: Hole) -> bool:
    return hole.x is None and _on_each(room, hole) >= 6


def _on_each(room: Room, hole: Hole) -> int:
    """How many of it each of its bodies has."""
    bodies = next((p.count for p in room.pieces if isinstance(p, Thing) and p.id == hole.body), 1)
    return hole.count // max(bodies, 1)


def _around(room: Room, hole: Hole) -> float:
    """Diameter in m of the round wall that a hole goes through; 0 for a flat one."""
    owner = room.owners.get(hole.id)
    round_things = [p for p in room.pieces if isinstance(p, Thing) and p.diameter and p.shelf is Shelf.EQUIPMENT]
    for piece in round_things:
        if piece.id == hole.body or (owner is not None and room.owners.get(piece.id) == owner):
            return piece.diameter
    return 0.0


def _fits(room: Room) -> list[Bulkhead]:
    return [p.fit or bulkhead_for(pipe_size(p.pipe)) for p in room.pieces if isinstance(p, Joint)]


def _name(hole: Hole, room: Room) -> str:
    panel: Panel | None = next((p for p in room.bill.panels if p.id == hole.body), None)
    return f"{panel.name}: {within(hole.name)}" if panel is not None else hole.name


def tiles(drawing: Drawing, width: float, height: float) -> list[tuple[float, float]]:
    """Lower left corners in mm of the pages of a width and height in mm that a drawing needs at 1:1, row by row; one in
    the middle where it fits on one.
    """
    x0, y0, x1, y1 = drawing.bounds()
    across, down = max(math.ceil((x1 - x0) / width - 1e-9), 1), max(math.ceil((y1 - y0) / height - 1e-9), 1)
    left = (x0 + x1) / 2 - across * width / 2
    foot = (y0 + y1) / 2 - down * height / 2
    return [(left + i * width, foot + j * height) for j in reversed(range(down)) for i in range(across)]
