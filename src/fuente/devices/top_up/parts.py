"""Valve, reservoir and waste pipe."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.contract import Site
from fuente.devices.top_up.spec import TopUp
from fuente.network.model import Solution

CAUTION = "Plumbing to mains or drains: backflow protection, local code, licensed plumber."


def parts(spec: TopUp, site: Site, solution: Solution) -> Parts:
    """What it is made of."""
    found = []
    if spec.source == "reservoir":
        found.append(
            Part(f"{spec.id}.tub", "Reservoir", 1, "piece", "Equipment", "{v:volume}", spec.name, {"v": spec.volume})
        )
    name = "Drip emitter or needle valve" if spec.source == "drip" else "Float valve"
    found.append(Part(f"{spec.id}.valve", name, 1, "piece", "Fittings", "", spec.name))
    if spec.waste:
        size = pipe_size(spec.waste_pipe)
        found.append(
            Part(
                f"{spec.id}.waste", f"Pipe, {size.name}", 1, "piece", "Pipe", "{l:run}", "overflow to waste", {"l": 1.5}
            )
        )
    outside = spec.source != "reservoir" or spec.waste
    return Parts((), tuple(found), (CAUTION,) if outside else ())
