"""What is said beside a drawing of the build room: a heading, two figures, rows, and why. No Qt."""

from __future__ import annotations

import math
from dataclasses import dataclass

from fuente.catalogue import pipe_size
from fuente.devices.pieces import Hole, Panel, Piece
from fuente.devices.shop import EDGES, Shop
from fuente.structure.plates import MATERIALS
from fuente.units import UnitSystem, fill, shown
from fuente.workshop.joints import beads, cartridges
from fuente.workshop.lattice import Pads
from fuente.workshop.lengths import Lengths
from fuente.workshop.piping import CutPiece, Run, cement, name_of
from fuente.workshop.sheet_cuts import Nest, Nesting
from fuente.workshop.sheets import SOFT, Lot, PadLot
from fuente.workshop.words import about, row

USUAL = {"glass": 3.8, "acrylic": 1.0}
SOFT_NAMES = {"foam": "Foam", "floss": "Fleece", "mesh": "Mesh"}
_WEEK = 7 * 86400.0


@dataclass(frozen=True)
class Told:
    """Words in the units that are shown: figures are number, unit and what they are; rows are name and value."""

    heading: str
    sub: str = ""
    figures: tuple[tuple[str, str, str], ...] = ()
    rows: tuple[tuple[str, str], ...] = ()
    why: str = ""


def money(amount: float, shop: Shop) -> str:
    """An amount in the builder's money."""
    return shop.in_money(amount)


def stuff_of(lot: Lot, units: UnitSystem) -> str:
    """What a sheet is of: foam by its pores, mesh by its openings."""
    if lot.material == "foam":
        return f"{lot.fine:g} ppi foam"
    if lot.material == "mesh":
        return f"{shown(lot.fine, 'micron', units)} mesh" if lot.fine else "mesh"
    return "fleece" if lot.material == "floss" else lot.material


def sheet_name(lot: Lot, number: int, nest: Nest, units: UnitSystem) -> str:
    """How a sheet is called."""
    thick = shown(lot.thickness, "length", units)
    if lot.soft:
        what = f"{stuff_of(lot, units)}, {thick}"
    else:
        what = f"{thick} {'float glass' if lot.material == 'glass' else lot.material}"
    return f"{'Leftover' if nest.board.own else f'Sheet {number}'}, {what}"


def told_nest(
    lot: Lot, number: int, nest: Nest, whole: Nesting, panels: tuple[Panel, ...], shop: Shop, units: UnitSystem
) -> Told:
    """A sheet with what is cut from it."""
    mass = (
        nest.board.area
        * lot.thickness
        * (MATERIALS[lot.material].density if lot.material in MATERIALS else SOFT[lot.material])
    )
    cut = sum(c.length for c in nest.cuts)
    edges = sum(2 * (p.at.length + p.at.width) for p in nest.placed)
    kept = max((r.area for r in nest.offcuts), default=0.0)
    word = "Scores" if lot.material == "glass" else "Cuts"
    rows = [
        (f"{word}, and their length", f"{len(nest.cuts)} · {shown(cut, 'run', units)}"),
        ("Edges round all pieces", shown(edges, "run", units)),
        ("Left over in one piece", f"{100 * kept / nest.board.area:.0f} %" if kept else "nothing"),
    ]
    if not nest.board.own:
        rows.append(("Price of the sheet", money(nest.board.price, shop) if nest.board.price else "not given"))
    seen: dict[str, None] = {}
    for placed in nest.placed:
        panel = next((p for p in panels if placed.item.key.startswith(p.id + ".")), None)
        if panel is not None and panel.safety and panel.safety < 1e6 and panel.name not in seen:
            seen[panel.name] = None
            rows.append((panel.name, f"safety {panel.safety:.1f} of {USUAL.get(panel.material, 1.0):g}"))
    sub = {
        "glass": "scored and snapped: every cut runs from edge to edge",
        "foam": "cut with a long knife along a straight edge",
        "floss": "cut with shears",
        "mesh": "cut with shears along a row of openings",
    }.get(lot.material, f"sawn, {shown(lot.kerf, 'fine_length', units)} lost at each cut")
    heavy = shown(mass, "mass", units).split()
    two = ", two people" if mass > 20 else ""
    why = (
        f"{whole.tried} layouts were tried; less bought sheet first, then the largest piece left over. All sheets of it"
        f" together lose {100 * whole.waste:.0f} %; as few sheets of that size lose {100 * whole.bound:.0f} % at least."
    )
    if lot.material == "glass":
        why += " Tempered glass cannot be cut or drilled. Goggles, gloves, a firm table."
    if whole.unfit:
        why = f"{len(whole.unfit)} pieces fit on no sheet that you named. " + why
    return Told(
        sheet_name(lot, number, nest, units),
        sub,
        (
            (f"{100 * nest.waste:.0f}", "%", "waste"),
            (heavy[0], heavy[1], f"the whole sheet{two}" if not lot.soft else "the whole sheet"),
        ),
        tuple(rows),
        why,
    )


