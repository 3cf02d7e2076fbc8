"""A trickle tower: tray, the film on its packing, base."""

from __future__ import annotations

from fuente.devices.base import Fragment
from fuente.devices.filtering import Site, Vessel
from fuente.devices.plumbing import Mouth, box_vessel, drain_links, feed_links, spill
from fuente.devices.trickle_tower.spec import TrickleTower
from fuente.network.beds import Drips, Film
from fuente.network.laws import Weir
from fuente.network.model import Cell, LevelCurve, Link, WayKind

HOLDUP = 0.04  # of the packing's bulk is film at 10 m/h; 2 to 6 % by packing, typical
_AT = 10 / 3600  # m/s of that wetting
_HEAP = 0.2  # m in which the film's cell stands for what hangs in the packing


def ids(spec: TrickleTower) -> tuple[str, str, str]:
    """Ids of tray, film and base."""
    return f"{spec.id}.tray", f"{spec.id}.film", f"{spec.id}.base"


def vessel(spec: TrickleTower, site: Site) -> Vessel:
    """Water falls on its tray and leaves its base."""
    tray, _, base = ids(spec)
    return box_vessel(spec, tray, base, spec.stand + spec.tall, spec.length)


def lower(spec: TrickleTower, site: Site) -> Fragment:
    """Three cells; what a power cut leaves in tray and film comes down into the base."""
    tray_id, film_id, base_id = ids(spec)
    floor = spec.stand
    top = floor + spec.base + spec.packing
    stuff = site.medium(spec.medium)
    solids = (
        [(floor + spec.base - spec.submerged, floor + spec.base, spec.plan * spec.submerged * (1 - stuff.void))]
        if spec.submerged > 0
        else []
    )
    tray = Cell(
        tray_id,
        "Spreading tray",
        top,
        top + spec.tray,
        LevelCurve.prism(top, top + spec.tray, spec.plan),
        owner=spec.id,
    )
    heap = spec.bulk * 0.3 / _HEAP
    film = Cell(
        film_id,
        "Film on the packing",
        top - _HEAP,
        top + 1.0,
        LevelCurve.prism(top - _HEAP, top + 1.0, heap),
        owner=spec.id,
    )
    base = Cell(
        base_id,
        f"Base of {spec.name.lower()}",
        floor,
        floor + spec.base,
        LevelCurve.with_contents(floor, floor + spec.base, spec.plan, solids),
        owner=spec.id,
    )
    hold = HOLDUP * spec.bulk / (spec.plan * _AT) ** 0.6
    around = 2 * (spec.length + spec.width)
    links = [
        *feed_links(spec, site, Mouth(tray_id, floor, top + spec.tray)),
        Link(
            f"{spec.id}.holes",
            "Through the tray's holes",
            tray_id,
            film_id,
            Drips(top, spec.open_area),
            WayKind.DRIPS,
            spec.id,
        ),
        Link(
            f"{spec.id}.over",
            "Over the tray's edge",
            tray_id,
            film_id,
            Weir(top + spec.tray - 0.02, 0.3 * around, 0.05),
            WayKind.BYPASS,
            spec.id,
        ),
        Link(
            f"{spec.id}.film",
            "Down the packing",
            film_id,
            base_id,
            Film(top - _HEAP, heap, hold),
            WayKind.FILM,
            spec.id,
        ),
        spill(f"{spec.id}.spill.tray", tray, around),
        spill(f"{spec.id}.spill.base", base, around),
        *drain_links(spec, site, Mouth(base_id, floor, floor + spec.base)),
    ]
    marks = {base_id: floor + spec.drain.height} if spec.drain.way == "pump" else {}
    return Fragment((tray, film, base), tuple(links), {"inlet": tray_id, "outlet": base_id}, marks)
