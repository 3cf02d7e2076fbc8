"""What an ornament filter is made of."""

from __future__ import annotations

from fuente.catalogue import medium
from fuente.devices.base import Part, Parts
from fuente.devices.filtering import Site
from fuente.devices.ornament.judge import stone_needed
from fuente.devices.ornament.spec import FORMS, SHELLS, Ornament
from fuente.devices.pocket import pocket_parts
from fuente.network.model import Solution

FOOD_SAFE = "Ornaments: food-safe and smooth, no metal, no paint that comes off, no edge that cuts, no trap for a fish."


def parts(spec: Ornament, site: Site, solution: Solution) -> Parts:
    """Shell, gaps, layers, ballast, drive."""
    size = {"w": spec.width, "h": spec.height, "g": spec.gap, "gh": spec.gap_height, "v": spec.volume, "f": spec.foam}
    words = "{v:volume}" if spec.form == "litres" else "{w:length:bare} × {h:length}"
    found = [
        Part(
            f"{spec.id}.shell",
            f"Hollow ornament, {FORMS[spec.form]}, {SHELLS[spec.shell]}",
            1,
            "piece",
            "Equipment",
            words,
            "",
            size,
        ),
        Part(
            f"{spec.id}.gaps",
            "Gap to cut",
            spec.gaps,
            "piece",
            "Holes",
            "{g:fine_length} × {gh:length}",
            "at its foot; round every edge",
            size,
        ),
    ]
    what = "airline" if spec.drive == "air" else "cable: a slot from the edge, its plug does not pass a hole"
    found.append(
        Part(
            f"{spec.id}.exit",
            "Exit to drill",
            1,
            "piece",
            "Holes",
            "{e:fine_length}",
            f"at its back, smooth, for the {what}",
            {"e": spec.exit},
        )
    )
    if spec.ppi and spec.foam > 0:
        found.append(
            Part(
                f"{spec.id}.foam",
                f"Foam layer, {spec.ppi:g} ppi",
                1,
                "piece",
                "Media",
                "{f:length} thick",
                "cut a little larger than the cavity",
                size,
            )
        )
    if spec.media > 0:
        stuff = medium(spec.medium)
        found.append(
            Part(
                f"{spec.id}.media",
                stuff.name,
                round(spec.media * 1000, 2),
                "L",
                "Media",
                "",
                "in a bag that comes out in one piece",
            )
        )
    stone = max(stone_needed(spec), spec.ballast)
    if stone > 0.01:
        found.append(
            Part(
                f"{spec.id}.ballast",
                "Ballast, stone",
                round(stone, 1),
                "kg",
                "Equipment",
                "",
                "under the layers, so that it stays down",
            )
        )
    if spec.lid:
        found.append(
            Part(
                f"{spec.id}.lid",
                "Lid or plate that lifts",
                1,
                "piece",
                "Equipment",
                "",
                "to reach the media without a tear-down",
            )
        )
    return Parts((), tuple(found), (FOOD_SAFE,)) + pocket_parts(spec, site)
