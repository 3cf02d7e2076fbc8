"""Foam walls, flat, quarter-round, or as dividers."""

from __future__ import annotations

from fuente.devices.filtering import FilterKind, Site, grid
from fuente.devices.foam_wall.card import card
from fuente.devices.foam_wall.care import care
from fuente.devices.foam_wall.judge import grow, judge, lives, surface
from fuente.devices.foam_wall.network import lower
from fuente.devices.foam_wall.parts import parts
from fuente.devices.foam_wall.sketch import air_at, sketch
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.pocket import modest_air


def first(site: Site) -> FoamWall:
    """A wall across the tank's left end, as high as the glass, with a tube for every 30 cm of it."""
    width = site.tank.inner_width
    thickness = 0.05 if site.tank.inner_length > 0.5 else 0.03
    need = grid(site.foam(20.0) / (width * site.depth), 0.01)
    return FoamWall(
        id=site.new_id("foam-wall"),
        tank=site.tank.id,
        at=0.0,
        across=round(width, 4),
        thickness=min(max(thickness, need), 0.1),
        behind=grid(max(0.05, 0.06 * site.tank.inner_length), 0.01),
        height=round(site.tank.inner_height - 0.01, 3),
        drive=site.schools.drive,
        tubes=max(1, min(round(width / 0.3), 4)),
        bore=0.024,
        injector=0.03,
        outlet=round(site.depth, 3),
    )


KIND = FilterKind(
    id="foam_wall",
    name="Foam wall",
    said="A sheet of foam across the tank or round a corner, and clean water behind it.",
    glyph="pad",
    spec=FoamWall,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("foam", s.bulk, "volume"),
    surface=surface,
    living=lives,
    schools=("drive", "finest"),
    grow=grow,
    wish=modest_air,
    air_at=air_at,
    air=True,
)
