"""From a System to one network: one loop over its devices."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

from fuente.devices import in_order, kind_of
from fuente.devices.base import Fragment
from fuente.devices.contract import Device
from fuente.devices.homes import HomeSpec
from fuente.devices.site import Site
from fuente.document.system import System
from fuente.network.aeration import Aeration, AirSupply, Lift
from fuente.network.level_curve import LevelCurve
from fuente.network.model import FLOOR, Cell, Network, WayKind
from fuente.network.supplies import Feed
from fuente.study.sites import sites, stands, water_of

_FLOOR_CELL = Cell(FLOOR, "The floor", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)
_NO_AIR = ((0.0, 1.0), (1e-9, 0.0))


def lower(system: System, around: Mapping[str, Site] | None = None) -> Network:
    """All cells, links and groups, pumps running, with the builder's marks. Raises SpecError."""
    around = sites(system) if around is None else around
    made: dict[str, Fragment] = {}
    lifts: dict[str, Lift] = {}
    ordered = in_order(system.devices)
    for device in ordered:
        if not isinstance(device, HomeSpec):
            site = around[device.id]
            made[device.id] = kind_of(device).lower(device, replace(site, lifts=lifts) if lifts else site)
            lifts |= {lift.owner: lift for lift in made[device.id].lifts}
    inside: dict[str, list[tuple[float, float, float]]] = {}
    taken: dict[str, float] = {}
    for fragment in made.values():
        for key, bottom, top, volume in fragment.displaced:
            inside.setdefault(key, []).append((bottom, top, volume))
        for key, area in fragment.footprints:
            taken[key] = taken.get(key, 0.0) + area
    for tank in system.tanks:
        site = around[tank.id]
        if tank.id in inside or tank.id in taken:
            site = replace(site, inside=tuple(inside.get(tank.id, ())), footprint=taken.get(tank.id, 0.0))
        made[tank.id] = kind_of(tank).lower(tank, site)
    fragments = [_surrounded(d, made[d.id], around[d.id]) for d in ordered]
    cells = (*(cell for f in fragments for cell in f.cells), _FLOOR_CELL)
    links = tuple(link for f in fragments for link in f.links)
    marks = {cell: level for f in fragments for cell, level in f.marks.items()}
    groups = (*(g for f in fragments for g in f.groups), *_still(system, lifts))
    network = Network(cells, links, marks, groups)
    return network.like(marks=_one_mark_each(network, stands(system)))


def _surrounded(device: Device, fragment: Fragment, site: Site) -> Fragment:
    """Its cells with their surroundings: the water's temperature, what lives in it, and open to the air where they
    stand in a vessel of their own.

    A kind that says itself where its water is open is not spoken for; a tank says all.
    """
    if not fragment.cells or isinstance(device, HomeSpec):
        return fragment
    kind = kind_of(device)
    living = dict(kind.surfaces(device, site))
    open_air = kind.vessel is not None and not device.passes_to and not any(c.open_area for c in fragment.cells)
    warm = site.tank.temperature
    cells = tuple(
        replace(
            c,
            temperature=warm,
            living=living.get(c.id, 0.0),
            open_area=c.curve.volume_and_area(c.rim)[1] if open_air else c.open_area,
        )
        for c in fragment.cells
    )
    return replace(fragment, cells=cells)


def _still(system: System, lifts: Mapping[str, Lift]) -> Iterable[Aeration]:
    """A group for the tubes that nothing blows into."""
    blown = {key for device in system.devices for key in device.air_lines()}
    loose = [lift for key, lift in lifts.items() if key not in blown]
    if loose:
        yield Aeration(AirSupply("still", "No air", _NO_AIR, 0.01, (), False, 1.0, water_of(system)), loose)


def bodies(network: Network) -> list[list[str]]:
    """Ids of cells that share water over any way but the floor, waste and top-up, a list for each body of water."""
    sinks = {cell.id for cell in network.cells if cell.sink}
    near: dict[str, list[str]] = {cell.id: [] for cell in network.cells if cell.id not in sinks}
    pairs = [(k.a, k.b) for k in network.links if k.kind is not WayKind.TOP_UP]
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

    A body without a mark is a tank that nothing drains: it stands where the builder says (``stand``, by tank). Where a
    drip runs and the surplus goes to waste, the overflow fixes the level, and no mark is needed.
    """
    marks: dict[str, float] = {}
    for body in bodies(network):
        inside = set(body)
        own = [cell for cell in network.marks if cell in inside]
        fed = any(isinstance(k.law, Feed) and k.law.rate > 0 and k.b in inside for k in network.links)
        if fed and any(k.kind is WayKind.WASTE and k.a in inside for k in network.links):
            continue
        if own:
            marks[own[0]] = network.marks[own[0]]
        else:
            first = next((cell for cell in body if cell in stand), body[0])
            marks[first] = stand[first]
    return marks
