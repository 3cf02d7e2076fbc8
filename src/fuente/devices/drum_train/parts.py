"""What a train of drums is made of."""

from __future__ import annotations

from fuente.devices.drum_train.spec import ROLES, Drum, DrumTrain
from fuente.devices.filtering import Site
from fuente.devices.pieces import (
    PLUMBER,
    Fixing,
    Hole,
    Joint,
    Making,
    Pad,
    Parts,
    Piece,
    Shelf,
    Thing,
    media_of,
    note,
    tool,
)
from fuente.devices.plumbing_shown import line_parts
from fuente.network.model import Solution

LIFT = (
    "Lifting: a full drum weighs what its litres weigh; empty it before you move it. What is more than you lift alone"
    " takes two people."
)
LARGER = 0.015  # by which a disc is cut larger than its drum
BRUSH = 0.012  # m² of plan that a brush takes


MAKING = (
    Making(
        "wash",
        "Wash the drums and set them level",
        (
            note("Only drums that held food; hot water and soda, rinsed three times, left open to air"),
            note("On firm level ground, all rims at one height: shim under the stand, never under one edge"),
        ),
        "a level over each pair of rims stays in its marks",
        40,
        2,
        ("level", "soda", "brush"),
        before=True,
    ),
    Making(
        "grids",
        "Set the grids and screens",
        (note("Grid on its feet first, then foam or screen cut a finger larger than the bore and pressed in"),),
        "no way round at the wall; the foam comes out by its loops without tools",
        15,
        1,
        ("long knife",),
    ),
)


def parts(spec: DrumTrain, site: Site, solution: Solution) -> Parts:
    """Drums, holes, bulkheads, contents, flush valves."""
    found: list[Piece] = []
    for k, drum in enumerate(spec.drums):
        found.append(
            Thing(
                id=f"{spec.id}.{k}",
                name=f"Drum {k + 1}, {ROLES[drum.role]}, food-safe",
                shelf=Shelf.EQUIPMENT,
                diameter=drum.diameter,
                height=drum.height,
            )
        )
        if k + 1 < len(spec.drums):
            found += _way_on(spec, site, k, drum)
        found += _contents(spec, site, k, drum)
        if drum.flush > 0 and drum.role != "pump":
            foot = note(f"at the foot of drum {k + 1}")
            found.append(tool(f"{spec.id}.{k}.flush", "Flush valve", foot, pipe=spec.flush_pipe))
    if spec.bag > 0:
        found.append(
            Pad(
                id=f"{spec.id}.bag",
                form="Test sock for the outlet",
                stuff="made",
                opening=spec.bag,
                notes=(note("a test of what passes: look after a day"),),
            )
        )
    return Parts(tuple(found), (LIFT, PLUMBER), MAKING) + line_parts(spec, site)


def _way_on(spec: DrumTrain, site: Site, k: int, drum: Drum) -> list[Piece]:
    """The holes in a drum and in the next one, and what seals them."""
    walls = (f"{spec.id}.{k}", f"{spec.id}.{k + 1}")
    hole = Hole(
        id=f"{spec.id}.{k}.hole",
        name=f"Hole in drum {k + 1} and in drum {k + 2}",
        body=walls[0],
        count=2 * drum.count,
        diameter=site.shop.fitting_for(drum.pipe).saw,
        notes=(note("middle {o:length} above the floor; measure your own fitting", o=drum.outlet),),
    )
    bulkhead = spec.seal == "bulkhead"
    joint = Joint(
        id=f"{spec.id}.{k}.joint",
        fixing=Fixing.BULKHEAD if bulkhead else Fixing.SEAL,
        pipe=drum.pipe,
        between=walls,
        count=2 * drum.count,
        notes=(
            note(
                "gasket outside on the curved wall; union between"
                + ("; a plate inside behind the nut, the wall is soft" if spec.soft else "")
            )
            if bulkhead
            else note("hole by its own saw; edge free of burrs, soap the pipe"),
        ),
    )
    return [hole, joint]


def _contents(spec: DrumTrain, site: Site, k: int, drum: Drum) -> list[Piece]:
    """What stands or lies in a drum."""
    inside = note(f"drum {k + 1}")
    found: list[Piece] = []
    if drum.holds_media:
        found.append(media_of(f"{spec.id}.{k}.media", site.medium(drum.medium), drum.media, inside))
        found.append(
            Thing(
                id=f"{spec.id}.{k}.grid",
                name="Grid that carries the media",
                shelf=Shelf.EQUIPMENT,
                about=note("{g:length} above the floor", g=drum.grid),
                notes=(inside,),
            )
        )
        if drum.mesh:
            found.append(
                Thing(
                    id=f"{spec.id}.{k}.mesh",
                    name="Screen basket over the way out",
                    shelf=Shelf.FITTINGS,
                    about=note("{m:fine_length} mesh", m=drum.mesh),
                    notes=(inside,),
                )
            )
    if drum.role == "foam":
        found.append(
            Pad(
                id=f"{spec.id}.{k}.foam",
                form="Foam disc",
                over=LARGER / 2 * drum.diameter,
                ppi=drum.ppi,
                diameter=drum.diameter,
                thickness=drum.foam,
                notes=(note("cut {s:percent} larger", s=LARGER),),
            )
        )
    if drum.role == "brush":
        found.append(
            Thing(
                id=f"{spec.id}.{k}.brush",
                name="Filter brush",
                shelf=Shelf.MEDIA,
                count=max(round(drum.area / BRUSH), 1),
                length=0.7 * drum.outlet,
                notes=(inside,),
            )
        )
    return found
