"""After a cleaning that takes a share of the bacteria: what the rest carries at once, and how the water goes until they
have grown back.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fuente.life.inputs import AMMONIA, NITRITE
from fuente.network.resting import rest
from fuente.network.transport import march
from fuente.study.limits import Limits

LOST = 0.7  # of what lives on a part that is rinsed hard, an assumption; old tank water leaves more
DAY = 86400.0
_FOLLOWED = 42.0  # days
_EVERY = DAY / 4


@dataclass(frozen=True)
class Cleaned:
    """Feed in kg/s that stays under the builder's limits with the films that are left, right after; and at the usual
    feed the highest ammonia and nitrite in a tank, kg/m³, on which day each, and for how many days of six weeks a
    limit is passed. ``places`` are those that were cleaned.
    """

    feed: float
    places: tuple[str, ...]
    ammonia: float
    ammonia_day: float
    nitrite: float
    nitrite_day: float
    over: float


def largest(limits: Limits, count: int = 2) -> tuple[str, ...]:
    """Ids of the places that turn over most as they are fed now."""
    turned = limits.living.turned(limits.now)[0]
    order = np.argsort(-turned)[:count]
    return tuple(limits.base.places[int(k)].id for k in order)


def at_once(limits: Limits, films: np.ndarray | None = None) -> float:
    """Feed in kg/s that the films of a state carry at once, under the builder's limits and before any of them has
    grown; those that the present feed has grown unless given. Raises SolveError where no such feed is found.
    """
    living, y = limits.living, limits.now.copy()
    grown = slice(living.grown_a.start, living.grown_n.stop)
    if films is not None:
        y[grown] = films[grown]
    water = slice(0, 8 * living.n)
    return limits.carried_by(living, rest(living, y, water), among=water).feed


def cleaned(limits: Limits, places: tuple[str, ...] = (), lost: float = LOST) -> Cleaned:
    """Of some places, or the two largest, at once: films lose a share, everything else is as it was in the long run.
    The films do not grow within the moment that ``feed`` speaks of. Raises SolveError where no state is found.
    """
    places = places or largest(limits)
    living, y = limits.living, limits.now.copy()
    for k, place in enumerate(limits.base.places):
        if place.id in places:
            y[living.grown_a.start + k] *= 1.0 - lost
            y[living.grown_n.start + k] *= 1.0 - lost
    water = slice(0, 8 * living.n)
    carried = limits.carried_by(living, rest(living, y, water), among=water)
    times = np.arange(0.0, _FOLLOWED * DAY + 1.0, _EVERY)
    made = march(living, y, times, rtol=1e-4).values
    tanks = list(limits.base.tanks.values())
    high = {what: living.of(made, what)[:, tanks].max(axis=1) for what in (AMMONIA, NITRITE)}
    keeping = limits.study.system.keeping
    over = (high[AMMONIA] > keeping.ammonia_limit) | (high[NITRITE] > keeping.nitrite_limit)
    top = {what: int(values.argmax()) for what, values in high.items()}
    return Cleaned(
        carried.feed,
        places,
        float(high[AMMONIA].max()),
        float(times[top[AMMONIA]]) / DAY,
        float(high[NITRITE].max()),
        float(times[top[NITRITE]]) / DAY,
        float(over.sum()) * _EVERY / DAY,
    )
