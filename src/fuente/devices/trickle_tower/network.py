"""A trickle tower: tray, the film on its packing, base."""

from __future__ import annotations

from fuente.devices.base import Fragment
from fuente.devices.filtering import Site, Vessel
from fuente.devices.plumbing import Mouth, box_vessel, drain_links, feed_lifts, feed_links, plastic, spill
from fuente.devices.trickle_tower.spec import TrickleTower
from fuente.network.beds import Drips, Film
from fuente.network.laws import Weir
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Link, WayKind
from fuente.one_line import within

HOLDUP = 0.04  # of the packing's bulk is film at 10 m/h; 2 to 6 % by packing, typical
_AT = 10 / 3600  # m/s of that wetting
_HEAP = 0.2  # m in which the film's cell stands for what hangs in the packing


def ids(spec: TrickleTower) -> tuple[str, str, str]:
    """Ids of tray, film and base."""
    return f"{spec.id}.tray", f"{spec.id}.film", f"{spec.id}.base"


def vessel(spec: TrickleTower, site: Site) -> Vessel:
    """Water falls on its tray and leaves its base."""
    tray, _, base = ids(spec)
    return box_vessel(spec, tray, base, spec.stand + spec.tall, spec.length, spec.stand + spec.base + spec.packing)


def lower(spec: TrickleTower, site: Site) -> Fragment:
    """Three cells; what a power cut leaves in tray and film comes down into the base."""
    tray, film, base = cells = _cells(spec, site)
    floor = spec.stand
    around = 2 * (spec.length + spec.width)
    links = [
        *feed_links(spec, site, Mouth(tray.id, floor, tray.rim, tray.floor)),
        *_down(spec, tray, film, base, around),
        spill(f"{spec.id}.spill.tray", tray, around),
        spill(f"{spec.id}.spill.base", base, around),
        *drain_links(spec, site, Mouth(base.id, floor, floor + spec.base)),
    ]
    marks = {base.id: floor + spec.drain.height} if spec.drain.way == "pump" else {}
    lifts = feed_lifts(spec, site, vessel(spec, site))
    return Fragment(cells, tuple(links), {"inlet": tray.id, "outlet": base.id}, marks, lifts)


def _cells(spec: TrickleTower, site: Site) -> tuple[Cell, Cell, Cell]:
    """Tray, film and base. The film's cell stands for what hangs in the packing: its volume matters, not its form."""
    tray_id, film_id, base_id = ids(spec)
    floor, plan = spec.stand, spec.plan
    foot = floor + spec.base
    top = foot + spec.packing
    hang = LevelCurve.prism(top - _HEAP, top + 1.0, _heap(spec))
    solids = []
    if spec.submerged > 0:
        solid = plan * spec.submerged * (1 - site.medium(spec.medium).void)
        solids.append((foot - spec.submerged, foot, solid))
    well = LevelCurve.with_contents(floor, foot, plan, solids)
    high = top + spec.tray
    walls = plastic(2 * (spec.length + spec.width), plan)
    return (
        Cell(tray_id, "Spreading tray", top, high, LevelCurve.prism(top, high, plan), owner=spec.id),
        Cell(film_id, "Film on the packing", top - _HEAP, top + 1.0, hang, owner=spec.id),
        Cell(base_id, f"Base of {within(spec.name)}", floor, foot, well, owner=spec.id, walls=walls),
    )


def _heap(spec: TrickleTower) -> float:
    """Plan area in m² of the film's cell."""
    return spec.bulk * 0.3 / _HEAP


def _down(spec: TrickleTower, tray: Cell, film: Cell, base: Cell, around: float) -> list[Link]:
    """Through the tray's holes or over its edge, and down the packing."""
    key, ends = spec.id, (tray.id, film.id)
    edge = Weir(tray.rim - 0.02, 0.3 * around, 0.05)
    packing = Film(film.floor, _heap(spec), HOLDUP * spec.bulk / (spec.plan * _AT) ** 0.6)
    return [
        Link(f"{key}.holes", "Through the tray's holes", *ends, Drips(tray.floor, spec.open_area), WayKind.DRIPS, key),
        Link(f"{key}.over", "Over the tray's edge", *ends, edge, WayKind.BYPASS, key),
        Link(f"{key}.film", "Down the packing", film.id, base.id, packing, WayKind.FILM, key),
    ]
