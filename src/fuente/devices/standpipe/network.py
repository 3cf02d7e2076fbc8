"""A standpipe as one link from its tank."""

from __future__ import annotations

from functools import lru_cache

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Basin, Fragment, fittings_k
from fuente.devices.site import Site
from fuente.devices.standpipe.spec import StandpipeSpec
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.network.laws import Standpipe
from fuente.network.model import Link, WayKind
from fuente.water.properties import Water

PRIMES = (0.6, 1.4)  # bores over its mouth at which it begins to gulp and runs full


def link_id(spec: StandpipeSpec) -> str:
    """Id of its link."""
    return f"{spec.id}.drain"


@lru_cache(maxsize=1024)
def law_of(spec: StandpipeSpec, tank: Basin, release: float, water: Water) -> Standpipe:
    """The drain's law; release m is the elevation at which it lets go."""
    mouth = tank.floor + spec.mouth
    if mouth - release < 0.03:
        raise SpecError(
            f"The drain of {tank.name} has its mouth {1000 * (mouth - release):.0f} mm above its end; water needs a"
            " fall."
        )
    size = pipe_size(spec.pipe)
    entrance = fitting("strainer" if spec.strainer else "entrance_reentrant").k
    k = entrance + fittings_k(spec.fittings) + 1.0
    pipe = Pipe(size.bore, mouth - release + spec.run, k, size.roughness, water)
    return Standpipe(mouth, release, pipe, PRIMES[0] * size.bore, PRIMES[1] * size.bore)


def end_of(spec: StandpipeSpec, site: Site) -> float:
    """Elevation in m at which it lets go."""
    return site.vessels[spec.into].release(spec.release)


def lower(spec: StandpipeSpec, site: Site) -> Fragment:
    """The link into a cell."""
    tank, into = site.tank, site.vessels[spec.into].port(spec.chamber).entry
    if spec.mouth >= tank.inner_height:
        raise SpecError(f"The drain's mouth stands above the rim of {tank.name}.")
    law = law_of(spec, tank, end_of(spec, site), site.water)
    name = f"Drain of {tank.name}"
    link = Link(link_id(spec), name, tank.id, into, law, WayKind.DRAIN, spec.id, tank.id, spec.emergency)
    return Fragment((), (link,))


def start(spec: StandpipeSpec, site: Site) -> dict[str, float]:
    """At rest its tank stands at the mouth."""
    return {site.tank.id: site.tank.floor + spec.mouth}
