"""A hang-on overflow: weir, inner box, tube, outer box, drain."""

from __future__ import annotations

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Fragment, fittings_k
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.site import Site
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.network.laws import Standpipe, Weir
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Link, WayKind
from fuente.network.supplies import RimSiphon

TUBE_OVER = 0.08  # m that the tube rises over the rim


def inner_id(spec: HangOn) -> str:
    """Id of the box in the tank."""
    return f"{spec.id}.inner"


def outer_id(spec: HangOn) -> str:
    """Id of the box behind it."""
    return f"{spec.id}.outer"


def siphon_id(spec: HangOn, index: int) -> str:
    """Id of a tube's link."""
    return f"{spec.id}.siphon.{index}"


def drain_id(spec: HangOn) -> str:
    """Id of the outer drain."""
    return f"{spec.id}.drain"


def lower(spec: HangOn, site: Site) -> Fragment:
    """Two cells, weir, tubes, drain into a cell."""
    tank, water = site.tank, site.water
    into = site.vessels[spec.into]
    crest = tank.floor + spec.crest
    if spec.crest >= tank.inner_height:
        raise SpecError("The hang-on overflow's crest is above the tank's rim.")
    end = crest - spec.tube_end
    mouth, release = crest - spec.stand, into.release(spec.release)
    if mouth - release < 0.05:
        raise SpecError("The hang-on overflow's drain has no fall: raise the tank or lower the drain's end.")
    floor = max(end - 0.02, tank.floor)
    cells = tuple(
        Cell(i, n, floor, tank.rim, LevelCurve.prism(floor, tank.rim, spec.box), owner=spec.id)
        for i, n in ((inner_id(spec), "Inner box"), (outer_id(spec), "Outer box"))
    )
    size = pipe_size(spec.tube)
    length = 2 * (tank.rim + TUBE_OVER - end) + 0.15
    tube = Pipe(
        size.bore, length, fitting("entrance_reentrant").k + 2 * fitting("elbow").k + 1.0, size.roughness, water
    )
    links = [
        Link(
            f"{spec.id}.weir",
            "Hang-on weir",
            tank.id,
            inner_id(spec),
            Weir(crest, spec.weir * (1 - spec.teeth), spec.crest),
            WayKind.WEIR,
            spec.id,
        )
    ]
    for i in range(spec.tubes):
        law = RimSiphon(end, end, tube)
        links.append(
            Link(
                siphon_id(spec, i), "Siphon over the rim", inner_id(spec), outer_id(spec), law, WayKind.SIPHON, spec.id
            )
        )
    down = pipe_size(spec.pipe)
    k = fitting("entrance_reentrant").k + fittings_k(spec.fittings) + 1.0
    pipe = Pipe(down.bore, mouth - release + spec.run, k, down.roughness, water)
    drain = Standpipe(mouth, release, pipe, 0.6 * down.bore, 1.4 * down.bore)
    name = "Drain of the hang-on"
    links.append(
        Link(
            drain_id(spec),
            name,
            outer_id(spec),
            into.port(spec.chamber).entry,
            drain,
            WayKind.DRAIN,
            spec.id,
            serves=tank.id,
        )
    )
    return Fragment(cells, tuple(links), {})
