"""A sump's baffles as plates under water, one side empty."""

from __future__ import annotations

from fuente.devices.glazed import USUAL_SHOP
from fuente.devices.shop import Shop
from fuente.devices.sump.spec import Baffle, Sump
from fuente.structure.plates import PlateResult, wall


def baffle_check(sump: Sump, baffle: Baffle, shop: Shop = USUAL_SHOP) -> PlateResult:
    """A baffle with water to its crest on one side and none on the other, three edges bonded."""
    height = max(baffle.top - baffle.gap, 0.02)
    allowed = shop.allowed(baffle.material)
    return wall(sump.inner_width, height, baffle.thickness, material=baffle.material, allowable=allowed)
