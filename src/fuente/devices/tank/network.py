"""A tank as a cell."""

from __future__ import annotations

from fuente.devices.base import Fragment
from fuente.devices.site import Site, Vessel
from fuente.devices.tank.spec import Tank
from fuente.errors import SpecError
from fuente.network.laws import Spill
from fuente.network.level_curve import LevelCurve, Walls
from fuente.network.model import FLOOR, Cell, Link, WayKind


def lower(tank: Tank, site: Site) -> Fragment:
    """One cell with its spill, less what overflow boxes wall off and what stands in it."""
    area = tank.inner_length * tank.inner_width - site.footprint
    layer = min(tank.gravel / area / 0.6, 0.8 * tank.inner_height)  # solids lie with 40 % of voids
    contents = [(tank.floor, tank.floor + layer, tank.gravel)] if tank.gravel else []
    contents += site.inside
    try:
        curve = LevelCurve.with_contents(tank.floor, tank.rim, area, contents)
    except SpecError:
        raise SpecError(f"What stands in {tank.name} leaves it no water at some height.") from None
    wet = tank.inner_length * tank.inner_width * (1 - tank.cover)
    around = 2 * (tank.inner_length + tank.inner_width)
    cell = Cell(
        tank.id,
        tank.name,
        tank.floor,
        tank.rim,
        curve,
        owner=tank.id,
        open_area=wet,
        temperature=tank.temperature,
        cover=tank.cover,
        walls=Walls(tank.material, tank.thickness, around, tank.inner_length * tank.inner_width),
    )
    spill = Spill(tank.rim, around)
    link = Link(f"{tank.id}.spill", f"{tank.name} over its rim", tank.id, FLOOR, spill, WayKind.SPILL, tank.id)
    return Fragment((cell,), (link,), {"water": tank.id})


def vessel(tank: Tank, site: Site) -> Vessel:
    """All its water is one."""
    return Vessel(
        tank.id, tank.name, tank.id, tank.id, tank.floor, tank.rim, tank.offset, tank.offset + tank.length, site.level
    )
