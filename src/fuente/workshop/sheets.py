"""What is cut from which sheet: panels by material and thickness, pads by their foam, pipe by its size."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import dataclass

from fuente.catalogue import Consumable, foam_sheet, soft_sheet, sold_as
from fuente.devices.pieces import Pad, Panel, Piece
from fuente.devices.shop import LeftoverFoam, LeftoverPipe, LeftoverSheet, Shop
from fuente.workshop.lattice import Pads, pads_from
from fuente.workshop.lengths import Lengths, cut_lengths
from fuente.workshop.nesting import nest
from fuente.workshop.piping import Run
from fuente.workshop.sheet_cuts import Board, Item, Nesting

SOFT = {"foam": 28.0, "floss": 18.0, "mesh": 250.0}  # kg/m³ dry, what needs no saw
SCORED = "glass"  # by a score and a snap, which takes nothing away


@dataclass(frozen=True)
class Lot:
    """All that is cut from one kind of sheet, m: ``what`` is panels of a material, or foam, floss or mesh."""

    key: str
    material: str  # glass, acrylic, plywood; foam, floss, mesh
    thickness: float
    items: tuple[Item, ...]
    boards: tuple[Board, ...]
    kerf: float
    trim: float
    fine: float = 0.0  # pores an inch of foam, openings of mesh in m

    @property
    def soft(self) -> bool:
        """Cut with a knife or shears."""
        return self.material in SOFT

    def laid(self, seconds: float = 0.0) -> Nesting:
        """The best layout by the fixed strategies, or by a search of so many s."""
        return nest(self.items, self.boards, kerf=self.kerf, trim=self.trim, seconds=seconds)

    @property
    def area(self) -> float:
        """m² of what is cut."""
        return sum(i.length * i.width for i in self.items)

    @property
    def edges(self) -> float:
        """m round what is cut: what is ground, or sealed."""
        return sum(2 * (i.length + i.width) for i in self.items)


def panel_lots(panels: Iterable[Panel], shop: Shop) -> tuple[Lot, ...]:
    """A lot for each material and thickness, in the order of the list. Ground edges are added to what is cut."""
    found: dict[tuple[str, float], list[Item]] = {}
    for panel in panels:
        more = 2 * shop.grind
        for k in range(panel.count):
            item = Item(f"{panel.id}.{k}", panel.length + more, panel.width + more, panel.name)
            found.setdefault((panel.material, round(panel.thickness, 5)), []).append(item)
    return tuple(
        Lot(
            f"{material}-{thickness * 1000:g}",
            material,
            thickness,
            tuple(items),
            (*_own_sheets(material, thickness, shop), *_sheets(material, thickness, shop)),
            0.0 if material == SCORED else shop.kerf,
            shop.trim,
        )
        for (material, thickness), items in found.items()
    )


def _own_sheets(material: str, thickness: float, shop: Shop) -> list[Board]:
    return [
        Board(f"own.{k}", s.length, s.width, 0.0, s.count, True)
        for k, s in enumerate(shop.leftovers)
        if isinstance(s, LeftoverSheet) and s.material == material and abs(s.thickness - thickness) < 5e-4
    ]


def _sheets(material: str, thickness: float, shop: Shop) -> list[Board]:
    """What the builder buys it as; the usual size where nothing is said."""
    own = [
        Board(f"sheet.{k}", s.length, s.width, s.price)
        for k, s in enumerate(shop.sheets)
        if s.material == material and (s.thickness == 0 or abs(s.thickness - thickness) < 5e-4)
    ]
    if own:
        return own
    length, width, price = sold_as(material, thickness)
    return [Board("sheet", length, width, price)]


@dataclass(frozen=True)
class PadLot:
    """Pads of one foam: the layout of all that the design needs, and one pad by itself on a whole sheet."""

    lot: Lot
    sheet: Consumable
    single: tuple[tuple[Pad, Pads], ...]  # each size of pad, and how many of it a sheet gives


def pad_lots(pieces: Iterable[Piece], shop: Shop) -> tuple[PadLot, ...]:
    """A lot for each foam, floss or mesh and its thickness. A pad that is thicker than its sheet is cut in so many
    layers; a disc takes the square about it.
    """
    found: dict[tuple[str, float, float], list[Pad]] = {}
    for piece in pieces:
        if isinstance(piece, Pad) and piece.cut:
            fine = piece.opening if piece.stuff == "mesh" else piece.ppi
            found.setdefault((piece.stuff, fine, piece.thickness), []).append(piece)
    return tuple(_pad_lot(stuff, fine, thickness, pads, shop) for (stuff, fine, thickness), pads in found.items())


def _pad_lot(stuff: str, fine: float, thickness: float, pads: list[Pad], shop: Shop) -> PadLot:
    """All pads of one kind of sheet."""
    sold = foam_sheet(fine, thickness) if stuff == "foam" else soft_sheet(stuff, thickness)
    assert sold.sheet is not None
    length, width, thick = sold.sheet
    layers = max(math.ceil(thickness / thick - 0.2), 1)  # foam is squeezed by a fifth and swells as much
    sizes = [(pad, *(pad.cut or (0.0, 0.0))) for pad in pads]
    items = [
        Item(f"{pad.id}.{k}.{n}", a, b, pad.form)
        for pad, a, b in sizes
        for k in range(pad.count)
        for n in range(layers)
    ]
    own = [
        Board(f"own.{k}", s.length, s.width, 0.0, s.count, True)
        for k, s in enumerate(shop.leftovers)
        if isinstance(s, LeftoverFoam) and stuff == "foam" and s.ppi == fine and abs(s.thickness - thickness) < 2e-3
    ]
    lot = Lot(
        f"{stuff}-{fine:g}-{thickness * 1000:g}",
        stuff,
        thickness or thick,
        tuple(items),
        (*own, Board("sheet", length, width, sold.cost)),
        0.0,
        0.0,
        fine,
    )
    return PadLot(lot, sold, tuple((pad, pads_from(length, width, a, b)) for pad, a, b in sizes))


def pipe_lots(runs: Iterable[Run], shop: Shop) -> dict[str, Lengths]:
    """Pieces of pipe by size, cut from the lengths that are sold and from what is left over. A piece is called by its
    run and number.
    """
    wanted: dict[str, list[tuple[str, float]]] = {}
    for run in runs:
        for piece in run.pieces:
            if piece.length > 0:
                cuts = [(f"{run.owner} {piece.number}", piece.length)] * run.count
                wanted.setdefault(run.pipe, []).extend(cuts)
    return {
        pipe: cut_lengths(
            cuts,
            shop.bar,
            [
                left.length
                for left in shop.leftovers
                if isinstance(left, LeftoverPipe) and left.pipe == pipe
                for _ in range(left.count)
            ],
        )
        for pipe, cuts in wanted.items()
    }
