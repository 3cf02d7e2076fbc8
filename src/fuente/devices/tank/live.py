"""Who lives in a tank, and on its gravel."""

from __future__ import annotations

from fuente.devices.lives import Fed, Live, Surface
from fuente.devices.site import Site
from fuente.devices.tank.spec import Tank

SOLID = 0.6  # of what gravel fills
REACHED = 0.03  # m of gravel that water of a tank reaches; a factor of three
SURFACE = 800.0  # m²/m³ of gravel of 4 mm, typical


def substrate(spec: Tank, site: Site) -> tuple[tuple[str, float], ...]:
    """Living surface in m² on gravel and rock, by the rule that counts it: of its top 30 mm."""
    if site.schools.substrate != "counts" or spec.gravel <= 0:
        return ()
    plan = spec.inner_length * spec.inner_width
    return ((spec.id, SURFACE * min(spec.gravel / SOLID, plan * REACHED)),)


def live(spec: Tank, site: Site) -> Live:
    """Its animals, by their feed, and its gravel where that counts."""
    surfaces = tuple(Surface(cell, area) for cell, area in substrate(spec, site))
    return Live(surfaces, (Fed(spec.id, spec.fed, spec.protein),) if spec.fed > 0 else ())
