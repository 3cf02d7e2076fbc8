"""Steps of a box of panels: cleaned, dry-fitted, its shell glued, then what stands in it."""

from __future__ import annotations

import math

from fuente.devices.pieces import (
    Face,
    Note,
    Panel,
    Parts,
    note,
)
from fuente.devices.shop import Shop
from fuente.workshop.joints import beads, cartridges, cure_of
from fuente.workshop.step import GLUE, HEAVY, LIFT, Step


def box_steps(owner: str, title: str, parts: Parts, shop: Shop, lift: float) -> list[Step]:
    """A box of panels: cleaned, dry-fitted, its shell glued, then what stands in it."""
    panels = [p for p in parts.panels if p.body]
    shell = [p for p in panels if p.faces]
    inner = [p for p in panels if not p.faces and p.bonded]
    loose = [p for p in panels if not p.faces and not p.bonded]
    if not panels:
        return []
    heavy = max(p.mass for p in panels)
    hands = 2 if heavy > min(lift, HEAVY) or shell else 1
    count = sum(p.count for p in panels)
    found = [
        Step(
            f"{owner}:clean",
            title,
            Note("Check and clean the panels"),
            (
                note(f"Measure all {count} panels against the list, and their edges by a straight edge"),
                note("Wipe every edge that is glued with alcohol on a fresh cloth; touch none of them again"),
            ),
            note("sizes within 1 mm, edges ground, no chip at a glued edge"),
            5 + 3.0 * count,
            1,
            ("tape measure", "alcohol", "lint-free cloth", "gloves"),
            (GLUE, LIFT) if heavy > lift else (GLUE,),
        )
    ]
    if shell:
        found += _shell_steps(owner, title, shell, shop, hands)
    if inner:
        found += _inner_steps(owner, title, inner, shop, bool(shell))
    if loose:
        found.append(
            Step(
                f"{owner}:ledges",
                title,
                Note("Lay in what comes out again"),
                tuple(Note(_rests(p)) for p in loose),
                note("lifts out with one hand and does not rock"),
                10.0 * len(loose),
                shows=loose[0].id,
            )
        )
    return found


def _rests(panel: Panel) -> str:
    return f"{panel.name} on its ledges, a finger's hole or a knob to lift it by"


def _shell_steps(owner: str, title: str, shell: list[Panel], shop: Shop, hands: int) -> list[Step]:
    by = {face: p for p in shell for face in p.faces}
    order = [f for f in (Face.FLOOR, Face.BACK, Face.LEFT, Face.RIGHT, Face.FRONT) if f in by]
    acrylic = all(p.material == "acrylic" for p in shell)
    across = _diagonal(by)
    found = [
        Step(
            f"{owner}:dry",
            title,
            Note("Dry-fit the box"),
            (
                Note(
                    "Stand it up with tape alone, in the order of gluing: the bottom, then "
                    + ", ".join(f.value for f in order if f is not Face.FLOOR)
                    + (" on it" if shop.walls == "on" else " round it")
                ),
                note("Put tape along both sides of every seam, a bead's width away"),
            ),
            note("both diagonals of the rim {d:length}, within 1 mm of each other", d=across),
            25,
            hands,
            ("masking tape", "square", "tape measure", "spacers"),
            (LIFT,),
            shows=f"plan.{owner}",
        )
    ]
    total = beads(shell, shop)
    volume = sum(b.volume for b in total)
    length = sum(b.length for b in total)
    what = "solvent cement along every edge, from a needle" if acrylic else "a bead of {g:fine_length} on every edge"
    tubes = "" if acrylic else f", {_cartridges(volume, shop)}"
    act = [note(f"In one go, {what}: {{l:run}} in all{tubes}", g=shop.glue * 3, l=length)]
    for face in order:
        words = {
            Face.FLOOR: "the bottom, flat on its foam or board",
            Face.BACK: "the back; tape holds it upright",
            Face.LEFT: "the left end, against the back",
            Face.RIGHT: "the right end, against the back",
            Face.FRONT: "the front last, with the second pair of hands",
        }[face]
        act.append(Note(f"Set {words}"))
    act.append(note("Press until the glue is {g:fine_length} thick everywhere, tape at three heights", g=shop.glue))
    found.append(
        Step(
            f"{owner}:shell",
            title,
            Note("Glue the shell"),
            tuple(act),
            note("diagonals {d:length} again, walls square to the bottom, no gap in any seam", d=across),
            15 + 6.0 * len(order),
            max(hands, 2),
            ("caulking gun", "silicone without mould-stop", "tape", "square"),
            (GLUE, LIFT),
            shows=shell[0].id,
        )
    )
    found.append(
        Step(
            f"{owner}:fillet",
            title,
            Note("Draw the inner fillet"),
            (
                note(
                    "A bead of {b:fine_length} along every inner corner, drawn in one go; tape off while it is wet",
                    b=shop.bead,
                ),
                note("Leave it where it stands; do not lean on it"),
            ),
            note("one smooth bead without a bubble or a step"),
            20,
            1,
            ("caulking gun", "fillet tool", "tape"),
            (GLUE,),
            cure_of(shell, shop),
            "the shell's beads to cure",
            shows=f"plan.{owner}",
        )
    )
    return found


