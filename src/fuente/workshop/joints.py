"""Glue: how long the beads are, what they hold, how many cartridges, how long they cure."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from fuente.devices.pieces import Face, Panel
from fuente.devices.shop import Shop
from fuente.errors import EntryError

LOST = 0.2  # share of a cartridge that stays in it, in the nozzle and on the tape


@dataclass(frozen=True)
class Bead:
    """A joint between panels: its length in m, and silicone in m³ between the faces and in the fillets along them."""

    name: str
    length: float
    volume: float


def beads(panels: Iterable[Panel], shop: Shop) -> tuple[Bead, ...]:
    """The joints of all panels: of a shell along the foot of its four walls and up its corners, one fillet inside; of a
    baffle along the edges that are glued, a fillet on both sides.
    """
    found: list[Bead] = []
    for panel in panels:
        faces = set(panel.faces)
        gap = shop.glue * panel.thickness
        if faces & {Face.FRONT, Face.BACK, Face.LEFT, Face.RIGHT}:
            upright = panel.width if faces & {Face.LEFT, Face.RIGHT} else 0.0  # each corner once: with the ends
            length = (panel.length + 2 * upright) * panel.count
            found.append(Bead(panel.name, length, length * (gap + shop.bead**2 / 2)))
        elif not faces and panel.bonded:
            foot = panel.length if panel.bonded in (1, 3, 4) else 0.0  # a comb lies flat, along its length
            sides = (0.0 if panel.bonded == 1 else 2 * panel.width) + foot
            length = sides * panel.count
            space = max(shop.clearance, shop.glue) * panel.thickness
            found.append(Bead(panel.name, length, length * (space + 2 * shop.bead**2 / 2)))
    return tuple(found)


def cartridges(volume: float, shop: Shop) -> int:
    """Cartridges for so many m³ of silicone, with what is lost."""
    if volume <= 0:
        return 0
    return max(-int(-volume * (1 + LOST) // shop.cartridge), 1)


def cure_time(depth: float, shop: Shop) -> float:
    """Seconds until a bead of a depth in m has cured through; by the label that the builder typed, a day for 2.5 mm
    unless he did.

    >>> from fuente.devices.shop import Shop
    >>> round(cure_time(0.006, Shop()) / 3600, 1)
    57.6
    """
    if depth < 0:
        raise EntryError("A bead has a depth.")
    return depth * shop.cure


def cure_of(panels: Iterable[Panel], shop: Shop) -> float:
    """Seconds until the joints of some panels have cured: the deepest bead, or the glue under the thickest panel, which
    air reaches from both sides.
    """
    depths = [max(shop.bead, p.thickness / 2) for p in panels if p.bonded]
    return cure_time(max(depths, default=0.0), shop)
