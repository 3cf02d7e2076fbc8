"""Sieves and screen beds before a pump."""

from __future__ import annotations

from fuente.devices.beside import DrainSpec, FeedSpec
from fuente.devices.filtering import FilterKind, Site
from fuente.devices.first_sizes import beside_tank, pipe_for, turnover_pump
from fuente.devices.plumbing import (
    riser_air,
    riser_end,
)
from fuente.devices.sieve_bed.card import card
from fuente.devices.sieve_bed.care import care
from fuente.devices.sieve_bed.judge import grow, judge, lives, surface
from fuente.devices.sieve_bed.network import lower, sizing_speed, vessel
from fuente.devices.sieve_bed.parts import parts
from fuente.devices.sieve_bed.sketch import sketch
from fuente.devices.sieve_bed.spec import SieveBed


def first(site: Site) -> SieveBed:
    """A box whose screen lies a hand under the tank's water, fed through a float valve, its pump giving back over the
    rim.
    """
    flow = max(site.volume / 3600, 500e-3 / 3600)
    area = 1.5 * flow / (sizing_speed(300e-6) * 0.3 * 0.5)
    width = round(min(max((area / 1.6) ** 0.5, 0.25), 1.0), 2)
    length = round(max(area / width, 0.3) + 0.025, 2)
    low = site.tank.floor < 0.15
    screen = round(site.level - 0.12, 2) if low else 0.4
    height = round(screen + 0.2, 2)
    drop = site.tank.rim - 0.6 * screen
    pipe = pipe_for(flow, 0.45)
    hold = round(0.75 * screen, 2)
    feed = FeedSpec(
        way="float",
        source=site.tank.id,
        height=round(max(min(screen - 0.05, site.depth - 0.1), 0.05), 2),
        hold=hold,
        pipe=pipe,
        length=0.5,
        bends=1,
    )
    if not low:
        feed = feed.model_copy(
            update={
                "way": "fall",
                "height": round(site.depth, 3),
                "release": round(height - 0.05, 2),
                "pipe": pipe_for(2 * flow, 0.5),
            }
        )
    return SieveBed(
        id=site.new_id("sieve"),
        tank=site.tank.id,
        offset=beside_tank(site),
        stand=0.0,
        length=length,
        width=width,
        height=height,
        screen=screen,
        bars=max(2, round(length / 0.25)),
        media=round(min(site.media("scrubber"), 0.4 * length * width * screen), 3),
        feed=feed,
        drain=DrainSpec(
            way="pump",
            into=site.tank.id,
            release=round(site.tank.inner_height + 0.02, 2),
            pipe=pipe_for(flow, 1.2),
            length=1.0,
            bends=3,
            pump=turnover_pump(site, 1 / 3600, max(drop, 0.2) + 0.2),
        ),
    )


KIND = FilterKind(
    id="sieve_bed",
    name="Sieve or screen bed",
    said="Water falls through a screen that is hosed off, into a chamber with the pump.",
    glyph="sieve",
    spec=SieveBed,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("screen", s.area, "area"),
    surface=surface,
    living=lives,
    schools=("surface",),
    grow=grow,
    inside=False,
    air=True,
    wish=lambda spec, site: riser_air(spec, site, vessel(spec, site)),
    air_at=lambda spec, site: riser_end(spec, site, vessel(spec, site)),
    vessel=vessel,
)
