"""A sponge or box as a pocket behind its bed."""

from __future__ import annotations

from collections.abc import Mapping

from fuente.devices.base import Fragment
from fuente.devices.filtering import Site
from fuente.devices.pocket import pocket
from fuente.devices.sponge.spec import Sponge
from fuente.hydraulics.porous import felt, foam, packed
from fuente.network.beds import Resistance, bed_loss, hole_loss

FLEECE = 100e-6  # m: as what felt fleece passes water; an assumption
WAY = 0.4  # of the smaller half width: how far water goes through the block on the mean, as it gathers inwards


def losses(spec: Sponge, site: Site) -> tuple[Resistance, Resistance]:
    """What clogs, and what does not: foam or media over the mean way inwards, slots of the box; where water comes from
    above, the mat clogs, and the bags under it and the grid do not.
    """
    way = WAY * min(spec.length, spec.width)
    face = 0.7 * spec.face  # it narrows inwards
    if spec.style == "sponge":
        return bed_loss(foam(spec.ppi), face, way, site.water), Resistance()
    if spec.matted:
        plan = spec.length * spec.width
        mat = bed_loss(foam(spec.ppi) if spec.top == "foam" else felt(FLEECE), plan, spec.mat, site.water)
        return mat, _media(spec, site, plan, _ways(spec, 1 / plan)) + hole_loss(spec.slots * plan)
    whole = sum(v for _, v in spec.filling)
    return _media(spec, site, face, _ways(spec, way / whole)), hole_loss(spec.slots * spec.face)


def _ways(spec: Sponge, share: float) -> dict[str, float]:
    """m through each medium, by m for each m³ of it."""
    found: dict[str, float] = {}
    for key, volume in spec.filling:
        found[key] = found.get(key, 0.0) + share * volume
    return found


def _media(spec: Sponge, site: Site, area: float, ways: Mapping[str, float]) -> Resistance:
    """Media one after the other, each by its way in m through it."""
    total = Resistance()
    for key, way in ways.items():
        stuff = site.medium(key)
        total += bed_loss(packed(stuff.size, stuff.void), area, way, site.water)
    return total


def lower(spec: Sponge, site: Site) -> Fragment:
    """Cell, bed and lift."""
    soft, hard = losses(spec, site)
    plan = 2 * spec.tubes * 0.8 * spec.bore**2
    solids = (
        spec.block * 0.04
        if spec.style == "sponge"
        else sum(volume * (1 - site.medium(key).void) for key, volume in spec.filling)
    )
    return pocket(spec, site, (0.005, spec.height), plan, soft, hard, solids=solids)
