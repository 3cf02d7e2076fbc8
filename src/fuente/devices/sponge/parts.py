"""What a sponge or box is made of."""

from __future__ import annotations

from fuente.devices.filtering import Site
from fuente.devices.pieces import Pad, Parts, Piece, Shelf, box_of, media_of, note, tool
from fuente.devices.pocket_shown import pocket_parts
from fuente.devices.sponge.spec import Sponge
from fuente.network.model import Solution


def parts(spec: Sponge, site: Site, solution: Solution) -> Parts:
    """Block, tubes, weight."""
    if spec.style == "sponge":
        block: Piece = Pad(
            id=f"{spec.id}.foam",
            form="Foam block",
            ppi=spec.ppi,
            length=spec.length,
            width=spec.width,
            thickness=spec.height,
            notes=(note(f"bore {spec.tubes} holes for the tubes a little tight"),),
        )
        rest = tool(f"{spec.id}.foot", "Weighted foot, ceramic or stone", note("no metal"), shelf=Shelf.EQUIPMENT)
    else:
        block = media_of(f"{spec.id}.media", site.medium(spec.medium), spec.block)
        name, slots = "Slotted box, food-safe plastic", note("slots smaller than the media")
        rest = box_of(f"{spec.id}.box", name, spec.length, spec.width, spec.height, slots)
    return Parts((rest, block)) + pocket_parts(spec, site)
