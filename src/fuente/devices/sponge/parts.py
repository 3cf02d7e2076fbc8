"""What a sponge or box is made of."""

from __future__ import annotations

import math
from dataclasses import replace

from fuente.devices.filtering import Site
from fuente.devices.pieces import Pad, Parts, Piece, Shelf, box_of, media_of, note, tool
from fuente.devices.pocket_shown import pocket_parts
from fuente.devices.sponge.spec import Sponge
from fuente.network.model import Solution


def parts(spec: Sponge, site: Site, solution: Solution) -> Parts:
    """Block, tubes, weight."""
    if spec.style == "box":
        return _box(spec, site) + pocket_parts(spec, site)
    block = Pad(
        id=f"{spec.id}.foam",
        form="Foam block",
        ppi=spec.ppi,
        length=spec.length,
        width=spec.width,
        thickness=spec.height,
        notes=(note(f"bore {spec.tubes} holes for the tubes a little tight"),),
    )
    rest = tool(f"{spec.id}.foot", "Weighted foot, ceramic or stone", note("no metal"), shelf=Shelf.EQUIPMENT)
    return Parts((rest, block)) + pocket_parts(spec, site)


def _box(spec: Sponge, site: Site) -> Parts:
    """Box, its media in one filling or in bags that one person lifts, and what lies on top."""
    slots = note("open on top, a grid in it" if spec.matted else "slots smaller than the media")
    name = "Box, food-safe plastic" if spec.matted else "Slotted box, food-safe plastic"
    found: list[Piece] = [box_of(f"{spec.id}.box", name, spec.length, spec.width, spec.height, slots)]
    for k, (key, volume) in enumerate(spec.filling):
        own = f"{spec.id}.bag.{k}" if spec.bags else f"{spec.id}.media"
        made = media_of(own, site.medium(key), volume)
        if spec.bags:
            made = replace(made, bags=max(math.ceil((made.wet or 0.0) / site.space.lift), 1))
        found.append(made)
    if spec.matted:
        foam = spec.top == "foam"
        found.append(
            Pad(
                id=f"{spec.id}.mat",
                form="Foam mat" if foam else "Fleece",
                stuff="foam" if foam else "floss",
                ppi=spec.ppi if foam else 0.0,
                length=spec.length,
                width=spec.width,
                thickness=spec.mat,
                notes=(note("lies close all round, so that no water goes past"),),
            )
        )
        found.append(tool(f"{spec.id}.grid", "Grid under the mat", note("food-safe plastic"), shelf=Shelf.EQUIPMENT))
    return Parts(tuple(found))
