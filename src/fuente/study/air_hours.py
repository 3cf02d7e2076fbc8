"""How long a power cut may last: hours until the oxygen of a tank is under the builder's limit, and what a battery
does about it.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from fuente.devices.base import Rank, Verdict
from fuente.life.inputs import OXYGEN
from fuente.study.living import LivingWater
from fuente.study.situation import Situation
from fuente.study.weeks import Start, Weeks, weeks
from fuente.units import UnitSystem, shown
from fuente.water.properties import density

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

HOUR = 3600.0
FOLLOWED = 72.0  # hours
SHORT, NIGHT = 4.0, 12.0  # hours: under the first a cut that nobody is home for harms, under the other a night's
STONE = 2e-3 / 60  # m³/s of air of a small battery pump in each tank, coarse, half a metre down
_EVERY = 900.0  # s
_DEEP = 0.5  # m
_GRAVITY = 9.80665
_TURNED = 0.1  # of what a battery gives that a small diaphragm pump puts into the air: assumed, 0.05 to 0.2


@dataclass(frozen=True)
class AirHours:
    """Hours from a power cut on until a tank's oxygen is under the limit, kg/m³; None where that takes longer than was
    followed. ``poor`` and ``good`` are with half and twice the gas at the surface, ``half`` with half the animals,
    ``stone`` with an air stone on a battery in every tank; ``low`` is the least oxygen in that time, kg/m³.
    """

    tank: str
    limit: float
    usual: float | None
    poor: float | None
    good: float | None
    low: float
    half: float | None = None
    stone: float | None = None

    @property
    def rank(self) -> Rank | None:
        """How grave it is, as it is thought to go."""
        if self.usual is None:
            return None
        return Rank.FIX if self.usual < SHORT else Rank.CONSIDER if self.usual < NIGHT else None

    def words(self) -> str:
        """Hours with their band, without a verb: "30 h (20 to 44)"."""
        if self.usual is None:
            return f"over {FOLLOWED:.0f} h"
        late = f"over {FOLLOWED:.0f}" if self.good is None else _figure(self.good)
        return f"{_figure(self.usual)} h ({_figure(self.usual if self.poor is None else self.poor)} to {late})"

    def said(self, tank: str, units: UnitSystem) -> str:
        """The whole of it, in a clause; of a named tank where there are several."""
        limit = shown(self.limit, "concentration", units)
        return f"oxygen under {limit}{f' in {tank}' if tank else ''} after {self.words()}"

    @property
    def short(self) -> str:
        """For a narrow place."""
        return f"oxygen > {FOLLOWED:.0f} h" if self.usual is None else f"oxygen {_figure(self.usual)} h"


def _figure(hours: float) -> str:
    return f"{hours:.1f}" if hours < 10 else f"{hours:.0f}"


def under(made: Weeks, tank: str, limit: float) -> float | None:
    """Hours until a tank's oxygen is under a limit in kg/m³."""
    low = np.flatnonzero(made.of(OXYGEN, tank) < limit)
    return float(made.times[low[0]] / HOUR) if low.size else None


def followed(study: Analysis, gas: float = 1.0, feed: float = 1.0, stone: float = 0.0) -> Weeks:
    """Three days of a power cut, from a water grown to its feed; factors on gas and animals, m³/s of air a tank."""

    def make() -> Weeks:
        start = Start("mature")
        return weeks(study, FOLLOWED / 24, start, "power_cut", every=_EVERY, gas=gas, feed=feed, stone=stone)

    return study.kept(f"cut {gas} {feed} {stone}", make)


def air_hours(study: Analysis, tank: str = "", more: bool = False) -> AirHours | None:
    """Of one tank, or the one that is first; with ``more`` also by half the animals and a battery. None where nothing
    is fed. Raises FuenteError where the cut has no state.
    """
    if LivingWater(study).fed <= 0:
        return None
    usual, limit = followed(study), study.system.keeping.oxygen_limit
    if not tank:
        each = {t: under(usual, t, limit) for t in usual.water.tanks}
        tank = min(each, key=lambda t: (FOLLOWED if each[t] is None else each[t], float(usual.of(OXYGEN, t)[-1])))
    poor, good = (under(followed(study, gas=share), tank, limit) for share in (0.5, 2.0))
    low = float(usual.of(OXYGEN, tank).min())
    found = AirHours(tank, limit, under(usual, tank, limit), poor, good, low)
    if not more:
        return found
    half, stone = followed(study, feed=0.5), followed(study, stone=STONE)
    return replace(found, half=under(half, tank, limit), stone=under(stone, tank, limit))


def battery(tanks: int, hours: float = NIGHT) -> float:
    """What a battery wants for air stones in so many tanks over so many hours, J: air against half a metre of water,
    a tenth of it put to use; within a factor of two.

    One stone of 2 L/min over a night: 20 Wh.

    >>> round(battery(1) / 3600)
    20
    """
    watts = STONE * density(20.0) * _GRAVITY * _DEEP / _TURNED
    return tanks * watts * hours * HOUR


def decided(case: Situation, air: AirHours | None) -> Verdict:
    """The verdict of a power cut: the flood's where there is one to fear, else how long the oxygen lasts."""
    verdict = case.verdict
    if air is None or case.powered or verdict.rank is not None:
        return verdict
    return Verdict(air.short, {}, air.rank)
