"""Sums of quick answers about cutting, drilling and joining. Functions take and give SI."""

from __future__ import annotations

import math
from collections.abc import Mapping

from fuente.catalogue import FITTINGS, PIPES, PipeSize, saws_sold, socket_depth, take_off
from fuente.errors import EntryError
from fuente.structure.vessels import beam_sag
from fuente.structure.vessels import wet_weight as weigh
from fuente.structure.walls import PVC_E, largest_flange, stands_off
from fuente.typed import parse
from fuente.workshop.lattice import pads_from
from fuente.workshop.nesting import nest as laid_out
from fuente.workshop.sheet_cuts import Board, Item

WEEK = 7 * 86400.0
GLUE, SIDE = 0.001, 0.001  # m
CURE = 86400.0 / 2.5e-3  # s for each m of a bead


def panel_list(
    length: float,
    width: float,
    height: float,
    thickness: float,
    bottom: float = 0.0,
    walls: str = "on",
    ends: str = "between",
    glue: float = GLUE,
) -> Mapping[str, float]:
    """Panels of a glass box by its outside sizes and the order of its joints.

    Walls stand on the bottom or round it; ends between front and back or outside them; a glue gap at every joint.
    """
    base = bottom or thickness
    within = 2 * thickness + 2 * glue
    on, between = walls == "on", ends == "between"
    tall = height - base - glue if on else height
    found = {
        "bottom_length": length if on else length - within,
        "bottom_width": width if on else width - within,
        "long_length": length if between else length - within,
        "long_height": tall,
        "end_length": width - within if between else width,
        "end_height": tall,
        "baffle_length": width - 2 * thickness - 2 * SIDE,
    }
    if min(found.values()) <= 0:
        raise EntryError("Its walls leave no room inside.")
    area = length * width if on else found["bottom_length"] * found["bottom_width"]
    glass = area * base + 2 * (found["long_length"] + found["end_length"]) * tall * thickness
    return {**found, "mass": glass * 2500.0}


def sheet_pads(
    sheet_length: float,
    sheet_width: float,
    pad_length: float,
    pad_width: float,
    overlap: float = 0.0,
    kerf: float = 0.0,
    changed: float = 4 * WEEK,
    at_once: float = 1.0,
    price: float = 0.0,
) -> Mapping[str, float]:
    """Pads out of a sheet: rows both ways, mixed, and five blocks round a middle.

    ``overlap`` is what a pad is cut larger than its place, in all, to hold tight; ``at_once`` are changed together.
    """
    made = pads_from(sheet_length, sheet_width, pad_length + overlap, pad_width + overlap, kerf)
    if at_once < 1 or at_once != int(at_once):
        raise EntryError("Say how many pads are changed at once as a whole number, from 1.")
    return {
        "count": float(made.count),
        "waste": made.waste,
        "bound": float(made.bound),
        "weeks": made.count // int(at_once) * changed,
        "each": price / made.count if made.count else 0.0,
    }


def nest(
    pieces: str, sheet_length: float, sheet_width: float, kerf: float = 0.0, trim: float = 0.0
) -> Mapping[str, float]:
    """Panels on equal sheets by cuts from edge to edge: pieces such as 900x400*2, 382x391, in mm unless said.

    Several hundred layouts; the one with the fewest sheets, then the largest piece left over.
    """
    items = []
    for k, part in enumerate(filter(None, (p.strip() for p in pieces.replace(";", ",").split(",")))):
        sizes, _, many = part.lower().replace("×", "x").partition("*")
        sides = sizes.split("x")
        if len(sides) != 2 or (many and not many.strip().isdigit()):
            raise EntryError(f"pieces: “{part[:30]}” is not a size; type 900x400*2, 382x391.")
        a, b = (parse(s if any(c.isalpha() for c in s) else f"{s} mm", "length") for s in sides)
        items += [Item(f"{k}.{n}", a, b) for n in range(int(many or 1))]
    if not items:
        raise EntryError("pieces: type sizes, such as 900x400*2, 382x391*2.")
    made = laid_out(items, [Board("sheet", sheet_length, sheet_width)], kerf=kerf, trim=trim)
    if made.unfit:
        raise EntryError(f"{len(made.unfit)} pieces are larger than the sheet.")
    offcut = max((r.area for n in made.nests for r in n.offcuts), default=0.0)
    return {
        "sheets": float(len(made.nests)),
        "waste": made.waste,
        "bound": made.bound,
        "cuts": float(sum(len(n.cuts) for n in made.nests)),
        "cut_length": sum(c.length for n in made.nests for c in n.cuts),
        "largest_left": offcut,
    }


