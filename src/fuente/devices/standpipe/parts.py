"""Pipe, bulkhead and fittings of a standpipe."""

from __future__ import annotations

from fuente.catalogue import bulkhead_for, fitting, pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.contract import Site
from fuente.devices.standpipe.network import end_of
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.network.model import Solution

CAUTION = (
    "Glass drilling: goggles, gloves, water on the bit; tempered glass shatters. A hole keeps its own width from every"
    " edge."
)


def parts(spec: StandpipeSpec, site: Site, solution: Solution) -> Parts:
    """In the order of the water."""
    tank, release = site.tank, end_of(spec, site)
    size = pipe_size(spec.pipe)
    hole = bulkhead_for(size)
    fall = max(tank.floor + spec.mouth - release, 0.0)
    note = f"drain of {tank.name}"
    saw = (
        f"hole {hole.hole_min * 1000:.0f} to {hole.hole_max * 1000:.0f} mm, saw {hole.saw * 1000:.0f} mm; measure"
        " your own"
    )
    found = [
        Part(f"{spec.id}.bulkhead", f"Bulkhead, {hole.size}", 1, "piece", "Fittings", "", f"{note}; {saw}"),
        Part(f"{spec.id}.pipe", f"Pipe, {size.name}", 1, "piece", "Pipe", "{l:run}", note, {"l": fall + spec.run}),
    ]
    found += [
        Part(f"{spec.id}.{f.kind}", f"{fitting(f.kind).name}, {size.name}", f.count, "piece", "Fittings", "", note)
        for f in spec.fittings
        if f.count
    ]
    if spec.strainer:
        found.append(Part(f"{spec.id}.strainer", f"Strainer, {size.name}", 1, "piece", "Fittings", "", note))
    return Parts((), tuple(found), (CAUTION,))
