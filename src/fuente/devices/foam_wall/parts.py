"""What a foam wall is made of."""

from __future__ import annotations

import math
from dataclasses import replace

from fuente.devices.filtering import Site
from fuente.devices.foam_wall.spec import RAIL, VEE, FoamWall
from fuente.devices.pieces import Face, Hole, Making, Note, Pad, Parts, Piece, Shelf, Thing, media_of, note
from fuente.devices.pocket_shown import pocket_parts
from fuente.network.model import Solution

SILICONE = (
    "Silicone: ventilate, wear gloves, no flame; about a day for each 2 to 3 mm of depth, then wait a week before"
    " water."
)
RAIL_BEAD = 0.004  # m, under a rail


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
    return Parts(tuple(found), (SILICONE,), _making(spec)) + pocket_parts(spec, site)


def _making(spec: FoamWall) -> tuple[Making, ...]:
    """Rails at their marks, foam cut tight, the dam, the notches last."""
    corner = spec.shape == "corner"
    rails = [note("Dry glass, wiped with alcohol; mark both rails by a plumb line")]
    if corner:
        rails.append(note("inner edge of each rail {r:length} from the corner", r=spec.reach))
    else:
        rails.append(note("first rails {b:length} from the end wall", b=spec.behind))
        rails.append(note("the second pair {t:length} further on, the foam between them", t=spec.deep))
    rails.append(note("a bead of {b:fine_length} on each, pressed on, taped at three heights", b=RAIL_BEAD))
    foam = [
        note(
            "Cut {w:length} × {h:length} with a long knife against a straight edge",
            w=cut_size(spec)[0],
            h=cut_size(spec)[1],
        )
    ]
    if spec.wedges:
        foam.append(
            note(f"{spec.wedges} relief cuts of {{v:length}} across its inner side, half its thickness deep", v=VEE)
        )
    foam.append(note("press it in between the rails by its edges, never by its middle"))
    made = [
        Making(
            "rails",
            "Glue the rails",
            tuple(rails),
            "both upright and at one distance over their whole height",
            30,
            1,
            ("plumb line or square", "tape", "caulking gun"),
            bead=RAIL_BEAD,
            waits_for="the rails to hold",
        ),
        Making(
            "foam",
            "Cut and press in the foam",
            tuple(foam),
            "it stands by itself, tight at every edge: a card does not pass beside it",
            20,
            1,
            ("long knife", "straight edge"),
        ),
    ]
    if spec.dam > 0:
        dam = (note("Dam of {d:length} on a bead along the floor", d=spec.dam), note(_dammed(spec)))
        made.append(
            Making(
                "dam",
                "Glue the dam",
                dam,
                "no sand can pass under or beside it",
                15,
                1,
                ("caulking gun",),
                bead=RAIL_BEAD,
                waits_for="the dam to hold",
            )
        )
    mouths = (note("Cut the notches last, tight round each tube, the mouths behind the foam turned to the front"),)
    made.append(Making("notches", "Cut the notches", mouths, "water has no way back round a tube", 10, 1, ("knife",)))
    return tuple(made)


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