def told_pads(lot: PadLot, units: UnitSystem, shop: Shop) -> tuple[tuple[str, str], ...]:
    """How many of each pad a whole sheet gives, what one costs, and how long a sheet lasts."""
    sizes: dict[tuple[float, float], tuple[Pads, int]] = {}
    for pad, pads in lot.single:
        length, width = pad.cut or (0.0, 0.0)
        key = (round(length, 4), round(width, 4))
        sizes[key] = (pads, sizes.get(key, (pads, 0))[1] + pad.count)
    rows = []
    for (length, width), (pads, needed) in sizes.items():
        if not pads.count:
            continue
        words = f"{shown(length, 'length', units, unit=False)} × {shown(width, 'length', units)}"
        rows.append((f"Pads of {words} from a sheet", f"{pads.count}"))
        rows.append(("One of them costs", money_fine(lot.sheet.cost / pads.count, shop)))
        if shop.ready_pad:
            rows.append(("A ready-made one costs", money_fine(shop.ready_pad, shop)))
        rows.append(("A sheet lasts", _lasts(pads.count / needed, lot.sheet.life)))
    return tuple(rows)


def _lasts(changes: float, life: float) -> str:
    """How long a sheet lasts that is good for so many changes of all pads, each after so many s."""
    if changes < 1:
        return f"{math.ceil(1 / changes)} sheets for one change"
    weeks = int(changes) * life / _WEEK
    often = "1 change" if int(changes) == 1 else f"{int(changes)} changes"
    return (
        f"{often}, {weeks:.0f} weeks"
        if weeks < 104
        else f"{often}, {min(weeks / 52, 20):.0f} years" + (" and more" if weeks / 52 > 20 else "")
    )


def money_fine(amount: float, shop: Shop) -> str:
    """A small amount, with its hundredths."""
    return shop.in_money(amount, 2)


def edges_of(panel: Panel, shop: Shop) -> str:
    """How the edges of a panel are finished: glass as the builder orders it, all else by its tool."""
    if panel.material == "glass":
        return EDGES[shop.edges]
    return "sawn, scraped square" if panel.material == "acrylic" else "sawn, sealed before it is wet"


def told_panel(panel: Panel, lift: float, shop: Shop, units: UnitSystem) -> Told:
    """A panel to order."""
    mass = shown(panel.mass, "mass", units).split()
    figures = [(mass[0], mass[1], "each" + (", two people" if panel.mass > lift else ""))]
    if panel.safety and panel.safety < 1e6:
        figures.append((f"{panel.safety:.1f}", "", f"safety; {USUAL.get(panel.material, 1.0):g} is usual"))
    glue = beads([panel], shop)
    rows = [
        ("Length", shown(panel.length, "length", units)),
        ("Width", shown(panel.width, "length", units)),
        ("Thickness", shown(panel.thickness, "fine_length", units)),
        ("How many", f"{panel.count}"),
        ("Edges", edges_of(panel, shop)),
    ]
    if panel.needed:
        rows.append(("Thickness needed", shown(panel.needed, "fine_length", units)))
    for bead in glue:
        tubes = cartridges(bead.volume, shop)
        rows.append(("Glued edges", shown(bead.length, "run", units)))
        rows.append(
            ("Silicone", f"{shown(bead.volume, 'small_volume', units)}, {tubes} cartridge{'s' if tubes > 1 else ''}")
        )
    why = about(panel, units)
    if panel.needed:
        why += (
            ". Brim full, or with one side empty, the plate model asks for"
            f" {shown(panel.needed, 'fine_length', units)}. An estimate for planning, not an engineer's certificate."
        )
    if panel.slots and panel.slots.count > 1:
        why += " Cut the slots with a router or file; break their edges."
    return Told(panel.name, f"{panel.count} × {panel.material}", tuple(figures), tuple(rows), why[:1].upper() + why[1:])


