"""Boxes, tube and drain of a hang-on overflow."""

from __future__ import annotations

from fuente.devices.hang_on.network import TUBE_OVER
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.pieces import Parts, Pipe, Shelf, Thing, note
from fuente.devices.site import Site
from fuente.network.model import Solution

BEND = 0.15  # m of tube in the bends over the rim


def parts(spec: HangOn, site: Site, solution: Solution) -> Parts:
    """In the order of the water."""
    tank, release = site.tank, site.vessels[spec.into].release(spec.release)
    crest = tank.floor + spec.crest
    boxes = Thing(
        id=f"{spec.id}.boxes",
        name="Overflow box, acrylic",
        shelf=Shelf.EQUIPMENT,
        count=2,
        length=spec.box_length,
        width=spec.box_width,
        notes=(note("one in the tank, one behind it"),),
    )
    tube = Pipe(
        id=f"{spec.id}.tube",
        pipe=spec.tube,
        count=spec.tubes,
        length=2 * (tank.rim + TUBE_OVER - crest + spec.tube_end) + BEND,
        exact=True,
        notes=(note("tube over the rim"),),
    )
    drain = Pipe(
        id=f"{spec.id}.drain",
        pipe=spec.pipe,
        length=max(crest - spec.stand - release, 0.0) + spec.run,
        notes=(note("drain of the hang-on"),),
    )
    return Parts((boxes, tube, drain))
