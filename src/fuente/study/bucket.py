"""Media matured ahead in a bucket with air, dosed with ammonia, before they are moved into the system."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from fuente import halting
from fuente.life.inputs import ALKALINITY, AMMONIA, NITRITE, TEMPERATURE, Inputs
from fuente.life.nitrifiers import GROWTH, Growth
from fuente.life.reactor import Living
from fuente.network.transport import Stepper, Stirred, march

DAY = 86400.0
GONE = 0.1  # of a dose that may be left after a day, of ammonia and of nitrite, where it holds
AGAIN = 0.25  # of the dose under which ammonia is dosed again
MUCH = 1.5  # doses of nitrite over which no more is dosed: it would only use up alkalinity
SOFT = 40e-3  # kg/m³ of alkalinity under which half the water is changed
_LONGEST = 150  # days
_AIRED = 5.0 / 3600  # 1/s: an air line that rolls a bucket leaves no lack of oxygen


@dataclass(frozen=True)
class Bucket:
    """What was followed: doses as (s, kg of nitrogen), changes of half its water in s, the day in s on which a whole
    dose and its nitrite are gone within a day, None where that does not come; and the film of either group by then, as
    a share of a full one.
    """

    volume: float
    area: float
    temperature: float
    doses: tuple[tuple[float, float], ...]
    changes: tuple[float, ...]
    ready: float | None
    films: tuple[float, float]


def matured(
    volume: float,
    area: float,
    dose: float,
    temperature: float,
    brings: np.ndarray,
    ph: float = 7.5,
    salinity: float = 0.0,
    growth: Growth = GROWTH,
) -> Bucket:
    """A bucket of so many m³ with so many m² of bare media, dosed to kg/m³ of ammonia nitrogen, kept at °C; new water
    ``brings`` as for Inputs. Times ±50 %, as for every start.
    """
    none = np.zeros(1)
    water = Stirred(("bucket",), np.array([volume]), np.zeros((1, 1)), np.array([temperature]))
    buffer = float(brings[ALKALINITY]) or 0.1
    inputs = Inputs.none(1, gas=np.array([_AIRED * volume]), brings=brings, ph=ph, buffer=buffer)
    inputs = Inputs(**{**vars(inputs), "salinity": salinity, "growth": growth, "new": none})
    living = Living(water, np.array([0]), np.array([area]), inputs)
    y = living.start()
    y[TEMPERATURE] = temperature
    doses: list[tuple[float, float]] = []
    changes: list[float] = []
    stepper, whole = Stepper(living, 1e-4), None
    for day in range(_LONGEST):
        halting.step()
        ammonia, nitrite = float(living.of(y, AMMONIA)[0]), float(living.of(y, NITRITE)[0])
        if whole is not None and day - whole == 1 and max(ammonia, nitrite) < GONE * dose:
            films = float(y[living.grown_a][0]), float(y[living.grown_n][0])
            return Bucket(volume, area, temperature, tuple(doses), tuple(changes), day * DAY, films)
        mixes = False
        if float(living.of(y, ALKALINITY)[0]) < SOFT and brings[ALKALINITY] > 1.5 * SOFT:
            y, mixes = living.changed(y, [0], 0.5), True
            changes.append(day * DAY)
            ammonia, nitrite = float(living.of(y, AMMONIA)[0]), float(living.of(y, NITRITE)[0])
        if ammonia < AGAIN * dose and nitrite < MUCH * dose:
            doses.append((day * DAY, (dose - ammonia) * volume))
            y, whole, mixes = living.dosed(y, 0, AMMONIA, doses[-1][1]), day, True
        y = march(living, y, np.array([0.0, DAY]), stepper=stepper, mixing=mixes).values[-1]
    films = float(y[living.grown_a][0]), float(y[living.grown_n][0])
    return Bucket(volume, area, temperature, tuple(doses), tuple(changes), None, films)