def hole(
    thread: float, flange: float, gasket: float = 0.003, wall: float = 0.0, soft: float = 0.0
) -> Mapping[str, float]:
    """The hole for the fitting in your hand: its thread passes with a millimetre, and its gasket still lies on 4 mm all
    round. On a round wall of a diameter its flange must not fall away by more than a third of the gasket; ``soft`` is
    the thickness of a wall that gives (polyethylene), to 1 % of strain in its skin.
    """
    if thread <= 0 or flange <= thread + 0.004:
        raise EntryError("A flange is wider than its thread: measure both again.")
    low, high = thread + 0.001, max(flange - 0.008, thread + 0.001)
    saw = next((s for s in saws_sold() if low <= s <= high), low)
    found = {"smallest": low, "largest": high, "saw": saw, "edge": saw, "stands_off": 0.0, "takes_up": gasket / 3}
    if wall > 0:
        if wall <= flange:
            raise EntryError("The wall is narrower than the flange.")
        found["stands_off"] = stands_off(wall, flange, soft)
    return found


def hole_edge(
    diameter: float, x: float, y: float, length: float, width: float, apart: float = 0.0
) -> Mapping[str, float]:
    """Glass from a hole's rim to the nearest edge, and to a neighbour whose middle is ``apart`` away.

    Keep a hole's width to every edge and between holes: drilled glass breaks along the shortest way out.
    """
    if not (0 < x < length and 0 < y < width) or diameter <= 0:
        raise EntryError("The hole's middle lies outside the panel.")
    edge = min(x, y, length - x, width - y) - diameter / 2
    between = apart - diameter if apart > 0 else math.inf
    return {
        "edge": edge,
        "between": between if math.isfinite(between) else 0.0,
        "keep": diameter,
        "margin": min(edge, between) - diameter,
    }


def drum_hole(drum: float, flange: float, gasket: float = 0.003, soft: float = 0.0) -> Mapping[str, float]:
    """Whether a bulkhead seats on a round wall: the sagitta of its flange, r − √(r² − (d/2)²), against a third of the
    gasket. The gasket goes outside, where the curve presses its middle. ``soft`` is the thickness of a wall
    that gives (polyethylene): it flattens until its skin is strained by 1 %, an assumption for years.
    """
    if not 0 < flange < drum:
        raise EntryError("A flange is narrower than its drum.")
    falls = stands_off(drum, flange, soft)
    return {
        "stands_off": falls,
        "takes_up": gasket / 3,
        "margin": gasket / 3 - falls,
        "largest_flange": largest_flange(drum, gasket, soft),
    }


def frame_sag(span: float, outside: float, wall: float, load: float, ends: str = "free") -> Mapping[str, float]:
    """How far a tray's or a lid's tube sags under an even load in kg over its whole span: 5wL⁴/(384EI), plastic pipe of
    2.8 GPa; a fifth of it where both ends are held fast. Plastic creeps: count on twice that after a year.
    """
    if not 0 < 2 * wall < outside or span <= 0 or load < 0:
        raise EntryError("A tube has a wall thinner than its radius, and a span.")
    inertia = math.pi / 64 * (outside**4 - (outside - 2 * wall) ** 4)
    sag = beam_sag(load * 9.80665 / span, span, PVC_E, inertia, ends)
    return {"sag": sag, "share": sag / span, "after_a_year": 2 * sag}


