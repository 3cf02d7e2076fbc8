"""A stack that water crosses upwards or downwards: pads that lie, media, or pads on a basket.

It stands on a grid, over a void; beside it a plate leaves a slot, by which the water comes under it or leaves from
there. The plate's top is where dirty pads are gone round.
"""

from __future__ import annotations

from typing import NamedTuple

from fuente.devices.site import Site
from fuente.devices.sump.spec import Chamber, Sump
from fuente.errors import SpecError
from fuente.hydraulics.porous import foam, packed
from fuente.network.beds import Resistance, bed_loss, hole_loss

SLOT = 0.03  # m along the sump, or a quarter of a short chamber
SEEPS = 0.01  # m over the stack's underside from which all of it takes water
OVER = 0.05  # m by which the plate stands over the crest that the water leaves by, where there is room
GAP_C = 0.65  # of the gap under the plate


class Layer(NamedTuple):
    """One layer from the foot up: a pad's number, or none for media; its underside and top in m over the floor."""

    pad: int | None
    foot: float
    top: float


def slot(width: float) -> float:
    """Of a chamber of a width in m along the sump."""
    return min(SLOT, width / 4)


def plan(sump: Sump, width: float) -> float:
    """Of the stack, m²."""
    return (width - slot(width)) * sump.inner_width


def layers(sump: Sump, chamber: Chamber, width: float) -> tuple[Layer, ...]:
    """From the foot up; pads are met in their order, so that downwards the first lies on top, and upwards media comes
    first.
    """
    rows: list[tuple[int | None, float]] = []
    if chamber.fill and chamber.fill.volume > 0 and chamber.role == "media":
        rows.append((None, chamber.fill.volume / plan(sump, width)))
    pads = [(k, p.thickness) for k, p in enumerate(chamber.pads)]
    rows += pads if chamber.way == "up" else pads[::-1]
    found, at = [], chamber.support
    for pad, thick in rows:
        found.append(Layer(pad, at, at + thick))
        at += thick
    return tuple(found)


def plate_top(sump: Sump, chamber: Chamber) -> float:
    """Of the plate beside it, m over the floor."""
    crest = chamber.exit.top if chamber.exit else chamber.level
    return min(crest + OVER, sump.inner_height - 0.005)


def fits(sump: Sump, chamber: Chamber, width: float) -> None:
    """Raise SpecError where the stack is higher than the plate that leads the water through it."""
    top = layers(sump, chamber, width)[-1].top
    if top > plate_top(sump, chamber):
        over = top - plate_top(sump, chamber)
        raise SpecError(f"What lies in {chamber.title} is {{{over:.4f}:length}} higher than the plate beside it.")


def losses(sump: Sump, chamber: Chamber, width: float, site: Site) -> tuple[tuple[Resistance, ...], Resistance]:
    """Of each pad in its order, clean; and of all that catches no dirt: media, and the gap under the plate."""
    area = plan(sump, width)
    pads = tuple(bed_loss(foam(p.ppi), area, p.thickness, site.water) for p in chamber.pads)
    rest = hole_loss(sump.inner_width * chamber.support, GAP_C)
    for layer in layers(sump, chamber, width):
        if layer.pad is None:
            assert chamber.fill is not None
            stuff = site.medium(chamber.fill.medium)
            rest += bed_loss(packed(stuff.size, stuff.void), area, layer.top - layer.foot, site.water)
    return pads, rest


def dirty(chamber: Chamber, pads: tuple[Resistance, ...]) -> tuple[Resistance, float]:
    """All pads as one that is as dirty as the dirtiest, the others in proportion: its loss, and how many times."""
    most = max((p.dirt for p in chamber.pads), default=1.0)
    total = Resistance()
    for pad, loss in zip(chamber.pads, pads, strict=True):
        total += loss.times(pad.dirt / most)
    return total, most
