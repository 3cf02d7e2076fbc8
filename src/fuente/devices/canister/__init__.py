"""Canisters and lidded buckets."""

from __future__ import annotations

import math

from fuente.devices.canister.card import card
from fuente.devices.canister.care import care
from fuente.devices.canister.commission import commission
from fuente.devices.canister.judge import grow, judge, surface
from fuente.devices.canister.network import lower
from fuente.devices.canister.parts import parts
from fuente.devices.canister.sketch import sketch
from fuente.devices.canister.spec import Canister, Layer
from fuente.devices.filtering import FilterKind, Site, grid
from fuente.devices.first_sizes import beside_tank
from fuente.devices.pocket import all_in
from fuente.devices.pumping import PumpSpec
from fuente.devices.schools import Schools

PUMPS = ((600, 1.2, 8), (900, 1.6, 15), (1500, 2.0, 25), (2500, 2.5, 40), (4000, 3.0, 65))  # L/h, m, W; typical classes


FOOT = 0.03  # m of void under the layers


def _layers(schools: Schools, height: float) -> tuple[Layer, ...]:
    """From the foot up, which the water reaches first: coarse foam, a finer one, media; by school a mix, and the finest
    on top. Media stands on a divider, and not on the foam.
    """
    pad = max(round(grid(0.15 * (height - FOOT)) - 0.005, 4), 0.02)
    room = math.floor((height - FOOT - 2 * pad) * 0.75 / 0.005) * 0.005
    coarse, fine = Layer(medium="foam", ppi=10, thickness=pad), Layer(medium="foam", ppi=20, thickness=pad)
    half = round(room / 2, 4)
    media = (
        (Layer(medium="ring", thickness=half, divider=True), Layer(medium="pumice", thickness=half, divider=True))
        if schools.media == "mix"
        else (Layer(medium="ring", thickness=round(room, 4), divider=True),)
    )
    if schools.finest == "last":
        return (coarse, *media, fine.model_copy(update={"ppi": 30.0, "divider": True}))
    return (coarse, fine, *media)


def first(site: Site) -> Canister:
    """Foam under rings by the load; under a tank on a stand, beside one on the floor; a pump for four turns an hour."""
    need = max(site.media("ring") / 0.5 / 0.95, 3e-3)
    diameter = grid(min(max((need / 1.5 / 0.785) ** (1 / 3), 0.18), 0.4), 0.02)
    height = grid(min(max(need / (math.pi / 4 * diameter**2), 0.2), 0.7), 0.02)
    want = site.volume * 4 * 1000
    flow, head, watts = next((p for p in PUMPS if 0.6 * p[0] >= want), PUMPS[-1])
    bore = "hose-12" if flow < 700 else "hose-16" if flow < 1600 else "hose-25" if flow < 3000 else "hose-32"
    under = site.tank.floor > height + 0.15
    offset = site.tank.offset + 0.1 if under else beside_tank(site, 0.25)
    away = site.tank.rim - height + 0.4 if under else 0.8
    return Canister(
        id=site.new_id("canister"),
        tank=site.tank.id,
        offset=round(offset, 3),
        stand=0.005,
        diameter=diameter,
        height=height,
        layers=_layers(site.schools, height),
        foot=FOOT,
        drain=True,
        pump=PumpSpec(name="Canister pump", max_head=head, max_flow=flow * 1e-3 / 3600, watts=watts),
        hose=bore,
        bores=1 if flow < 2500 else 2,
        length=round(max(away, 0.6), 1),
        intake=0.06,
        outlet=round(site.depth - 0.02, 3),
    )


KIND = FilterKind(
    id="canister",
    name="Canister or bucket",
    said="A closed vessel of layers with a pump in its line; two hoses over the rim.",
    glyph="canister",
    spec=Canister,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    commission=commission,
    size=lambda s: ("inside", s.inside, "volume"),
    surface=surface,
    living=all_in(surface),
    schools=("surface", "finest", "media"),
    grow=grow,
    inside=False,
)
