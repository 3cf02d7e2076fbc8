"""Under-gravel plates on air."""

from __future__ import annotations

from fuente.devices.filtering import FilterKind, Site, grid
from fuente.devices.pocket import all_in, modest_air
from fuente.devices.under_gravel.card import card
from fuente.devices.under_gravel.care import care
from fuente.devices.under_gravel.judge import grow, judge, surface
from fuente.devices.under_gravel.network import lower
from fuente.devices.under_gravel.parts import parts
from fuente.devices.under_gravel.sketch import air_at, sketch
from fuente.devices.under_gravel.spec import UnderGravel
from fuente.errors import FuenteError


def first(site: Site) -> UnderGravel:
    """A plate under most of the bottom, a lift tube for every 40 cm of it."""
    if site.tank.gravel > 0:
        raise FuenteError("Take the gravel off the tank's card first: the plate brings its own.")
    length = grid(min(0.94 * site.tank.inner_length, 3.0), 0.01) - 0.01
    width = grid(0.92 * site.tank.inner_width, 0.01) - 0.01
    return UnderGravel(
        id=site.new_id("under-gravel"),
        tank=site.tank.id,
        at=0.01,
        length=length,
        width=width,
        tubes=max(1, min(round(length / 0.4), 8)),
        bore=0.024,
        injector=0.03,
        outlet=round(site.depth, 3),
    )


KIND = FilterKind(
    id="under_gravel",
    name="Under-gravel plate",
    said="Water sinks through gravel over a plate and rises in lift tubes.",
    glyph="plate",
    spec=UnderGravel,
    first=first,
    lower=lower,
    card=card,
    sketch=sketch,
    parts=parts,
    care=care,
    judge=judge,
    size=lambda s: ("plate", s.length * s.width, "area"),
    surface=surface,
    living=all_in(surface),
    grow=grow,
    wish=modest_air,
    air_at=air_at,
    air=True,
)
