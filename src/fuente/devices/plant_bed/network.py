"""A plant bed: the water before its gravel, and after it."""

from __future__ import annotations

from fuente.devices.base import Fragment
from fuente.devices.filtering import Site, Vessel
from fuente.devices.plant_bed.spec import PlantBed
from fuente.devices.plumbing import Mouth, box_vessel, drain_links, feed_lifts, feed_links, plastic, spill
from fuente.hydraulics.porous import packed
from fuente.network.laws import Pad, Weir
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Link, WayKind
from fuente.one_line import within

_ENDS = 0.1  # of its length is free water at either end


def ids(spec: PlantBed) -> tuple[str, str]:
    """Ids of the water where it comes in, and where it leaves."""
    return f"{spec.id}.head", f"{spec.id}.foot"


def vessel(spec: PlantBed, site: Site) -> Vessel:
    """Where others can lead water."""
    head, foot = ids(spec)
    return box_vessel(spec, head, foot, spec.stand + spec.height, spec.length)


def lower(spec: PlantBed, site: Site) -> Fragment:
    """Two halves of the water with the gravel's loss between; over the gravel water runs free."""
    head_id, foot_id = ids(spec)
    floor, rim = spec.stand, spec.stand + spec.height
    solid = spec.plan / 2 * spec.gravel * (1 - spec.void)
    solids = [(floor, floor + spec.gravel, solid)] if spec.gravel > 0 else []
    curve = LevelCurve.with_contents(floor, rim, spec.plan / 2, solids)
    half = plastic(spec.length + spec.width, spec.plan / 2)  # each has an end and half of the sides
    cells = tuple(
        Cell(key, name, floor, rim, curve, owner=spec.id, walls=half)
        for key, name in ((head_id, f"Head of {within(spec.name)}"), (foot_id, f"Foot of {within(spec.name)}"))
    )
    stuff = packed(spec.grain, spec.void).dirty(spec.dirt)
    gravel = Pad(floor, spec.width, max(spec.gravel, 0.02), (1 - 2 * _ENDS) * spec.length, stuff, site.water, spec.dirt)
    around = 2 * (spec.length + spec.width)
    links = (
        *feed_links(spec, site, Mouth(head_id, floor, rim)),
        Link(
            f"{spec.id}.bed",
            "Through the gravel",
            head_id,
            foot_id,
            gravel,
            WayKind.PAD,
            spec.id,
        ),
        Link(
            f"{spec.id}.over",
            "Over the gravel",
            head_id,
            foot_id,
            Weir(floor + max(spec.gravel, 0.005), spec.width, max(spec.gravel, 0.02)),
            WayKind.BYPASS,
            spec.id,
        ),
        spill(f"{spec.id}.spill", cells[0], around),
        *drain_links(spec, site, Mouth(foot_id, floor, rim)),
    )
    marks = {foot_id: floor + spec.drain.height} if spec.drain.way == "pump" else {}
    lifts = feed_lifts(spec, site, vessel(spec, site))
    return Fragment(cells, links, {"inlet": head_id, "outlet": foot_id}, marks, lifts)
