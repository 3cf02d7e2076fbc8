"""A design lowered to its network, and what follows from both without a solution: who drains what."""

from __future__ import annotations

from collections.abc import Container, Mapping, Sequence
from functools import cached_property

from fuente.devices import in_order, kind_of
from fuente.devices.contract import Device
from fuente.devices.filtering import FilterSpec
from fuente.devices.offered import AirPlace, Room
from fuente.devices.plumbing import pumped_outs
from fuente.devices.site import Port, Site, Space, Vessel
from fuente.document.system import System
from fuente.drawing.primitives import Point
from fuente.life.heat import evaporation
from fuente.network import Network, Solution
from fuente.network.aeration import Aeration
from fuente.network.duct import PumpDuct
from fuente.network.ducts import Ducts
from fuente.network.model import Cell, Law, WayKind
from fuente.network.supplies import FloatValve
from fuente.study.lowering import bodies, lower
from fuente.study.sites import crests, sites

LARGE = 32  # cells from which only the running state is solved at once


class Lowered:
    """A system, the site of every device, and its network with and without floats and drips."""

    def __init__(self, system: System):
        self.system = system
        self.sites: Mapping[str, Site] = sites(system)
        self.whole: Network = lower(system, self.sites)  # floats and drips too
        floats = {k.id: None for k in self.whole.links if isinstance(k.law, FloatValve)}
        self.network: Network = self.whole.replace_links(floats) if floats else self.whole

    @property
    def space(self) -> Space:
        """The room, and what the builder wants."""
        return self.system.space

    @cached_property
    def ordered(self) -> Sequence[Device]:
        """All devices in the order of their kinds."""
        return in_order(self.system.devices)

    @cached_property
    def vessels(self) -> Mapping[str, Vessel]:
        """Everything that a pipe can lead from or to, by id."""
        return next(iter(self.sites.values())).vessels

    @cached_property
    def laws(self) -> dict[str, Law]:
        """Each link's law by id."""
        return {k.id: k.law for k in self.network.links}

    @cached_property
    def bodies(self) -> list[list[str]]:
        """Ids of cells that share water, a list for each body."""
        return bodies(self.network)

    def wells(self) -> Sequence[tuple[Vessel, Port]]:
        """Where pumps stand that turn the system: of the first pump first, then wells without a pump."""
        return self._wells

    @cached_property
    def _wells(self) -> list[tuple[Vessel, Port]]:
        drawn = [e.to for d in self.ordered for e in d.ends() if e.role == "draws" and e.port == "pump"]
        with_ports = [v.id for v in self.vessels.values() if v.ports]
        found = dict.fromkeys([*drawn, *(k for k in with_ports if "pump" in self.vessels[k].ports), *with_ports])
        return [(self.vessels[key], self.vessels[key].port("pump")) for key in found]

    @property
    def has_sump(self) -> bool:
        """Whether the system has a vessel of chambers at all: many tanks run without one."""
        return bool(self._wells)

    @property
    def has_air(self) -> bool:
        """Whether an air pump is there."""
        return any(kind_of(d).drops is not None for d in self.system.devices)

    @cached_property
    def has_pumps(self) -> bool:
        """Whether a pump turns the system, besides what moves water in filters."""
        return any(w.kind is WayKind.PUMP for w in self.whole.ways)

    @property
    def below(self) -> str:
        """What the vessels are called that water comes down into."""
        return "sump" if self.has_sump else "filters"

    def rooms(self) -> Sequence[Room]:
        """Places that can be emptied for cleaning, in the order of the document."""
        return self._rooms

    @cached_property
    def _rooms(self) -> list[Room]:
        found: list[Room] = []
        for device in self.system.devices:
            rooms = kind_of(device).rooms
            if rooms is not None:
                found += rooms(device, self.sites[device.id])
        return found

    def dirtiest(self) -> Room:
        """The room that is cleaned first, where the pump stands."""
        owner = self._wells[0][0].id
        own = [r for r in self._rooms if self.network.cell(r.cells[0]).owner == owner]
        return max((r for r in own if not r.moves_on), key=lambda r: r.dirt, default=own[0])

    def pumped_outs(self) -> list[tuple[str, str]]:
        """Filters that a pump fills and none empties, with the way out of each; those next to a tank first."""
        return self._pumped_outs

    @cached_property
    def _pumped_outs(self) -> list[tuple[str, str]]:
        return pumped_outs(self.system.devices, {t.id for t in self.system.tanks})

    @cached_property
    def _filter_cells(self) -> list[str]:
        homes = {t.id for t in self.system.tanks}
        owners = {v.id for v in self.vessels.values() if v.id not in homes and not v.passes_to}
        return [c.id for c in self.network.cells if c.owner in owners]

    def filter_cells(self) -> list[str]:
        """Ids of all cells of all filters with walls of their own."""
        return self._filter_cells

    def through(self, solution: Solution, device_id: str) -> float:
        """Water through a device, m³/s: what runs into it from elsewhere."""
        return sum(max(sign * solution.flow[key], 0.0) for key, sign in self._crossing.get(device_id, ()))

    @cached_property
    def _crossing(self) -> dict[str, list[tuple[str, float]]]:
        """Ways into and out of each device, with the sign by which their flow goes in."""
        owner = {c.id: c.owner for c in self.network.cells}
        found: dict[str, list[tuple[str, float]]] = {}
        for way in self.network.ways:
            a, b = owner.get(way.a, ""), owner.get(way.b, "")
            if a != b:
                if b:
                    found.setdefault(b, []).append((way.id, 1.0))
                if a:
                    found.setdefault(a, []).append((way.id, -1.0))
        return found

    def supply(self, solution: Solution, tank_id: str) -> float:
        """What pumps and manifolds give a tank, m³/s."""
        return sum(solution.flow[key] for key in self._feeds.get(tank_id, ()))

    def moved(self, solution: Solution, tank_id: str) -> float:
        """What pumps give a tank and its own filters turn over in it, m³/s."""
        return sum(max(solution.flow[key], 0.0) for key in self._movers.get(tank_id, ()))

    @cached_property
    def _movers(self) -> dict[str, list[str]]:
        """Ids of the ways that feed each tank or turn its water over: lifts and pumps, and pipes back from filters."""
        found = {key: list(ways) for key, ways in self._feeds.items()}
        tanks = {t.id for t in self.system.tanks}
        owners = {f.id for f in self.system.filters}
        own = (WayKind.LIFT, WayKind.INNER_PUMP, WayKind.FEED_PUMP)
        for way in self.network.ways:
            if way.b in tanks and (way.kind in own or way.owner in owners):
                found.setdefault(way.b, []).append(way.id)
        return found

    @cached_property
    def _feeds(self) -> dict[str, list[str]]:
        """Ids of the ways that feed each tank."""
        found: dict[str, list[str]] = {}
        for way in self.network.ways:
            if way.kind in (WayKind.PUMP, WayKind.BRANCH):
                found.setdefault(way.b, []).append(way.id)
        return found

    def fed(self) -> set[str]:
        """Ids of tanks whose water something moves."""
        served = {e.to for d in self.system.devices for e in d.ends() if e.role == "gives" and e.port == "water"}
        return served | {f.tank for f in self.system.filters}

    @cached_property
    def pump_ducts(self) -> dict[str, PumpDuct]:
        """The manifolds' pumps by id."""
        ducts = (d for g in self.network.groups if isinstance(g, Ducts) for d in g.ducts)
        return {d.id: d for d in ducts if isinstance(d, PumpDuct)}

    @cached_property
    def airs(self) -> dict[str, Aeration]:
        """The groups of the air pumps by id."""
        return {g.supply.id: g for g in self.network.groups if isinstance(g, Aeration)}

    @cached_property
    def calm(self) -> Network:
        """The network without fresh water and waste, which are slow: what a state of minutes is judged by."""
        slow: dict[str, Law | None] = {k.id: None for k in self.network.links if k.kind.slow}
        return self.network.replace_links(slow) if slow else self.network

    def reservoirs(self) -> list[Cell]:
        """Cells of finite fresh water."""
        return [c for c in self._fresh if not c.source]

    @property
    def fresh_floats(self) -> bool:
        """Whether a float lets fresh water in."""
        return any(isinstance(k.law, FloatValve) for k in self.whole.links)

    def endless(self) -> bool:
        """Whether fresh water comes without end."""
        return any(c.source for c in self._fresh)

    @cached_property
    def _fresh(self) -> list[Cell]:
        return [self.whole.cell(k.a) for k in self.whole.links if k.kind is WayKind.TOP_UP]

    def drains(self, emergency: bool, tank: str = "") -> Sequence[str]:
        """Link ids of drains that are, or are not, emergency drains; of one tank, or of all."""
        found = self._drains[emergency]
        return [key for key, serves in found if tank in ("", serves)]

    @cached_property
    def _drains(self) -> dict[bool, list[tuple[str, str]]]:
        found: dict[bool, list[tuple[str, str]]] = {False: [], True: []}
        for link in self.network.links:
            if link.kind is WayKind.DRAIN:
                found[link.spare].append((link.id, link.serves))
        return found

    def drained_to(self, tank_id: str) -> float:
        """Height in m over a tank's floor to which its drains take it: the lowest crest or mouth, its rim where it has
        none.
        """
        return self._crests.get(tank_id, self.system.tank(tank_id).inner_height)

    @cached_property
    def _crests(self) -> dict[str, float]:
        return crests(self.system)

    def air_group(self, air_id: str) -> Aeration | None:
        """The group of an air pump, where it blows anywhere."""
        return self.airs.get(air_id)

    @cached_property
    def air_places(self) -> dict[str, AirPlace]:
        """Places within devices that an air line may lead to, by the id of their stations."""
        found: dict[str, AirPlace] = {}
        for device in self.system.devices:
            airs = kind_of(device).airs
            found.update({p.id: p for p in airs(device, self.sites[device.id])} if airs else {})
        return found

    def air_wish(self, device_id: str) -> float:
        """Air in m³/s that a device wants, or a place within one."""
        if device_id in self.air_places:
            return self.air_places[device_id].wish
        device = self.system.device(device_id)
        wish = kind_of(device).wish
        return wish(device, self.sites[device_id]) if wish else 0.0

    def air_end(self, device_id: str) -> tuple[Point, Point] | None:
        """Where the airline to a device or a place ends in the drawing, and where it comes over the rim, mm."""
        if device_id in self.air_places:
            place = self.air_places[device_id]
            return place.at, place.over
        device = self.system.device(device_id)
        at = kind_of(device).air_at
        if at is None:
            return None
        x, y = at(device, self.sites[device_id])
        aside = 500 * device.air_tube + 7 if isinstance(device, FilterSpec) else 17.0
        return (x, y), (x - aside, self.system.tank(device.home).rim * 1000 + 14)

    @property
    def large(self) -> bool:
        """Whether the situations take longer than a frame: they are then solved aside."""
        return len(self.network.cells) > LARGE

    def freeboard(self, solution: Solution) -> float:
        """Least distance in m from the water to the rim in any filter."""
        return min((solution.freeboard(c) for c in self._filter_cells), default=0.0)

    def tank_freeboard(self, solution: Solution) -> float:
        """Least distance in m from the water to the rim of any tank."""
        return min(solution.freeboard(t.id) for t in self.system.tanks)

    def pad_drop(self, solution: Solution, link_id: str) -> float:
        """Level difference in m across a pad."""
        a, b = self._link_ends[link_id]
        return solution.level[a] - solution.level[b]

    @cached_property
    def _link_ends(self) -> dict[str, tuple[str, str]]:
        return {k.id: (k.a, k.b) for k in self.network.links}

    def evaporation_rate(self) -> float:
        """Water lost to the air, m³/s, tanks under their covers and filters open."""
        return self.evaporation_of({c.id for c in self.network.cells})

    def evaporation_of(self, body: Container[str]) -> float:
        """The same of a body of water, by the ids of its cells."""
        areas: dict[float, float] = {}
        for cell in self.network.cells:
            if cell.open_area and cell.id in body:
                areas[cell.temperature] = areas.get(cell.temperature, 0.0) + cell.open_area
        return sum(evaporation(a, t, self.space.air, self.space.humidity) for t, a in areas.items())
