"""An overflow as a box cell, a weir into it and drains out of it."""

from __future__ import annotations

import math
from functools import lru_cache

from fuente.catalogue import fitting, pipe_size, valve_k
from fuente.devices.base import Basin, Fragment, fittings_k
from fuente.devices.overflow.spec import Drain, Overflow
from fuente.devices.site import Site
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.network.laws import Standpipe, Weir
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Link, WayKind
from fuente.water.properties import Water

ENTRANCE = "entrance_reentrant"
# Where a drain begins to gulp and where it runs full, in bores over its mouth.
_SIPHON_PRIMES = (0.4, 1.0)  # a covered or down-turned mouth
_EMERGENCY_PRIMES = (1.5, 2.2)


def cell_id(overflow: Overflow) -> str:
    """Id of the box's cell."""
    return f"{overflow.id}.box"


def weir_id(overflow: Overflow) -> str:
    """Id of the weir link."""
    return f"{overflow.id}.weir"


def drain_id(overflow: Overflow, index: int) -> str:
    """Id of a drain link."""
    return f"{overflow.id}.drain.{index}"


def drain_pipe(drain: Drain, fall: float, water: Water) -> Pipe:
    """The whole drain as a pipe with entrance, fittings, valve and exit; fall in m from mouth to release."""
    size = pipe_size(drain.pipe)
    k = fitting(ENTRANCE).k + fittings_k(drain.fittings) + 1.0
    if drain.valve is not None:
        k += valve_k(drain.valve)
    return Pipe(size.bore, max(fall, 0.0) + drain.run, k, size.roughness, water)


@lru_cache(maxsize=256)  # an edit elsewhere leaves the drains as they are
def drain_law(overflow: Overflow, drain: Drain, tank: Basin, sump_floor: float, water: Water) -> Standpipe:
    """The link of one drain."""
    mouth = tank.floor + drain.mouth
    release = sump_floor + overflow.release
    if mouth - release < 0.05:
        raise SpecError(
            f"A drain's mouth is {1000 * (mouth - release):.0f} mm above its end; water needs a fall. "
            "Raise the tank or lower the drain's end."
        )
    pipe = drain_pipe(drain, mouth - release, water)
    if drain.role == "siphon":
        primes = (_SIPHON_PRIMES[0] * pipe.bore, _SIPHON_PRIMES[1] * pipe.bore)
    elif drain.role == "open":
        primes = (drain.vent, drain.vent + 0.015)
    else:
        primes = (_EMERGENCY_PRIMES[0] * pipe.bore, _EMERGENCY_PRIMES[1] * pipe.bore)
    return Standpipe(mouth, release, pipe, *primes)


def foot_of(overflow: Overflow, site: Site) -> float:
    """Elevation in m over which ``release`` counts: its filter's floor; at a gutter it lets go at the gutter."""
    return site.vessels[overflow.into].release(overflow.release) - overflow.release


def lower(overflow: Overflow, site: Site) -> Fragment:
    """Box cell, weir, drains."""
    tank, foot = site.tank, foot_of(overflow, site)
    into = site.vessels[overflow.into].port(overflow.chamber).entry
    if overflow.crest >= tank.inner_height:
        raise SpecError("The overflow's crest is above the tank's rim.")
    if overflow.box_length + overflow.wall >= tank.inner_length or overflow.box_width > tank.inner_width + 1e-9:
        raise SpecError("The overflow box does not fit in the tank.")
    pipes_area = sum(math.pi / 4 * pipe_size(d.pipe).outside ** 2 for d in overflow.drains)
    area = overflow.box_length * overflow.box_width - pipes_area
    box = Cell(
        cell_id(overflow),
        "Overflow box",
        tank.floor,
        tank.rim,
        LevelCurve.prism(tank.floor, tank.rim, area),
        owner=overflow.id,
    )
    crest = tank.floor + overflow.crest
    links = [
        Link(
            weir_id(overflow),
            "Overflow weir",
            tank.id,
            box.id,
            Weir(crest, overflow.free_weir, overflow.crest),
            WayKind.WEIR,
            overflow.id,
        )
    ]
    for i, drain in enumerate(overflow.drains):
        law = drain_law(overflow, drain, tank, foot, site.water)
        spare = drain.role == "emergency"
        name = f"{drain.role} drain"
        links.append(Link(drain_id(overflow, i), name, box.id, into, law, WayKind.DRAIN, overflow.id, tank.id, spare))
    plan = ((tank.id, overflow.outer_area),)
    return Fragment((box,), tuple(links), {"box": box.id}, footprints=plan)


def start(overflow: Overflow, site: Site) -> dict[str, float]:
    """At rest its tank stands at the crest and the box is empty."""
    return {site.tank.id: site.tank.floor + overflow.crest, cell_id(overflow): site.tank.floor + 0.02}
