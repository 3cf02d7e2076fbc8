"""What a new document starts from: a plain tank, alone or over a sump that is laid out for it."""

from __future__ import annotations

from fuente.devices.recipes.sump_system import Wishes
from fuente.devices.site import Space
from fuente.devices.tank.spec import Tank
from fuente.document.system import System
from fuente.findings.layout import lay_out

_TANK = Tank(id="tank", name="Tank", length=1.2, width=0.5, height=0.5, thickness=0.012, bottom=0.012, stand=0.8)
_SPACE = Space(length=1.1, depth=0.45, height=0.7)


def bare() -> System:
    """A 1200 × 500 × 500 mm tank and the room under it: what moves its water is not decided yet."""
    return System(devices=(_TANK,), space=_SPACE)


def starter() -> System:
    """The same tank with a sump laid out by Fuente."""
    return lay_out(_TANK, _SPACE, Wishes()).system
