"""A sump as cells and links.

A chamber is one cell, or several where something stands across it: a pad, a bed, an under-baffle, a sock plate.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass, field, replace

from fuente.devices.base import Fragment
from fuente.devices.offered import Room
from fuente.devices.site import Port, Site, Vessel
from fuente.devices.sump import stack
from fuente.devices.sump.air import places
from fuente.devices.sump.spec import Baffle, Chamber, Sump, cell_ids
from fuente.hydraulics.porous import felt, foam, packed
from fuente.life.load import foam_surface
from fuente.network.beds import Bed
from fuente.network.laws import Gap, Pad, Sheet, Spill, Weir
from fuente.network.level_curve import LevelCurve, Walls
from fuente.network.model import FLOOR, Cell, Link, WayKind
from fuente.one_line import within

FOAM_VOID = 0.97
SOCK_THICKNESS = 0.0025  # m of felt


@dataclass
class _Build:
    """Cells and links as they are laid along the sump."""

    sump: Sump
    site: Site
    cells: list[Cell] = field(default_factory=list)
    links: list[Link] = field(default_factory=list)
    entry: dict[str, str] = field(default_factory=dict)  # chamber id → first cell
    leave: dict[str, str] = field(default_factory=dict)  # chamber id → last cell


def fill_height(sump: Sump, chamber: Chamber, width: float) -> float:
    """Height in m to which media stands in a chamber; carriers float, so they take the depth to the crest."""
    if not chamber.fill:
        return 0.0
    return min(chamber.fill.volume / (width * sump.inner_width), sump.inner_height)


def pad_spans(chamber: Chamber, width: float) -> tuple[tuple[float, float], ...]:
    """Start and end of each pad in m from the chamber's start; pads stand against the exit."""
    total = sum(p.thickness for p in chamber.pads)
    lead = (width - total) * 0.6
    spans, at = [], lead
    for pad in chamber.pads:
        spans.append((at, at + pad.thickness))
        at += pad.thickness
    return tuple(spans)


def lower(sump: Sump, site: Site) -> Fragment:
    """Cells, links, and the ports ``inlet`` (where drains fall), ``pump`` and each chamber's id."""
    build = _Build(sump, site)
    for chamber, width in zip(sump.chambers, sump.widths(), strict=True):
        _chamber(build, chamber, width)
    for chamber, after in zip(sump.chambers, sump.chambers[1:], strict=False):
        assert chamber.exit is not None
        a, b = build.leave[chamber.id], build.entry[after.id]
        if after.role == "socks":  # water over a baffle falls onto the plate's socks
            b = build.entry[after.id]
        _baffle(build, chamber.exit, f"{sump.id}.{chamber.id}.exit", f"Baffle after {chamber.title}", a, b)
    # All of the sump's opening, over the baffles too, stands for its open water; its first chamber carries it.
    build.cells[0] = replace(build.cells[0], open_area=sump.inner_length * sump.inner_width)
    pump = sump.chambers[-1]
    ports = {"inlet": build.entry[sump.chambers[0].id], "pump": build.leave[pump.id]}
    ports.update(build.entry)
    marks = {build.leave[pump.id]: sump.floor + pump.level} if pump.role == "pump" else {}
    lifts = tuple(p.lift for p in places(sump, site) if p.id in site.drops)
    return Fragment(tuple(build.cells), tuple(build.links), ports, marks, lifts)


def _cell(
    build: _Build,
    cell_id: str,
    name: str,
    area: float,
    ends: float,
    solids: Sequence[tuple[float, float, float]] = (),
    floor: float | None = None,
) -> None:
    """Add a cell with its spill over the outer rim; ends m is the rim's length besides the two long sides."""
    sump = build.sump
    foot = sump.floor if floor is None else floor
    curve = LevelCurve.with_contents(foot, sump.rim, area, solids)
    sides = 2 * area / sump.inner_width + ends
    walls = Walls(sump.material, sump.thickness, sides, area)
    build.cells.append(Cell(cell_id, name, foot, sump.rim, curve, owner=sump.id, walls=walls))
    spill = Spill(sump.rim, sides)
    build.links.append(Link(f"{cell_id}.spill", f"{name} over the rim", cell_id, FLOOR, spill, WayKind.SPILL, sump.id))


