"""A sieve: the water over its screen, and the chamber under it."""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.base import Fragment
from fuente.devices.filtering import Site, Vessel
from fuente.devices.plumbing import Mouth, drain_links, feed_id, feed_lifts, feed_links, other, pipe_of, plastic, spill
from fuente.devices.sieve_bed.lines import others_in, others_out
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.errors import SpecError
from fuente.network.beds import Bed, FloatedFeed, FloatFed, hole_loss
from fuente.network.laws import Bulkhead, Weir
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Group, Link, WayKind
from fuente.one_line import within

SCREEN_C = 0.6  # of fine openings; they also wet slowly, so that the sizing speed below is what counts
SLOT = 0.06 / 100e-6  # 1/s: speed through the openings that Fuente sizes for, by their width; an assumption
FASTEST = 0.3  # m/s
FLOAT_BAND = 0.03  # m over which its float opens


def ids(spec: SieveBed) -> tuple[str, str]:
    """Ids of the water over the screen and of the chamber."""
    return f"{spec.id}.over", f"{spec.id}.chamber"


def sizing_speed(aperture: float) -> float:
    """Speed in m/s through clean openings that a screen is sized for; no published value: try a bucket on your own
    piece.
    """
    return min(SLOT * aperture, FASTEST)


def screen_loss(spec: SieveBed) -> Bed:
    """The screen as a bed: at the sizing speed and half clogged it takes 20 mm, so that its own water film drains."""
    clean = hole_loss(spec.area * spec.open_share, SCREEN_C)
    speed = sizing_speed(spec.aperture) * spec.area * spec.open_share
    soft = type(clean)(0.01 / speed, clean.square)
    return Bed(spec.stand + spec.screen, 0.004, soft, dirt=spec.dirt)


def vessel(spec: SieveBed, site: Site) -> Vessel:
    """Water falls on its screen, a pump stands under it."""
    over, chamber = ids(spec)
    at = spec.stand + (spec.feed.hold if spec.feed.way == "float" else 0.7 * spec.screen)
    return Vessel(
        spec.id,
        spec.name,
        over,
        chamber,
        spec.stand,
        spec.stand + spec.height,
        spec.offset,
        spec.offset + spec.length,
        at,
        foot=spec.stand + spec.screen,
    )


def lower(spec: SieveBed, site: Site) -> Fragment:
    """Two cells; a float on its feed holds the water under the screen."""
    over_id, chamber_id = ids(spec)
    floor, mesh, rim = spec.stand, spec.stand + spec.screen, spec.stand + spec.height
    stuff = site.medium(spec.medium)
    solids = (
        [(floor, floor + max(spec.media / spec.area, 0.02), spec.media * (1 - stuff.void))] if spec.media > 0 else []
    )
    over = Cell(
        over_id,
        f"Over the screen of {within(spec.name)}",
        mesh,
        rim,
        LevelCurve.prism(mesh, rim, spec.area),
        owner=spec.id,
    )
    chamber = Cell(
        chamber_id,
        f"Under the screen of {within(spec.name)}",
        floor,
        rim,
        LevelCurve.with_contents(floor, rim, spec.area, solids),
        owner=spec.id,
        walls=plastic(2 * (spec.length + spec.width), spec.area),
    )
    screen = screen_loss(spec)
    around = 2 * (spec.length + spec.width)
    links = [
        Link(f"{spec.id}.screen", "Through the screen", over_id, chamber_id, screen, WayKind.PAD, spec.id),
        Link(
            f"{spec.id}.edge",
            "Past the screen",
            over_id,
            chamber_id,
            Weir(mesh + spec.edge, spec.width, spec.edge),
            WayKind.BYPASS,
            spec.id,
        ),
        spill(f"{spec.id}.spill", over, around),
    ]
    groups: list[Group] = []
    for each in (spec, *others_in(spec)):
        if each.feed.way == "float":
            groups.append(_floated(each, spec, site))
        else:
            made = feed_links(each, site, Mouth(over_id, floor, rim, mesh))
            links += (replace(link, owner=spec.id) for link in made)
    for each in (spec, *others_out(spec)):
        links += (replace(link, owner=spec.id) for link in drain_links(each, site, Mouth(chamber_id, floor, rim)))
    marks = (
        {chamber_id: floor + 0.6 * spec.screen} if spec.drain.way == "pump" and spec.feed.way in ("fall", "fed") else {}
    )
    lifts = feed_lifts(spec, site, vessel(spec, site))
    return Fragment(
        (over, chamber),
        tuple(links),
        {"inlet": over_id, "outlet": chamber_id},
        marks,
        lifts,
        groups=tuple(groups),
    )


def _floated(each: SieveBed, spec: SieveBed, site: Site) -> FloatedFeed:
    """A way in that a float in the chamber shuts."""
    over_id, chamber_id = ids(spec)
    source = other(site, each.feed.source, spec.name)
    if each.feed.hold > spec.screen - 0.01:
        raise SpecError(f"{spec.name}: the float holds the water over the screen; lower it.")
    mouth = Bulkhead(source.floor + each.feed.height, pipe_of(each.feed, site))
    valve = FloatFed(mouth, each.feed.count, spec.stand + each.feed.hold, FLOAT_BAND)
    return FloatedFeed(feed_id(each), f"To {spec.name}", source.outlet, over_id, chamber_id, valve, spec.id)
