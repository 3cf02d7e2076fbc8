"""From a System to one network."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from math import pi

from fuente.catalogue import pipe_size
from fuente.devices import kind_of
from fuente.devices.air_supply import network as air_network
from fuente.devices.base import Fragment
from fuente.devices.filtering import Site, Vessel
from fuente.devices.hang_on import network as hang_on_network
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.header import network as header_network
from fuente.devices.header.spec import HeaderSpec
from fuente.devices.join import network as join_network
from fuente.devices.manifold import network as manifold_network
from fuente.devices.overflow import network as overflow_network
from fuente.devices.overflow.spec import Overflow
from fuente.devices.return_line import network as return_network
from fuente.devices.standpipe import network as standpipe_network
from fuente.devices.sump import network as sump_network
from fuente.devices.tank import network as tank_network
from fuente.devices.top_up import network as top_up_network
from fuente.document.system import System
from fuente.network.aeration import Aeration, AirSupply
from fuente.network.ducts import Ducts
from fuente.network.model import FLOOR, Cell, Group, LevelCurve, Network
from fuente.network.supplies import Feed
from fuente.study.sites import sites, stands, vessels_of, water_of
from fuente.water.properties import Water

_FLOOR_CELL = Cell(FLOOR, "The floor", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)
_NO_AIR = ((0.0, 1.0), (1e-9, 0.0))


def lower(system: System, around: Mapping[str, Site] | None = None) -> Network:
    """All cells, links and groups, pumps running, with the builder's marks. Raises SpecError."""
    stuff = water_of(system)
    ports = {device.id: sump_network.lower(device, stuff) for device in system.devices}
    fragments: list[Fragment] = []
    around = sites(system) if around is None else around
    made = [kind_of(f).lower(f, around[f.id]) for f in system.filters]
    inside: dict[str, list[tuple[float, float, float]]] = {}
    for fragment in made:
        for key, bottom, top, volume in fragment.displaced:
            inside.setdefault(key, []).append((bottom, top, volume))
    for tank in system.tanks:
        taken = sum(o.outer_area for o in system.overflows if o.tank == tank.id)
        fragments.append(tank_network.lower(tank, taken, tuple(inside.get(tank.id, ()))))
    fragments += ports.values()
    vessels = next(iter(around.values())).vessels if around else vessels_of(system)
    for header in system.headers:
        into, release = _end(system, vessels, header.into, header.release)
        fragments.append(header_network.lower(header, _joining(system, header), into, release, stuff))
    for flow in system.overflows:
        into, _ = _end(system, vessels, flow.into, 0.0)
        fragments.append(
            overflow_network.lower(flow, system.tank(flow.tank), into, foot_of(system, flow, vessels), stuff)
        )
    for pipe in system.standpipes:
        into, release = _end(system, vessels, pipe.into, pipe.release)
        fragments.append(standpipe_network.lower(pipe, system.tank(pipe.tank), into, release, stuff))
    for box in system.hang_ons:
        into, _ = _end(system, vessels, box.into, 0.0)
        fragments.append(hang_on_network.lower(box, system.tank(box.tank), into, foot_of(system, box, vessels), stuff))
    for join in system.joins:
        first, second = system.device(join.first), system.device(join.second)
        a = _leaving(system, join.first, join.chamber)
        b = ports[join.second].ports[join.entry]
        floors, rims = (first.floor, second.floor), (first.rim, second.rim)
        fragments.append(join_network.lower(join, a, b, floors, rims, stuff))
    for line in system.returns:
        device = system.device(line.source)
        pump = ports[device.id].ports["pump"]
        intake = device.floor + device.chambers[-1].intake
        fragments.append(return_network.lower(line, system.tank(line.tank), pump, device.floor, intake, stuff))
    for top_up in system.top_ups:
        device = system.device(top_up.into)
        fragments.append(top_up_network.lower(top_up, ports[device.id].ports["pump"], device.floor, device.rim, stuff))
    fragments += made
    cells = (*(cell for f in fragments for cell in f.cells), _FLOOR_CELL)
    links = tuple(link for f in fragments for link in f.links)
    marks = {cell: level for f in fragments for cell, level in f.marks.items()}
    groups: tuple[Group, ...] = (
        *_manifolds(system, ports, [c.id for c in cells], stuff),
        *_airs(system, made, stuff),
        *(g for f in made for g in f.groups),
    )
    network = Network(cells, links, marks, groups)
    return Network(cells, links, _one_mark_each(network, {t.id: stands(system, t.id) for t in system.tanks}), groups)


