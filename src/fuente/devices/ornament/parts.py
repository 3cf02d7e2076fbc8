"""What an ornament filter is made of."""

from __future__ import annotations

from fuente.devices.filtering import Site
from fuente.devices.ornament.judge import stone_needed
from fuente.devices.ornament.spec import FORMS, SHELLS, Ornament
from fuente.devices.pieces import Face, Hole, Making, Pad, Parts, Piece, Shelf, Thing, media_of, note, tool
from fuente.devices.pocket_shown import pocket_parts
from fuente.network.model import Solution

FOOD_SAFE = "Ornaments: food-safe and smooth, no metal, no paint that comes off, no edge that cuts, no trap for a fish."


MAKING = (
    Making(
        "soak",
        "Soak and smooth the ornament",
        (
            note("No metal, no paint that comes off; soak it in clean water and smell it after a day"),
            note("Smooth every gap and the exit by file and wet paper"),
        ),
        "water stays clear and without smell; no edge that cuts, no gap that holds a fish",
        20,
        1,
        ("bucket", "file", "wet abrasive paper"),
        wait=24 * 3600.0,
        waits_for="a day of soaking",
        before=True,
    ),
    Making(
        "weigh",
        "Weigh it down",
        (note("Stones or ceramic at its foot before foam and media, so that it stands when the lift bubbles"),),
        "it does not rock under a push at its top, under water",
        10,
    ),
)


def parts(spec: Ornament, site: Site, solution: Solution) -> Parts:
    """Shell, gaps, layers, ballast, drive."""
    poured = spec.form == "litres"
    shell = Thing(
        id=f"{spec.id}.shell",
        name=f"Hollow ornament, {FORMS[spec.form]}, {SHELLS[spec.shell]}",
        shelf=Shelf.EQUIPMENT,
        width=0.0 if poured else spec.width,
        height=0.0 if poured else spec.height,
        volume=spec.volume if poured else 0.0,
    )
    gaps = Hole(
        id=f"{spec.id}.gaps",
        name="Gap to cut",
        body=shell.id,
        count=spec.gaps,
        width=spec.gap,
        height=spec.gap_height,
        notes=(note("at its foot; round every edge"),),
    )
    what = "airline" if spec.drive == "air" else "cable: a slot from the edge, its plug does not pass a hole"
    way_out = Hole(
        id=f"{spec.id}.exit",
        name="Exit to drill",
        body=shell.id,
        face=Face.BACK,
        diameter=spec.exit,
        notes=(note(f"at its back, smooth, for the {what}"),),
    )
    found: list[Piece] = [shell, gaps, way_out]
    if spec.ppi and spec.foam > 0:
        cut = note("cut a little larger than the cavity")
        found.append(Pad(id=f"{spec.id}.foam", form="Foam layer", ppi=spec.ppi, thickness=spec.foam, notes=(cut,)))
    if spec.media > 0:
        bag = note("in a bag that comes out in one piece")
        found.append(media_of(f"{spec.id}.media", site.medium(spec.medium), spec.media, bag))
    stone = max(stone_needed(spec, site), spec.ballast)
    if stone > 0.01:
        found.append(
            Thing(
                id=f"{spec.id}.ballast",
                name="Ballast, stone",
                shelf=Shelf.EQUIPMENT,
                mass=stone,
                notes=(note("under the layers, so that it stays down"),),
            )
        )
    if spec.lid:
        reach = note("to reach the media without a tear-down")
        found.append(tool(f"{spec.id}.lid", "Lid or plate that lifts", reach, shelf=Shelf.EQUIPMENT))
    return Parts(tuple(found), (FOOD_SAFE,), MAKING) + pocket_parts(spec, site)
