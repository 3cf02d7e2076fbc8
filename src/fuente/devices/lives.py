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
    """Plants with their roots in a cell's water: nitrogen in kg/s that they take while they grow, over a day's mean."""

    cell: str
    takes: float


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
