"""A header as a cell of little water and one link down."""

from __future__ import annotations

import math
from functools import lru_cache

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Fragment, fittings_k
from fuente.devices.header.spec import HeaderSpec
from fuente.devices.site import Site, Vessel
from fuente.errors import SpecError
from fuente.hydraulics.header import round_volume
from fuente.hydraulics.pipes import Pipe
from fuente.network.laws import Spill
from fuente.network.level_curve import LevelCurve
from fuente.network.model import FLOOR, Cell, Link, WayKind
from fuente.network.supplies import Header
from fuente.water.properties import Water

_SHARES = (0.0, 0.05, 0.15, 0.3, 0.5, 0.7, 0.85, 0.95, 1.0)
_SHAFT = 2.0  # m over its crown up to which water may back up in the drains that join it


def link_id(spec: HeaderSpec) -> str:
    """Id of its fall."""
    return f"{spec.id}.down"


@lru_cache(maxsize=256)
def law_of(spec: HeaderSpec, release: float, water: Water) -> Header:
    """The fall's law; release m is the elevation at which it lets go."""
    fall = spec.low_end - release
    if fall < 0.03:
        raise SpecError(f"{spec.name} lies {1000 * fall:.0f} mm above where it ends; water needs a fall.")
    size = pipe_size(spec.down)
    k = fitting("entrance").k + fittings_k(spec.fittings) + 1.0
    down = Pipe(size.bore, fall + spec.run, k, size.roughness, water)
    width = spec.gutter_width if spec.form == "gutter" else 0.0
    return Header(spec.low_end, spec.depth, width, spec.slope, spec.length, down, release)


def lower(spec: HeaderSpec, site: Site) -> Fragment:
    """Cell and link; it backs up in the pipes that join it."""
    into = site.vessels[spec.into]
    floor = spec.low_end
    law = law_of(spec, into.release(spec.release), site.water)
    if spec.form == "gutter":
        rim = floor + spec.gutter_height
        curve = LevelCurve.prism(floor, rim, spec.gutter_width * spec.length)
        spill = Link(
            f"{spec.id}.spill",
            f"{spec.name} over its edge",
            spec.id,
            FLOOR,
            Spill(rim, 2 * spec.length),
            WayKind.SPILL,
            spec.id,
        )
        links: tuple[Link, ...] = (spill,)
    else:
        bore = spec.depth
        drains = sum(end.area for _, end in site.arriving(spec.id))
        shaft = max(drains, math.pi / 4 * 0.015**2)
        levels = [floor + x * bore for x in _SHARES]
        volumes = [round_volume(bore, spec.length, x) + 1e-5 * x for x in _SHARES]
        rim = levels[-1] + _SHAFT
        curve = LevelCurve((*levels, rim), (*volumes, volumes[-1] + shaft * _SHAFT))
        links = ()
    cell = Cell(spec.id, spec.name, floor, rim, curve, owner=spec.id)
    down = Link(
        link_id(spec), f"{spec.name}, down", spec.id, into.port(spec.chamber).entry, law, WayKind.HEADER, spec.id
    )
    return Fragment((cell,), (*links, down), {"inlet": spec.id})


def left_end(spec: HeaderSpec, site: Site) -> float:
    """Left end in m: under the leftmost tank that drains into it."""
    homes = [site.homes[d.home] for d, _ in site.arriving(spec.id) if d.home]
    return min((t.offset for t in homes), default=0.0)


def vessel(spec: HeaderSpec, site: Site) -> Vessel:
    """Pipes let go at its low end, whatever they say; it only leads on."""
    left = left_end(spec, site)
    return Vessel(
        spec.id,
        spec.name,
        spec.id,
        spec.id,
        spec.low_end,
        spec.low_end + spec.depth,
        left,
        left + spec.length,
        spec.low_end,
        {},
        spec.low_end,
        spec.into,
    )


def start(spec: HeaderSpec, site: Site) -> dict[str, float]:
    """At rest it is empty."""
    return {spec.id: spec.low_end}
