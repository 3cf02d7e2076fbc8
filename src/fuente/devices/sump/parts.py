"""Panels, pads, socks and media of a sump, in the order in which it is built."""

from __future__ import annotations

import math
from dataclasses import replace

from fuente.devices.pieces import (
    COMB,
    ELECTRIC,
    Hole,
    Note,
    Pad,
    Panel,
    Parts,
    Piece,
    Place,
    Shelf,
    Slots,
    Thing,
    media_of,
    note,
    slots_of,
)
from fuente.devices.shop import Shop
from fuente.devices.site import Site
from fuente.devices.sump import stack
from fuente.devices.sump.plates import baffle_check
from fuente.devices.sump.shell import drilled, shell_of, strips_of
from fuente.devices.sump.spec import Baffle, Chamber, Sump
from fuente.devices.warm_shown import heater_things
from fuente.network.model import Solution
from fuente.one_line import within

RING = 0.012  # m that a sock's ring needs beyond its hole
PLATE = 0.006  # m, the sheet of the sock plate
LAP = 0.03  # m that a comb lies on its baffle
CAUTIONS = (
    (
        "Glass cutting and drilling: goggles, gloves, water on the bit. Order panels cut with ground edges."
        " Tempered glass shatters when drilled."
    ),
    "Silicone and solvents: ventilation, gloves, no flame. Let every joint cure fully before water.",
    "Lifting: wet media and glass; what is more than you lift alone takes two people.",
    "Structural results are estimates for planning, not an engineer's certificate.",
)


def parts(sump: Sump, site: Site, solution: Solution) -> Parts:
    """Everything to order and cut."""
    panels = drilled(sump, site, shell_of(sump, site.shop)) + strips_of(sump, site.shop)
    things: list[Piece] = []
    for chamber in sump.chambers:
        panels += _baffles(sump, chamber, site.shop)
        if chamber.role == "socks" and chamber.socks:
            panels.append(_plate(sump, chamber, site.shop))
        if chamber.lies:
            panels.append(_beside(sump, chamber, site.shop))
        things += _contents(sump, chamber, site)
    cautions: tuple[str, ...] = CAUTIONS
    if any(c.heaters for c in sump.chambers):
        cautions = (*cautions, ELECTRIC)
    return Parts((*_named(sump, site, panels), *things), cautions)


def _named(sump: Sump, site: Site, panels: list[Panel]) -> list[Panel]:
    """With several sumps, each panel says whose it is."""
    if sum(d.kind == sump.kind for d in site.devices.values()) < 2:
        return panels
    return [replace(p, name=f"{sump.name}: {p.name[:1].lower()}{p.name[1:]}") for p in panels]


def _baffles(sump: Sump, chamber: Chamber, shop: Shop) -> list[Panel]:
    """The baffles at a chamber's two ends, as far as it has them."""
    title = within(chamber.title)
    start, width = _span(sump, chamber)
    under = start + width / 2 - (chamber.under.thickness / 2 if chamber.under else 0.0)
    rows = (
        ("under", f"Under-baffle of {title}", chamber.under, under),
        ("exit", f"Baffle after {title}", chamber.exit, start + width),
    )
    found = []
    for field, name, baffle, x in rows:
        if baffle is None:
            continue
        check = baffle_check(sump, baffle, shop)
        foot = baffle.gap if baffle.gap > 0 else shop.glue
        long = sump.inner_width - 2 * shop.clearance
        slots = slots_of(long, baffle.top, sump.inner_height, baffle.notch, baffle.teeth, baffle.tooth_gap)
        apart = slots is not None and not baffle.notch and baffle.material == "glass"
        own = None if apart else slots
        found.append(
            Panel(
                id=f"{sump.id}.{chamber.id}.{field}",
                name=name,
                length=long,
                width=baffle.top - foot + (own.depth if own else 0.0),
                thickness=baffle.thickness,
                material=baffle.material,
                body=sump.id,
                places=(Place(x, sump.thickness + shop.clearance, sump.bottom + foot, "yz"),),
                slots=own,
                sized_by=(*sump.path, "chambers", chamber.id, field, "thickness"),
                bonded=3 if baffle.gap <= 0 else 2,
                notes=_foot_and_crest(baffle, own, apart),
                safety=check.safety,
                needed=check.needed,
            )
        )
        if apart and slots is not None:
            found.append(_comb(sump, chamber, field, baffle, slots, x + baffle.thickness, shop))
    return found


def _comb(sump: Sump, chamber: Chamber, field: str, baffle: Baffle, slots: Slots, x: float, shop: Shop) -> Panel:
    """Teeth for a glass baffle: a strip of acrylic that is glued flat on its far side, since glass takes no slots."""
    words = f"teeth: {slots.count} slots {{g:length}} wide, {{d:length}} deep; glued {{l:length}} deep on the far side"
    return Panel(
        id=f"{sump.id}.{chamber.id}.{field}.comb",
        name=f"Comb on the baffle after {within(chamber.title)}",
        length=sump.inner_width - 2 * shop.clearance,
        width=slots.depth + LAP,
        thickness=PLATE,
        material="acrylic",
        body=sump.id,
        places=(Place(x, sump.thickness + shop.clearance, sump.bottom + baffle.top - LAP, "yz"),),
        slots=slots,
        bonded=1,
        notes=(note(words, g=slots.width, d=slots.depth, l=LAP),),
    )


