"""Quick answers about building. Functions take and give SI."""

from __future__ import annotations

from collections.abc import Mapping

from fuente.answers.question import Answer, Input, Output
from fuente.catalogue import bulkhead as find_bulkhead
from fuente.errors import EntryError
from fuente.structure import plates


def glass_thickness(
    length: float,
    width: float,
    depth: float,
    brace: str = "rimless",
    material: str = "glass",
    bed: str = "edges",
    thickness: float = 0.0,
    strip: float = 0.0,
    school: str = "workshop",
) -> Mapping[str, float]:
    """Thickness of the long wall and the bottom of a tank under water to its brim.

    Thin plates by Lévy's series: foot and sides held, top free (rimless), stiffened by a strip as thick as the wall
    (ring) or held (braced); the bottom on its edges or on a full bed. Glass 19.2 MPa over a safety of 3.8, or 7 MPa by
    the long-duration rule; acrylic 5 MPa and 1/200 of the span; plywood 6 MPa and 1/250. stress, safety and
    deflection are the wall's, at the thickness given or needed. ±10 %; an estimate for planning, not an engineer's
    certificate.
    """
    if min(length, width, depth) <= 0:
        raise EntryError("length, width and depth must be above zero.")
    allowable = plates.ALLOWED[school] if material == "glass" else None
    long_side = max(length, width)
    base = plates.bottom(length, width, depth, None, material=material, full_bed=bed == "full", allowable=allowable)
    if brace == "ring":
        from fuente.structure.vessels import Ring, vessel

        if strip <= 0:
            raise EntryError("Say how wide the strips at the rim are.")
        first = thickness or plates.wall(long_side, depth, material=material, braced=True).needed
        wall = vessel(long_side, width, depth, first, material=material, rim="ring", ring=Ring(strip, first)).long
        if not thickness:
            again = Ring(strip, wall.needed)
            wall = vessel(long_side, width, depth, wall.needed, material=material, rim="ring", ring=again).long
    else:
        braced = brace == "braced"
        wall = plates.wall(long_side, depth, thickness or None, material=material, braced=braced, allowable=allowable)
    return {
        "wall_thickness": wall.needed,
        "bottom_thickness": base.needed,
        "stress": wall.stress,
        "safety": wall.safety,
        "deflection": wall.deflection,
    }


def bulkhead(size: str) -> Mapping[str, float]:
    """Hole for a bulkhead fitting: its thread passes, its flange and gasket do not.

    Typical of many makers, which differ by millimetres: measure your own fitting before you drill. Keep one hole's
    width of glass to any edge. Tempered glass shatters when drilled.
    """
    found = find_bulkhead(size)
    return {
        "hole_min": found.hole_min,
        "hole_max": found.hole_max,
        "saw": found.saw,
        "edge_distance": found.edge_distance,
        "flange": found.flange,
        "bore": found.bore,
    }


# Other words for the same, as people type them.
_BRACE = {
    **dict.fromkeys(("none", "no", "false", "0", "open", "free", "unbraced"), "rimless"),
    **dict.fromkeys(("yes", "true", "1", "full", "rim", "brace"), "braced"),
}

BUILDING = (
    Answer(
        "glass-thickness",
        "Glass for a tank",
        (
            Input("length", "length", "Length inside"),
            Input("width", "length", "Width inside"),
            Input("depth", "length", "Water depth, to the brim"),
            Input("brace", "word", "Top edges", "rimless", ("rimless", "ring", "braced"), synonyms=_BRACE),
            Input("material", "word", "Sheet", "glass", ("glass", "acrylic", "plywood")),
            Input("bed", "word", "Bottom on", "edges", ("edges", "full")),
            Input("thickness", "length", "Judge this thickness, 0 for none", "0 mm"),
            Input("strip", "length", "Strips of the ring, wide", "50 mm"),
            Input("school", "word", "Allowable stress in glass", "workshop", ("workshop", "long")),
        ),
        (
            Output("wall_thickness", "fine_length", "wall needs"),
            Output("bottom_thickness", "fine_length", "bottom needs"),
            Output("stress", "pressure", "stress in the wall"),
            Output("safety", "number", "safety"),
            Output("deflection", "fine_length", "bows by"),
        ),
        glass_thickness,
        ("thick", "acrylic", "wall", "panel"),
    ),
    Answer(
        "bulkhead",
        "Hole for a bulkhead",
        (Input("size", "word", "Size, such as 1 in or 32 mm"),),
        (
            Output("hole_min", "length", "smallest hole"),
            Output("hole_max", "length", "largest hole"),
            Output("saw", "length", "usual saw"),
            Output("edge_distance", "length", "keep from edges"),
            Output("flange", "length", "flange"),
            Output("bore", "fine_length", "bore"),
        ),
        bulkhead,
        ("hole saw", "drill", "fitting"),
    ),
)
