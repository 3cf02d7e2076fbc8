"""The one contract of every kind of device: what it decides, what it joins, and the verbs of its folder.

Whoever makes a network, a section, a list of stations, a bill or findings loops over devices by this contract; nobody
outside a kind's folder asks for it by name.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Any, Literal, NamedTuple, Protocol

from pydantic import Field

from fuente.catalogue import Catalogue, Medium, stock
from fuente.devices.base import (
    Choice,
    Edit,
    Finding,
    Fragment,
    Home,
    Path,
    Reading,
    Spec,
    Station,
    Task,
    Verdict,
    measured,
)
from fuente.devices.pieces import Parts
from fuente.devices.schools import Schools, ruling
from fuente.drawing.primitives import Drawing, Point
from fuente.life.load import ammonia_made, areal_rate, foam_surface, surface_needed
from fuente.network.aeration import Aeration, AirDrop, Lift
from fuente.network.model import Law, Network, Solution
from fuente.water.properties import Water

KEPT, OXYGEN = 5e-4, 6e-3  # kg/m³: ammonia that one lives with, and oxygen in a filter that is looked after
SPARE = 1.5  # times the surface that the load needs
ASSUMED_FEED = 0.02  # kg of feed a day for each m³ of tank where nothing is known: a light stock, said on the card
_DAY = 86400.0

# -- what a device joins ----------------------------------------------------------------------------------------------

Role = Literal["stands", "draws", "gives", "drains", "blows"]


class Held(NamedTuple):
    """A medium that a device holds: its id, and which kind it must be of, or any."""

    medium: str
    kind: Literal["", "carrier", "loose"] = ""


@dataclass(frozen=True)
class End:
    """One end of a device at another's port.

    ``role``: it stands there, draws from it, gives to it, drains into it by a fall, or blows into it. A ``port`` left
    empty is any water of that device. ``area`` in m² is the bore of all pipes that fall in there.
    """

    to: str
    role: Role
    port: str = ""
    area: float = 0.0
    pipes: int = 0


class Device(Spec):
    """A part of the system that holds or moves water, air or heat; ``kind`` names its folder."""

    kind: str
    id: str = Field(max_length=40, description="Unlike every other in the system.")

    @property
    def path(self) -> Path:
        """Where it stands in the document."""
        return ("devices", self.id)

    @property
    def title(self) -> str:
        """What sentences call it."""
        return str(getattr(self, "name", "") or f"The {self.kind.replace('_', ' ')} “{self.id}”")

    @property
    def home(self) -> str:
        """Id of the tank that it belongs to; empty for none or several."""
        return ""

    @property
    def passes_to(self) -> str:
        """Id of the vessel that it only leads water on to, as a gutter does; empty for none."""
        return ""

    @property
    def span_inside(self) -> tuple[float, float] | None:
        """Where it stands within its tank, m along it from the left wall's inner face; None where it does not."""
        return None

    def walled(self, tank: Any) -> tuple[float, float] | None:
        """What of its tank's length it walls off, its own wall with it, m from the tank's left outer end; None for
        none.
        """
        return None

    def holds(self) -> tuple[Held, ...]:
        """Media in it, by ids of the design's catalogue."""
        return ()

    def drills(self, site: Site, vessel_id: str) -> tuple[tuple[Literal["left", "right"], float, float, int], ...]:
        """Holes that it needs in the end walls of a vessel: which end, height over the floor and saw in m, how many in
        a row.
        """
        return ()

    @property
    def levels(self) -> bool:
        """Whether the waters that it joins find one level."""
        return False

    @property
    def warms(self) -> float:
        """Power in W of pumps that goes into the system's water."""
        return 0.0

    def ports(self) -> tuple[str, ...]:
        """Names of the places where others join it; none where nothing can."""
        return ()

    def ends(self) -> tuple[End, ...]:
        """Where it joins others."""
        return ()

    def falls(self) -> tuple[tuple[str, float], ...]:
        """Waters that it drains by a fall, each with the height in m over their floor to which it drains them."""
        return ()

    def air_lines(self) -> tuple[str, ...]:
        """Ids of devices that it blows air into, in the order of their taps."""
        return tuple(e.to for e in self.ends() if e.role == "blows")

    def past(self, gone: Device) -> Device | None:
        """The same once another device is taken out; None where nothing of it is left without that."""
        return None if any(e.to == gone.id for e in self.ends()) else self


