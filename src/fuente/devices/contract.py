"""The one contract of every kind of device: what it decides, what it joins, and the verbs of its folder.

Whoever makes a network, a section, a list of stations, a bill or findings loops over devices by this contract; nobody
outside a kind's folder asks for it by name.
"""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field, replace
from typing import Any, Literal, NamedTuple, Protocol

from pydantic import Field

from fuente.devices.base import (
    Edit,
    Finding,
    Fragment,
    Outline,
    Path,
    Reading,
    Spec,
    Station,
    Task,
    Verdict,
)
from fuente.devices.lives import Live, Surface, cores_take
from fuente.devices.offered import AirPlace, Balance, Offer, Room, Share
from fuente.devices.pieces import FirstRun, Parts
from fuente.devices.site import ASSUMED_FEED, KEPT, OXYGEN, Port, Site, Space, Vessel
from fuente.drawing.primitives import Drawing, Point
from fuente.network.aeration import Aeration, AirDrop
from fuente.network.model import Law, Network, Solution

# -- what a device joins ----------------------------------------------------------------------------------------------

Role = Literal["stands", "draws", "gives", "drains", "blows"]


class Held(NamedTuple):
    """A medium that a device holds: its id, and which kind it must be of, or any."""

    medium: str
    kind: Literal["", "carrier", "loose"] = ""


@dataclass(frozen=True)
class Heater:
    """Heaters at one place: its station, the cell whose water they stand in, what that is called, how many of how many
    W each.
    """

    station: str
    cell: str
    where: str
    count: int
    watts: float


FALL = 2.0  # K by which water that cools has harmed nobody yet, but should be noticed


@dataclass(frozen=True)
class Warmth:
    """Temperatures in °C of a body of water: what is kept, what its heaters reach in the coldest room, with the
    largest stuck on in the usual room, with it dead, and with all dead in the coldest; hours until all dead cost 2 K.
    """

    kept: float
    reached: float
    one_stuck: float
    one_dead: float
    all_dead: float
    hours: float
    watts: float
    count: int


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


def place_of(device_id: str, port: str) -> str:
    """Id of the place that air goes to: the device's own where it takes air as a whole, else its station's there."""
    return device_id if port in ("", "air") else f"{device_id}.{port}"


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

    def outlines(self, site: Site) -> tuple[Outline, ...]:
        """What it takes of the ground, seen from above; nothing for pipes and lines."""
        return ()

    @property
    def draws(self) -> float:
        """Power in W that it takes from the mains day and night; heaters, which come and go, left out."""
        return self.warms

    @property
    def warms(self) -> float:
        """Power in W of pumps that goes into the system's water."""
        return 0.0

    def heated(self) -> tuple[Heater, ...]:
        """Heaters in its water, by place."""
        return ()

    def ports(self) -> tuple[str, ...]:
        """Names of the places where others join it; none where nothing can."""
        return ()

    def takes_air(self) -> tuple[str, ...]:
        """Names of its ports that an air line may lead to."""
        return ("air",) if "air" in self.ports() else ()

    def ends(self) -> tuple[End, ...]:
        """Where it joins others."""
        return ()

    def falls(self) -> tuple[tuple[str, float], ...]:
        """Waters that it drains by a fall, each with the height in m over their floor to which it drains them."""
        return ()

    def air_lines(self) -> tuple[str, ...]:
        """Ids of devices, or of stations within them, that it blows air into, in the order of their taps."""
        return tuple(place_of(e.to, e.port) for e in self.ends() if e.role == "blows")

    def past(self, gone: Device) -> Device | None:
        """The same once another device is taken out; None where nothing of it is left without that."""
        return None if any(e.to == gone.id for e in self.ends()) else self


