"""What a sock stage is made of."""

from __future__ import annotations

from fuente.devices.filtering import Site
from fuente.devices.pieces import Pad, Parts, Shelf, Thing, box_of, note
from fuente.devices.plumbing_shown import line_parts
from fuente.devices.sock.spec import SockStage
from fuente.network.model import Solution


def parts(spec: SockStage, site: Site, solution: Solution) -> Parts:
    """Box, holder, socks."""
    plate = Thing(
        id=f"{spec.id}.plate",
        name="Plate that holds the socks",
        shelf=Shelf.STRIPS,
        length=spec.length,
        width=spec.width,
        notes=(note(f"{spec.socks} {'holes' if spec.socks > 1 else 'hole'} of {{d:length}}", d=spec.diameter),),
    )
    socks = Pad(
        id=f"{spec.id}.socks",
        form="Sock, felt or mesh",
        stuff="made",
        count=2 * spec.socks,
        opening=spec.micron,
        diameter=spec.diameter,
        length=spec.sock,
        notes=(note("a set in use and one in the wash"),),
    )
    box = box_of(f"{spec.id}.box", "Box under the socks", spec.length, spec.width, spec.height)
    return Parts((box, plate, socks)) + line_parts(spec, site)
