"""A sponge or box as a pocket behind its bed."""

from __future__ import annotations

from fuente.devices.base import Fragment
from fuente.devices.filtering import Site
from fuente.devices.pocket import pocket
from fuente.devices.sponge.spec import Sponge
from fuente.hydraulics.porous import foam, packed
from fuente.network.beds import Resistance, bed_loss, hole_loss

WAY = 0.4  # of the smaller half width: how far water goes through the block on the mean, as it gathers inwards


def losses(spec: Sponge, site: Site) -> tuple[Resistance, Resistance]:
    """What clogs, and what is holes: foam or media over the mean way inwards, slots of the box."""
    way = WAY * min(spec.length, spec.width)
    face = 0.7 * spec.face  # it narrows inwards
    if spec.style == "sponge":
        return bed_loss(foam(spec.ppi), face, way, site.water), Resistance()
    stuff = site.medium(spec.medium)
    return bed_loss(packed(stuff.size, stuff.void), face, way, site.water), hole_loss(spec.slots * spec.face)


def lower(spec: Sponge, site: Site) -> Fragment:
    """Cell, bed and lift."""
    soft, hard = losses(spec, site)
    plan = 2 * spec.tubes * 0.8 * spec.bore**2
    void = 0.96 if spec.style == "sponge" else site.medium(spec.medium).void
    return pocket(spec, site, (0.005, spec.height), plan, soft, hard, solids=spec.block * (1 - void))
