"""Bulkheads and pipe of a join."""

from __future__ import annotations

from fuente.catalogue import bulkhead_for, fitting, pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.contract import Site
from fuente.devices.join.spec import JoinSpec
from fuente.network.model import Solution


def parts(spec: JoinSpec, site: Site, solution: Solution) -> Parts:
    """A bulkhead in each wall, and what lies between."""
    size = pipe_size(spec.pipe)
    hole = bulkhead_for(size)
    each = 2 if spec.style == "level" else 1
    saw = (
        f"hole {hole.hole_min * 1000:.0f} to {hole.hole_max * 1000:.0f} mm, saw {hole.saw * 1000:.0f} mm; measure"
        " your own"
    )
    found = [
        Part(
            f"{spec.id}.bulkhead",
            f"Bulkhead, {hole.size}",
            each * spec.count,
            "piece",
            "Fittings",
            "",
            f"{spec.name}; {saw}",
        ),
        Part(
            f"{spec.id}.pipe",
            f"Pipe, {size.name}",
            spec.count,
            "piece",
            "Pipe",
            "{l:length}",
            spec.name,
            {"l": spec.length},
        ),
    ]
    found += [
        Part(
            f"{spec.id}.{f.kind}",
            f"{fitting(f.kind).name}, {size.name}",
            f.count * spec.count,
            "piece",
            "Fittings",
            "",
            spec.name,
        )
        for f in spec.fittings
        if f.count
    ]
    return Parts((), tuple(found), ())
