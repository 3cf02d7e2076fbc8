"""What each tank's feed makes, and the living surface that there is for it."""

from __future__ import annotations

from dataclasses import dataclass

from fuente.devices import kind_of
from fuente.devices.site import KEPT, OXYGEN
from fuente.life.load import ammonia_made, areal_rate, surface_needed
from fuente.study.analysis import Analysis


@dataclass(frozen=True)
class Load:
    """One body of water: the tanks in it, nitrogen kg/s, surface that it wants and that there is, m², what limits the
    rate.
    """

    tanks: tuple[str, ...]
    nitrogen: float
    need: float
    have: float
    limit: str


def loads(analysis: Analysis) -> tuple[Load, ...]:
    """Every body of water with tanks in it, fed or not; tanks that share water share surface."""
    return analysis.kept("loads", lambda: _loads(analysis))


def _loads(analysis: Analysis) -> tuple[Load, ...]:
    system = analysis.system
    tanks = {t.id: t for t in system.tanks}
    found = []
    for body in analysis.bodies:
        inside = [tanks[c] for c in body if c in tanks]
        if not inside:
            continue
        nitrogen = sum(ammonia_made(t.fed, t.protein) for t in inside)
        rate, limit = areal_rate(KEPT, min(t.temperature for t in inside), OXYGEN, system.salinity)
        found.append(
            Load(
                tuple(t.id for t in inside),
                nitrogen,
                surface_needed(nitrogen, rate),
                living_surface(analysis, set(body)),
                limit,
            )
        )
    return tuple(found)


def living_surface(analysis: Analysis, cells: set[str]) -> float:
    """Surface in m² of media and foam in the filters of a body of water (its cells' ids), by the schools that hold
    there.
    """
    system = analysis.system
    total = 0.0
    for device in system.devices:
        for cell, surface in kind_of(device).surfaces(device, analysis.sites[device.id]):
            if cell in cells:
                total += surface
    return total
