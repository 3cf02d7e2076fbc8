"""Drain pipes, their fittings and the holes that they need."""

from __future__ import annotations

import math

from fuente.devices.base import Basin
from fuente.devices.overflow.network import foot_of
from fuente.devices.overflow.sketch import comb_of, screen_span, span
from fuente.devices.overflow.spec import ROLE_NAMES, Drain, Overflow
from fuente.devices.pieces import (
    Face,
    Fixing,
    Hole,
    Joint,
    Note,
    Pad,
    Panel,
    Parts,
    Piece,
    Pipe,
    Place,
    fittings_of,
    note,
    tool,
)
from fuente.devices.shop import Shop
from fuente.devices.site import Site
from fuente.network.model import Solution

USUAL = Shop()
GAP = 0.01  # m between a plant screen and the crest
CAUTIONS = (
    (
        "Holes: measure your own fitting; keep a hole's width from any edge and between holes; never drill tempered"
        " glass."
    ),
    "Primer and solvent cement: ventilation, gloves, no flame. Dry-fit first; unions where it must come apart.",
)


def parts(overflow: Overflow, site: Site, solution: Solution) -> Parts:
    """Box walls with their teeth, pipes, bulkheads, and holes in the tank's floor."""
    found: list[Piece] = [*_box(overflow, site.tank), *_screen(overflow, site.tank)]
    for i, drain in enumerate(overflow.drains):
        found += _drain(overflow, site, i, drain)
    return Parts(tuple(found), CAUTIONS)


def _box(overflow: Overflow, tank: Basin) -> list[Panel]:
    """The walls of the box: one long wall, and its ends where it does not meet the glass."""
    across = overflow.box_width > 0.9 * tank.inner_width
    met = note("none where the box meets the glass")
    x0, x1 = span(overflow, tank)
    back, wall, foot = tank.thickness, overflow.wall, tank.floor - tank.stand
    long = Place(x1 if overflow.side == "left" else x0 - wall, back, foot, "yz")
    ends = (Place(x0, back + overflow.box_width - wall, foot, "xz"), Place(x0, back, foot, "xz"))
    return [
        _wall(overflow, tank, "wall", "Overflow box, long wall", overflow.box_width, (long,)),
        _wall(overflow, tank, "side", "Overflow box, end wall", overflow.box_length, ends[: 1 if across else 2], met),
    ]


def _screen(overflow: Overflow, tank: Basin) -> list[Piece]:
    """The strip of mesh before the crest, from under the water's dip to over its teeth."""
    if not overflow.screen:
        return []
    low, high = screen_span(overflow, tank)
    return [
        Pad(
            id=f"{overflow.id}.screen",
            form="Screen against drifting plants",
            stuff="mesh",
            opening=overflow.screen_opening,
            length=overflow.weir,
            width=high - low,
            notes=(
                note(
                    "{s:percent} of it closed; stands {g:length} before the crest, lifts out", s=overflow.screen, g=GAP
                ),
            ),
        )
    ]


def _wall(
    overflow: Overflow, tank: Basin, key: str, name: str, length: float, places: tuple[Place, ...], *notes: Note
) -> Panel:
    """A wall with its teeth over the crest, as far as the tank has room for them."""
    slots = comb_of(overflow, tank, length)
    teeth = note("plain crest")
    if slots:
        words = f"teeth take {100 * overflow.teeth:.0f} % of the crest: {slots.count} slots {{g:length}} wide"
        teeth = note(words + ", {d:length} deep down to the crest", g=slots.width, d=slots.depth)
    return Panel(
        id=f"{overflow.id}.{key}",
        name=name,
        length=length,
        width=overflow.crest + (slots.depth if slots else 0.0),
        thickness=overflow.wall,
        material="acrylic",
        count=len(places),
        body=overflow.id,
        places=places,
        slots=slots,
        sized_by=(*overflow.path, "wall"),
        bonded=3,
        notes=(teeth, *notes),
    )


