"""Two groups of bacteria on surfaces: what they turn over, and how they grow and die back.

All rates come with their slopes, so that an implicit solver can follow them. Concentrations are kg/m³ as nitrogen or as
oxygen, temperatures °C; arrays of one shape (places,).
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

import numpy as np

from fuente.life.load import SEAWATER, THETA

_DAY = 86400.0
_LN10 = float(np.log(10.0))
OXYGEN_AMMONIA, OXYGEN_NITRITE = 3.43, 1.14  # g O₂ by g N of either step, by their chemistry
_WANTS = np.array([[3.2], [3.2 * OXYGEN_NITRITE / OXYGEN_AMMONIA]])  # oxygen for each nitrogen that it lets through
_TINY = 1e-30


@dataclass(frozen=True)
class Growth:
    """How fast the two groups work and grow.

    ``most`` kg N/m²/s at 18 °C and ``half`` kg/m³ of r = most·m·S/(half + S), where a share m of a full film is alive;
    in the end m = 1 − decay/(grow·S/(half + S)). They are such that what is in the end turned over goes through k·S^0.7
    (Rusten et al. 2006, k = 1 g/m²/day) at 0.25 and 1 mg/L; at 0.5 it is a tenth more. Growth and decay 1/s at 18 °C:
    fixed films, slower than the 0.77 and 1.08 a day of free cells at 20 °C (Wiesmann 1994); with the first seed of a
    bare surface they are assumptions, ±50 % in time. ``free_a`` and ``free_n`` kg/m³ of free ammonia halve a group: the
    means of 10 to 150 and 0.1 to 1 mg/L, from which and by which they are held up (Anthonisen et al. 1976).
    """

    most_a: float = 1.9e-3 / _DAY
    most_n: float = 1.9e-3 / _DAY
    half_a: float = 0.67e-3
    half_n: float = 0.67e-3
    grow_a: float = 0.55 / _DAY
    grow_n: float = 0.55 / _DAY
    decay_a: float = 0.04 / _DAY
    decay_n: float = 0.04 / _DAY
    free_a: float = 40e-3
    free_n: float = 0.3e-3
    theta: float = THETA
    seed: float = 1e-6  # of a full film that a bare surface gets from air, hands and water

    @cached_property
    def by_group(self) -> tuple[np.ndarray, np.ndarray]:
        """``half`` and ``free`` of both groups, (2, 1)."""
        return np.array([[self.half_a], [self.half_n]]), np.array([[self.free_a], [self.free_n]])


GROWTH = Growth()


class Speed(NamedTuple):
    """A factor and its slopes by ammonia or nitrite, oxygen, pH, temperature, and by ammonia through what is free."""

    value: np.ndarray
    by_food: np.ndarray
    by_oxygen: np.ndarray
    by_ph: np.ndarray
    by_temperature: np.ndarray
    by_ammonia: np.ndarray


def oxygen_allows(oxygen: np.ndarray, wants: float) -> tuple[np.ndarray, np.ndarray]:
    """Nitrogen in kg/m³ that oxygen lets through as if it were all that there is, and its slope.

    (DO − 0.5)/3.2 in mg/L above 1 mg/L (Rusten et al. 2006), here DO²/(DO + 0.5)/3.2, which goes to nothing with the
    oxygen; ``wants`` is the 3.2.
    """
    low = oxygen + 0.5e-3
    return oxygen * oxygen / low / wants, oxygen * (oxygen + 1e-3) / (low * low) / wants


def ph_factor(ph: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
    """How far pH lets nitrifiers work, 0 to 1, and its slope: all of it from 6.8 on, nothing under 5.8."""
    x = ph - 5.8
    return np.minimum(np.maximum(x, 0.0), 1.0), ((x > 0) & (x < 1)).astype(float)


def free_share(ph: np.ndarray, temperature: np.ndarray, salinity: float) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """Share of ammonia that is free, and its slopes by pH and by °C; as water.free_ammonia_fraction, salinity g/kg."""
    kelvin = temperature + 273.15
    pka = 0.09018 + 2729.92 / kelvin + 0.003071 * salinity
    share = 1.0 / (1.0 + np.exp(_LN10 * (pka - ph)))
    by_ph = _LN10 * share * (1 - share)
    return share, by_ph, by_ph * 2729.92 / kelvin**2


@dataclass(frozen=True)
class Working:
    """Both groups in some places: ``value`` (2, places), how far each works, 1 being a full film at 18 °C with plenty
    of everything, of ammonia, then of nitrite; and what the slopes of that are made of.
    """

    value: np.ndarray
    growth: Growth
    food: np.ndarray
    oxygen: np.ndarray
    allows: np.ndarray
    size: np.ndarray
    among: np.ndarray
    warm: np.ndarray
    acid: np.ndarray
    by_acid: np.ndarray
    shares: tuple[np.ndarray, np.ndarray, np.ndarray]
    well: np.ndarray

    @classmethod
    def at(
        cls,
        ammonia: np.ndarray,
        nitrite: np.ndarray,
        oxygen: np.ndarray,
        ph: np.ndarray,
        temperature: np.ndarray,
        salinity: float,
        growth: Growth = GROWTH,
    ) -> Working:
        """Monod's factor of the scarcer of food and oxygen, by warmth, pH and free ammonia."""
        half, poison = growth.by_group
        food, allows = np.array((ammonia, nitrite)), oxygen_allows(oxygen, 1.0)[0] / _WANTS
        # The fourth power by squares: an array's own powers cost ten times as much, and this is asked for most.
        food2, allows2 = food * food, allows * allows
        size = np.sqrt(np.sqrt(food2 * food2 + allows2 * allows2)) + _TINY
        scarce = food * allows / size
        among = half + scarce
        warm = np.exp(math.log(growth.theta) * (temperature - 18.0)) * (SEAWATER if salinity > 15 else 1.0)
        acid, by_acid = ph_factor(ph)
        shares = free_share(ph, temperature, salinity)
        well = 1.0 / (1.0 + ammonia * shares[0] / poison)
        value = scarce / among * (warm * acid) * well
        return cls(value, growth, food, oxygen, allows, size, among, warm, acid, by_acid, shares, well)

    def speeds(self) -> tuple[Speed, Speed]:
        """With all slopes, of ammonia, then of nitrite."""
        made = self.slopes()
        return Speed(*(x[0] for x in made)), Speed(*(x[1] for x in made))

    def slopes(self) -> Speed:
        """The same of both at once, each (2, places)."""
        half, poison = self.growth.by_group
        food, warm, acid, well = self.food, self.warm, self.acid, self.well
        share, share_by_ph, share_by_t = self.shares
        monod = 1.0 - half / self.among
        slope = half / (self.among * self.among) * (warm * acid) * well
        of_food, of_allows = food / self.size, self.allows / self.size
        food2, allows2 = of_food * of_food, of_allows * of_allows
        by_oxygen = oxygen_allows(self.oxygen, 1.0)[1] / _WANTS
        by_free = -well * well / poison
        bent = acid * by_free * food[0]
        return Speed(
            self.value,
            slope * allows2 * allows2 * of_allows,
            slope * food2 * food2 * of_food * by_oxygen,
            monod * warm * (self.by_acid * well + bent * share_by_ph),
            monod * warm * (acid * math.log(self.growth.theta) * well + bent * share_by_t),
            monod * (warm * acid * share) * by_free,
        )


_STANDS = 12 * 3600.0  # s in which half of a film is lost that stands wet without flow: assumed, 4 to 48 h


def left_alive(stood: float) -> float:
    """Share of a film that is left after so many s out of the water or without flow, wet and cool; an assumption, half
    in 12 h, 4 to 48 h.

    >>> left_alive(12 * 3600.0)
    0.5
    """
    return float(0.5 ** (max(stood, 0.0) / _STANDS))


def half_life(temperature: float, growth: Growth = GROWTH) -> float:
    """Time in s in which half of what has grown is gone where nothing feeds it, at °C.

    >>> round(half_life(18.0) / 86400)
    17
    """
    return float(np.log(2.0) / (growth.decay_a * growth.theta ** (temperature - 18.0)))


def grown(speed: np.ndarray, grow: float, decay: float) -> np.ndarray:
    """Share of a full film that stays alive where a group works so far: 1 − decay/(grow·speed), nothing under that.

    Cold slows growth and decay alike, so that it does not matter here.
    """
    return np.maximum(1.0 - decay / np.maximum(grow * speed, _TINY), 0.0)
