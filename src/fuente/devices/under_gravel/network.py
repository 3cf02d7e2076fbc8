"""An under-gravel plate as a pocket under its bed of gravel."""

from __future__ import annotations

from fuente.devices.base import Fragment
from fuente.devices.filtering import Site
from fuente.devices.pocket import pocket
from fuente.devices.under_gravel.spec import UnderGravel
from fuente.errors import SpecError
from fuente.hydraulics.porous import packed
from fuente.network.beds import bed_loss, hole_loss

SLOTS = 0.1  # open share of the plate, typical


def lower(spec: UnderGravel, site: Site) -> Fragment:
    """Cell under the plate, gravel by Ergun, the plate's slots, and the lift."""
    if spec.length > site.tank.inner_length or spec.width > site.tank.inner_width:
        raise SpecError(f"{spec.name} is larger than the bottom of {site.tank.name}.")
    soft = bed_loss(packed(spec.grain, spec.void), spec.area, spec.gravel, site.water)
    hard = hole_loss(SLOTS * spec.area)
    solids = spec.bed * (1 - spec.void)
    return pocket(
        spec,
        site,
        (0.0, spec.gap),
        spec.area,
        soft,
        hard,
        solids=solids,
        solids_span=(spec.gap, spec.gap + spec.gravel),
        holes_height=spec.gap + spec.gravel,
    )
