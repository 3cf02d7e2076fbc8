"""Trickle towers and tray stacks."""

from __future__ import annotations

import math

from fuente.catalogue import pipe_size
from fuente.devices.beside import FeedSpec
from fuente.devices.filtering import FilterKind, Site, grid
from fuente.devices.first_sizes import beside_tank, fall_back, pipe_for, turnover_pump
from fuente.devices.plumbing import (
    riser_air,
    riser_end,
)
from fuente.devices.trickle_tower.card import card
from fuente.devices.trickle_tower.care import care
from fuente.devices.trickle_tower.judge import WET_SHARE, grow, judge, lives, surface
from fuente.devices.trickle_tower.network import lower, vessel
from fuente.devices.trickle_tower.parts import parts
from fuente.devices.trickle_tower.sketch import sketch
from fuente.devices.trickle_tower.spec import TrickleTower

_SPARE = 1.6  # times the flow that is wanted, for which holes and the way back are made


def first(site: Site) -> TrickleTower:
    """Over the tank's rim, so that it falls back by itself; a pump in the tank turns it over twice an hour."""
    flow = max(2 * site.volume / 3600, 400e-3 / 3600)
    plan = flow / (11 / 3600)
    length = grid(max(math.sqrt(plan), 0.12), 0.01)
    width = grid(max(plan / length, 0.1), 0.01)
    packing = grid(min(max(site.media("plastic_ball") / WET_SHARE / (length * width), 0.3), 1.2), 0.05)
    most = _SPARE * flow  # its pump is of a class with some to spare
    back = fall_back(site, most)
    bore = pipe_size(back.pipe).bore
    base = grid(back.height + 3.4 * bore + 0.04, 0.01)
    stand = round(site.tank.rim + 0.12, 2)
    holes = max(round(most / (0.62 * math.sqrt(2 * 9.81 * 0.03) * math.pi / 4 * 0.006**2)), 4)
    top = base + packing
    lift = stand + top + 0.12 - site.level
    return TrickleTower(
        id=site.new_id("tower"),
        tank=site.tank.id,
        offset=beside_tank(site, 0.1),
        stand=stand,
        length=length,
        width=width,
        packing=packing,
        base=base,
        holes=holes,
        feed=FeedSpec(
            way="pump",
            source=site.tank.id,
            release=round(top + 0.12, 2),
            pipe=pipe_for(flow, 1.2),
            length=0.6,
            pump=turnover_pump(site, 2 / 3600, lift),
            valve=False,
        ),
        drain=back,
    )


KIND = FilterKind(
    id="trickle_tower",
    name="Trickle tower",
    said="Water runs down a packing in air and falls back: much oxygen, some noise.",
    glyph="tower",
    spec=TrickleTower,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("packing", s.bulk, "volume"),
    surface=surface,
    living=lives,
    grow=grow,
    inside=False,
    air=True,
    wish=lambda spec, site: riser_air(spec, site, vessel(spec, site)),
    air_at=lambda spec, site: riser_end(spec, site, vessel(spec, site)),
    vessel=vessel,
)
