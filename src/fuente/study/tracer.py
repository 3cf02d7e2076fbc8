"""A dose of something that nothing uses up, a medicine or a dye: how it spreads, and how water changes take it away."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from fuente.errors import EntryError
from fuente.life.inputs import TRACER
from fuente.network.transport import march
from fuente.study.living import LivingWater
from fuente.study.weeks import DAY

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

EVEN = 0.05  # of the mean that every water it reaches is within
_FINE, _COARSE = 300.0, 6 * 3600.0  # s


@dataclass(frozen=True)
class Spread:
    """Times s; kg/m³ in each tank by id and in the whole water that the dose reaches, (times,); s after which all of
    that is even, None where it never is; and the share that is left at the end.
    """

    water: LivingWater
    times: np.ndarray
    tanks: dict[str, np.ndarray]
    whole: np.ndarray
    even: float | None
    left: float


def spread_of(study: Analysis, tank: str, amount: float, days: float = 28.0) -> Spread:
    """So many kg put into a tank at once, followed for days with the usual water changes. Chemical media and light take
    more away than this says. Raises EntryError where there is no dose, or more than ten years of it.
    """
    if not amount > 0 or not 0 < days <= 3660:
        raise EntryError("Say how much is dosed, and from an hour to ten years.")
    water, keeping = LivingWater(study), study.system.keeping
    living, at = water.living, water.tanks[tank]
    y = living.dosed(water.fresh(), at, TRACER, amount)
    times = np.unique(np.concatenate((np.arange(0.0, DAY, _FINE), np.arange(DAY, days * DAY + 1.0, _COARSE))))
    times = times[times <= days * DAY + 1.0]
    often = int(times[-1] / keeping.interval) if keeping.share > 0 else 0
    changes = np.arange(1, often + 1) * keeping.interval
    which = list(water.tanks.values())
    jumps = [(float(w), lambda z: living.changed(z, which, keeping.share)) for w in changes if w < times[-1]]
    held = living.of(march(living, y, times, jumps, 1e-5, mixing=True).values, TRACER)
    reached = held[-1] > 1e-3 * held[-1].max()
    volumes = water.water.volumes * reached
    whole = held @ volumes / volumes.sum()
    apart = np.abs(held[:, reached] - whole[:, None]).max(axis=1) > EVEN * whole
    first = times < (changes[0] if len(changes) else np.inf)
    late = np.flatnonzero(apart & first)
    last = int(late[-1]) if late.size else -1
    ends = int(first.sum())
    even = None if last + 1 >= ends else float(times[last + 1])
    tanks = {key: held[:, k] for key, k in water.tanks.items()}
    return Spread(water, times, tanks, whole, even, float(held[-1] @ water.water.volumes) / amount)
