"""A row of bottles as one pocket that its own bubbles empty."""

from __future__ import annotations

import math

from fuente.devices.base import Fragment
from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.filtering import Site
from fuente.devices.pocket import pocket
from fuente.errors import SpecError
from fuente.hydraulics.porous import foam
from fuente.network.beds import Resistance, bed_loss, hole_loss

SPONGE_THICK = 0.03  # m, sleeve round the bottle's foot


def losses(spec: BottleBed, site: Site) -> tuple[Resistance, Resistance]:
    """The sponge that clogs, if there is one; the holes at the foot and those at the top and in the cap."""
    hard = hole_loss(spec.open_area) + hole_loss(spec.way_out)
    if not spec.sponge:
        return Resistance(), hard
    face = spec.tubes * math.pi * (spec.diameter + SPONGE_THICK) * 0.08
    return bed_loss(foam(spec.sponge), face, SPONGE_THICK, site.water), hard


def lower(spec: BottleBed, site: Site) -> Fragment:
    """Cell, holes, and the bubbly lift of the bottle's own bore."""
    top = spec.hang + spec.height
    if not spec.hang <= spec.injector < spec.outlet <= top + 1e-6:
        raise SpecError(f"{spec.name}: air enters and water leaves between the bottle's foot and its top.")
    soft, hard = losses(spec, site)
    solid = spec.fill * (1 - site.medium(spec.medium).void)
    plan = spec.tubes * math.pi / 4 * spec.diameter**2 * (1 - min(solid, 0.5))
    bore = spec.diameter * math.sqrt(1 - min(solid, 0.5))
    return pocket(
        spec,
        site,
        (spec.hang, top),
        plan,
        soft,
        hard,
        solids=solid * spec.tubes * spec.bottle,
        bubbly_bore=bore,
        holes_height=0.05,
    )
