"""A join as one link."""

from __future__ import annotations

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Fragment, fittings_k
from fuente.devices.join.spec import JoinSpec
from fuente.devices.plumbing import PRIMES, side_fall
from fuente.devices.site import Site
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.network.laws import Bulkhead
from fuente.network.model import Law, Link, WayKind
from fuente.network.supplies import Falls, Lines


def link_id(spec: JoinSpec) -> str:
    """Id of its link."""
    return f"{spec.id}.line"


def lower(spec: JoinSpec, site: Site) -> Fragment:
    """The link between two cells."""
    first, second = site.vessels[spec.first], site.vessels[spec.second]
    a, b = first.port(spec.chamber).leave, second.port(spec.entry).entry
    floors, rims, water = (first.floor, second.floor), (first.rim, second.rim), site.water
    size = pipe_size(spec.pipe)
    k = fitting("entrance").k + fittings_k(spec.fittings) + 1.0
    centre = floors[0] + spec.height
    if centre + size.bore / 2 > rims[0]:
        raise SpecError(f"{spec.name} leaves above the rim.")
    law: Law
    if spec.style == "level":
        if not floors[1] <= centre - size.bore / 2 + 0.002 or centre + size.bore / 2 > rims[1]:
            raise SpecError(f"{spec.name} does not meet the wall of the second filter at its height.")
        law = Lines(Bulkhead(centre, Pipe(size.bore, max(spec.length, 0.02), k, size.roughness, water)), spec.count)
        kind = WayKind.JOIN
    else:
        release = floors[1] + spec.release
        if centre - release < 0.02:
            raise SpecError(
                f"{spec.name} has its mouth {1000 * (centre - release):.0f} mm above its end; water needs a fall."
            )
        pipe = Pipe(size.bore, centre - release + spec.length, k, size.roughness, water)
        law = Falls(side_fall(centre, release, pipe, PRIMES), spec.count)
        kind = WayKind.JOIN
    return Fragment((), (Link(link_id(spec), spec.name, a, b, law, kind, spec.id),))
