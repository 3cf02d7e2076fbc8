"""How the list says a piece: its name, size and remarks in a system of units. Nothing before this made it words."""

from __future__ import annotations

from collections.abc import Iterable
from functools import singledispatch
from typing import NamedTuple

from fuente.catalogue import bulkhead_for, pipe_size
from fuente.devices.pieces import Fixing, Hole, Joint, Medium, Note, Pad, Panel, Piece, Pipe, Shelf, Thing, note
from fuente.units import UnitSystem, fill, shown

_MEASURE = "hole {a:length:bare} to {b:length}; measure your own"


class Row(NamedTuple):
    """A line of the list with its units written out."""

    group: str
    many: str
    what: str
    size: str
    note: str


class Said(NamedTuple):
    """A piece in words: where it stands, what it is, its size, and remarks that its figures make."""

    group: str
    what: str
    size: str = ""
    remarks: tuple[str, ...] = ()
    many: str = ""  # instead of how many


def row(piece: Piece, units: UnitSystem) -> Row:
    """A piece as a line of the list."""
    said = _say(piece, units)
    remarks = [_drained(getattr(piece, "drains", ()))]
    remarks += [remark(n, units) for n in piece.notes]
    return Row(said.group, said.many or f"{piece.count}", said.what, said.size, _listed((*remarks, *said.remarks)))


def remark(each: Note, units: UnitSystem) -> str:
    """A note in words; a builder's own name in it is not read as a slot."""
    words = fill(each.text, each.values, units)
    return ": ".join(part for part in (each.of, words) if part)


def about(panel: Panel, units: UnitSystem) -> str:
    """The remarks of a panel alone, without what the plate model says."""
    return _listed(remark(n, units) for n in panel.notes)


@singledispatch
def _say(piece: Piece, units: UnitSystem) -> Said:
    raise NotImplementedError(f"The list has no words for a {type(piece).__name__}.")


@_say.register
def _(piece: Panel, units: UnitSystem) -> Said:
    remarks = []
    if piece.needed:
        remarks.append(f"{shown(piece.needed, 'fine_length', units)} needed")
    if piece.safety and piece.safety < 1e6:
        safety = f"safety {piece.safety:.1f}"
        remarks = [f"{remarks[0]}, {safety}"] if remarks else [safety]
    size = _times(units, piece.length, piece.width, piece.thickness)
    return Said(f"Panels, {piece.material}", piece.name, size, tuple(remarks))


@_say.register
def _(piece: Hole, units: UnitSystem) -> Said:
    size = ""
    if piece.diameter:
        size = shown(piece.diameter, "fine_length" if piece.diameter < 0.02 else "length", units)
    elif piece.width:
        size = f"{shown(piece.width, 'fine_length', units)} × {shown(piece.height, 'length', units)}"
    if piece.x is not None and piece.y is not None:
        size += f" at {shown(piece.x, 'length', units)} from the left, {shown(piece.y, 'length', units)} from the back"
    return Said(Shelf.HOLES, piece.name, size)


@_say.register
def _(piece: Joint, units: UnitSystem) -> Said:
    pipe = pipe_size(piece.pipe)
    if piece.fixing is Fixing.SEAL:
        return Said(Shelf.FITTINGS, f"Rubber seal for {fill(pipe.name, {}, units)}")
    fit = piece.fit or bulkhead_for(pipe)
    said = "hole {a:length:bare} to {b:length}; as you measured it" if piece.fit else _MEASURE
    hole = note(said, a=fit.hole_min, b=fit.hole_max)
    return Said(
        Shelf.FITTINGS, f"Bulkhead, {fit.size}", f"saw {shown(fit.saw, 'length', units)}", (remark(hole, units),)
    )


@_say.register
def _(piece: Pipe, units: UnitSystem) -> Said:
    if piece.pipe:
        name = ", ".join(part for part in (piece.form, fill(pipe_size(piece.pipe).name, {}, units)) if part)
    elif piece.bore:
        name = f"{piece.form}, {shown(piece.bore, 'length', units)} bore"
    else:
        name = piece.form
    size = []
    if piece.holes:
        size.append(f"{piece.holes} holes of {shown(piece.hole_bore, 'fine_length', units)}")
    else:
        size.append(shown(piece.length, "length" if piece.exact else "run", units))
    if piece.width:
        size.append(_times(units, piece.width, piece.height))
    if piece.outside:
        size.append(f"{shown(piece.outside, 'fine_length', units)} outside")
    return Said(Shelf.PIPE, name[:1].upper() + name[1:], ", ".join(size))


@_say.register
def _(piece: Pad, units: UnitSystem) -> Said:
    name = f"{piece.form}, {piece.ppi:g} ppi" if piece.ppi else piece.form
    if piece.opening:
        name += f", {shown(piece.opening, 'micron', units)}"
    size = []
    if piece.diameter and piece.length:
        size.append(f"{shown(piece.diameter, 'length', units)} across, {shown(piece.length, 'length', units)} long")
    else:
        sizes = [v for v in (piece.diameter, piece.length, piece.width, piece.thickness) if v]
        if sizes:
            size.append(_times(units, *sizes) + (" thick" if sizes == [piece.thickness] else ""))
    return Said(piece.shelf, name, ", ".join(size))


@_say.register
def _(piece: Medium, units: UnitSystem) -> Said:
    size = [shown(piece.grain, "fine_length", units)] if piece.grain else []
    weights = ((piece.dry, "dry"), (piece.wet, "wet"))
    size += [f"{_weight(kilograms, units)} {word}" for kilograms, word in weights if kilograms is not None]
    bags = (f"in {piece.bags} bags",) if piece.bags else ()
    return Said(Shelf.MEDIA, piece.name, ", ".join(size), bags, shown(piece.bulk, "volume", units))


@_say.register
def _(piece: Thing, units: UnitSystem) -> Said:
    own = fill(piece.name, {}, units)  # a hose in it is called by its bore
    name = f"{own}, {fill(pipe_size(piece.pipe).name, {}, units)}" if piece.pipe else own
    size = []
    if piece.diameter:
        size.append(f"{shown(piece.diameter, 'length', units)} bore × {shown(piece.height, 'length', units)}")
    elif sizes := [v for v in (piece.length, piece.width, piece.height) if v]:
        size.append(_times(units, *sizes))
    if piece.volume:
        size.append(shown(piece.volume, "volume", units))
    if words := remark(piece.about, units):
        size.append(words)
    weight = _weight(piece.mass, units) if piece.mass else ""
    return Said(piece.shelf, name, ", ".join(size), (), weight)


def _times(units: UnitSystem, *sizes: float) -> str:
    """Sizes with one unit after the last: 300 × 200 × 6 mm."""
    return " × ".join((*(shown(v, "length", units, unit=False) for v in sizes[:-1]), shown(sizes[-1], "length", units)))


def _weight(kilograms: float, units: UnitSystem) -> str:
    return shown(kilograms, "mass" if kilograms >= 1 else "light_mass", units)


def _drained(tanks: tuple[str, ...]) -> str:
    if not tanks:
        return ""
    return f"drain of {tanks[0]}" if len(tanks) == 1 else "drains of the tanks"


def _listed(words: Iterable[str]) -> str:
    return "; ".join(w for w in words if w)
