"""What a trickle tower is made of."""

from __future__ import annotations

from fuente.catalogue import medium
from fuente.devices.base import Part, Parts
from fuente.devices.filtering import Site
from fuente.devices.plumbing_shown import line_parts
from fuente.devices.trickle_tower.spec import TrickleTower
from fuente.network.model import Solution


def parts(spec: TrickleTower, site: Site, solution: Solution) -> Parts:
    """Base, packing, trays."""
    stuff = medium(spec.medium)
    size = {"l": spec.length, "w": spec.width, "h": spec.base, "o": spec.hole, "t": spec.tray}
    count = spec.trays if spec.style == "trays" else 1
    found = [
        Part(
            f"{spec.id}.base",
            "Base, food-safe box",
            1,
            "piece",
            "Equipment",
            "{l:length:bare} × {w:length:bare} × {h:length}",
            "",
            size,
        ),
        Part(
            f"{spec.id}.trays",
            "Tray or grid with holes that carries the packing",
            count,
            "piece",
            "Equipment",
            "{l:length:bare} × {w:length}",
            "",
            size,
        ),
        Part(
            f"{spec.id}.spread",
            "Spreading tray",
            1,
            "piece",
            "Equipment",
            "{l:length:bare} × {w:length:bare} × {t:length}",
            "set it level",
            size,
        ),
        Part(
            f"{spec.id}.holes",
            "Hole to drill in it",
            spec.holes,
            "piece",
            "Holes",
            "{o:fine_length}",
            "in an even grid",
            size,
        ),
        Part(
            f"{spec.id}.media",
            stuff.name,
            round(spec.bulk * 1000, 1),
            "L",
            "Media",
            "",
            f"{spec.bulk * stuff.wet_density():.0f} kg wet",
        ),
    ]
    caution = "Structure: a wet tower is heavy at its top; fix it to the wall."
    return Parts((), tuple(found), (caution,)) + line_parts(spec, site)