class Space(Spec):
    """The room for the filter, and the room around it."""

    length: float = measured(1.4, "length", "Opening length", 0.1, 20)
    depth: float = measured(0.55, "length", "Opening depth", 0.1, 10)
    height: float = measured(0.7, "length", "Opening height", 0.1, 4)
    service: float = measured(0.2, "length", "Hand room over the sump", 0.0, 1.0, "To lift out pads and media.")
    air: float = measured(20.0, "temperature", "Room temperature", -5, 45)
    coldest: float = measured(16.0, "temperature", "Coldest room", -10, 40)
    humidity: float = measured(0.5, "fraction", "Air humidity", 0.05, 1.0)
    margin: float = measured(0.025, "length", "Freeboard you want left", 0.0, 0.5, step=0.005)
    turnover: float = measured(6 / 3600, "per_hour", "Turnover you want", 0.1 / 3600, 40 / 3600)
    lift: float = measured(
        10.0, "mass", "Heaviest load you lift", 1.0, 60.0, "Media is split into bags under it.", step=1.0
    )
    price: float = Field(0.3, ge=0.0, le=1000.0, description="Price of a kilowatt-hour, in any money.")
    quiet: bool = Field(True, description="Whether the drain must be quiet.")


# -- its surroundings -------------------------------------------------------------------------------------------------


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
    homes: Mapping[str, Home] = field(default_factory=dict)  # tanks by id
    lifts: Mapping[str, Lift] = field(default_factory=dict)  # tubes that wait for air, by device id
    inside: tuple[tuple[float, float, float], ...] = ()  # what stands in a tank: bottom m, top m, volume m³
    footprint: float = 0.0  # m² of a tank's plan that others wall off
    catalogue: Catalogue = field(default_factory=stock)  # what is sold, and the builder's own media

    @property
    def depth(self) -> float:
        """Of the tank's water, m."""
        return self.level - self.tank.floor

    @property
    def volume(self) -> float:
        """Of the tank's water, m³, about."""
        return self.tank.inner_length * self.tank.inner_width * self.depth

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


class State(Protocol):
    """The water in one situation, as findings and cards read it."""

    @property
    def name(self) -> str: ...
    @property
    def solution(self) -> Solution: ...
    @property
    def verdict(self) -> Verdict: ...
    @property
    def numbers(self) -> Mapping[str, float]: ...
    @property
    def about(self) -> str: ...


class Study(Protocol):
    """What has been computed of the system that a device stands in."""

    @property
    def running(self) -> Solution: ...
    @property
    def network(self) -> Network: ...
    @property
    def sites(self) -> Mapping[str, Site]: ...
    @property
    def space(self) -> Space: ...
    @property
    def laws(self) -> Mapping[str, Law]: ...
    @property
    def bodies(self) -> Sequence[Sequence[str]]: ...
    def situation(self, name: str, about: str = "") -> State: ...
    def try_situation(self, name: str, about: str = "") -> State | Exception: ...
    def supply(self, solution: Solution, tank_id: str) -> float: ...
    def moved(self, solution: Solution, tank_id: str) -> float: ...
    def through(self, solution: Solution, device_id: str) -> float: ...
    def drains(self, emergency: bool, tank: str = "") -> Sequence[str]: ...
    def most_exposed(self) -> str: ...
    def drained_to(self, tank_id: str) -> float: ...
    def evaporation_rate(self) -> float: ...
    def filter_room(self) -> float: ...
    def lost_air(self, air_id: str) -> Mapping[str, float]: ...
    def air_wish(self, device_id: str) -> float: ...
    def air_end(self, device_id: str) -> tuple[Point, Point] | None: ...
    def wells(self) -> Sequence[tuple[Vessel, Port]]: ...
    def air_group(self, air_id: str) -> Aeration | None: ...


