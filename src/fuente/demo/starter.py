"""What a new document starts from: a plain tank over a sump that is laid out for it."""

from __future__ import annotations

from fuente.devices.recipes.sump_system import Wishes
from fuente.devices.site import Space
from fuente.devices.tank.spec import Tank
from fuente.document.system import System
from fuente.findings.layout import lay_out


def starter() -> System:
    """A 1200 × 500 × 500 mm tank with a sump laid out by Fuente."""
    tank = Tank(id="tank", name="Tank", length=1.2, width=0.5, height=0.5, thickness=0.012, bottom=0.012, stand=0.8)
    space = Space(length=1.1, depth=0.45, height=0.7)
    return lay_out(tank, space, Wishes()).system
