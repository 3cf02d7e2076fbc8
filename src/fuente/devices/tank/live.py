"""Who lives in a tank, and on its gravel."""

from __future__ import annotations

from fuente.devices.lives import Anoxic, Fed, Live, Planted, Surface
from fuente.devices.site import Site
from fuente.devices.tank.spec import Tank
from fuente.life.plants import given_by_day, plant_uptake

SOLID = 0.6  # of what gravel fills
REACHED = 0.03  # m of gravel that water of a tank reaches; a factor of three
DEEP = 0.06  # m of gravel from which its foot has no oxygen
GASSED = 50e-6 / 86400.0  # kg/s of nitrogen for each m²
SURFACE = 800.0  # m²/m³ of gravel of 4 mm, typical


def substrate(spec: Tank, site: Site) -> tuple[tuple[str, float], ...]:
    """Living surface in m² on gravel and rock, by the rule that counts it: of its top 30 mm."""
    if site.schools.substrate != "counts" or spec.gravel <= 0:
        return ()
    plan = spec.inner_length * spec.inner_width
    return ((spec.id, SURFACE * min(spec.gravel / SOLID, plan * REACHED)),)


def anoxic(spec: Tank, site: Site) -> float:
    """Nitrate nitrogen in kg/s that could leave as gas under gravel, by the rule that counts it: where it lies deeper
    than 60 mm, 50 mg a day from a m² of plan, a factor of three either way; an assumption.
    """
    plan = spec.inner_length * spec.inner_width
    deep = spec.gravel / SOLID / plan > DEEP
    return GASSED * plan if deep and site.schools.substrate == "counts" else 0.0


def live(spec: Tank, site: Site) -> Live:
    """Its animals, by their feed, its plants, and its gravel where that counts."""
    surfaces = tuple(Surface(cell, area) for cell, area in substrate(spec, site))
    fed = (Fed(spec.id, spec.fed, spec.protein),) if spec.fed > 0 else ()
    takes, gassed = plant_uptake(spec.planted, spec.plants, spec.light), anoxic(spec, site)
    plants = (Planted(spec.id, takes, given_by_day(spec.plants)),) if takes > 0 else ()
    return Live(surfaces, fed, plants, (Anoxic(spec.id, gassed),) if gassed > 0 else ())
