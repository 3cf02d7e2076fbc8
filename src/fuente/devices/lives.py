"""What lives in a device, and what lives off it: what the verb ``live`` of a kind's folder returns."""

from __future__ import annotations

from typing import NamedTuple


class Surface(NamedTuple):
    """Living surface in m² in the water of a cell."""

    cell: str
    area: float


class Fed(NamedTuple):
    """Animals in a cell's water: dry feed kg/s, and the share of protein in it."""

    cell: str
    feed: float
    protein: float


class Planted(NamedTuple):
    """Plants with their roots in a cell's water: nitrogen in kg/s that they take while they grow, over a day's mean,
    and oxygen in kg that each kg of it brings into the water by day.
    """

    cell: str
    takes: float
    gives: float = 0.0


class Anoxic(NamedTuple):
    """A place without oxygen that a cell's water reaches: nitrate nitrogen in kg/s that could leave as gas there."""

    cell: str
    takes: float


class Live(NamedTuple):
    """All of a device: surfaces, animals, plants, anoxic places."""

    surfaces: tuple[Surface, ...] = ()
    fed: tuple[Fed, ...] = ()
    plants: tuple[Planted, ...] = ()
    anoxic: tuple[Anoxic, ...] = ()


CORE_GASSED = 2e-6 / 86400.0  # kg/s of nitrate nitrogen for each m² of porous core; an assumption, a factor of ten


def cores_take(made: Live, outer: Live) -> Live:
    """What lives in a device by the rule that counts porous cores, with the nitrate that they take: 2 mg a day for each
    m² that it has more than by its outer surface. Nobody has measured that; a factor of ten either way.
    """
    more: dict[str, float] = {}
    for sign, live in ((1.0, made), (-1.0, outer)):
        for surface in live.surfaces:
            more[surface.cell] = more.get(surface.cell, 0.0) + sign * surface.area
    found = tuple(Anoxic(cell, CORE_GASSED * area) for cell, area in more.items() if area > 1e-9)
    return made._replace(anoxic=(*made.anoxic, *found))
