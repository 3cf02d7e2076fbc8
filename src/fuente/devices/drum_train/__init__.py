"""Trains of drums."""

from __future__ import annotations

import math

from fuente.catalogue import pipe_size
from fuente.devices.beside import DrainSpec, FeedSpec
from fuente.devices.drum_train.card import card
from fuente.devices.drum_train.care import care
from fuente.devices.drum_train.judge import grow, judge, lives, surface
from fuente.devices.drum_train.network import lower, vessel
from fuente.devices.drum_train.parts import parts
from fuente.devices.drum_train.sketch import sketch
from fuente.devices.drum_train.spec import Drum, DrumTrain
from fuente.devices.filtering import FilterKind, Site
from fuente.devices.first_sizes import beside_tank, pipe_for, turnover_pump
from fuente.devices.plumbing import (
    riser_air,
    riser_end,
)
from fuente.devices.schools import FILL
from fuente.structure.walls import largest_flange

# Drums as they are found: bore and height in m, about 60, 120 and 210 L.
SIZES = ((0.38, 0.6), (0.46, 0.8), (0.57, 0.9))


def first(site: Site) -> DrumTrain:
    """Settling, foam, and a moving bed by the load; level with a tank on the floor, under one on a stand."""
    need = site.media("wheel_10")
    flow = max(site.volume / 3600, 600e-3 / 3600)
    bore, height = next(
        (s for s in SIZES if FILL[site.schools.fill] * math.pi / 4 * s[0] ** 2 * 0.7 * s[1] >= need), SIZES[-1]
    )
    low = site.tank.floor < 0.15
    level = site.level if low else 0.75 * height
    if low:
        height = round(max(height, level + 0.12), 2)
    pipe = pipe_for(flow, 0.4)
    out = round(min(level - 0.12, height - 0.1) if low else level - 0.12, 2)
    bed = round(min(max(need, 0.01), FILL[site.schools.fill] * math.pi / 4 * bore**2 * level * 0.8), 3)
    # The last drum's outlet is its mark where a pump holds it there: the others' bulkheads lie under that.
    low_out = out if low else round(out - 1.3 * pipe_size(pipe).bore, 2)
    common = {"diameter": bore, "height": height, "pipe": pipe, "mesh": 0.006}
    drums = (
        Drum(role="settle", flow="down", outlet=low_out, **common),
        Drum(role="foam", ppi=20, foam=0.1, grid=0.25, outlet=low_out, **common),
        Drum(role="moving", medium="wheel_10", media=bed, grid=0.05, flow="down", outlet=out, **common),
    )
    lift = max(site.tank.rim - 0.2, 0.3)
    if low:
        feed = FeedSpec(
            way="level", source=site.tank.id, height=round(out - site.tank.floor, 2), pipe=pipe, length=0.6, bends=0
        )
        lift = 0.3
    else:
        crest = round(site.depth, 3)
        feed = FeedSpec(
            way="fall",
            source=site.tank.id,
            height=crest,
            release=round(height - 0.08, 2),
            pipe=pipe_for(flow * 2, 0.5),
            length=0.6,
        )
    joint = site.shop.fitting_for(pipe)
    seal = "bulkhead" if joint.flange <= largest_flange(bore, joint.gasket) else "grommet"
    drain = DrainSpec(
        way="pump",
        into=site.tank.id,
        release=round(site.tank.inner_height + 0.02, 2),
        pipe=pipe_for(flow, 1.2),
        length=1.0,
        bends=3,
        pump=turnover_pump(site, 1 / 3600, lift + 0.2),
    )
    return DrumTrain(
        id=site.new_id("drums"),
        tank=site.tank.id,
        offset=beside_tank(site),
        stand=0.0,
        seal=seal,
        drums=drums,
        feed=feed,
        drain=drain,
    )


KIND = FilterKind(
    id="drum_train",
    name="Drum train",
    said="Barrels in a row, each with its own task: settling, foam, media, moving bed.",
    glyph="drum",
    spec=DrumTrain,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("media", sum(d.media for d in s.drums if d.holds_media), "volume"),
    surface=surface,
    living=lives,
    schools=("surface", "fill", "still"),
    grow=grow,
    inside=False,
    air=True,
    wish=lambda spec, site: riser_air(spec, site, vessel(spec, site)),
    air_at=lambda spec, site: riser_end(spec, site, vessel(spec, site)),
    vessel=vessel,
)
