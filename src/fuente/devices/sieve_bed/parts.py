"""What a sieve is made of."""

from __future__ import annotations

from fuente.devices.filtering import Site
from fuente.devices.pieces import PLUMBER, Making, Pad, Parts, Piece, Pipe, Shelf, Thing, box_of, media_of, note, tool
from fuente.devices.sieve_bed.lines import parts_of
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.network.model import Solution

MAKING = (
    Making(
        "frame",
        "Join the frame",
        (
            note("Dry-fit all bars on a flat floor, mark across every joint, then cement them one by one"),
            note("Stand it on its supports and sight along the long sides"),
        ),
        "flat within a finger's thickness from corner to corner, and no joint turns",
        60,
        2,
        ("pipe saw", "primer", "solvent cement", "string"),
        wait=24 * 3600.0,
        waits_for="the frame's joints to harden",
    ),
    Making(
        "screen",
        "Lay on the screen",
        (
            note("Cut it a hand larger all round, fold it over the frame, tie or clip it every hand's width"),
            note("No cut edge upwards"),
        ),
        "tight as a drum skin; no gap at an edge that a finger finds",
        30,
        2,
        ("shears", "ties that do not rust"),
    ),
)


HEM = 0.1  # m that the screen is cut past its frame on each side: a hand's width to fold over


def parts(spec: SieveBed, site: Site, solution: Solution) -> Parts:
    """Box, frame, screen, media, waste."""
    screen = Pad(
        id=f"{spec.id}.mesh",
        form="Screen",
        stuff="mesh",
        over=HEM,
        opening=spec.aperture,
        length=spec.length,
        width=spec.width,
        notes=(note(f"{100 * spec.open_share:.0f} % open"),),
    )
    tubes = (("along", spec.length, 2), ("across", spec.width, spec.bars + 2))
    found: list[Piece] = [
        box_of(f"{spec.id}.box", "Box or lined pit", spec.length, spec.width, spec.height),
        screen,
        *(
            Pipe(
                id=f"{spec.id}.{way}",
                form=f"Frame tube, PVC, {way}",
                outside=spec.tube,
                length=length,
                exact=True,
                count=count,
            )
            for way, length, count in tubes
        ),
        Thing(
            id=f"{spec.id}.legs",
            name="Support for the frame",
            shelf=Shelf.EQUIPMENT,
            count=2 * spec.legs,
            height=spec.screen,
            notes=(note("or a ledge round the box"),),
        ),
        tool(f"{spec.id}.waste", "Waste outlet with valve", note("at the lowest place"), pipe=spec.waste),
    ]
    if spec.media > 0:
        bags = note("in bags under the screen")
        found.append(media_of(f"{spec.id}.media", site.medium(spec.medium), spec.media, bags))
    return Parts(tuple(found), (PLUMBER,), MAKING) + parts_of(spec, site)
