"""What the animals load a filter with, and the surface that carries it."""

from __future__ import annotations

import itertools

from fuente.errors import FuenteError

NITROGEN_OF_PROTEIN = 0.092  # ammonia nitrogen by feed protein, Timmons and Ebeling
OXYGEN_OF_NITROGEN = 4.57  # g O₂ by g N
OXYGEN_OF_FEED = 0.4  # kg of oxygen that animals breathe by kg of feed, 0.25 to 0.5, Timmons and Ebeling
OXYGEN_OF_DIRT = 0.25  # kg by kg of feed that what they leave takes where it lies, an assumption, ±50 %
ALKALINITY_OF_NITROGEN = 7.05  # g CaCO₃ by g N
K_AREAL = 1.0  # g N/m²/day at S = 1 mg/L and 18 °C, 0.9 to 1.2 in moving beds, Rusten et al. 2006
EXPONENT = 0.7
THETA = 1.07  # by °C, 1.05 to 1.09
SEAWATER = 0.6
FOAM_SURFACE = ((10, 500.0), (20, 900.0), (30, 1400.0), (45, 2400.0))  # m²/m³, outer, typical
_DAY = 86400.0


def foam_surface(ppi: float) -> float:
    """Outer surface of open foam in m²/m³ by pores per inch, between the typical values by straight lines."""
    x = min(max(ppi, FOAM_SURFACE[0][0]), FOAM_SURFACE[-1][0])
    for (p0, s0), (p1, s1) in itertools.pairwise(FOAM_SURFACE):
        if x <= p1:
            return s0 + (s1 - s0) * (x - p0) / (p1 - p0)
    return FOAM_SURFACE[-1][1]


BUILD = 12.5  # kg/m³: weight over length cubed of a fish of common build, an assumption, ±50 %


def live_weight(length: float) -> float:
    """kg of one animal of a length in m without its tail fin; for slim ones half, for stout ones twice as much."""
    return BUILD * length**3


def ammonia_made(feed: float, protein: float) -> float:
    """Total ammonia nitrogen in kg/s from feed in kg/s with a share of protein. ±20 %.

    Nine parts in a hundred of protein: 1 g of feed with 45 % makes 41 mg of nitrogen.

    >>> round(ammonia_made(1.0, 0.45), 3)
    0.041
    """
    return feed * protein * NITROGEN_OF_PROTEIN


def areal_rate(
    ammonia: float, temperature: float, oxygen: float = 7e-3, salinity: float = 0.0, ph: float = 7.5
) -> tuple[float, str]:
    """Nitrification in kg N/m²/s, and what limits it: ammonia or oxygen.

    ammonia and oxygen kg/m³, temperature °C. r = k·S^0.7 (S mg/L), S the ammonia or what the oxygen lets through, (DO −
    0.5)/3.2, whichever is less; k at 18 °C with 1.07 per °C; seawater 0.6; under pH 6.8 it slows to nothing by 5.8. ±40
    %.
    """
    if ammonia < 0 or oxygen < 0:
        raise FuenteError("Ammonia and oxygen cannot be below zero.")
    by_ammonia, by_oxygen = ammonia * 1e3, max((oxygen * 1e3 - 0.5) / 3.2, 0.0)
    limit = "oxygen" if by_oxygen < by_ammonia else "ammonia"
    rate = K_AREAL * min(by_ammonia, by_oxygen) ** EXPONENT * THETA ** (temperature - 18.0)
    rate *= SEAWATER if salinity > 15 else 1.0
    rate *= min(max((ph - 5.8) / 1.0, 0.0), 1.0)
    return rate * 1e-3 / _DAY, limit


def surface_needed(nitrogen: float, rate: float) -> float:
    """Living surface in m² for a load in kg N/s at an areal rate in kg N/m²/s."""
    if rate <= 0:
        raise FuenteError("Nothing nitrifies there: too little ammonia, oxygen, or too low a pH.")
    return nitrogen / rate
