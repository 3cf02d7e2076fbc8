"""What a steriliser's loop is made of."""

from __future__ import annotations

from fuente.devices.filtering import Site
from fuente.devices.pieces import ELECTRIC, Parts, Pipe, Shelf, Thing, note, tool
from fuente.devices.pumping import pump_piece
from fuente.devices.steriliser.spec import Steriliser
from fuente.network.model import Solution

EYES = "Ultraviolet burns eyes and skin: never look at a lamp that is on, unplug it before you open its chamber."


def parts(spec: Steriliser, site: Site, solution: Solution) -> Parts:
    """Chamber, lamp, pump, hoses."""
    lamp = Thing(
        id=f"{spec.id}.lamp",
        name="Steriliser, chamber with lamp",
        shelf=Shelf.EQUIPMENT,
        length=spec.length,
        about=note("{w:power}", w=spec.watts),
    )
    hose = Pipe(
        id=f"{spec.id}.hose",
        form="Hose",
        pipe=spec.hose,
        count=2,
        length=spec.run,
        notes=(note("there and back"),),
    )
    tap = tool(f"{spec.id}.tap", "Tap with union", note("to take it out full"), count=2)
    return Parts((lamp, pump_piece(f"{spec.id}.pump", spec.pump), hose, tap), (EYES, ELECTRIC))
