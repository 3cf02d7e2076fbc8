"""A sump's panels as plates under water: the long wall, the bottom, a baffle with one side empty."""

from __future__ import annotations

from fuente.devices.shop import Shop
from fuente.devices.sump.spec import Baffle, Sump
from fuente.structure.plates import PlateResult, bottom, wall
from fuente.structure.vessels import long_wall

USUAL = Shop()


def wall_check(sump: Sump, shop: Shop = USUAL) -> PlateResult:
    """The long wall, brim full."""
    return long_wall(
        sump.inner_length,
        sump.inner_width,
        sump.inner_height,
        sump.thickness,
        material=sump.material,
        braced=sump.braced,
        strip=sump.strip,
        allowable=shop.allowed(sump.material),
    )


def bottom_check(sump: Sump, shop: Shop = USUAL) -> PlateResult:
    """The bottom on its edges or on a full bed, brim full."""
    return bottom(
        sump.inner_length,
        sump.inner_width,
        sump.inner_height,
        sump.bottom,
        material=sump.material,
        full_bed=sump.full_bed,
        allowable=shop.allowed(sump.material),
    )


def baffle_check(sump: Sump, baffle: Baffle, shop: Shop = USUAL) -> PlateResult:
    """A baffle with water to its crest on one side and none on the other, three edges bonded."""
    height = max(baffle.top - baffle.gap, 0.02)
    allowed = shop.allowed(baffle.material)
    return wall(sump.inner_width, height, baffle.thickness, material=baffle.material, allowable=allowed)