def _drain(overflow: Overflow, site: Site, index: int, drain: Drain) -> list[Piece]:
    """A drain's two lengths of pipe, its bulkhead with the hole, its fittings and valve."""
    tank = site.tank
    name = ROLE_NAMES[drain.role].lower()
    fall = tank.floor + drain.mouth - foot_of(overflow, site) - overflow.release
    base = f"{overflow.id}.drain.{index}"
    x, y = hole_at(overflow, tank, index, site.shop)
    saw = site.shop.fitting_for(drain.pipe).saw
    found: list[Piece] = [
        Pipe(
            id=f"{base}.stand",
            pipe=drain.pipe,
            length=drain.mouth,
            exact=True,
            notes=(note(f"{name}: standpipe in the box"),),
        ),
        Pipe(
            id=f"{base}.fall",
            pipe=drain.pipe,
            length=max(fall - drain.mouth, 0) + drain.run,
            exact=True,
            notes=(note(f"{name}: from the tank's floor to the sump"),),
        ),
        Joint(id=f"{base}.bulkhead", fixing=Fixing.BULKHEAD, pipe=drain.pipe, between=(tank.id,), notes=(note(name),)),
        Hole(
            id=f"{base}.hole",
            name="Hole in the tank's floor",
            body=tank.id,
            face=Face.FLOOR,
            diameter=saw,
            x=x,
            y=y,
            notes=(_room(overflow, site, index, saw),),
        ),
        *fittings_of(base, drain.fittings, drain.pipe, note(name)),
    ]
    if drain.valve is not None:
        trim = note(f"{name}: to trim it, not to shut")
        found.append(tool(f"{base}.valve", "Gate valve", trim, pipe=drain.pipe, fits="gate_valve"))
    return found


def hole_at(overflow: Overflow, tank: Basin, index: int, shop: Shop = USUAL) -> tuple[float, float]:
    """Centre of a drain's hole in m from the tank's left and back outer edges.

    Side by side across the tank, in a zigzag along it as far as the box has room for their flanges and the glass to the
    tank's end for a saw's width, so that flanges clear.
    """
    x0, x1 = span(overflow, tank)
    count = len(overflow.drains)
    y = tank.thickness + overflow.box_width * (index + 0.5) / count
    fit = shop.fitting_for(overflow.drains[index].pipe)
    low, high = x0 + fit.flange / 2, x1 - fit.flange / 2
    if overflow.side == "left":
        low = max(low, 1.5 * fit.saw)
    else:
        high = min(high, tank.length - 1.5 * fit.saw)
    if count == 1 or low >= high:
        return (x0 + x1) / 2, y
    return (low if index % 2 else high, y) if overflow.side == "left" else (high if index % 2 else low, y)


def glass_left(overflow: Overflow, tank: Basin, index: int, shop: Shop = USUAL) -> tuple[float, float]:
    """Glass in m that a drain's hole leaves to the nearest edge of the floor panel, and to the next hole."""
    x, y = hole_at(overflow, tank, index, shop)
    saw = shop.fitting_for(overflow.drains[index].pipe).saw
    wide = tank.inner_width + 2 * tank.thickness
    edge = min(x, y, tank.length - x, wide - y) - saw / 2
    near = math.inf
    for k, other in enumerate(overflow.drains):
        if k != index:
            a, b = hole_at(overflow, tank, k, shop)
            near = min(near, math.hypot(a - x, b - y) - (saw + shop.fitting_for(other.pipe).saw) / 2)
    return edge, near


def _room(overflow: Overflow, site: Site, index: int, saw: float) -> Note:
    """How much glass a hole leaves, and whether that is too little."""
    edge, near = glass_left(overflow, site.tank, index, site.shop)
    if edge < saw - 1e-9:
        return note("too near an edge: {g:length} of glass, {s:length} wanted", g=edge, s=saw)
    if near < saw - 1e-9:
        return note("too near the next hole: {g:length} of glass, {s:length} wanted", g=near, s=saw)
    return note("{g:length} of glass to the nearest edge", g=edge)
