"""Filters beside a tank: how water comes to them and leaves them, by pipe, fall or pump; shared by all with own
vessels.
"""

from __future__ import annotations

import math
from collections.abc import Container, Sequence
from dataclasses import dataclass, replace

from fuente.catalogue import fitting, pipe_size
from fuente.devices.beside import BesideSpec, LineSpec
from fuente.devices.contract import Device
from fuente.devices.filtering import FilterSpec, Site, Vessel
from fuente.devices.pumping import BACKWARDS_K, pump_curve
from fuente.errors import SpecError
from fuente.hydraulics.pipes import Pipe
from fuente.network.aeration import Lift, modest_share
from fuente.network.beds import Bed, FloatFed, Resistance, Through
from fuente.network.laws import Bulkhead, Spill, Standpipe
from fuente.network.level_curve import LevelCurve, Walls
from fuente.network.model import FLOOR, Cell, Law, Link, Solution, WayKind
from fuente.network.returning import Outlet, ReturnLine
from fuente.network.supplies import Falls, Lines
from fuente.one_line import within

PRIMES = (0.6, 1.4)  # bores
QUIET_FALL = 0.5  # of what it carries as an open channel: beyond that a falling pipe gulps and is heard


@dataclass(frozen=True)
class Mouth:
    """One end of a line: its cell, and the elevations of floor and rim there, m.

    ``foot`` is the cell's own floor, where that stands over the vessel's.
    """

    cell: str
    floor: float
    rim: float
    foot: float | None = None


def feed_id(spec: FilterSpec) -> str:
    """Id of the way in."""
    return f"{spec.id}.feed"


def drain_id(spec: FilterSpec) -> str:
    """Id of the way out."""
    return f"{spec.id}.out"


def spare_id(spec: FilterSpec) -> str:
    """Id of the second way out."""
    return f"{spec.id}.spare"


def other(site: Site, key: str, what: str) -> Vessel:
    """The water at the other end of a line."""
    try:
        return site.vessels[key]
    except KeyError:
        raise SpecError(f"{what} leads from or to “{key[:40]}”, which is not there.") from None


def pipe_of(line: LineSpec, site: Site, rise: float = 0.0) -> Pipe:
    """The line's pipe: entrance, bends, exit, and its length with a rise."""
    size = pipe_size(line.pipe)
    k = fitting("entrance").k + line.bends * fitting("elbow").k + 1.0
    return Pipe(size.bore, max(line.length + rise, 0.02), k, size.roughness, site.water)


def hole_at(line: LineSpec, floor: float) -> float:
    """Elevation in m of the middle of a line's hole over a floor in m: none in a wall reaches under the floor."""
    return floor + max(line.height, pipe_size(line.pipe).bore / 2)


def hose_end(line: LineSpec, floor: float, foot: float | None) -> float:
    """Elevation in m where a pumped hose ends over a vessel's floor, never under the floor of the water that it feeds:
    standing, it would siphon an empty tray.
    """
    return max(floor + line.release, floor if foot is None else foot)


def side_fall(centre: float, release: float, pipe: Pipe, primes: tuple[float, float]) -> Standpipe:
    """A pipe through a wall at a centre in m that falls to where it lets go; it gulps and runs full from so many bores
    over its centre on.
    """
    bore = pipe.bore
    opening = Pipe(bore, 0.0, fitting("entrance").k + 1.0, pipe.roughness, pipe.water)
    start, end = ((0.5 + p) * bore for p in primes)
    return Standpipe(centre - bore / 2, release, pipe, start, end, side=opening)


def _line(
    key: str,
    name: str,
    line: LineSpec,
    way: str,
    a: Mouth,
    b: Mouth,
    site: Site,
    owner: str,
    soft: Resistance,
    dirt: float,
    hold: float,
) -> Link:
    """One link by its way."""
    size = pipe_size(line.pipe)
    law: Law
    if way == "pump":
        top = hose_end(line, b.floor, b.foot)
        rise = max(top - a.floor, 0.05)
        k = line.bends * fitting("elbow").k + (fitting("swing_check").k if line.valve else 0.0)
        pipe = Pipe(size.bore, line.length + rise, k, size.roughness, site.water)
        law = ReturnLine(
            pump_curve(line.pump),
            pipe,
            (Outlet(top, top, size.bore, 1.0),),
            a.floor + line.intake,
            leak=0.02 if line.valve else 1.0,
            pump_k=BACKWARDS_K,
            valve=line.valve,
        )
        return Link(key, name, a.cell, b.cell, law, WayKind.FEED_PUMP, owner)
    centre = hole_at(line, a.floor)
    if centre + size.bore / 2 > a.rim:
        raise SpecError(f"{name} leaves above the rim.")
    if way == "fall":
        release = b.floor + line.release
        if centre - release < 0.02:
            raise SpecError(f"{name} has {1000 * (centre - release):.0f} mm of fall; water needs some.")
        one = side_fall(centre, release, pipe_of(line, site, centre - release), PRIMES)
        return Link(key, name, a.cell, b.cell, Falls(one, line.count), WayKind.PIPE, owner)
    mouth = Bulkhead(centre, pipe_of(line, site))
    if centre - size.bore / 2 > b.rim:
        raise SpecError(f"{name} is above the rim of the vessel that it leads to: let it fall, or lower it.")
    if way == "float":
        law = FloatFed(mouth, line.count, b.floor + hold, 0.03)
        return Link(key, name, a.cell, b.cell, law, WayKind.PIPE, owner)
    if soft.straight + soft.square > 0:
        return Link(key, name, a.cell, b.cell, Through(mouth, line.count, soft, dirt), WayKind.PAD, owner)
    return Link(key, name, a.cell, b.cell, Lines(mouth, line.count), WayKind.PIPE, owner)


