"""Pipe, bulkhead and fittings of a standpipe."""

from __future__ import annotations

from fuente.devices.pieces import Fixing, Joint, Parts, Piece, Pipe, Shelf, Thing, fittings_of
from fuente.devices.site import Site
from fuente.devices.standpipe.network import end_of
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.network.model import Solution

CAUTION = (
    "Glass drilling: goggles, gloves, water on the bit; tempered glass shatters. A hole keeps its own width from every"
    " edge."
)


def parts(spec: StandpipeSpec, site: Site, solution: Solution) -> Parts:
    """In the order of the water."""
    tank = site.tank
    fall = max(tank.floor + spec.mouth - end_of(spec, site), 0.0)
    drains = (tank.name,)
    found: list[Piece] = [
        Joint(id=f"{spec.id}.bulkhead", fixing=Fixing.BULKHEAD, pipe=spec.pipe, between=(tank.id,), drains=drains),
        Pipe(id=f"{spec.id}.pipe", pipe=spec.pipe, length=fall + spec.run, drains=drains),
        *fittings_of(spec.id, spec.fittings, spec.pipe, drains=drains),
    ]
    if spec.strainer:
        strainer = f"{spec.id}.strainer"
        found.append(Thing(id=strainer, name="Strainer", shelf=Shelf.FITTINGS, pipe=spec.pipe, drains=drains))
    return Parts(tuple(found), (CAUTION,))
