"""Pipe and fittings of a common drain."""

from __future__ import annotations

from fuente.devices.header.spec import HeaderSpec
from fuente.devices.pieces import Parts, Piece, Pipe, fittings_of, note, tool
from fuente.devices.site import Site
from fuente.network.model import Solution


def parts(spec: HeaderSpec, site: Site, solution: Solution) -> Parts:
    """The run with a tee for each drain that comes in, or a gutter; the pipe down to where it ends."""
    release = site.end_of(spec.into).floor + spec.release
    joins = sum(end.pipes for _, end in site.arriving(spec.id))
    own = note(of=spec.name)
    if spec.form == "pipe":
        body: list[Piece] = [
            Pipe(id=f"{spec.id}.pipe", pipe=spec.pipe, length=spec.length, notes=(own,)),
            tool(f"{spec.id}.tees", "Tee", note("one a drain", of=spec.name), count=joins, pipe=spec.pipe),
            tool(f"{spec.id}.cap", "Cap or vent", note("high end, vented", of=spec.name), pipe=spec.pipe),
        ]
    else:
        gutter = Pipe(
            id=f"{spec.id}.gutter",
            form="Gutter, open",
            length=spec.length,
            width=spec.gutter_width,
            height=spec.gutter_height,
            notes=(own,),
        )
        body = [gutter]
    fall = max(spec.low_end - release, 0.0) + spec.run
    down = Pipe(id=f"{spec.id}.down", pipe=spec.down, length=fall, notes=(note("down", of=spec.name),))
    return Parts((*body, down, *fittings_of(spec.id, spec.fittings, spec.down, own)))
