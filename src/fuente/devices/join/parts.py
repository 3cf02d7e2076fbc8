"""Bulkheads and pipe of a join."""

from __future__ import annotations

from fuente.devices.join.spec import JoinSpec
from fuente.devices.pieces import Fixing, Joint, Parts, Pipe, fittings_of, note
from fuente.devices.site import Site
from fuente.network.model import Solution


def parts(spec: JoinSpec, site: Site, solution: Solution) -> Parts:
    """A bulkhead in each wall that it goes through below water, and what lies between."""
    own = note(of=spec.name)
    walls = (spec.first, spec.second) if spec.levels else (spec.first,)
    joint = Joint(
        id=f"{spec.id}.bulkhead",
        fixing=Fixing.BULKHEAD,
        pipe=spec.pipe,
        between=walls,
        count=len(walls) * spec.count,
        notes=(own,),
    )
    pipe = Pipe(id=f"{spec.id}.pipe", pipe=spec.pipe, count=spec.count, length=spec.length, exact=True, notes=(own,))
    return Parts((joint, pipe, *fittings_of(spec.id, spec.fittings, spec.pipe, own, times=spec.count)))