def _chamber(build: _Build, chamber: Chamber, width: float) -> None:
    sump, across = build.sump, build.sump.inner_width
    ids = cell_ids(sump, chamber)
    build.entry[chamber.id], build.leave[chamber.id] = ids[0], ids[-1]
    first = chamber is sump.chambers[0]
    end = across if first or chamber is sump.chambers[-1] else 0.0
    name = chamber.title
    if chamber.lies:
        _stack(build, chamber, width, ids, end)
    elif chamber.role == "foam":
        _foam(build, chamber, width, ids, end)
    elif chamber.role == "trap":
        assert chamber.under is not None
        half = (width - chamber.under.thickness) / 2
        _cell(build, ids[0], f"{name}, down", half * across, end)
        _cell(build, ids[1], f"{name}, up", half * across, 0.0)
        _baffle(build, chamber.under, f"{sump.id}.{chamber.id}.under", f"Under-baffle of {name}", ids[0], ids[1])
    elif chamber.role == "socks":
        _socks(build, chamber, width, ids, end)
    elif len(ids) == 2:
        _media(build, chamber, width, ids, end)
    else:
        solids = []
        if chamber.fill and chamber.fill.volume > 0:
            stuff = build.site.medium(chamber.fill.medium)
            if stuff.kind == "carrier":  # they move through all the water below the exit's crest
                top = chamber.exit.top if chamber.exit else chamber.level
            else:
                top = fill_height(sump, chamber, width)
            share = min(chamber.fill.volume * (1 - stuff.void), 0.9 * width * across * top)
            solids = [(sump.floor, sump.floor + top, share)]
        _cell(build, ids[0], name, width * across, end, solids)


def _foam(build: _Build, chamber: Chamber, width: float, ids: tuple[str, ...], end: float) -> None:
    sump, across = build.sump, build.sump.inner_width
    spans = pad_spans(chamber, width)
    lead, tail = spans[0][0], width - spans[-1][1]
    for k, cell_id in enumerate(ids):
        before = chamber.pads[k - 1] if k else None
        after = chamber.pads[k] if k < len(chamber.pads) else None
        free = lead if k == 0 else tail if k == len(ids) - 1 else 0.0
        length = free + sum(p.thickness / 2 for p in (before, after) if p)
        solids = [
            (sump.floor, sump.floor + p.height, (1 - FOAM_VOID) * p.thickness / 2 * across * p.height)
            for p in (before, after)
            if p
        ]
        place = "before the pads" if k == 0 else "behind the pads" if k == len(ids) - 1 else f"after pad {k}"
        _cell(build, cell_id, f"{chamber.title}, {place}", length * across, end if k == 0 else 0.0, solids)
    for k, pad in enumerate(chamber.pads):
        base = f"{sump.id}.{chamber.id}.pad.{k}"
        stuff = foam(pad.ppi).dirty(pad.dirt)
        law = Pad(sump.floor, across, pad.height, pad.thickness, stuff, build.site.water, pad.dirt)
        build.links.append(Link(base, f"{pad.ppi:g} ppi pad", ids[k], ids[k + 1], law, WayKind.PAD, sump.id))
        over = Weir(sump.floor + pad.height, across, pad.height)
        build.links.append(
            Link(f"{base}.over", f"over the {pad.ppi:g} ppi pad", ids[k], ids[k + 1], over, WayKind.BYPASS, sump.id)
        )