def feed_links(spec: BesideSpec, site: Site, to: Mouth, soft: Resistance = Resistance()) -> tuple[Link, ...]:
    """The way in; none where something else falls into it. A bed in it only where a pipe under water can carry its
    loss.
    """
    feed = spec.feed
    if feed.way in ("fed", "air"):
        return ()
    source = _source(spec, site)
    a = Mouth(source.outlet, source.floor, source.rim)
    return (_line(feed_id(spec), f"To {spec.name}", feed, feed.way, a, to, site, spec.id, soft, spec.dirt, feed.hold),)


def _source(spec: BesideSpec, site: Site) -> Vessel:
    source = other(site, spec.feed.source, spec.name)
    if source.id == spec.id:
        raise SpecError(f"{spec.name} draws from itself.")
    return source


OVER_RIM = 0.02  # m over the rim that a riser crosses


def riser(spec: BesideSpec, site: Site, own: Vessel) -> Lift:
    """The tubes that lift its water on air: from where air enters in the source, over that one's rim, to where it lets
    go over its ``own`` vessel, whichever is higher.
    """
    source, feed = _source(spec, site), spec.feed
    outlet = max(source.rim + OVER_RIM, hose_end(feed, own.floor, own.foot))
    injector = source.floor + feed.intake
    if outlet <= injector + 0.01:
        raise SpecError(f"{spec.name}: the air enters above where the water leaves.")
    k = feed.bends * fitting("elbow").k
    bore, name = spec.air_tube, f"Airlift to {spec.name}"
    return Lift(feed_id(spec), name, source.outlet, own.inlet, injector, outlet, bore, k, False, feed.count, spec.id)


def feed_lifts(spec: BesideSpec, site: Site, own: Vessel) -> tuple[Lift, ...]:
    """Its airlift, where that is its way in."""
    return (riser(spec, site, own),) if spec.feed.way == "air" else ()


def riser_air(spec: BesideSpec, site: Site, own: Vessel) -> float:
    """Air in m³/s that its airlift wants, as for lifts in a tank; none where it has none, or where it cannot lift so
    high.
    """
    if spec.feed.way != "air":
        return 0.0
    source = _source(spec, site)
    return modest_share(riser(spec, site, own), site.level if source.id == site.tank.id else source.stands)


def riser_end(spec: BesideSpec, site: Site, own: Vessel) -> tuple[float, float]:
    """Where its airline ends in the drawing, mm."""
    source = _source(spec, site)
    right = own.left > (source.left + source.right) / 2
    x = source.right - 0.06 if right else source.left + 0.06
    return x * 1000, (source.floor + spec.feed.intake) * 1000


def past_id(spec: FilterSpec) -> str:
    """Id of the water past what stands before the way out."""
    return f"{spec.id}.past"


_PAST = 0.05  # of a vessel's plan that the water before its outlet takes, past the bed; an assumption


def before_outlet(
    spec: BesideSpec, cell: Cell, soft: Resistance, dirt: float, site: Site
) -> tuple[tuple[Cell, ...], tuple[Link, ...], Mouth]:
    """A vessel whose bed, screen or bag stands before its way out: where that is a pipe under water, it carries the
    loss itself; else the water past the bed is a cell of its own, and the way out leaves from there. Until it runs over
    its rim, the vessel rises by what the bed takes. Returns the vessel's cells, the way through, and where to leave.
    """
    whole = Mouth(cell.id, cell.floor, cell.rim)
    if soft.straight + soft.square <= 0 or carries(spec.drain.way):
        return (cell,), (), whole
    curve = cell.curve
    own = LevelCurve(curve.levels, tuple(v * (1 - _PAST) for v in curve.volumes))
    past = Cell(
        past_id(spec),
        f"Before the outlet of {within(spec.name)}",
        cell.floor,
        cell.rim,
        LevelCurve(curve.levels, tuple(v * _PAST for v in curve.volumes)),
        owner=spec.id,
    )
    bed = Bed(cell.floor, 0.004, soft, dirt=dirt)
    through = Link(f"{spec.id}.bed", f"Through the bed of {spec.name}", cell.id, past.id, bed, WayKind.PAD, spec.id)
    return (replace(cell, curve=own), past), (through,), Mouth(past.id, cell.floor, cell.rim)


