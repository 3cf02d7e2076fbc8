"""A foam wall: the tank before it, the water between its walls, and the water behind the last."""

from __future__ import annotations

import math
from dataclasses import replace

from fuente.devices.base import Fragment
from fuente.devices.filtering import Site
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.pocket import cell_id, driven
from fuente.errors import SpecError
from fuente.hydraulics.porous import Porous, foam
from fuente.network.laws import Beside, Gap, Pad, Weir
from fuente.network.level_curve import LevelCurve
from fuente.network.model import Cell, Law, Link, WayKind
from fuente.one_line import within


def between_id(spec: FoamWall, k: int) -> str:
    """Id of the water after wall k, the first after the tank; the last is the room behind."""
    return cell_id(spec) if k == spec.walls - 1 else f"{spec.id}.between.{k}"


def pad_id(spec: FoamWall, k: int) -> str:
    """Id of the way through wall k."""
    return f"{spec.id}.bed.{k}"


def medium_of(spec: FoamWall) -> Porous:
    """Pads one behind the other as one of their mean loss."""
    pads = [foam(ppi) for ppi in spec.pads]
    return Porous(len(pads) / sum(1 / p.permeability for p in pads), sum(p.inertia for p in pads) / len(pads))


def _left(spec: FoamWall, law: Pad) -> Law | None:
    """What is left with one pad out: the second alone, or half the wall open beside the other half."""
    if spec.twin == "twin":
        second = foam(spec.second)
        return replace(law, thickness=spec.thickness, medium=second.dirty(spec.dirt) if spec.dirt > 1 else second)
    if spec.twin == "beside":
        return Beside(replace(law, width=law.width / 2), Gap(law.foot, law.width / 2, law.height))
    return None


def lower(spec: FoamWall, site: Site) -> Fragment:
    """Cells, foam, the way over its top, and lift or pump."""
    tank = site.tank
    across = tank.inner_width
    if spec.shape == "flat" and abs(spec.across - across) > 0.011:
        spec = spec.model_copy(update={"across": across})  # the tank was changed since: the wall is cut to it
    if spec.shape == "flat" and spec.at + spec.long > tank.inner_length - 0.05:
        raise SpecError(f"{spec.name} leaves no room for the tank before it.")
    if spec.shape == "corner" and spec.reach > min(tank.inner_width, tank.inner_length) - 0.02:
        raise SpecError(f"{spec.name} reaches further than the tank's walls.")
    if spec.height > tank.inner_height:
        raise SpecError(f"{spec.name} is higher than its tank.")
    floor, rim = tank.floor, tank.rim
    stuff = medium_of(spec).dirty(spec.dirt) if spec.dirt > 1 else medium_of(spec)
    cells: list[Cell] = []
    links: list[Link] = []
    before = tank.id
    taken = 0.0
    for k in range(spec.walls):
        last = k == spec.walls - 1
        if spec.shape == "corner":
            area = math.pi / 4 * (spec.reach - spec.deep / 2) ** 2
        else:
            area = ((spec.behind if last else spec.spacing) + spec.deep * (0.5 if last else 1.0)) * across
        name = f"Behind {within(spec.name)}" if last else f"After wall {k + 1}"
        curve = LevelCurve.prism(floor, rim + 0.5, area)
        if last and spec.media > 0:
            room = (math.pi / 4 * spec.inner**2 if spec.shape == "corner" else spec.behind * across) * spec.height
            if spec.media > 0.8 * room:
                raise SpecError(f"{spec.name} has no room for so much media behind it.")
            solid = spec.media * (1 - site.medium(spec.medium).void)
            high = floor + max(spec.media * spec.height / (0.8 * room), 0.01)
            curve = LevelCurve.with_contents(floor, rim + 0.5, area, [(floor, high, solid)])
        cell = Cell(between_id(spec, k), name, floor, rim, curve, owner=spec.id)
        cells.append(cell)
        taken += area
        face = spec.face
        law = Pad(floor + spec.dam, face, spec.open_height, spec.deep, stuff, site.water, spec.dirt)
        through = Link(pad_id(spec, k), f"Through {within(spec.name)}", before, cell.id, law, WayKind.PAD, spec.id)
        links.append(replace(through, one_out=_left(spec, law) if k == 0 else None))
        over = Weir(floor + spec.height, face, spec.height)
        links.append(
            Link(f"{spec.id}.over.{k}", f"Over {within(spec.name)}", before, cell.id, over, WayKind.BYPASS, spec.id)
        )
        before = cell.id
    more, lifts = driven(spec, site, before, floor, 0.9)
    return Fragment(
        tuple(cells), (*links, *more), {"in": before}, {}, lifts, ((tank.id, floor, rim, taken * (rim - floor)),)
    )
