"""What a new design takes over from how Fuente is used here: units, money, whether it saves by itself."""

from __future__ import annotations

from PySide6.QtCore import QLocale

from fuente.document.system import System
from fuente.ui import settings
from fuente.units import UnitSystem


def saves_by_itself() -> bool:
    """Whether a design's file is written as the builder goes on."""
    return settings.choice("saving", "by itself") == "by itself"


def _money_here() -> str:
    return QLocale.system().currencySymbol()[:8]


def as_used(system: System) -> System:
    """A design without a file, in the units that were chosen last and the money of this place."""
    units = UnitSystem.US if settings.choice("units", system.units) == UnitSystem.US else UnitSystem.METRIC
    shop = system.shop
    if not shop.currency:
        shop = shop.model_copy(update={"currency": _money_here()})
    return system.model_copy(update={"units": units, "shop": shop})
