"""What lives in a sump: films on foam and media, and the plants of a planted chamber."""

from __future__ import annotations

from fuente.devices.lives import Live, Planted, Surface
from fuente.devices.site import Site
from fuente.devices.sump.network import living
from fuente.devices.sump.spec import Sump, cell_ids
from fuente.life.plants import plant_uptake


def live(sump: Sump, site: Site) -> Live:
    """Surfaces by chamber; a chamber of plants is planted over all of its plan."""
    surfaces = tuple(Surface(cell, area) for cell, area in living(sump, site) if area > 0)
    wide = zip(sump.chambers, sump.widths(), strict=True)
    plants = tuple(
        Planted(cell_ids(sump, chamber)[0], plant_uptake(width * sump.inner_width))
        for chamber, width in wide
        if chamber.role == "plants"
    )
    return Live(surfaces, plants=plants)
