"""What is bought, and what it costs: sheets for panels, lengths for runs of pipe, less what is there already."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass, replace

from fuente.catalogue import pipe_size
from fuente.devices.pieces import Fixing, Joint, Medium, Pad, Pipe, Shelf, Thing
from fuente.devices.shop import LeftoverFitting, Price, Shop
from fuente.study.analysis import Analysis
from fuente.units import UnitSystem, fill, shown
from fuente.workshop.joints import beads, cartridges
from fuente.workshop.piping import cement
from fuente.workshop.room import Room, room_of
from fuente.workshop.sheet_cuts import Item
from fuente.workshop.sheets import Lot
from fuente.workshop.told import SOFT_NAMES, stuff_of
from fuente.workshop.words import row

YEAR = 365.25 * 86400.0
METRIC = UnitSystem.METRIC
YOURS, TYPICAL, FOUND, UNKNOWN = "yours", "typical", "there already", ""


@dataclass(frozen=True)
class Bought:
    """One line: how many of a unit, what one costs in any money (None where nobody said), whose price that is, and how
    many more are there already. ``key`` names it in metric, for the builder's prices.
    """

    group: str
    key: str
    what: str
    amount: float
    unit: str
    each: float | None
    source: str
    there: float = 0.0

    @property
    def cost(self) -> float | None:
        """In any money."""
        if self.amount <= 0:
            return 0.0
        return None if self.each is None else self.amount * self.each


@dataclass(frozen=True)
class Purchase:
    """All lines, and what a year of it costs in power and in what is used up, in any money."""

    lines: tuple[Bought, ...]
    power: float
    used: float

    @property
    def total(self) -> float:
        """What is known, in any money."""
        return sum(line.cost or 0.0 for line in self.lines)

    @property
    def unknown(self) -> int:
        """Lines without a price."""
        return sum(line.cost is None for line in self.lines)


def purchase(analysis: Analysis, units: UnitSystem) -> Purchase:
    """Everything to buy for a design, with words in the units that are shown."""
    room = room_of(analysis)
    shop = room.shop
    lines = [
        *_sheets(room, units),
        *_foam(room, units),
        *_pipe(room, units),
        *_pieces(room, units),
        *_glue(room, units),
    ]
    priced = tuple(_priced(line, shop) for line in _together(lines))
    watts = sum(d.draws for d in analysis.system.devices)
    return Purchase(priced, watts * YEAR / 3.6e6 * analysis.system.space.price, _used(room))


US_UNITS = {"L": ("gal", 3.785411784), "mL": ("fl oz", 29.5735), "m": ("ft", 0.3048)}  # and how much of the metric


def unit_of(line: Bought, units: UnitSystem) -> tuple[str, float]:
    """In which unit a line is shown, and how much of its own that is."""
    return US_UNITS.get(line.unit, (line.unit, 1.0)) if units == UnitSystem.US else (line.unit, 1.0)


def amount_of(line: Bought, units: UnitSystem) -> str:
    """How much of it, with its unit."""
    unit, size = unit_of(line, units)
    if unit in ("piece", "sheet", "length"):
        many = "s" if line.amount != 1 else ""
        return f"{line.amount:.0f}" + ("" if unit == "piece" else f" {unit}{many}")
    return f"{line.amount / size:.3g} {unit}"


def _together(lines: Iterable[Bought]) -> list[Bought]:
    """Equal things on one line."""
    found: dict[tuple[str, str], Bought] = {}
    for line in lines:
        key = (line.key, line.unit)
        same = found.get(key)
        found[key] = (
            line if same is None else replace(same, amount=same.amount + line.amount, there=same.there + line.there)
        )
    return list(found.values())


def _priced(line: Bought, shop: Shop) -> Bought:
    """With the builder's own price, the cheapest of them."""
    own = [p.amount for p in shop.prices if p.what == line.key]
    if own:
        return replace(line, each=min(own), source=YOURS)
    return line


def _sheets(room: Room, units: UnitSystem) -> list[Bought]:
    found = []
    for lot in room.lots:
        for nest in room.laid(lot).nests:
            group = lot.material.capitalize()
            if nest.board.own:
                found.append(_board(lot, nest.board.length, nest.board.width, units, 0.0, group, 1.0))
            else:
                board = nest.board
                own = board.key != "sheet"  # one that the builder named
                found.append(_board(lot, board.length, board.width, units, board.price, group, own=own))
        for item in room.laid(lot).unfit:
            key, name = (_too_large(lot, item, system) for system in (METRIC, units))
            found.append(Bought(lot.material.capitalize(), key, name, 1.0, "piece", None, UNKNOWN))
    return found


def _too_large(lot: Lot, item: Item, units: UnitSystem) -> str:
    """A panel that lies on no sheet: it is ordered by itself."""
    sizes = (shown(item.length, "length", units, unit=False), shown(item.width, "length", units, unit=False))
    thick = shown(lot.thickness, "length", units)
    return f"{lot.material.capitalize()} panel to order, larger than any sheet, {' × '.join(sizes)} × {thick}"


def _board(
    lot: Lot,
    length: float,
    width: float,
    units: UnitSystem,
    price: float,
    group: str,
    there: float = 0.0,
    own: bool = False,
) -> Bought:
    def words(system: UnitSystem) -> str:
        sizes = f"{shown(length, 'length', system, unit=False)} × {shown(width, 'length', system)}"
        return f"{stuff_of(lot, system).capitalize()} sheet, {shown(lot.thickness, 'length', system)}, {sizes}"

    source = FOUND if there else UNKNOWN if not price else YOURS if own else TYPICAL
    return Bought(group, words(METRIC), words(units), 0.0 if there else 1.0, "sheet", price or None, source, there)