@dataclass(frozen=True)
class Share:
    """What a tank of many gets: flow m³/s, its part of the most that any gets, and a mark: least, most or none."""

    flow: float
    part: float
    mark: str = ""
    text: str = ""


@dataclass(frozen=True)
class Look:
    """What a drawing shows: the water of one situation, of many tanks only the chosen one with handles."""

    study: Study
    solution: Solution
    situation: str = "running"
    focus: str = ""
    many: bool = False
    shares: Mapping[str, Share] = field(default_factory=dict)  # by tank id

    def chosen(self, *ids: str) -> bool:
        """Whether handles are wanted on something that belongs to one of these."""
        return not self.many or self.focus in ids


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
class Balance:
    """What to set valves to so that each tank gets its wish: settings by id, the share of it that is reached, who is
    the limit.
    """

    settings: Mapping[str, float]
    share: float
    limit: str
    edit: Edit


# -- the verbs --------------------------------------------------------------------------------------------------------


@dataclass(frozen=True, kw_only=True)
class Kind:
    """One kind of device: its words, its spec, and the verbs of its folder.

    ``order`` is its place where all kinds are gone through: lowering, drawing from back to front, lists. What stands
    ``at_home`` is listed right after its tank; what ``follows`` another is listed after the device that it leaves.
    """

    id: str
    name: str
    spec: type[Device]
    order: int
    lower: Callable[[Any, Site], Fragment]
    card: Callable[[Any, Site, Study, Solution], tuple[Station, ...]]
    sketch: Callable[[Any, Site, Look], Drawing]
    parts: Callable[[Any, Site, Solution], Parts]
    care: Callable[[Any, Site, Solution], tuple[Task, ...]]
    judge: Callable[[Any, Site, Study], Iterable[Finding]]
    said: str = ""
    glyph: str = "chamber"
    at_home: bool = False
    follows: bool = False
    built: int = 50  # the place of its parts in the list of what is made
    vessel: Callable[[Any, Site], Vessel] | None = None  # where others can lead water, if anywhere
    # Living surface: cell id and m² of each place, by the schools that rule it.
    living: Callable[[Any, Site], tuple[tuple[str, float], ...]] | None = None
    drops: Callable[[Any], Mapping[str, AirDrop]] | None = None  # by device id: the lines that it blows through
    air_at: Callable[[Any, Site], Point] | None = None  # where its airline ends in the drawing, mm
    wish: Callable[[Any, Site], float] | None = None  # air in m³/s that it wants
    rooms: Callable[[Any, Site], tuple[Room, ...]] | None = None
    offers: Callable[[Any, Site, Study, Solution, str], Offer | None] | None = None
    balance: Callable[[Any, Site, Study, float], Balance] | None = None
    fits: Callable[[Any, Site, Study], Iterable[Finding]] | None = None  # what is judged even where nothing runs
    # Why a pump of it cannot run, before anything is solved: raises FuenteError.
    check: Callable[[Any, Site, Study], None] | None = None
    start: Callable[[Any, Site], Mapping[str, float]] | None = None  # levels from which still water is looked for
    more_living: Callable[[Any, Site, float], tuple[Edit | None, str]] | None = None  # m² more, where there is room

    def listed(self, spec: Any, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
        """Its rows and cards."""
        return self.card(spec, site, study, solution)

    def surfaces(self, spec: Any, site: Site) -> tuple[tuple[str, float], ...]:
        """Living surface in m² by the cell whose water it sees."""
        return self.living(spec, site) if self.living else ()


__all__ = [
    "ASSUMED_FEED",
    "KEPT",
    "OXYGEN",
    "Balance",
    "Device",
    "End",
    "Kind",
    "Look",
    "Offer",
    "Point",
    "Port",
    "Role",
    "Room",
    "Share",
    "Site",
    "Space",
    "State",
    "Study",
    "Vessel",
]