def drain_links(
    spec: BesideSpec, site: Site, of: Mouth, soft: Resistance = Resistance(), second_of: Mouth | None = None
) -> tuple[Link, ...]:
    """The way out, and the second one where there is one: that leaves from elsewhere where ``second_of`` says."""
    drain = spec.drain
    into = other(site, drain.into, spec.name)
    if into.id == spec.id:
        raise SpecError(f"{spec.name} leads into itself.")
    b = Mouth(into.port(drain.chamber).entry, into.floor, into.rim, into.foot)
    name = f"From {spec.name}"
    first = _line(drain_id(spec), name, drain, drain.way, of, b, site, spec.id, soft, spec.dirt, 0.0)
    if drain.spare <= 0 or drain.way == "pump":
        return (first,)
    higher = drain.model_copy(update={"height": drain.height + drain.spare})
    second = _line(
        spare_id(spec),
        f"{name}, second pipe",
        higher,
        drain.way,
        second_of or of,
        b,
        site,
        spec.id,
        Resistance(),
        1.0,
        0.0,
    )
    return (first, second)


def carries(way: str) -> bool:
    """Whether a line's own law can carry a bed's loss in a row: pipes under water do."""
    return way == "level"


def round_cell(
    key: str,
    name: str,
    owner: str,
    floor: float,
    rim: float,
    diameter: float,
    solids: Sequence[tuple[float, float, float]] = (),
) -> Cell:
    """An upright drum; solids as (bottom m, top m, volume m³)."""
    area = math.pi / 4 * diameter**2
    curve = LevelCurve.with_contents(floor, rim, area, solids)
    return Cell(key, name, floor, rim, curve, owner=owner, walls=plastic(math.pi * diameter, area))


def plastic(around: float, foot: float) -> Walls:
    """Walls of a moulded drum, box or bucket: ``around`` m² a metre of depth, ``foot`` m²; 4 mm, typical."""
    return Walls("plastic", 0.004, around, foot)


def sealed_curve(low: float, top: float, full: float) -> LevelCurve:
    """A closed vessel: its level is its head, in m from ``low`` to ``top``, and its water stays, but for a few
    hundredths by which hoses give.
    """
    return LevelCurve((low, top), (0.95 * full, 1.05 * full))


def spill(key: str, cell: Cell, around: float) -> Link:
    """Over a rim of a length in m onto the floor."""
    return Link(key, f"{cell.name} over its rim", cell.id, FLOOR, Spill(cell.rim, around), WayKind.SPILL, cell.owner)


def flow_in(spec: FilterSpec, solution: Solution) -> float:
    """Water that leaves it, m³/s: in a steady state what comes too."""
    return max(solution.flow.get(drain_id(spec), 0.0), 0.0) + max(solution.flow.get(spare_id(spec), 0.0), 0.0)


def box_vessel(
    spec: BesideSpec, inlet: str, outlet: str, rim: float, length: float, foot: float | None = None
) -> Vessel:
    """Where others lead water to and from a box: its two cells, its rim in m, its length in m, its inlet's own floor;
    it stands at its outlet's height.
    """
    at = spec.stand + spec.drain.height
    right = spec.offset + length
    return Vessel(spec.id, spec.name, inlet, outlet, spec.stand, rim, spec.offset, right, at, foot=foot)


def pumped_outs(devices: Sequence[Device], homes: Container[str]) -> list[tuple[str, str]]:
    """Filters that a pump fills, at once or through others, and that no pump empties, each with its way out: those next
    to a tank (``homes``) first.
    """
    vessels = {d.id: d for d in devices if isinstance(d, BesideSpec)}
    filled: set[str] = set()
    for _ in vessels:  # a train is at most so long
        for spec in vessels.values():
            by_pipe = spec.feed.way in ("pump", "air") or (spec.feed.way != "fed" and spec.feed.source in filled)
            by_fall = any(
                o.drain.into == spec.id and (o.drain.way == "pump" or o.id in filled) for o in vessels.values()
            )
            if (by_pipe or by_fall) and spec.drain.way != "pump":
                filled.add(spec.id)
    found = [spec for key, spec in vessels.items() if key in filled]
    return [(s.id, drain_id(s)) for s in sorted(found, key=lambda s: s.drain.into not in homes)]
