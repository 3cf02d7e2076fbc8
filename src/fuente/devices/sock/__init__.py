"""Socks on an overflow."""

from __future__ import annotations

import math

from fuente.devices.beside import FeedSpec
from fuente.devices.filtering import FilterKind, Site
from fuente.devices.first_sizes import beside_tank, fall_back, pipe_for, turnover_pump
from fuente.devices.plumbing import (
    riser_air,
    riser_end,
)
from fuente.devices.sock.card import card
from fuente.devices.sock.care import care
from fuente.devices.sock.judge import EACH, grow, judge, surface
from fuente.devices.sock.network import lower, vessel
from fuente.devices.sock.parts import parts
from fuente.devices.sock.sketch import sketch
from fuente.devices.sock.spec import SockStage


def first(site: Site) -> SockStage:
    """A pump lifts water into socks over the rim, from where it falls back; led from an overflow, it goes
    on its way.
    """
    flow = max(2 * site.volume / 3600, 300e-3 / 3600)
    count = min(max(math.ceil(flow / EACH - 0.2), 1), 8)
    stand = round(site.tank.rim + 0.04, 2)
    length = round(count * 0.22 + 0.06, 2)
    return SockStage(
        id=site.new_id("socks"),
        tank=site.tank.id,
        offset=beside_tank(site, 0.1),
        stand=stand,
        socks=count,
        length=length,
        width=0.24,
        height=0.5,
        sock=0.36,
        feed=FeedSpec(
            way="pump",
            source=site.tank.id,
            release=0.48,
            pipe=pipe_for(flow, 1.2),
            length=0.8,
            pump=turnover_pump(site, 2 / 3600, 0.7),
            valve=False,
        ),
        drain=fall_back(site, 1.7 * flow),
    )


KIND = FilterKind(
    id="sock",
    name="Socks",
    said="Water falls into socks of felt that are changed and washed.",
    glyph="sock",
    spec=SockStage,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("socks", float(s.socks), ""),
    surface=surface,
    schools=(),
    grow=grow,
    inside=False,
    air=True,
    wish=lambda spec, site: riser_air(spec, site, vessel(spec, site)),
    air_at=lambda spec, site: riser_end(spec, site, vessel(spec, site)),
    vessel=vessel,
)
