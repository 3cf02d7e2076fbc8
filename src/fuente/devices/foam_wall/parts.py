"""What a foam wall is made of."""

from __future__ import annotations

import math
from dataclasses import replace

from fuente.devices.filtering import Site
from fuente.devices.foam_wall.spec import VEE, FoamWall
from fuente.devices.pieces import Face, Hole, Note, Pad, Parts, Piece, Shelf, Thing, media_of, note
from fuente.devices.pocket_shown import pocket_parts
from fuente.network.model import Solution

SILICONE = (
    "Silicone: ventilate, wear gloves, no flame; about a day for each 2 to 3 mm of depth, then wait a week before"
    " water."
)
RAIL = 0.015  # m, the width of a strip that holds the foam


def cut_size(spec: FoamWall) -> tuple[float, float]:
    """Width and height in m to cut each pad to, with its squeeze; a corner's pad by its middle line."""
    return spec.face / spec.beside * (1 + spec.squeeze), spec.foam_height * (1 + spec.squeeze)


def parts(spec: FoamWall, site: Site, solution: Solution) -> Parts:
    """Pads, rails, dam, spacers, notch, drive."""
    found: list[Piece] = [*_pads(spec), *_strips(spec, site)]
    tight = note("in the foam's top edge, as wide as the tube and tight round it")
    found.append(
        Hole(
            id=f"{spec.id}.notch",
            name="Notch for the mouth",
            body=found[0].id,
            face=Face.LID,
            count=spec.tubes,
            notes=(tight,),
        )
    )
    if spec.media > 0:
        bags = media_of(f"{spec.id}.media", site.medium(spec.medium), spec.media)
        found.append(replace(bags, bags=max(math.ceil((bags.wet or 0.0) / site.space.lift), 1)))
    return Parts(tuple(found), (SILICONE,)) + pocket_parts(spec, site)


def _pads(spec: FoamWall) -> list[Pad]:
    wide, tall = cut_size(spec)
    cut = [note("cut {s:percent} larger, pressed in", s=spec.squeeze)]
    if spec.shape == "corner":
        middle = math.pi / 2 * (spec.reach - spec.deep / 2)
        cut.append(note("bent to a quarter of a circle, its middle line of {m:length}", m=middle))
        if spec.wedges:
            words = f"{spec.wedges} wedges of {{v:length}}, half its thickness deep, cut out of its inner side"
            cut.append(note(words, v=VEE))
    return [
        Pad(
            id=f"{spec.id}.pad.{k}",
            ppi=ppi,
            count=spec.walls * spec.beside,
            length=wide,
            width=tall,
            thickness=spec.thickness,
            notes=tuple(cut),
        )
        for k, ppi in enumerate(spec.pads)
    ]


def _strips(spec: FoamWall, site: Site) -> list[Piece]:
    """What holds the foam, the sand before it, and the room behind it."""
    corner = spec.shape == "corner"
    found: list[Piece] = [
        Thing(
            id=f"{spec.id}.rails",
            name="Rail, glass or acrylic strip",
            shelf=Shelf.STRIPS,
            count=(2 if corner else 4) * spec.walls,
            length=spec.foam_height,
            width=RAIL,
            notes=_where(spec, corner),
        )
    ]
    if spec.dam > 0:
        found.append(
            Thing(
                id=f"{spec.id}.dam",
                name="Substrate dam",
                shelf=Shelf.STRIPS,
                count=spec.walls,
                length=spec.dam_length if corner else site.tank.inner_width,
                width=spec.dam,
                notes=(note("siliconed to the bottom"), note(_dammed(spec))),
            )
        )
    if corner:  # its curve holds it off the corner
        return found
    found.append(
        Thing(
            id=f"{spec.id}.spacers",
            name="Spacer behind the foam",
            shelf=Shelf.FITTINGS,
            count=2 * spec.walls,
            length=spec.behind,
            notes=(note("keeps the foam off the end wall"),),
        )
    )
    return found


def _dammed(spec: FoamWall) -> str:
    if spec.dam_at == "before":
        return "straight behind the foam, from wall to wall" if spec.shape == "corner" else "close behind the foam"
    return "the foam stands on it" if spec.shape == "flat" else "straight under the foam's arc, from wall to wall"


def _where(spec: FoamWall, corner: bool) -> tuple[Note, ...]:
    """Where the rails stand."""
    if corner:
        return (note("one upright on each wall, its inner edge {r:length} from the corner", r=spec.reach),)
    upright = note("upright on the front and back glass, before and behind the foam")
    return (upright, note("{b:length} from the end wall", b=spec.behind))