def _media(build: _Build, chamber: Chamber, width: float, ids: tuple[str, ...], end: float) -> None:
    """A bed that the water crosses, half of its length in each cell."""
    sump, across = build.sump, build.sump.inner_width
    assert chamber.fill is not None
    stuff = build.site.medium(chamber.fill.medium)
    height = fill_height(sump, chamber, width)
    solid = chamber.fill.volume * (1 - stuff.void) / 2
    for k, cell_id in enumerate(ids):
        place = "before the media" if k == 0 else "behind the media"
        half = [(sump.floor, sump.floor + height, solid)]
        _cell(build, cell_id, f"{chamber.title}, {place}", width / 2 * across, end if k == 0 else 0.0, half)
    base = f"{sump.id}.{chamber.id}.bed"
    bed = Pad(sump.floor, across, height, width, packed(stuff.size, stuff.void), build.site.water)
    over = Weir(sump.floor + height, across, height)
    build.links.append(Link(base, "Media bed", ids[0], ids[1], bed, WayKind.PAD, sump.id))
    build.links.append(Link(f"{base}.over", "over the media", ids[0], ids[1], over, WayKind.BYPASS, sump.id))


def _stack(build: _Build, chamber: Chamber, width: float, ids: tuple[str, ...], end: float) -> None:
    """What lies on a grid, and the slot beside it: upwards the water comes down the slot, downwards it leaves by it."""
    sump, across = build.sump, build.sump.inner_width
    stack.fits(sump, chamber, width)
    rows = stack.layers(sump, chamber, width)
    area = stack.plan(sump, width)
    solids = []
    for row in rows:
        if row.pad is None:
            assert chamber.fill is not None
            part = 1 - build.site.medium(chamber.fill.medium).void
        else:
            part = 1 - FOAM_VOID
        solids.append((sump.floor + row.foot, sump.floor + row.top, part * area * (row.top - row.foot)))
    on = ids[0] if chamber.way == "down" else ids[1]
    for cell_id in ids:
        if cell_id == on:
            _cell(build, cell_id, f"{chamber.title}, over what lies", area, end if cell_id == ids[0] else 0.0, solids)
        else:
            plan = stack.slot(width) * across
            _cell(build, cell_id, f"{chamber.title}, slot beside", plan, end if cell_id == ids[0] else 0.0)
    pads, rest = stack.losses(sump, chamber, width, build.site)
    soft, dirt = stack.dirty(chamber, pads)
    foot = sump.floor + chamber.support
    base = f"{sump.id}.{chamber.id}.lying"
    through = Bed(foot, stack.SEEPS, soft, rest, dirt)
    build.links.append(Link(base, f"Through {within(chamber.title)}", ids[0], ids[1], through, WayKind.PAD, sump.id))
    top = stack.plate_top(sump, chamber)
    over = Weir(sump.floor + top, across, top)
    build.links.append(
        Link(
            f"{base}.over", f"over the plate of {within(chamber.title)}", ids[0], ids[1], over, WayKind.BYPASS, sump.id
        )
    )


def _socks(build: _Build, chamber: Chamber, width: float, ids: tuple[str, ...], end: float) -> None:
    sump, across = build.sump, build.sump.inner_width
    socks = chamber.socks
    assert socks is not None
    inside = math.pi / 4 * socks.diameter**2 * socks.count
    hang = max(socks.plate - socks.length, 0.0)
    foot, plate = sump.floor + hang, sump.floor + socks.plate
    curve = LevelCurve.prism(foot, sump.rim, inside)
    build.cells.append(Cell(ids[0], f"{chamber.title}, in the socks", foot, sump.rim, curve, owner=sump.id))
    plan = width * across
    solids = [(foot, sump.rim, min(inside, 0.8 * plan) * (sump.rim - foot))]
    _cell(build, ids[1], f"{chamber.title}, round the socks", plan, end, solids)
    stuff = felt(socks.micron).dirty(socks.dirt)
    area = math.pi * socks.diameter * (plate - foot) * socks.count
    law = Sheet(foot, plate - foot, area, SOCK_THICKNESS, stuff, build.site.water, socks.dirt)
    base = f"{sump.id}.{chamber.id}.socks"
    build.links.append(Link(base, f"{socks.micron * 1e6:.0f} µm socks", ids[0], ids[1], law, WayKind.PAD, sump.id))
    over = Weir(plate, math.pi * socks.diameter * socks.count, socks.length)
    build.links.append(Link(f"{base}.over", "over the socks", ids[0], ids[1], over, WayKind.BYPASS, sump.id))


