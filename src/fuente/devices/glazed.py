"""A box's walls and bottom as plates under water: what tanks and sumps have in common."""

from __future__ import annotations

from typing import Protocol

from fuente.devices.shop import Shop
from fuente.structure.plates import PlateResult, bottom
from fuente.structure.vessels import long_wall

USUAL_SHOP = Shop()


class Glazed(Protocol):
    """An open box of one material; sizes in m."""

    @property
    def inner_length(self) -> float: ...
    @property
    def inner_width(self) -> float: ...
    @property
    def inner_height(self) -> float: ...
    @property
    def thickness(self) -> float: ...
    @property
    def bottom(self) -> float: ...
    @property
    def material(self) -> str: ...
    @property
    def braced(self) -> bool: ...
    @property
    def strip(self) -> float: ...
    @property
    def full_bed(self) -> bool: ...


def plate_wall(box: Glazed, shop: Shop = USUAL_SHOP) -> PlateResult:
    """The long wall as one plate, brim full, by the shop's school of stress."""
    return long_wall(
        box.inner_length,
        box.inner_width,
        box.inner_height,
        box.thickness,
        material=box.material,
        braced=box.braced,
        strip=box.strip,
        allowable=shop.allowed(box.material),
    )


def plate_bottom(box: Glazed, shop: Shop = USUAL_SHOP) -> PlateResult:
    """The bottom on its edges or on a full bed, brim full."""
    length, width, depth = box.inner_length, box.inner_width, box.inner_height
    allowed = shop.allowed(box.material)
    return bottom(length, width, depth, box.bottom, material=box.material, full_bed=box.full_bed, allowable=allowed)
