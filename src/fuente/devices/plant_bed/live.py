"""What lives in a plant bed."""

from __future__ import annotations

from fuente.devices.filtering import Site
from fuente.devices.lives import Live, Planted, Surface
from fuente.devices.plant_bed.judge import lives, uptake
from fuente.devices.plant_bed.network import ids
from fuente.devices.plant_bed.spec import PlantBed


def live(spec: PlantBed, site: Site) -> Live:
    """Its gravel's film, and its plants in both halves of its water."""
    takes = uptake(spec)
    plants = tuple(Planted(cell, takes / 2) for cell in ids(spec)) if takes > 0 else ()
    return Live(tuple(Surface(cell, area) for cell, area in lives(spec, site)), plants=plants)
