"""Media side by side for one load: what each costs, weighs, and asks of the builder."""

from __future__ import annotations

import math
from dataclasses import dataclass

from fuente.catalogue import Consumable, Medium
from fuente.errors import FuenteError


@dataclass(frozen=True)
class Compared:
    """One medium against a surface: m³, money, money a litre and a m², minutes a cleaning, kg wet, bags under the lift
    limit.
    """

    medium: Medium
    volume: float
    cost: float
    per_litre: float
    per_area: float
    minutes: float
    wet: float
    bags: int


def compare(stuff: Medium, surface: float, lift: float = 10.0, core: bool = False) -> Compared:
    """A medium that carries a living surface in m² (``core``: with its claimed core), lifted in bags of at most
    ``lift`` kg.

    Wet weight is drained, still dripping. Typical figures, ±30 %.
    """
    if surface <= 0 or lift <= 0:
        raise FuenteError("The surface and the lift limit must be above zero.")
    by_volume = stuff.living(core)
    if by_volume <= 0:
        raise FuenteError(f"{stuff.name} has no surface to live on.")
    volume = surface / by_volume
    wet = volume * stuff.wet_density()
    return Compared(
        stuff,
        volume,
        volume * 1000 * stuff.cost,
        stuff.cost,
        1000 * stuff.cost / by_volume,
        volume * 1000 * stuff.cleaning,
        wet,
        math.ceil(wet / lift - 1e-9),
    )


@dataclass(frozen=True)
class Used:
    """What is used up: money for a litre, m² of surface in a litre, litres (m³) and dry kg for so much tank water where
    it goes by a dose, and money a year: for that dose, else for a litre kept in use.
    """

    stuff: Consumable
    per_litre: float
    surface: float
    volume: float
    mass: float
    per_year: float


_YEAR = 365.25 * 86400.0


def used(stuff: Consumable, water: float) -> Used:
    """A consumable beside others, for a tank water in m³. Prices and lives are typical, ±50 %."""
    if water < 0:
        raise FuenteError("There is no water below nothing.")
    per_litre = stuff.cost / (stuff.sold * 1000)
    volume = stuff.dose * water
    kept = volume * 1000 if stuff.dose > 0 else 1.0
    return Used(
        stuff, per_litre, stuff.surface / 1000, volume, volume * stuff.dry, per_litre * kept * _YEAR / stuff.life
    )
