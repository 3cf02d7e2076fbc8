"""An ornament as a pocket behind gaps, foam and media."""

from __future__ import annotations

from fuente.devices.base import Fragment
from fuente.devices.filtering import Site
from fuente.devices.ornament.spec import Ornament
from fuente.devices.pocket import pocket
from fuente.hydraulics.porous import foam, packed
from fuente.network.beds import Resistance, bed_loss, hole_loss


def losses(spec: Ornament, site: Site) -> tuple[Resistance, Resistance]:
    """Foam and media over the cavity's section; gaps at the foot."""
    soft = Resistance()
    if spec.ppi and spec.foam > 0:
        soft += bed_loss(foam(spec.ppi), spec.plan, spec.foam, site.water)
    if spec.media > 0:
        stuff = site.medium(spec.medium)
        soft += bed_loss(packed(stuff.size, stuff.void), spec.plan, spec.media / spec.plan, site.water)
    return soft, hole_loss(spec.open_area)


def lower(spec: Ornament, site: Site) -> Fragment:
    """Cell, bed, lift or pump."""
    soft, hard = losses(spec, site)
    solids = spec.shell_volume + spec.media * (1 - site.medium(spec.medium).void)
    free = (spec.cavity - spec.media * (1 - site.medium(spec.medium).void)) / spec.height
    return pocket(spec, site, (0.0, spec.height), free, soft, hard, solids=solids, holes_height=spec.gap_height)
