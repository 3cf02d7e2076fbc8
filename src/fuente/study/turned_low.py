"""The pumps turned low for the first days, so that films can hold: another running state of the same water."""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import replace
from typing import TYPE_CHECKING

import numpy as np

from fuente.errors import FuenteError
from fuente.life.inputs import CARRIED, NITRATE, SUMS, TEMPERATURE
from fuente.network.model import Solution
from fuente.network.transport import march
from fuente.study.breaking import Fault
from fuente.study.faults import KINDS
from fuente.study.living import LivingWater
from fuente.study.situations import settled

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

LOW = (
    0.4,
    0.55,
    0.7,
    0.85,
)  # of its head, the lowest that still moves enough: a controller near two thirds of its speed
_MOVES = 0.25  # of what the pumps move at full speed, at least
Change = Callable[[LivingWater], Callable[[np.ndarray], np.ndarray]]  # what a water change does to a water's values


def turned_low(water: LivingWater) -> LivingWater | None:
    """The same water with all pumps as low as each still moves a quarter of what it does; None where none can."""
    study = water.study
    found = study.kept("turned low", lambda: _lowest(study))
    if found is None:
        return None
    situation = replace(study.situation("running"), solution=found)
    return LivingWater(
        study, situation, feed=water.feed, growth=water.growth, without=water.without, gas=water.gas, stone=water.stone
    )


def _lowest(study: Analysis) -> Solution | None:
    if not KINDS["pump-wear"].applies(study):
        return None
    usual = study.running
    ways = [w.id for w in study.network.ways if w.kind.driven]
    for share in LOW:
        try:
            found = settled(study, "running", (Fault("pump-wear", value=share),))
        except FuenteError:
            continue
        if all(found.flow[k] >= _MOVES * usual.flow[k] for k in ways) and not found.spilling:
            return found
    return None


def march_low(
    water: LivingWater,
    low: LivingWater | None,
    until: float,
    y: np.ndarray,
    times: np.ndarray,
    changes: Sequence[float],
    change: Change,
    rtol: float,
) -> np.ndarray:
    """Values of ``water`` at the times from y on, with the pumps turned low until a time in s; water is changed at
    each of ``changes``.
    """
    if low is None or until <= times[0]:
        return march(water.living, y, times, [(when, change(water)) for when in changes], rtol).values
    end = min(until, float(times[-1]))
    early = times[times < end - 1e-6]
    soon = [(when, change(low)) for when in changes if when < end]
    first = march(low.living, went_on(low, water, y), np.append(early, end), soon, rtol)
    rows = np.array([went_on(water, low, row) for row in first.values])
    if end >= times[-1] - 1e-6:
        return rows
    late = times[times >= end - 1e-6]
    asked = late if late[0] <= end + 1e-6 else np.concatenate(([end], late))
    then = [(when, change(water)) for when in changes if when >= end]
    later = march(water.living, rows[-1], asked, then, rtol).values
    return np.concatenate((rows[:-1], later[len(asked) - len(late) :]))


def went_on(water: LivingWater, before: LivingWater, y: np.ndarray) -> np.ndarray:
    """A state of one pace of the pumps as one of another, sums and all. The water that pipes hold more or less of comes
    out of them, or goes into them, as it is: sums count it as brought.
    """
    made = water.taken_over(before, y)
    made[water.living.sums] = y[before.living.sums]
    for what, name in enumerate(CARRIED):
        said = "nitrogen" if what <= NITRATE else "heat" if what == TEMPERATURE else name
        more = water.living.stored(made, what) - before.living.stored(y, what)
        made[water.living.sums.start + SUMS.index(f"{said} in")] += more
    return made