def _span(sump: Sump, chamber: Chamber) -> tuple[float, float]:
    """Where a chamber begins, m from the sump's left outer end, and how long it is."""
    at = [c.id for c in sump.chambers].index(chamber.id)
    return sump.thickness + sump.starts()[at], sump.widths()[at]


def _foot_and_crest(baffle: Baffle, slots: Slots | None, comb: bool) -> tuple[Note, ...]:
    """What to do at a baffle's foot, and what is cut into its crest."""
    bonded = baffle.gap <= 0
    found = [note("bonded to the floor") if bonded else note("{g:length} spacer under it", g=baffle.gap)]
    if slots and baffle.notch:
        found.append(note("notched {w:length} wide, {d:length} deep down to the crest", w=slots.width, d=slots.depth))
    elif comb:
        found.append(note("its comb stands {d:length} over it", d=COMB))
    elif slots:
        words = f"teeth: {slots.count} slots {{g:length}} wide, {{d:length}} deep down to the crest"
        found.append(note(words, g=slots.width, d=slots.depth))
    return tuple(found)


def _plate(sump: Sump, chamber: Chamber, shop: Shop) -> Panel:
    """The plate that the socks hang in, its holes in one row."""
    socks = chamber.socks
    assert socks is not None
    key = f"{sump.id}.{chamber.id}.plate"
    width = sump.widths()[[c.id for c in sump.chambers].index(chamber.id)] - 2 * shop.clearance
    length = sump.inner_width - 2 * shop.clearance
    step = length / socks.count
    holes = tuple(
        Hole(id=f"{key}.{k}", name="sock ring", body=key, diameter=socks.diameter, x=step * (k + 0.5), y=width / 2)
        for k in range(socks.count)
    )
    clash = step - socks.diameter < RING or width - socks.diameter < RING
    return Panel(
        id=key,
        name="Sock plate",
        length=length,
        width=width,
        thickness=PLATE,
        material="acrylic",
        holes=holes,
        body=sump.id,
        places=(
            Place(
                _span(sump, chamber)[0] + shop.clearance,
                sump.thickness + shop.clearance,
                sump.bottom + socks.plate,
                "yx",
            ),
        ),
        bonded=0,
        notes=(note("rings do not fit: make the chamber longer" if clash else "rests on two ledges"),),
    )


def _beside(sump: Sump, chamber: Chamber, shop: Shop) -> Panel:
    """The plate that leads the water under what lies, or up from there."""
    start, width = _span(sump, chamber)
    where = "upstream" if chamber.way == "up" else "downstream"
    return Panel(
        id=f"{sump.id}.{chamber.id}.beside",
        name=f"Plate beside {within(chamber.title)}",
        length=sump.inner_width - 2 * shop.clearance,
        width=stack.plate_top(sump, chamber) - chamber.support,
        thickness=PLATE,
        material="acrylic",
        body=sump.id,
        places=(
            Place(
                start + (stack.slot(width) if chamber.way == "up" else width - stack.slot(width)) - PLATE / 2,
                sump.thickness + shop.clearance,
                sump.bottom + chamber.support,
                "yz",
            ),
        ),
        bonded=2,
        notes=(
            note(
                f"{{f:length}} over the floor; leaves a slot of {{s:length}} on its {where} side",
                f=chamber.support,
                s=stack.slot(width),
            ),
        ),
    )


def _contents(sump: Sump, chamber: Chamber, site: Site) -> list[Piece]:
    """Pads, socks, media and heaters; media in bags as heavy as the builder lifts."""
    lift = site.space.lift
    owner = f"{sump.id}.{chamber.id}"
    shop = site.shop
    wide = sump.inner_width + shop.squeeze
    width = sump.widths()[[c.id for c in sump.chambers].index(chamber.id)]
    along = width - stack.slot(width)
    cut = (note("cut {s:length} wide for a squeeze fit", s=shop.squeeze),)
    found: list[Piece] = [
        Pad(
            id=f"{owner}.pad.{k}",
            ppi=pad.ppi,
            length=wide,
            width=along + shop.squeeze if chamber.lies else pad.height,
            thickness=pad.thickness,
            shelf=Shelf.PADS,
            notes=cut,
        )
        for k, pad in enumerate(chamber.pads)
    ]
    if chamber.lies:
        found.append(
            Thing(
                id=f"{owner}.grid",
                name="Grid on feet",
                shelf=Shelf.EQUIPMENT,
                length=sump.inner_width - 2 * shop.clearance,
                width=along - 2 * shop.clearance,
                height=chamber.support,
                notes=(note("carries what lies on it; openings smaller than the media"),),
            )
        )
    if chamber.role == "socks" and chamber.socks:
        found.append(
            Pad(
                id=f"{owner}.socks",
                form="Filter sock",
                stuff="made",
                opening=chamber.socks.micron,
                diameter=chamber.socks.diameter,
                length=chamber.socks.length,
                count=chamber.socks.count,
                shelf=Shelf.PADS,
                notes=(note("buy twice as many: one set dries while the other works"),),
            )
        )
    if chamber.fill and chamber.fill.volume > 0:
        loose = media_of(f"{owner}.media", site.medium(chamber.fill.medium), chamber.fill.volume)
        if chamber.fill.held == "bags" and loose.wet is not None and loose.wet > lift:
            loose = replace(loose, bags=math.ceil(loose.wet / lift))
        found.append(loose)
    found += heater_things(f"{owner}.heaters", chamber.heaters, chamber.heater_watts, within(chamber.title))
    return found
