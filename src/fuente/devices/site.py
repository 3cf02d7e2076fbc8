"""The surroundings of a device: the room, other waters and their ports, the water itself, what the builder believes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass, field
from functools import cached_property
from typing import TYPE_CHECKING, Any

from pydantic import Field

from fuente.catalogue import Catalogue, Medium, stock
from fuente.devices.base import (
    Home,
    Path,
    Spec,
    measured,
)
from fuente.devices.schools import Schools, ruling
from fuente.devices.shop import Shop
from fuente.life.load import ammonia_made, areal_rate, foam_surface, surface_needed
from fuente.network.aeration import AirDrop, Lift
from fuente.water.properties import Water

if TYPE_CHECKING:
    from fuente.devices.contract import Device, End


KEPT, OXYGEN = 5e-4, 6e-3  # kg/m³: ammonia that one lives with, and oxygen in a filter that is looked after


SPARE = 1.5  # times the surface that the load needs


ASSUMED_FEED = 0.02  # kg of feed a day for each m³ of tank where nothing is known: a light stock, said on the card


_DAY = 86400.0


class Space(Spec):
    """The room for the filter, and the room around it."""

    length: float = measured(1.4, "length", "Opening length", 0.1, 20)
    depth: float = measured(0.55, "length", "Opening depth", 0.1, 10)
    height: float = measured(0.7, "length", "Opening height", 0.1, 4)
    service: float = measured(0.2, "length", "Hand room over the sump", 0.0, 1.0, "To lift out pads and media.")
    air: float = measured(20.0, "temperature", "Room temperature", -5, 45)
    coldest: float = measured(16.0, "temperature", "Coldest room", -10, 40)
    warmest: float = measured(28.0, "temperature", "Warmest room", 0, 45)
    humidity: float = measured(0.5, "fraction", "Air humidity", 0.05, 1.0)
    margin: float = measured(0.025, "length", "Freeboard you want left", 0.0, 0.5, step=0.005)
    turnover: float = measured(6 / 3600, "per_hour", "Turnover you want", 0.1 / 3600, 40 / 3600)
    lift: float = measured(
        10.0, "mass", "Heaviest load you lift", 1.0, 60.0, "Media is split into bags under it.", step=1.0
    )
    price: float = Field(0.3, ge=0.0, le=1000.0, description="Price of a kilowatt-hour, in any money.")
    quiet: bool = Field(True, description="Whether the drain must be quiet.")


@dataclass(frozen=True)
class Port:
    """A place of a vessel where others join it: its cells, where it lies in the drawing, m, and a pump's intake there.

    ``entry`` is the cell that water comes into, ``leave`` the one that it goes from. ``intake`` is an elevation in m.
    """

    name: str
    entry: str
    leave: str
    left: float
    right: float
    intake: float | None = None
    # Of a pump's well: running mark and intake over the vessel's floor, m; its plan, m²; where the mark stands.
    level: float = 0.0
    needs: float = 0.0
    area: float = 0.0
    mark_path: Path = ()
    station: str = ""  # id of the row that tells of it
    title: str = ""  # what a chamber is called; empty for what is none

    @property
    def middle(self) -> float:
        """m, in the drawing."""
        return (self.left + self.right) / 2


@dataclass(frozen=True)
class Vessel:
    """Water that pipes can lead from or to: cells, elevations in m, and where it stands in the drawing, m."""

    id: str
    name: str
    inlet: str
    outlet: str
    floor: float
    rim: float
    left: float
    right: float
    stands: float  # about where its water stands, elevation in m
    ports: Mapping[str, Port] = field(default_factory=dict)
    lets_go: float | None = (
        None  # elevation in m at which what falls in lets go, where that is not the falling pipe's own
    )
    passes_to: str = ""  # id of the vessel that it only leads on to, as a gutter does
    wall: float = 0.0  # thickness of its walls, m
    foot: float | None = None  # elevation in m of its inlet's own floor, where that is not the vessel's

    def falls_at(self, chamber: str) -> float:
        """x in m at which a drain comes down in a chamber; where none is named, in the first."""
        return self.ports[chamber].middle if chamber in self.ports else self.comes_down

    @property
    def comes_down(self) -> float:
        """x in m at which a drain comes down in it."""
        if "inlet" in self.ports:
            return self.ports["inlet"].middle
        return self.left + min(0.15, (self.right - self.left) / 3)

    def release(self, height: float) -> float:
        """Elevation in m at which a pipe lets go that ends a height in m over the floor here."""
        return self.floor + height if self.lets_go is None else self.lets_go

    def port(self, name: str) -> Port:
        """A port by its name; without a name, all of the vessel."""
        if name in self.ports:
            return self.ports[name]
        return Port(name, self.inlet, self.outlet, self.left, self.right)


@dataclass(frozen=True)
class Landing:
    """Water of a vessel that a pipe ends in, as tanks are described to pipes: the id of its cell, elevations and inside
    sizes in m, and where it stands in the drawing.
    """

    id: str
    name: str
    floor: float
    rim: float
    thickness: float
    offset: float
    length: float
    inner_width: float

    @property
    def stand(self) -> float:
        """Elevation of its floor, m."""
        return self.floor

    @property
    def inner_length(self) -> float:
        """m."""
        return self.length - 2 * self.thickness

    @property
    def inner_height(self) -> float:
        """m."""
        return self.rim - self.floor


@dataclass(frozen=True)
class Site:
    """The surroundings of a device: its tank, other waters by id, the water itself, and the ruling schools."""

    tank: Home
    water: Water
    vessels: Mapping[str, Vessel] = field(default_factory=dict)
    schools: Schools = field(default_factory=Schools)
    salinity: float = 0.0
    taken: frozenset[str] = frozenset()  # ids in use
    level: float = 0.0  # elevation in m at which the tank's water stands, as far as is known before solving
    drops: Mapping[str, AirDrop] = field(default_factory=dict)  # by device id: the line that blows into it
    beside: tuple[float, float] = (0.0, 0.0)  # m: right end of everything drawn, and the floor there
    room: float = 0.0  # m along the tank from its left wall that other filters leave free
    space: Space = field(default_factory=Space)
    devices: Mapping[str, Device] = field(default_factory=dict)  # all of the system, by id, in its order
    housed: Mapping[str, tuple[Device, ...]] = field(default_factory=dict)  # by tank what belongs to it
    homes: Mapping[str, Home] = field(default_factory=dict)  # tanks by id
    lifts: Mapping[str, Lift] = field(default_factory=dict)  # tubes that wait for air, by device id
    inside: tuple[tuple[float, float, float], ...] = ()  # what stands in a tank: bottom m, top m, volume m³
    footprint: float = 0.0  # m² of a tank's plan that others wall off
    catalogue: Catalogue = field(default_factory=stock)  # what is sold, and the builder's own media
    shop: Shop = field(default_factory=Shop)  # how the builder builds

    @property
    def depth(self) -> float:
        """Of the tank's water, m."""
        return self.level - self.tank.floor

    @property
    def volume(self) -> float:
        """Of the tank's water, m³, about."""
        return self.tank.inner_length * self.tank.inner_width * self.depth

    def landing(self, to: str, chamber: str = "") -> Home | Landing:
        """Where a pipe ends: a tank, or a chamber of a vessel, by ids; without a chamber where drains fall in."""
        if to in self.homes:
            return self.homes[to]
        vessel = self.vessels[to]
        port = vessel.port(chamber or "inlet")
        foot = vessel.floor if vessel.foot is None else vessel.foot
        wide = port.right - port.left
        return Landing(port.entry, vessel.name, foot, vessel.rim, 0.0, port.left, wide, wide)

    def end_of(self, vessel_id: str) -> Vessel:
        """The vessel that water reaches at last, over gutters."""
        vessel = self.vessels[vessel_id]
        return self.end_of(vessel.passes_to) if vessel.passes_to else vessel

    @property
    def right_of_all(self) -> float:
        """Right end in m of every tank and of what stands under them with a pump's well."""
        ends = [self.vessels[key].right for key in self.homes]
        return max(ends + [v.right for v in self.vessels.values() if v.ports], default=0.0)

    def arriving(self, device_id: str) -> tuple[tuple[Device, End], ...]:
        """What drains into a device, in the order of the document."""
        return self._arriving.get(device_id, ())

    @cached_property
    def _arriving(self) -> Mapping[str, tuple[tuple[Device, End], ...]]:
        found: dict[str, tuple[tuple[Device, End], ...]] = {}
        for device in self.devices.values():
            for end in device.ends():
                if end.role == "drains":
                    found[end.to] = (*found.get(end.to, ()), (device, end))
        return found

    def medium(self, medium_id: str) -> Medium:
        """A medium by its id."""
        return self.catalogue.medium(medium_id)

    @property
    def feed(self) -> float:
        """kg/s: what the builder said, or a light stock's."""
        return self.tank.fed or ASSUMED_FEED * self.volume / _DAY

    def ruled(self, spec: Any) -> Schools:
        """The schools that hold for a filter."""
        return ruling(self.schools, spec.schools)

    def surface(self) -> float:
        """Living surface in m² for the tank's load, with what is spare."""
        rate, _ = areal_rate(KEPT, self.tank.temperature, OXYGEN, self.salinity)
        return SPARE * surface_needed(ammonia_made(self.feed, self.tank.protein), rate)

    def media(self, medium_id: str, schools: Schools | None = None) -> float:
        """Bulk m³ of a medium that carries the tank's load."""
        return self.surface() / self.medium(medium_id).living((schools or self.schools).surface == "core")

    def foam(self, ppi: float) -> float:
        """m³ of foam that carries the tank's load."""
        return self.surface() / foam_surface(ppi)

    def new_id(self, stem: str) -> str:
        """An id that is free."""
        if stem not in self.taken:
            return stem
        return next(f"{stem}-{n}" for n in range(2, 9999) if f"{stem}-{n}" not in self.taken)