def _airs(system: System, made: list[Fragment], stuff: Water) -> Iterable[Aeration]:
    """A group for each air pump, and one for the tubes that none blows into."""
    lifts = {lift.owner: lift for f in made for lift in f.lifts}
    blown: set[str] = set()
    for spec in system.airs:
        group = air_network.lower(spec, lifts, stuff)
        if group is not None:
            blown |= {d.lift.owner for d in group.supply.drops}
            yield group
    loose = [lift for key, lift in lifts.items() if key not in blown]
    if loose:
        yield Aeration(AirSupply("still", "No air", _NO_AIR, 0.01, (), False, 1.0, stuff), loose)


def foot_of(system: System, drain: Overflow | HangOn, vessels: Mapping[str, Vessel]) -> float:
    """Elevation in m over which a drain's ``release`` counts: its filter's floor; at a header it lets go at the header."""
    header = system.header(drain.into)
    return vessels[drain.into].floor if header is None else header.low_end - drain.release


def _end(system: System, vessels: Mapping[str, Vessel], into: str, release: float) -> tuple[str, float]:
    """Cell that a drain falls into, and the elevation in m at which it lets go: a filter's floor + release, or a header."""
    header = system.header(into)
    if header is not None:
        return header.id, header.low_end
    return vessels[into].inlet, vessels[into].floor + release


def _leaving(system: System, device_id: str, chamber_id: str) -> str:
    device = system.device(device_id)
    chamber = next(c for c in device.chambers if c.id == chamber_id)
    return sump_network.cell_ids(device, chamber)[-1]


def _joining(system: System, header: HeaderSpec) -> float:
    """Area in m² of the pipes that fall into a header."""
    pipes = [s.pipe for s in system.standpipes if s.into == header.id]
    pipes += [d.pipe for o in system.overflows if o.into == header.id for d in o.drains]
    pipes += [h.down for h in system.headers if h.into == header.id]
    return sum(pi / 4 * pipe_size(p).bore ** 2 for p in pipes)


def _manifolds(system: System, ports: Mapping[str, Fragment], cells: list[str], stuff: Water) -> Iterable[Ducts]:
    tanks = {t.id: t for t in system.tanks}
    for manifold in system.manifolds:
        pumps = {}
        for feeder in manifold.feeders:
            device = system.device(feeder.source)
            pumps[feeder.id] = (ports[device.id].ports["pump"], device.floor, device.floor + device.chambers[-1].intake)
        loops = {}
        for loop in manifold.loops:
            device = system.device(loop.into)
            loops[loop.id] = (ports[device.id].ports[loop.chamber or "inlet"], device.floor)
        yield Ducts(manifold_network.lower(manifold, tanks, pumps, loops, stuff), cells)


def bodies(network: Network) -> list[list[str]]:
    """Ids of cells that share water over any way but the floor, waste and top-up, a list for each body of water."""
    sinks = {cell.id for cell in network.cells if cell.sink}
    near: dict[str, list[str]] = {cell.id: [] for cell in network.cells if cell.id not in sinks}
    pairs = [(k.a, k.b) for k in network.links if k.kind != "top-up"]
    pairs += [pair for group in network.groups for pair in group.pairs]
    for a, b in pairs:
        if a in near and b in near:
            near[a].append(b)
            near[b].append(a)
    found, seen = [], set()
    for start in near:
        if start in seen:
            continue
        body, todo = [], [start]
        seen.add(start)
        while todo:
            at = todo.pop()
            body.append(at)
            for other in near[at]:
                if other not in seen:
                    seen.add(other)
                    todo.append(other)
        found.append(body)
    return found


def _one_mark_each(network: Network, stand: Mapping[str, float]) -> dict[str, float]:
    """Each body of water has one mark: the first pump chamber's. The others find their level.

    A body without a mark is a tank that nothing drains: it stands where the builder says (``stand``, by tank). Where a drip runs and the surplus goes to
    waste, the overflow fixes the level, and no mark is needed.
    """
    marks: dict[str, float] = {}
    for body in bodies(network):
        inside = set(body)
        own = [cell for cell in network.marks if cell in inside]
        fed = any(isinstance(k.law, Feed) and k.law.rate > 0 and k.b in inside for k in network.links)
        if fed and any(k.kind == "waste" and k.a in inside for k in network.links):
            continue
        if own:
            marks[own[0]] = network.marks[own[0]]
        else:
            first = next((cell for cell in body if cell in stand), body[0])
            marks[first] = stand[first]
    return marks