def wet_weight(
    length: float,
    width: float,
    depth: float,
    thickness: float,
    gravel: float = 0.0,
    stand: float = 0.0,
    legs: float = 4.0,
    material: str = "glass",
) -> Mapping[str, float]:
    """What a full tank weighs, on each leg and on each square metre of its footprint. The leg that bears most counts
    with half as much again. A floor is judged by a structural engineer.
    """
    if legs != int(legs):
        raise EntryError("Legs come whole.")
    made = weigh(length, width, depth, thickness, material=material, gravel=gravel, stand=stand, legs=int(legs))
    return {
        "total": made.total,
        "water": made.water,
        "glass": made.glass,
        "per_leg": made.per_leg,
        "per_area": made.per_area,
    }


def cement(pipe: str, joints: float) -> Mapping[str, float]:
    """Solvent cement for so many sockets of a pipe: a film of 0.3 mm in each, and as much again lost; primer about the
    same. ±50 %.
    """
    if joints < 1 or joints != int(joints):
        raise EntryError("Say how many sockets as a whole number, from 1.")
    size = _pipe(pipe)
    volume = joints * math.pi * size.outside * socket_depth(size) * 0.3e-3 * 2
    return {"cement": volume, "primer": volume, "depth": socket_depth(size)}


def silicone(
    length: float, width: float, height: float, thickness: float, bead: float = 0.006, glue: float = GLUE
) -> Mapping[str, float]:
    """Silicone for a glass box: the glue under and between its panels, and one fillet along every inner corner.

    Curing a day for 2.5 mm of depth, unless the tube's label says otherwise; then days until water.
    """
    if min(length, width, height, thickness) <= 0:
        raise EntryError("A box needs sizes above nothing.")
    seams = 2 * (length + width) + 4 * height
    volume = seams * (glue * thickness + bead**2 / 2)
    return {
        "seams": seams,
        "volume": volume,
        "cartridges": float(math.ceil(volume * 1.2 / 0.31e-3)),
        "cure": CURE * max(bead, thickness / 2),
    }


def pipe_cuts(
    run: float, pipe: str, first: str = "elbow", last: str = "elbow", between: str = ""
) -> Mapping[str, float]:
    """The pipe to cut for a run between two fittings, from middle to middle, with others in its line.

    Each fitting takes off what its middle is from where the pipe stops; typical moulded sockets, ±3 mm. ``between`` is
    a list such as union, ball valve.
    """
    size = _pipe(pipe)
    inner = [_kind(w) for w in filter(None, (p.strip() for p in between.split(",")))]
    off = sum(_off(_kind(k), size) for k in (first, last)) + 2 * sum(_off(k, size) for k in inner)
    cut = run - off
    pieces = len(inner) + 1
    least = pieces * 2 * socket_depth(size)
    if cut < least:
        raise EntryError(f"The run is {(least - cut) * 1000:.0f} mm too short for the sockets of its fittings.")
    return {"cut": cut, "taken_off": off, "pieces": float(pieces), "each": cut / pieces, "depth": socket_depth(size)}


def _off(kind: str, size: PipeSize) -> float:
    return 0.0 if kind == "end" else take_off(kind, size) or 0.0


def _kind(words: str) -> str:
    """A fitting as builders say it."""
    wanted = words.strip().lower().replace("-", " ")
    if wanted in ("end", "none", "plain", "open"):
        return "end"
    for key, each in FITTINGS.items():
        if (wanted in (key, key.replace("_", " ")) or each.name.lower().startswith(wanted)) and wanted:
            return key
    raise EntryError(f"“{words[:30]}” is no fitting; say elbow, elbow 45, tee, union, ball valve, check valve or end.")


def _pipe(words: str) -> PipeSize:
    """A pipe by its id, or by its nominal size in its usual grade: 32 mm, 1 in."""
    wanted = words.strip().lower().replace(" ", "")
    if wanted in PIPES:
        return PIPES[wanted]
    if wanted.endswith("in"):
        from fractions import Fraction

        try:
            nominal = float(sum(Fraction(p) for p in words.lower().replace("in", "").split()))
        except ValueError:
            nominal = 0.0
        found = PIPES.get(f"{nominal:g}in-40")
    else:
        number = wanted.removesuffix("mm")
        found = PIPES.get(f"{number}-pn10") or PIPES.get(f"{number}-pn16")
    if found is None:
        raise EntryError(f"“{words[:30]}” is no pipe size; type 32 mm or 1 in.")
    return found