def _foam(room: Room, units: UnitSystem) -> list[Bought]:
    found = []
    for pads in room.pads:
        for nest in room.laid(pads.lot).nests:
            board = nest.board
            there = 1.0 if board.own else 0.0
            group = SOFT_NAMES[pads.lot.material]
            found.append(_board(pads.lot, board.length, board.width, units, board.price, group, there))
    return found


def _pipe(room: Room, units: UnitSystem) -> list[Bought]:
    """Lengths of pipe, and hose by the metre."""
    found = []
    for pipe, lengths in room.lengths.items():
        name = pipe_size(pipe).name
        own = sum(bar.own for bar in lengths.bars)
        bar = shown(room.shop.bar, "run", METRIC)
        found.append(
            Bought(
                "Pipe",
                f"Pipe, {fill(name, {}, METRIC)}, {bar}",
                f"Pipe, {fill(name, {}, units)}, {shown(room.shop.bar, 'run', units)} long",
                float(lengths.bought),
                "length",
                None,
                UNKNOWN,
                float(own),
            )
        )
    cut = {run.pipe for run in room.runs}
    for piece in room.pieces:
        if isinstance(piece, Pipe) and (not piece.pipe or piece.pipe not in cut) and piece.length > 0:
            said, metric = row(piece, units), row(piece, METRIC)
            found.append(Bought("Pipe", metric.what, said.what, piece.length * piece.count, "m", None, UNKNOWN))
            if piece.pipe and pipe_size(piece.pipe).family == "hose":
                names = (f"Hose clamp for {fill(pipe_size(piece.pipe).name, {}, s)}" for s in (METRIC, units))
                key, name = names
                found.append(Bought("Pipe", key, name, 2.0 * piece.count, "piece", None, UNKNOWN))
    return found


def _pieces(room: Room, units: UnitSystem) -> list[Bought]:
    """Fittings less those that are there, media by the litre, all else by the piece."""
    shop = room.shop
    there = {(f.fitting, f.pipe): f.count for f in shop.leftovers if isinstance(f, LeftoverFitting)}
    found: list[Bought] = []
    for piece in room.pieces:
        said, metric = row(piece, units), row(piece, METRIC)
        if isinstance(piece, Medium):
            known = room.analysis.system.catalogue.media.get(piece.medium)
            each = known.cost if known and known.cost else None
            source = TYPICAL if each else UNKNOWN
            found.append(Bought("Media", metric.what, said.what, piece.bulk * 1000, "L", each, source))
        elif isinstance(piece, Thing) and piece.shelf is not Shelf.MEDIA:
            own = 0
            if piece.fits:
                own = min(there.get((piece.fits, piece.pipe), 0), piece.count)
                there[(piece.fits, piece.pipe)] = there.get((piece.fits, piece.pipe), 0) - own
            name, key = _named(said.what, said.size), _named(metric.what, metric.size)
            count = float(piece.count - own)
            found.append(Bought(str(piece.shelf), key, name, count, "piece", None, UNKNOWN, float(own)))
        elif isinstance(piece, Joint):
            own = 0
            if piece.fixing is Fixing.BULKHEAD:
                own = min(there.get(("bulkhead", piece.pipe), 0), piece.count)
                there[("bulkhead", piece.pipe)] = there.get(("bulkhead", piece.pipe), 0) - own
            count = float(piece.count - own)
            found.append(Bought(str(Shelf.FITTINGS), metric.what, said.what, count, "piece", None, UNKNOWN, float(own)))
        elif isinstance(piece, Pad) and not piece.cut:
            name, key = _named(said.what, said.size), _named(metric.what, metric.size)
            found.append(Bought(str(Shelf.PADS), key, name, float(piece.count), "piece", None, UNKNOWN))
    return found


def _named(what: str, size: str) -> str:
    return f"{what}, {size}" if size else what


def _glue(room: Room, units: UnitSystem) -> list[Bought]:
    shop = room.shop
    volume = sum(b.volume for b in beads(room.bill.panels, shop))
    joints, solvent = cement(room.runs)
    found = []
    if volume > 0:
        size = shop.cartridge
        key, name = (f"Silicone, {shown(size, 'volume', system)} cartridge" for system in (METRIC, units))
        found.append(Bought("Joints", key, name, float(cartridges(volume, shop)), "piece", None, UNKNOWN))
        seams = sum(b.length for b in beads(room.bill.panels, shop))
        found.append(Bought("Joints", "Masking tape", "Masking tape", float(math.ceil(2 * seams)), "m", None, UNKNOWN))
    if joints:
        for name in ("Solvent cement", "Primer for solvent cement"):
            found.append(Bought("Joints", name, name, solvent * 1e6, "mL", None, UNKNOWN))
    return found


def _used(room: Room) -> float:
    """What a year uses up, in any money: foam sheets by their life, each pad its share of a sheet."""
    total = 0.0
    for pads in room.pads:
        for pad, laid in pads.single:
            if laid.count:
                total += pad.count / laid.count * pads.sheet.cost * YEAR / pads.sheet.life
    return total


def with_price(shop: Shop, key: str, amount: float | None, supplier: str = "") -> tuple[Price, ...]:
    """The builder's prices with another for something, or without any for it."""
    kept = tuple(p for p in shop.prices if not (p.what == key and p.supplier == supplier))
    return kept if amount is None else (*kept, Price(what=key[:200], amount=amount, supplier=supplier))
