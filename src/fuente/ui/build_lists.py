"""The left list of the build room, for each of its views: what there is, and how much of it."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.ui.grid import Cell, Line
from fuente.ui.step_view import MARKS
from fuente.units import UnitSystem, fill, shown
from fuente.workshop.bill import table
from fuente.workshop.clocks import Stood
from fuente.workshop.purchase import Purchase
from fuente.workshop.room import Room
from fuente.workshop.told import SOFT_NAMES, money, sheet_name
from fuente.workshop.words import remark


def _head(words: str) -> Line:
    return Line((Cell(words, bold=True),))


def _line(what: str, much: str, key: str, tip: str = "") -> Line:
    return Line((Cell(what, tip=tip or what), Cell(much, right=True)), key)


def parts(room: Room, units: UnitSystem) -> list[Line]:
    """Panels and all else, in the order of the build."""
    total = room.bill
    keys = [p.id for p in total.panels] + [line.piece.id for line in total.lines]
    found: list[Line] = []
    group = ""
    for key, each in zip(keys, table(total, units), strict=True):
        if each.group != group:
            group = each.group
            found.append(_head(group))
        tip = "; ".join(w for w in (each.what, each.size, each.note) if w)
        found.append(_line(each.what, each.many, key, tip))
    return found


def sheets(room: Room, units: UnitSystem) -> list[Line]:
    """Sheets of panels and of foam, and lengths of pipe."""
    found: list[Line] = []
    for title, lots, word in (
        ("Panels", room.lots, "panel"),
        *(
            (name, tuple(p.lot for p in room.pads if p.lot.material == stuff), "pad")
            for stuff, name in SOFT_NAMES.items()
        ),
    ):
        if lots:
            found.append(_head(title))
        for lot in lots:
            found += [
                _line(sheet_name(lot, k, nest, units), _counted(len(nest.placed), word), f"{lot.key}/{k}")
                for k, nest in enumerate(room.laid(lot).nests, 1)
            ]
            found += [
                _line(item.name or item.key, "fits on no sheet", f"{lot.key}/unfit", f"{item.key}: name a larger sheet")
                for item in room.laid(lot).unfit
            ]
    if room.lengths:
        found.append(_head("Pipe"))
    for pipe, lengths in room.lengths.items():
        name = fill(pipe_size(pipe).name, {}, units)
        found.append(_line(name, _counted(lengths.bought, "length"), f"pipe/{pipe}"))
    return found


def _counted(count: int, word: str) -> str:
    return f"{count} {word}" if count == 1 else f"{count} {word}s"


def pipes(room: Room, units: UnitSystem) -> list[Line]:
    """Runs of pipe."""
    found: list[Line] = []
    for k, run in enumerate(room.runs):
        times = f"{run.count} × " if run.count > 1 else ""
        found.append(_line(run.title, times + shown(run.length, "run", units), f"run.{k}"))
    return found


def steps(stood: tuple[Stood, ...], units: UnitSystem) -> list[Line]:
    """Steps with a mark for how they stand, under what they are about."""
    found: list[Line] = []
    body = ""
    for each in stood:
        if each.step.body != body:
            body = each.step.body
            found.append(_head(body))
        found.append(_line(remark(each.step.title, units), MARKS[each.stand], each.step.id))
    return found


def bill(total: Purchase, room: Room) -> list[Line]:
    """What each group costs, as far as is known."""
    groups: dict[str, tuple[float, int]] = {}
    for line in total.lines:
        known, unknown = groups.get(line.group, (0.0, 0))
        groups[line.group] = (known + (line.cost or 0.0), unknown + (line.cost is None))
    found = [_head("By group")]
    for group, (known, unknown) in groups.items():
        words = money(known, room.shop) if known or not unknown else ""
        words += f"{' + ' if words else ''}{unknown} open" if unknown else ""
        found.append(_line(group, words, f"group/{group}"))
    return found