def _baffle(build: _Build, baffle: Baffle, base: str, name: str, a: str, b: str) -> None:
    sump, across = build.sump, build.sump.inner_width
    length = (min(baffle.notch, across) if baffle.notch else across) * (1 - baffle.teeth)
    over = Weir(sump.floor + baffle.top, length, baffle.top)
    build.links.append(Link(base, name, a, b, over, WayKind.BAFFLE, sump.id))
    if baffle.gap > 0:
        law = Gap(sump.floor, across, baffle.gap)
        build.links.append(Link(f"{base}.gap", f"{name}, gap", a, b, law, WayKind.GAP, sump.id))


def vessel(sump: Sump, site: Site) -> Vessel:
    """Drains fall into the first chamber; the pump draws from the last; lines join every chamber."""
    ports: dict[str, Port] = {}
    for chamber, start, width in zip(sump.chambers, sump.starts(), sump.widths(), strict=True):
        ids = cell_ids(sump, chamber)
        left = sump.offset + sump.thickness + start
        ports[chamber.id] = Port(chamber.id, ids[0], ids[-1], left, left + width, title=chamber.title)
    first, last = ports[sump.chambers[0].id], ports[sump.chambers[-1].id]
    ports["inlet"] = replace(first, name="inlet", title=first.title if first.name == "inlet" else "")
    pump = sump.chambers[-1]
    if pump.role == "pump":
        ports["pump"] = replace(
            last,
            name="pump",
            title="" if pump.id != "pump" else last.title,
            entry=last.leave,
            intake=sump.floor + pump.intake,
            level=pump.level,
            needs=pump.intake,
            area=sump.widths()[-1] * sump.inner_width,
            station=f"{sump.id}.{pump.id}",
            mark_path=(*sump.path, "chambers", len(sump.chambers) - 1, "level"),
        )
    return Vessel(
        sump.id,
        sump.name,
        first.entry,
        last.leave,
        sump.floor,
        sump.rim,
        sump.offset,
        sump.offset + sump.length,
        sump.floor + pump.level,
        ports,
        wall=sump.thickness,
    )


_DIRTY = {"clean_out": 4, "foam": 3, "inlet": 2, "socks": 1}  # which chamber is cleaned first


def rooms(sump: Sump, site: Site) -> tuple[Room, ...]:
    """Each chamber."""
    return tuple(
        Room(f"{sump.id}.{c.id}", c.title, cell_ids(sump, c), _DIRTY.get(c.role, 0), c is sump.chambers[-1], c.id)
        for c in sump.chambers
    )


def living(sump: Sump, site: Site) -> tuple[tuple[str, float], ...]:
    """Media and pads of each chamber, m²."""
    core = site.schools.surface == "core"
    widths = dict(zip((c.id for c in sump.chambers), sump.widths(), strict=True))
    found = []
    for chamber in sump.chambers:
        total = chamber.fill.volume * site.medium(chamber.fill.medium).living(core) if chamber.fill else 0.0
        wet = sump.inner_width * (chamber.exit.top if chamber.exit else chamber.level)
        if chamber.lies:
            wet = stack.plan(sump, widths[chamber.id])
        total += sum(foam_surface(p.ppi) * p.thickness * wet for p in chamber.pads)
        found.append((cell_ids(sump, chamber)[0], total))
    return tuple(found)
