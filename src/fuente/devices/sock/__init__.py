"""Socks on an overflow."""

from __future__ import annotations

import math

from fuente.catalogue import pipe_size
from fuente.devices.filtering import Kind, Site, grid
from fuente.devices.plumbing import DrainSpec, FeedSpec, beside_tank, fall_pipe_for, pipe_for, turnover_pump
from fuente.devices.sock.card import card
from fuente.devices.sock.care import care
from fuente.devices.sock.judge import EACH, grow, judge, surface
from fuente.devices.sock.network import lower, vessel
from fuente.devices.sock.parts import parts
from fuente.devices.sock.sketch import sketch
from fuente.devices.sock.spec import SockStage


def first(site: Site) -> SockStage:
    """A pump lifts water into socks over the rim, from where it falls back; led from an overflow, it goes on its way."""
    flow = max(2 * site.volume / 3600, 300e-3 / 3600)
    count = min(max(math.ceil(flow / EACH - 0.2), 1), 8)
    pipe = fall_pipe_for(1.7 * flow)
    bore = pipe_size(pipe).bore
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
        feed=FeedSpec(way="pump", source=site.tank.id, release=0.48, pipe=pipe_for(flow, 1.2), length=0.8, pump=turnover_pump(site, 2 / 3600, 0.7), valve=False),
        drain=DrainSpec(way="fall", into=site.tank.id, height=grid(0.02 + bore, 0.01), spare=grid(1.5 * bore, 0.01), release=round(min(site.depth, site.tank.inner_height - 0.01), 3), pipe=pipe, length=0.4, bends=1),
    )  # fmt: skip


KIND = Kind(
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
    vessel=vessel,
)