# -- its surroundings -------------------------------------------------------------------------------------------------


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
    def known(self, name: str, about: str = "") -> State | Exception | None: ...
    def peek(self, name: str, about: str = "") -> State | Exception | None: ...
    def supply(self, solution: Solution, tank_id: str) -> float: ...
    def moved(self, solution: Solution, tank_id: str) -> float: ...
    def through(self, solution: Solution, device_id: str) -> float: ...
    def drains(self, emergency: bool, tank: str = "") -> Sequence[str]: ...
    def most_exposed(self) -> str: ...
    def drained_to(self, tank_id: str) -> float: ...
    def evaporation_rate(self) -> float: ...
    def filter_room(self) -> float: ...
    def lost_air(self, air_id: str) -> Mapping[str, float]: ...
    @property
    def air_places(self) -> Mapping[str, AirPlace]: ...
    def air_wish(self, device_id: str) -> float: ...
    def air_end(self, device_id: str) -> tuple[Point, Point] | None: ...
    def wells(self) -> Sequence[tuple[Vessel, Port]]: ...
    def warmth(self, cell_id: str) -> Warmth | None: ...
    def air_group(self, air_id: str) -> Aeration | None: ...


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


# -- the verbs --------------------------------------------------------------------------------------------------------


_LEAST_HELD = 2e-5  # m³: what a short pipe holds tells nobody anything


def in_pipes(spec: Device, solution: Solution) -> tuple[Reading, ...]:
    """What a device's pipes hold in a state of the water."""
    held = solution.held_by_owner.get(spec.id, 0.0)
    if held < _LEAST_HELD:
        return ()
    return (
        Reading(
            "Water in its pipes",
            held,
            "volume",
            "Bore by length of every pipe that runs full, and over the water that it ends in; an open drain holds the"
            " film that falls in it. It comes down with the rest once air gets in.",
            "Geometry; films after Wyly and Eaton 1961",
            "±3 % full, ±20 % open",
        ),
    )


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
    live: Callable[[Any, Site], Live] | None = None  # all that lives in it; else its living surface alone
    drops: Callable[[Any], Mapping[str, AirDrop]] | None = None  # by device id: the lines that it blows through
    air_at: Callable[[Any, Site], Point] | None = None  # where its airline ends in the drawing, mm
    wish: Callable[[Any, Site], float] | None = None  # air in m³/s that it wants
    airs: Callable[[Any, Site], tuple[AirPlace, ...]] | None = None  # places in it that take air, where it has several
    rooms: Callable[[Any, Site], tuple[Room, ...]] | None = None
    offers: Callable[[Any, Site, Study, Solution, str], Offer | None] | None = None
    balance: Callable[[Any, Site, Study, float], Balance] | None = None
    fits: Callable[[Any, Site, Study], Iterable[Finding]] | None = None  # what is judged even where nothing runs
    # Why a pump of it cannot run, before anything is solved: raises FuenteError.
    check: Callable[[Any, Site, Study], None] | None = None
    start: Callable[[Any, Site], Mapping[str, float]] | None = None  # levels from which still water is looked for
    # What is done when water first runs through it, in order: drains trimmed, floats tried, air let in.
    commission: Callable[[Any, Site], tuple[FirstRun, ...]] | None = None
    more_living: Callable[[Any, Site, float], tuple[Edit | None, str]] | None = None  # m² more, where there is room

    def listed(self, spec: Any, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
        """Its rows and cards, with what its pipes hold."""
        first, *rows = self.card(spec, site, study, solution) or (None,)
        return (replace(first, readings=(*first.readings, *in_pipes(spec, solution))), *rows) if first else ()

    def surfaces(self, spec: Any, site: Site) -> tuple[tuple[str, float], ...]:
        """Living surface in m² by the cell whose water it sees."""
        return self.living(spec, site) if self.living else ()

    def lives(self, spec: Any, site: Site) -> Live:
        """All that lives in it, and the nitrate that porous cores take by the rule that counts them."""
        made, outer = self._lived(spec, site), self.by_outer(spec, site)
        return made if outer is None else cores_take(made, self._lived(*outer))

    def by_outer(self, spec: Any, site: Site) -> tuple[Any, Site] | None:
        """Itself and its site by the rule that counts outer surface alone; None where that rule holds."""
        if site.schools.surface != "core":
            return None
        return spec, replace(site, schools=site.schools.model_copy(update={"surface": "outer"}))

    def _lived(self, spec: Any, site: Site) -> Live:
        if self.live is not None:
            return self.live(spec, site)
        return Live(tuple(Surface(cell, area) for cell, area in self.surfaces(spec, site) if area > 0))


__all__ = [
    "ASSUMED_FEED",
    "KEPT",
    "OXYGEN",
    "AirPlace",
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
