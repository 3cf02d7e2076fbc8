"""Valve, reservoir and waste pipe."""

from __future__ import annotations

from fuente.devices.pieces import PLUMBER, Parts, Piece, Pipe, Shelf, Thing, note, tool
from fuente.devices.site import Site
from fuente.devices.top_up.spec import TopUp
from fuente.network.model import Solution

TO_WASTE = 1.5  # m of pipe to a drain that stands near


def parts(spec: TopUp, site: Site, solution: Solution) -> Parts:
    """What it is made of."""
    own = note(of=spec.name)
    found: list[Piece] = []
    if spec.source == "reservoir":
        found.append(
            Thing(id=f"{spec.id}.tub", name="Reservoir", shelf=Shelf.EQUIPMENT, volume=spec.volume, notes=(own,))
        )
    name = "Drip emitter or needle valve" if spec.source == "drip" else "Float valve"
    found.append(tool(f"{spec.id}.valve", name, own))
    if spec.waste:
        over = note("overflow to waste")
        found.append(Pipe(id=f"{spec.id}.waste", pipe=spec.waste_pipe, length=TO_WASTE, notes=(over,)))
    outside = spec.source != "reservoir" or spec.waste
    return Parts(tuple(found), (PLUMBER,) if outside else ())
