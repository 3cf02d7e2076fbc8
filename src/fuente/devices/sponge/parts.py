"""What a sponge or box is made of."""

from __future__ import annotations

from fuente.catalogue import medium
from fuente.devices.base import Part, Parts
from fuente.devices.filtering import Site
from fuente.devices.pocket import pocket_parts
from fuente.devices.sponge.spec import Sponge
from fuente.network.model import Solution


def parts(spec: Sponge, site: Site, solution: Solution) -> Parts:
    """Block, tubes, weight."""
    size = {"l": spec.length, "w": spec.width, "h": spec.height}
    if spec.style == "sponge":
        block = Part(
            f"{spec.id}.foam",
            f"Foam block, {spec.ppi:g} ppi",
            1,
            "piece",
            "Media",
            "{l:length:bare} × {w:length:bare} × {h:length}",
            f"bore {spec.tubes} holes for the tubes a little tight",
            size,
        )
        rest = Part(f"{spec.id}.foot", "Weighted foot, ceramic or stone", 1, "piece", "Equipment", "", "no metal")
    else:
        stuff = medium(spec.medium)
        block = Part(
            f"{spec.id}.media",
            stuff.name,
            round(spec.block * 1000, 2),
            "L",
            "Media",
            "",
            f"{spec.block * stuff.wet_density():.1f} kg wet",
        )
        rest = Part(
            f"{spec.id}.box",
            "Slotted box, food-safe plastic",
            1,
            "piece",
            "Equipment",
            "{l:length:bare} × {w:length:bare} × {h:length}",
            "slots smaller than the media",
            size,
        )
    return Parts((), (rest, block)) + pocket_parts(spec, site)
