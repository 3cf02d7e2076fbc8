"""Who lives in a tank."""

from __future__ import annotations

from fuente.devices.lives import Fed, Live
from fuente.devices.site import Site
from fuente.devices.tank.spec import Tank


def live(spec: Tank, site: Site) -> Live:
    """Its animals, by their feed."""
    return Live(fed=(Fed(spec.id, spec.fed, spec.protein),)) if spec.fed > 0 else Live()
