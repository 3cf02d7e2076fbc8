"""A tank as a cell."""

from __future__ import annotations

from fuente.devices.base import Fragment
from fuente.devices.tank.spec import Tank
from fuente.errors import SpecError
from fuente.network.laws import Spill
from fuente.network.model import FLOOR, Cell, LevelCurve, Link


def lower(tank: Tank, taken_area: float = 0.0, inside: tuple[tuple[float, float, float], ...] = ()) -> Fragment:
    """One cell with its spill. taken_area m² is what an overflow box takes of the plan; ``inside`` filters in it as
    (bottom m, top m, volume m³).
    """
    area = tank.inner_length * tank.inner_width - taken_area
    layer = min(tank.gravel / area / 0.6, 0.8 * tank.inner_height)  # solids lie with 40 % of voids
    contents = [(tank.floor, tank.floor + layer, tank.gravel)] if tank.gravel else []
    contents += inside
    try:
        curve = LevelCurve.with_contents(tank.floor, tank.rim, area, contents)
    except SpecError:
        raise SpecError(f"What stands in {tank.name} leaves it no water at some height.") from None
    cell = Cell(tank.id, tank.name, tank.floor, tank.rim, curve, owner=tank.id)
    spill = Spill(tank.rim, 2 * (tank.inner_length + tank.inner_width))
    link = Link(f"{tank.id}.spill", f"{tank.name} over its rim", tank.id, FLOOR, spill, "spill", tank.id)
    return Fragment((cell,), (link,), {"water": tank.id})
