"""Socks: the water in them, and the box under them."""

from __future__ import annotations

import math

from fuente.devices.base import Fragment
from fuente.devices.filtering import Site, Vessel
from fuente.devices.plumbing import Mouth, box_vessel, drain_links, feed_lifts, feed_links, plastic, spill
from fuente.devices.sock.spec import SockStage
from fuente.errors import SpecError
from fuente.hydraulics.porous import felt
from fuente.network.beds import Bed, bed_loss
from fuente.network.laws import Weir
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Link, WayKind
from fuente.one_line import within

FELT = 0.003  # m


def ids(spec: SockStage) -> tuple[str, str]:
    """Ids of the water in the socks and of the box."""
    return f"{spec.id}.socks", f"{spec.id}.box"


def _foot(spec: SockStage) -> float:
    """Elevation in m that the socks hang down to."""
    return max(spec.stand + spec.plate - spec.sock, spec.stand + 0.01)


def vessel(spec: SockStage, site: Site) -> Vessel:
    """Water falls into the socks and leaves the box."""
    socks, under = ids(spec)
    return box_vessel(spec, socks, under, spec.stand + spec.height, spec.length, _foot(spec))


def lower(spec: SockStage, site: Site) -> Fragment:
    """Felt by its rating; over the plate water goes past it."""
    socks_id, box_id = ids(spec)
    floor, rim = spec.stand, spec.stand + spec.height
    inner = spec.socks * math.pi / 4 * spec.diameter**2
    if inner > 0.85 * spec.length * spec.width:
        raise SpecError(f"{spec.name} do not fit into their box: fewer, narrower, or a larger box.")
    foot = _foot(spec)
    socks = Cell(socks_id, f"In {within(spec.name)}", foot, rim, LevelCurve.prism(foot, rim, inner), owner=spec.id)
    under = Cell(
        box_id,
        f"Box of {within(spec.name)}",
        floor,
        rim,
        LevelCurve.prism(floor, rim, spec.length * spec.width - inner),
        owner=spec.id,
        walls=plastic(2 * (spec.length + spec.width), spec.length * spec.width),
    )
    around = 2 * (spec.length + spec.width)
    soft = bed_loss(felt(spec.micron), spec.felt, FELT, site.water)
    links = (
        *feed_links(spec, site, Mouth(socks_id, floor, rim, foot)),
        Link(
            f"{spec.id}.felt",
            "Through the felt",
            socks_id,
            box_id,
            Bed(foot, spec.sock, soft, dirt=spec.dirt),
            WayKind.PAD,
            spec.id,
        ),
        Link(
            f"{spec.id}.over",
            "Over the socks",
            socks_id,
            box_id,
            Weir(floor + spec.plate, spec.socks * math.pi * spec.diameter, spec.plate),
            WayKind.BYPASS,
            spec.id,
        ),
        spill(f"{spec.id}.spill", under, around),
        *drain_links(spec, site, Mouth(box_id, floor, rim)),
    )
    marks = {box_id: floor + spec.drain.height} if spec.drain.way == "pump" else {}
    lifts = feed_lifts(spec, site, vessel(spec, site))
    return Fragment((socks, under), links, {"inlet": socks_id, "outlet": box_id}, marks, lifts)
