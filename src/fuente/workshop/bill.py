"""Everything to order and cut, of the whole system."""

from __future__ import annotations

import csv
import io
from collections.abc import Mapping
from dataclasses import dataclass, fields, is_dataclass, replace
from typing import Any

from fuente.catalogue import bulkhead_for, pipe_size
from fuente.devices import kind_of
from fuente.devices.base import Task
from fuente.devices.contract import Device
from fuente.devices.filtering import FilterSpec
from fuente.devices.pieces import Joint, Panel, Parts, Piece
from fuente.devices.shop import Shop
from fuente.errors import FuenteError
from fuente.study.analysis import Analysis
from fuente.units import UnitSystem
from fuente.workshop.cells import harmless
from fuente.workshop.words import Row, row


@dataclass(frozen=True)
class Line:
    """Equal pieces on one line, under the heading of the filter that they are for."""

    piece: Piece
    head: str = ""

    def row(self, units: UnitSystem) -> Row:
        """The line in words."""
        made = row(self.piece, units)
        return made._replace(group=f"{self.head}: {made.group[:1].lower()}{made.group[1:]}") if self.head else made


@dataclass(frozen=True)
class Bill:
    """Panels by material, all else in the order of the build, and what to take care of."""

    panels: tuple[Panel, ...] = ()
    lines: tuple[Line, ...] = ()
    cautions: tuple[str, ...] = ()

    @property
    def pieces(self) -> tuple[Piece, ...]:
        """All but the panels."""
        return tuple(line.piece for line in self.lines)


def bill(analysis: Analysis) -> Bill:
    """Panels and parts in build order: vessels and what joins them, drains, returns, filters, air; tanks, which are
    there, last.
    """
    panels: list[Panel] = []
    lines: list[Line] = []
    cautions: dict[str, None] = {}
    for device, made in made_of(analysis):
        panels += made.panels
        cautions.update(dict.fromkeys(made.cautions))
        if isinstance(device, FilterSpec):
            lines += _headed(device.name, made.others)
        else:
            lines += [Line(piece) for piece in made.others]
    panels.sort(key=lambda p: p.material != "glass")
    return Bill(tuple(panels), _counted(lines), tuple(cautions))


def made_of(analysis: Analysis) -> list[tuple[Device, Parts]]:
    """What every device is made of, in build order; joints with the fitting that the builder measured."""
    return analysis.kept("made-of", lambda: _made_of(analysis))


def _made_of(analysis: Analysis) -> list[tuple[Device, Parts]]:
    try:
        solution = analysis.running
    except FuenteError:
        solution = analysis.at_rest().solution
    found = []
    for device in sorted(analysis.ordered, key=lambda d: kind_of(d).built):
        made = kind_of(device).parts(device, analysis.sites[device.id], solution)
        pieces = tuple(_in_hand(piece, analysis.system.shop) for piece in made.pieces)
        found.append((device, replace(made, pieces=pieces)))
    return found


def _in_hand(piece: Piece, shop: Shop) -> Piece:
    """A joint with the fitting in the hand, where there is one of its size."""
    if not isinstance(piece, Joint) or not shop.fittings:
        return piece
    fit = shop.fitting_for(piece.pipe)
    return piece if fit == bulkhead_for(pipe_size(piece.pipe)) else replace(piece, fit=fit)


def _headed(name: str, pieces: tuple[Piece, ...]) -> list[Line]:
    """A filter's pieces under its own name, each group of them together."""
    groups = [row(piece, UnitSystem.METRIC).group for piece in pieces]
    order = list(dict.fromkeys(groups))
    ranked = sorted(zip(groups, pieces, strict=True), key=lambda pair: order.index(pair[0]))
    return [Line(piece, name) for _, piece in ranked]


def _counted(lines: list[Line]) -> tuple[Line, ...]:
    """Equal pieces of many tanks as one line: pieces add up, cut lengths stay apart by length."""
    found: dict[object, Line] = {}
    for line in lines:
        key = (line.head, type(line.piece), alike(line.piece))
        same = found.get(key)
        found[key] = line if same is None else replace(same, piece=_both(same.piece, line.piece))
    return tuple(found.values())


def _both(first: Piece, second: Piece) -> Piece:
    """Two equal pieces as one: what is counted, weighed or poured adds up."""
    sums = {}
    for name in _names(type(first), "sum", True):
        one, other = getattr(first, name), getattr(second, name)
        if one is not None and other is not None:
            sums[name] = one + other
    return replace(first, **sums)


def alike(value: Any) -> object:
    """What two pieces must share to be one line: all but their own fields, to a millimetre or a thousandth."""
    if isinstance(value, float):
        return round(value, 3)
    if value is None or isinstance(value, str):
        return value
    if is_dataclass(value):
        return tuple([alike(getattr(value, name)) for name in _names(type(value), "own", False)])
    if isinstance(value, Mapping):
        return tuple(sorted((k, alike(v)) for k, v in value.items()))
    if isinstance(value, tuple):
        return tuple([alike(v) for v in value])
    return value


_NAMES: dict[tuple[type, str], tuple[str, ...]] = {}


def _names(kind: type, mark: str, marked: bool) -> tuple[str, ...]:
    """The fields of a kind of piece with a mark, or all without it; looked up once, thousands of pieces ask."""
    if (kind, mark) not in _NAMES:
        _NAMES[kind, mark] = tuple(f.name for f in fields(kind) if bool(f.metadata.get(mark)) is marked)
    return _NAMES[kind, mark]


def tasks(analysis: Analysis) -> tuple[Task, ...]:
    """Upkeep of the whole system."""
    solution = analysis.running
    return tuple(
        task
        for device in analysis.ordered
        for task in kind_of(device).care(device, analysis.sites[device.id], solution)
    )


def table(total: Bill, units: UnitSystem) -> list[Row]:
    """Rows of (group, count, what, size, note) with units written out: panels, then the rest."""
    return [row(p, units) for p in total.panels] + [line.row(units) for line in total.lines]


def as_csv(total: Bill, units: UnitSystem) -> str:
    """The list as CSV, sizes also in plain millimetres for a glazier's own sheet."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["group", "count", "what", "size", "note", "length mm", "width mm", "thickness mm", "mass kg each"])
    rows = table(total, units)
    for each, panel in zip(rows, total.panels, strict=False):
        sizes = [f"{panel.length * 1000:.1f}", f"{panel.width * 1000:.1f}", f"{panel.thickness * 1000:.1f}"]
        writer.writerow([*map(harmless, each), *sizes, f"{panel.mass:.2f}"])
    for each in rows[len(total.panels) :]:
        writer.writerow([*map(harmless, each), "", "", "", ""])
    for caution in total.cautions:
        writer.writerow(["Caution", "", caution, "", "", "", "", "", ""])
    return out.getvalue()