def _cartridges(volume: float, shop: Shop) -> str:
    count = cartridges(volume, shop)
    return f"{count} cartridge{'s' if count > 1 else ''}"


def _diagonal(by: dict[Face, Panel]) -> float:
    """Of the rim, m, over the outer edges."""
    xs = [(p.x, p.x + _span(panel, p.lies, "x")) for panel in by.values() for p in panel.places]
    ys = [(p.y, p.y + _span(panel, p.lies, "y")) for panel in by.values() for p in panel.places]
    return math.hypot(max(b for _, b in xs) - min(a for a, _ in xs), max(b for _, b in ys) - min(a for a, _ in ys))


def _span(panel: Panel, lies: str, axis: str) -> float:
    if axis not in lies:
        return panel.thickness
    return panel.length if lies.index(axis) == 0 else panel.width


def _inner_steps(owner: str, title: str, inner: list[Panel], shop: Shop, in_shell: bool) -> list[Step]:
    marks = []
    for p in (p for p in inner if p.bonded > 1):  # a comb lies on its baffle
        for place in p.places:
            along = place.x if place.lies == "yz" else place.y
            marks.append(note("{x:length} from the left outer face, {z:length} up", of=p.name, x=along, z=place.z))
    volume = sum(b.volume for b in beads(inner, shop))
    found = [
        Step(
            f"{owner}:mark",
            title,
            Note("Mark where the inner panels stand"),
            tuple(marks),
            note(
                "marks on both long walls at one height and distance; each panel slides in with {c:fine_length} at"
                " each side",
                c=shop.clearance,
            ),
            5 + 3.0 * len(inner),
            1,
            ("tape measure", "grease pencil", "square"),
            shows=f"plan.{owner}",
        ),
        Step(
            f"{owner}:baffles",
            title,
            Note("Glue what stands inside"),
            (
                note(f"Along the water, each on its spacers, beaded on both sides: {_cartridges(volume, shop)} in all"),
                *(Note(_foot(p)) for p in inner),
            ),
            note("upright by the square, crest level from wall to wall, spacers come out without pull"),
            8.0 * len(inner) + 10,
            2,
            ("caulking gun", "spacers", "square", "tape"),
            (GLUE,),
            cure_of(inner, shop) + shop.before_water,
            "all beads to cure, then to stand dry before water",
            shows=inner[0].id,
        ),
    ]
    return found


def _foot(panel: Panel) -> str:
    if panel.bonded == 1:
        return f"{panel.name}: flat on it"
    return f"{panel.name}: " + ("foot and both sides" if panel.bonded >= 3 else "both sides, its foot stays open")
