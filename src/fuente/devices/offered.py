"""What devices hand to drawings, cards and findings beside their stations."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass

from fuente.devices.base import (
    Choice,
    Edit,
    Reading,
)
from fuente.drawing.primitives import Point
from fuente.network.aeration import Lift


@dataclass(frozen=True)
class Share:
    """What a tank of many gets: flow m³/s, its part of the most that any gets, and a mark: least, most or none."""

    flow: float
    part: float
    mark: str = ""
    text: str = ""


@dataclass(frozen=True)
class Offer:
    """What a device adds to the card of a tank that it serves."""

    choices: tuple[Choice, ...] = ()
    readings: tuple[Reading, ...] = ()
    why: Reading | None = None  # why the tank gets what it gets
    commands: Callable[[], tuple[tuple[str, Edit], ...]] | None = None
    serves: bool = True  # whether the tank's headline is then its flow


@dataclass(frozen=True)
class Room:
    """A place that can be emptied for cleaning: its station's id, what it is called, its cells."""

    id: str
    title: str
    cells: tuple[str, ...]
    dirt: int = 0  # which is cleaned first: the highest
    moves_on: bool = False  # whether a pump stands in it, so that cleaning it is stopping everything
    local: str = ""  # what it is called within its device, as scripts write it


@dataclass(frozen=True)
class AirPlace:
    """A place within a device that takes air: the id of its station, its device and port, what it is called, air in
    m³/s that it wants, its tube; where its airline ends in the drawing and where it comes over the rim, mm.
    """

    id: str
    device: str
    port: str
    title: str
    wish: float
    lift: Lift
    at: Point
    over: Point


@dataclass(frozen=True)
class Balance:
    """What to set valves to so that each tank gets its wish: settings by id, the share of it that is reached, who is
    the limit.
    """

    settings: Mapping[str, float]
    share: float
    limit: str
    edit: Edit