def told_run(run: Run, shop: Shop, units: UnitSystem) -> Told:
    """A run of pipe."""
    joints, volume = cement([run])
    length = shown(run.length, "run", units).split()
    rows = [(f"Piece {p.number}{_ends(p)}", shown(p.length, "length", units)) for p in run.pieces]
    rows.append(("Sockets to cement", f"{joints}"))
    rows.append(("Cement", shown(volume, "small_volume", units)))
    short = [p for p in run.pieces if p.short > 0]
    why = (
        "Each piece is the drawing's run less what its fittings take off, from their middle to where the pipe stops;"
        f" typical sockets, ±{shown(0.003, 'length', units)}: dry-fit before you cement. Turns that the drawing does"
        " not place are spread evenly."
    )
    if short:
        lacks = shown(sum(p.short for p in short), "length", units)
        why = f"This run is {lacks} too short for its fittings' sockets: give it more room, or fewer turns. " + why
    times = f"{run.count} times" if run.count > 1 else "once"
    name = fill(pipe_size(run.pipe).name, {}, units)
    figures = ((length[0], length[1], "along its middle"), (f"{len(run.pieces)}", "", "pieces"))
    return Told(run.title, f"{name}, {times}", figures, tuple(rows), why)


def _ends(piece: CutPiece) -> str:
    """What a piece joins."""
    ends = {piece.start.kind, piece.end.kind}
    return "" if ends == {"end"} else f", {name_of(piece.start.kind)} to {name_of(piece.end.kind)}"


def told_lengths(pipe: str, lengths: Lengths, shop: Shop, units: UnitSystem) -> Told:
    """Pieces of one pipe on the lengths that are sold."""
    name = fill(pipe_size(pipe).name, {}, units)
    used = sum(length for bar in lengths.bars for _, length in bar.pieces)
    whole = sum(bar.length for bar in lengths.bars)
    figures = (
        (f"{lengths.bought}", "", f"lengths of {shown(shop.bar, 'run', units)} to buy"),
        (f"{100 * (1 - used / whole):.0f}" if whole else "0", "%", "left over"),
    )
    own = sum(bar.own for bar in lengths.bars)
    rows = [
        ("Pieces", f"{sum(len(bar.pieces) for bar in lengths.bars)}"),
        ("In all", shown(used, "run", units)),
        ("From your leftovers", f"{own}"),
    ]
    cut = shown(0.002, "fine_length", units)
    why = f"Leftovers are filled first, each as full as may be; then as few lengths as possible, {cut} for each cut."
    if lengths.unfit:
        why = f"{len(lengths.unfit)} pieces are longer than a length: join them with a socket. " + why
    return Told(name, "cut from lengths", figures, tuple(rows), why)


def told_piece(piece: Piece, units: UnitSystem) -> Told:
    """Any piece, by its line of the list."""
    said = row(piece, units)
    rows = [("How many", said.many)]
    if said.size:
        rows.append(("Size", said.size))
    return Told(said.what, said.group, (), tuple(rows), said.note[:1].upper() + said.note[1:])


def told_holes(name: str, holes: tuple[Hole, ...], units: UnitSystem) -> Told:
    """Holes through a face."""
    rows = []
    for k, hole in enumerate(holes, 1):
        if hole.x is not None and hole.y is not None:
            at = f"{shown(hole.x, 'length', units)} · {shown(hole.y, 'length', units)}"
            rows.append((f"Hole {k}, {shown(hole.diameter, 'length', units)}: from left · from back", at))
    why = (
        "Measure your own fitting before you drill: its thread passes, its flange and gasket do not. Keep a hole's"
        " width of glass to every edge and between holes. Tempered glass shatters when drilled."
    )
    return Told(name, "seen from above", ((f"{len(holes)}", "", "holes"),), tuple(rows), why)
