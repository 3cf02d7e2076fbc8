"""What is looked at in the build room: a panel, a piece, a sheet, a run of pipe, as words and a drawing. No Qt."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace
from typing import NamedTuple

from fuente.drawing.primitives import Drawing
from fuente.units import UnitSystem, shown
from fuente.workshop.clocks import Stand, Stood
from fuente.workshop.drawn import lengths_drawing, nest_drawing, panel_drawing, piece_drawing
from fuente.workshop.piping import sketch_of
from fuente.workshop.room import Room
from fuente.workshop.sheets import Lot
from fuente.workshop.told import (
    Told,
    told_holes,
    told_lengths,
    told_nest,
    told_pads,
    told_panel,
    told_piece,
    told_run,
)


class Looked(NamedTuple):
    """What is said beside it, the drawing, and what stands under that; without a drawing the words stand for it."""

    told: Told
    drawing: Drawing | None
    words: str


def part(room: Room, key: str, units: UnitSystem) -> Looked:
    """A line of the list by its piece's id."""
    panel = room.panel(key)
    if panel is not None:
        said = told_panel(panel, room.analysis.system.space.lift, room.shop, units)
        return Looked(said, panel_drawing(panel), "seen from outside" if panel.faces else "as it is cut")
    piece = next((line.piece for line in room.bill.lines if line.piece.id == key), None)
    if piece is None:
        why = "Add a tank and a filter, and its parts stand here."
        return Looked(Told("Nothing to build", why=why), None, "Nothing to build yet.")
    holes = room.holes_with(key)
    floor = room.floor_of(holes)
    said = told_piece(piece, units) if floor is None else told_holes(f"Holes in {floor[0]}", holes, units)
    found = piece_drawing(room, key, units)
    if found is None:
        return Looked(said, None, "It is bought whole: there is nothing to cut.")
    return Looked(said, *found)


def lots(room: Room) -> dict[str, Lot]:
    """All that is cut from sheets, by its key."""
    return {lot.key: lot for lot in (*room.lots, *(p.lot for p in room.pads))}


def sheet(room: Room, key: str, units: UnitSystem) -> Looked:
    """A sheet by its lot and number, or the lengths of a pipe."""
    name, _, number = key.rpartition("/")
    if name == "pipe":
        lengths = room.lengths[number]
        return Looked(told_lengths(number, lengths, room.shop, units), lengths_drawing(lengths), "cut in this order")
    lot = lots(room).get(name)
    if lot is not None and number == "unfit":
        words = "Name a larger sheet under Workshop, or make the panel smaller."
        return Looked(Told("Larger than any sheet", why=words), None, words)
    whole = room.laid(lot) if lot else None
    if lot is None or whole is None or int(number) > len(whole.nests):
        why = "This design has no panels, pads or pipe to cut."
        return Looked(Told("Nothing is cut", why=why), None, "Nothing is cut from sheets in this design.")
    nest = whole.nests[int(number) - 1]
    said = told_nest(lot, int(number), nest, whole, room.bill.panels, room.shop, units)
    pads = next((p for p in room.pads if p.lot.key == lot.key), None)
    if pads is not None:
        said = replace(said, rows=(*said.rows, *told_pads(pads, units, room.shop)))
    order = "score in this order, edge to edge" if lot.material == "glass" else "cut in this order, edge to edge"
    return Looked(said, nest_drawing(nest, lot.soft), order)


def run(room: Room, key: str, units: UnitSystem) -> Looked:
    """A run of pipe by its number."""
    number = key.removeprefix("run.")
    if not number.isdigit() or int(number) >= len(room.runs):
        why = "This design has hoses and airlines, but no rigid pipe."
        return Looked(Told("No pipe is cut", why=why), None, "No rigid pipe is cut in this design.")
    one = room.runs[int(number)]
    return Looked(told_run(one, room.shop, units), sketch_of(one), "legs to scale; which way they turn is yours")


def told_build(room: Room, stood: Sequence[Stood], units: UnitSystem) -> Told:
    """How the whole build stands."""
    over = (Stand.DONE, Stand.CURING)
    finished = sum(s.stand in over for s in stood)
    left = sum(s.step.minutes for s in stood if s.stand not in over)
    waits = sum(s.step.wait for s in stood if s.stand not in over)
    rows = (
        ("Work left", f"{left / 60:.0f} h"),
        ("Waiting left, one after another", f"{waits / 86400:.0f} days"),
        ("Inner bead", shown(room.shop.bead, "fine_length", units)),
        ("Cured, then dry for", shown(room.shop.before_water, "days", units)),
    )
    why = (
        "Clocks follow the depth of the bead and the label of your own tube: a day for each"
        f" {shown(0.0025, 'fine_length', units)} unless you say otherwise under Workshop. Times of work are typical,"
        " ±50 %."
    )
    figures = ((f"{finished}", "", "steps done"), (f"{len(stood) - finished}", "", "still to do"))
    return Told("The build", "every step from its parts", figures, rows, why)


def head(room: Room, stood: Sequence[Stood], view: str, units: UnitSystem) -> tuple[str, str]:
    """What stands over the list of a view."""
    panels, others = room.bill.panels, len(room.bill.lines)
    if view == "parts":
        mass = sum(p.mass * p.count for p in panels if p.material == "glass")
        glass = f", {shown(mass, 'mass', units)} of glass" if mass else ""
        count = sum(p.count for p in panels)
        lines = (
            f"{count} panels{glass}; {others} other lines" if count else f"{others} lines, in the order of the build"
        )
        return "To order and cut", lines
    if view == "sheets":
        return "Cut from sheets", "Panels, pads and pipe on what is sold and on what you have"
    if view == "pipes":
        return "Runs of pipe", "Cut lengths, each less what its fittings take off"
    if view == "steps":
        finished = sum(s.stand in (Stand.DONE, Stand.CURING) for s in stood)
        hours = sum(s.step.minutes for s in stood) / 60
        lines = f"About {hours:.0f} hours of work; clocks run on while Fuente is shut"
        return f"{finished} of {len(stood)} steps done", lines
    return "What it costs", "Type a price into the list; the cheapest of your suppliers counts"
