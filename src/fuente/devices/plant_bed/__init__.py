"""Plant beds and planters."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.beside import FeedSpec
from fuente.devices.filtering import FilterKind, Site, grid
from fuente.devices.first_sizes import beside_tank, fall_back, pipe_for, turnover_pump
from fuente.devices.plant_bed.card import card
from fuente.devices.plant_bed.care import care
from fuente.devices.plant_bed.judge import grow, judge, lives, surface
from fuente.devices.plant_bed.live import live
from fuente.devices.plant_bed.network import lower, vessel
from fuente.devices.plant_bed.parts import parts
from fuente.devices.plant_bed.sketch import sketch
from fuente.devices.plant_bed.spec import PlantBed
from fuente.devices.plumbing import (
    riser_air,
    riser_end,
)


def first(site: Site) -> PlantBed:
    """A trough beside the rim, half as long as the tank; a pump in the tank feeds it a third of a turnover an hour."""
    flow = max(site.volume / 3 / 3600, 200e-3 / 3600)
    length = round(min(max(0.5 * site.tank.length, 0.4), 3.0), 1)
    width = round(min(max(0.6 * site.tank.inner_width, 0.2), 1.0), 2)
    back = fall_back(site, 1.7 * flow, 0.2)
    bore = pipe_size(back.pipe).bore
    stand = round(site.tank.rim - 0.12, 2)
    return PlantBed(
        id=site.new_id("plants"),
        tank=site.tank.id,
        offset=beside_tank(site, 0.12),
        stand=stand,
        length=length,
        width=width,
        height=grid(0.24 + 3.2 * bore, 0.01),
        gravel=0.26,
        grain=0.01,
        feed=FeedSpec(
            way="pump",
            source=site.tank.id,
            release=0.33,
            pipe=pipe_for(flow, 1.0),
            length=1.0,
            pump=turnover_pump(site, 1 / 3 / 3600, 0.5),
            valve=False,
        ),
        drain=back,
    )


KIND = FilterKind(
    id="plant_bed",
    name="Plant bed",
    said="A trough of gravel with plants; water trickles through it and falls back.",
    glyph="plant",
    spec=PlantBed,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("bed", s.plan, "area"),
    surface=surface,
    living=lives,
    live=live,
    schools=(),
    grow=grow,
    inside=False,
    air=True,
    wish=lambda spec, site: riser_air(spec, site, vessel(spec, site)),
    air_at=lambda spec, site: riser_end(spec, site, vessel(spec, site)),
    vessel=vessel,
)
