"""Filters hidden in ornaments."""

from __future__ import annotations

from fuente.devices.filtering import FilterKind, Site, grid
from fuente.devices.ornament.card import card
from fuente.devices.ornament.care import care
from fuente.devices.ornament.judge import grow, judge, surface
from fuente.devices.ornament.network import lower
from fuente.devices.ornament.parts import parts
from fuente.devices.ornament.sketch import air_at, sketch
from fuente.devices.ornament.spec import Ornament
from fuente.devices.pocket import all_in, modest_air


def first(site: Site) -> Ornament:
    """A lantern two thirds as high as the water, as wide as the load and the tank ask."""
    height = grid(min(0.7 * site.depth, 0.4), 0.01)
    width = min(max((site.media("ring") / 0.5 / (0.7854 * height)) ** 0.5, 0.12), 0.55 * site.tank.inner_width, 0.4)
    width = grid(width, 0.01)
    wall = 0.006
    room = 0.7854 * (width - 2 * wall) ** 2 * (height - wall)
    return Ornament(
        id=site.new_id("ornament"),
        tank=site.tank.id,
        at=round(max(min(site.room, site.tank.inner_length - width - 0.01), 0.01), 3),
        width=width,
        depth=width,
        height=height,
        wall=wall,
        gaps=18,  # a lift tube's flow through 4 mm gaps, slower than holds a weak fish
        media=round(min(site.media("ring"), 0.5 * room), 5),
        drive=site.schools.drive,
        tubes=1,
        bore=0.018,
        injector=0.03,
        outlet=round(min(site.depth, height + 0.02), 3),
    )


KIND = FilterKind(
    id="ornament",
    name="Hidden in an ornament",
    said="A lantern, urn or shell with media inside and a lift or a small pump that nobody sees.",
    glyph="ornament",
    spec=Ornament,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("media", s.media, "volume"),
    surface=surface,
    living=all_in(surface),
    schools=("surface", "drive"),
    grow=grow,
    wish=modest_air,
    air_at=air_at,
    air=True,
)
