"""Sponge and box filters on air."""

from __future__ import annotations

from fuente.devices.filtering import FilterKind, Site, grid
from fuente.devices.pocket import all_in, modest_air
from fuente.devices.sponge.card import card
from fuente.devices.sponge.care import care
from fuente.devices.sponge.judge import grow, judge, surface
from fuente.devices.sponge.network import lower
from fuente.devices.sponge.parts import parts
from fuente.devices.sponge.sketch import air_at, sketch
from fuente.devices.sponge.spec import Sponge

PPI = 20.0


def first(site: Site) -> Sponge:
    """A block by the load, as deep and long as the tank allows, with its mouth at the waterline."""
    height = grid(min(0.55 * site.depth, 0.25))
    width = grid(min(0.12, 0.5 * site.tank.inner_width))
    most = max(min(0.4 * site.tank.inner_length, 0.6), 0.06)
    length = grid(min(max(site.foam(PPI) / (0.9 * height * width), 0.08), most), 0.01)
    tubes = max(1, round(length / 0.2))
    return Sponge(
        id=site.new_id("sponge"),
        tank=site.tank.id,
        at=round(max(min(site.room, site.tank.inner_length - length - 0.01), 0.01), 3),
        length=length,
        width=width,
        height=height,
        ppi=PPI,
        tubes=tubes,
        bore=0.02,
        injector=0.02,
        outlet=round(site.depth, 3),
        drive="air",
    )


KIND = FilterKind(
    id="sponge",
    name="Sponge or box",
    said="A block of foam or a box of media, and a tube that bubbles lift water through.",
    glyph="sponge",
    spec=Sponge,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("block", s.length * s.width * s.height, "volume"),
    surface=surface,
    living=all_in(surface),
    schools=("surface",),
    air=True,
    grow=grow,
    wish=modest_air,
    air_at=air_at,
)
