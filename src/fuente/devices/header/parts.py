"""Pipe and fittings of a common drain."""

from __future__ import annotations

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.contract import Site
from fuente.devices.header.spec import HeaderSpec
from fuente.network.model import Solution


def parts(spec: HeaderSpec, site: Site, solution: Solution) -> Parts:
    """release m is the elevation where it ends, joins how many drains come in."""
    release = site.end_of(spec.into).floor + spec.release
    joins = sum(end.pipes for _, end in site.arriving(spec.id))
    down = pipe_size(spec.down)
    if spec.form == "pipe":
        size = pipe_size(spec.pipe)
        body = [
            Part(f"{spec.id}.pipe", f"Pipe, {size.name}", 1, "piece", "Pipe", "{l:run}", spec.name, {"l": spec.length}),
            Part(f"{spec.id}.tees", f"Tee, {size.name}", joins, "piece", "Fittings", "", f"{spec.name}: one a drain"),
            Part(
                f"{spec.id}.cap",
                f"Cap or vent, {size.name}",
                1,
                "piece",
                "Fittings",
                "",
                f"{spec.name}: high end, vented",
            ),
        ]
    else:
        values = {"l": spec.length, "w": spec.gutter_width, "h": spec.gutter_height}
        size_text = "{l:run}, {w:length:bare} × {h:length}"
        body = [Part(f"{spec.id}.gutter", "Gutter, open", 1, "piece", "Pipe", size_text, spec.name, values)]
    fall = max(spec.low_end - release, 0.0) + spec.run
    body.append(
        Part(f"{spec.id}.down", f"Pipe, {down.name}", 1, "piece", "Pipe", "{l:run}", f"{spec.name}: down", {"l": fall})
    )
    body += [
        Part(f"{spec.id}.{f.kind}", f"{fitting(f.kind).name}, {down.name}", f.count, "piece", "Fittings", "", spec.name)
        for f in spec.fittings
        if f.count
    ]
    return Parts((), tuple(body), ())
