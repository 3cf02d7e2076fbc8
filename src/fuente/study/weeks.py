"""Weeks of living water: starting up by one way or another, water changes, and when animals may come."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, Literal

import numpy as np

from fuente import halting
from fuente.devices.keeping import STARTS, Keeping
from fuente.errors import EntryError
from fuente.life.inputs import (
    ALKALINITY,
    AMMONIA,
    NITRITE,
)
from fuente.life.nitrifiers import GROWTH, Growth, left_alive
from fuente.network.transport import Stepper, march
from fuente.study.bucket import AGAIN, GONE, MUCH, SOFT, Bucket, matured
from fuente.study.living import LivingWater
from fuente.study.turned_low import march_low, turned_low, went_on

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

DAY = 86400.0
Way = Literal["fishless", "seeded", "bucket", "fish", "mature"]
WAYS: Mapping[str, str] = STARTS
SWAYS, GROWS = 1e-4, 2e-5  # of each value, that a step may be off
_BANDS = 1e-4  # the same of a spread's ends, which are told to a half: 0.3 % of the top
_RAMP = 8  # weeks in which light feeding grows to all of it
_LARGE = 0.7  # of the water changed before animals come


@dataclass(frozen=True)
class Start:
    """How it starts: ``dose`` kg/m³ of ammonia nitrogen that is dosed to without animals, ``moved`` the share of a full
    film that comes with media moved over, and the share of it that still lives; ``media`` the share of all surface that
    is matured ahead in a ``bucket`` of m³ at ``warm`` °C.
    """

    way: Way = "fishless"
    dose: float = 2e-3
    moved: float = 0.1
    alive: float = 1.0
    media: float = 0.5
    bucket: float = 0.02
    warm: float = 26.0


def start_of(keeping: Keeping) -> Start:
    """As the builder says."""
    k = keeping
    return Start(k.start, k.dose, k.moved, left_alive(k.stood), k.media, k.bucket, k.bucket_warm)


@dataclass(frozen=True)
class Weeks:
    """What was followed: times s, values (times, …) of ``water.living``; doses as (s, kg of nitrogen, by tank) and
    water changes, s; when animals may come, s, where that was reached; and the ``bucket`` before the first day.
    """

    water: LivingWater
    start: Start
    times: np.ndarray
    values: np.ndarray
    doses: tuple[tuple[float, Mapping[str, float]], ...]
    changes: tuple[float, ...]
    ready: float | None
    bucket: Bucket | None = None
    slowed: bool = False  # whether the pumps were turned low in the first days

    def of(self, what: int, cell: str) -> np.ndarray:
        """One of what is carried in a cell, over the times."""
        living = self.water.living
        found: np.ndarray = living.of(self.values, what)[:, self.water.water.index[cell]]
        return found


def weeks(
    study: Analysis,
    days: float = 70.0,
    start: Start | None = None,
    situation: str = "running",
    every: float = 6 * 3600.0,
    growth: Growth = GROWTH,
    gas: float = 1.0,
    rtol: float | None = None,
    feed: float = 1.0,
    stone: float = 0.0,
) -> Weeks:
    """Follow the water of a design in a situation for so many days; a state each ``every`` s.

    Without animals, ammonia is dosed to the start's dose whenever less than a quarter is left and nitrite is not much
    more than a dose; half the water is changed where alkalinity runs out. Once a whole dose and its nitrite are gone
    within a day, most of the water is changed and the usual feed begins. Raises EntryError where that cannot be
    followed. ``gas`` as for LivingWater.
    """
    start = start or (start_of(study.system.keeping) if situation == "running" else Start("mature"))
    if not 0 < days <= 3660 or every < 60:
        raise EntryError("Say from one day to ten years, and steps of a minute or more.")
    found = study.situation(situation)
    water = LivingWater(study, found, growth=growth, gas=gas, feed=feed, stone=stone)
    keeping = study.system.keeping
    times = np.arange(0.0, days * DAY + 0.5 * every, every)
    changes = _change_days(times[-1], keeping.interval) if keeping.share > 0 else []

    slow = keeping.slow if situation == "running" and start.way != "mature" else 0.0
    rtol = rtol or (SWAYS if start.way == "mature" else GROWS)
    if start.way == "fishless":
        return _fishless(water, start, times, changes, rtol, slow)
    if start.way == "fish":
        return _ramped(water, start, times, changes, rtol, slow)
    ahead = None
    if start.way == "mature":  # grown while everything ran; a cut may come at the end of a night
        lit = found.powered
        before = LivingWater(study, growth=growth, lit=lit)
        y = water.taken_over(before, study.kept(f"mature {growth}" if lit else f"night {growth}", before.mature))
    elif start.way == "bucket":
        ahead = _ahead(water, start)
        y, share = water.fresh(), start.media * start.alive
        seed = growth.seed
        for group, film in zip((water.living.grown_a, water.living.grown_n), ahead.films, strict=True):
            y[group] = max(share * film, seed)
    else:
        y = water.fresh(start.moved * start.alive)
    low = turned_low(water) if slow > 0 else None
    # What has grown only sways from change to change; what grows a millionfold is followed more closely.
    values = march_low(water, low, slow, y, times, changes, _usual_change, rtol)
    settled = _settled(water, times, values)
    return Weeks(water, start, times, values, (), tuple(changes), settled, ahead, low is not None)


def _usual_change(water: LivingWater) -> Callable[[np.ndarray], np.ndarray]:
    """What one of the builder's water changes does."""
    share, tanks = water.study.system.keeping.share, list(water.tanks.values())
    return lambda y: water.living.changed(y, tanks, share)


def _ahead(water: LivingWater, start: Start) -> Bucket:
    """The bucket: so much of all surface, in new water."""
    keeping, inputs = water.study.system.keeping, water.inputs
    area = start.media * float(sum(p.area for p in water.places))
    return matured(start.bucket, area, start.dose, start.warm, inputs.brings, keeping.ph, inputs.salinity, water.growth)


def _change_days(end: float, interval: float) -> list[float]:
    return [k * interval for k in range(1, int(end / interval) + 1) if k * interval < end]


def _fishless(
    water: LivingWater, start: Start, times: np.ndarray, changes: list[float], rtol: float, slow: float
) -> Weeks:
    """Dosed day by day until it holds; then fed."""
    bare = LivingWater(water.study, water.situation, feed=0.0, growth=water.growth)
    low = turned_low(bare) if slow > 0 else None
    pace = Stepper(low.living, rtol) if low is not None else None
    living, tanks = bare.living, list(bare.tanks.items())
    doses: list[tuple[float, Mapping[str, float]]] = []
    parts, y, ready, whole = [], bare.fresh(), None, None
    day, last, changed, stepper = 0.0, float(times[-1]), [], Stepper(living, rtol)
    while day < last and ready is None:
        halting.step()
        ammonia = np.array([living.of(y, AMMONIA)[k] for _, k in tanks])
        nitrite = np.array([living.of(y, NITRITE)[k] for _, k in tanks])
        if whole is not None and day - whole < 1.01 * DAY:
            gone = GONE * start.dose
            if (ammonia < gone).all() and (nitrite < gone).all():
                ready = day
                break
        if min(living.of(y, ALKALINITY)[k] for _, k in tanks) < SOFT and bare.inputs.brings[ALKALINITY] > 1.5 * SOFT:
            y = living.changed(y, [k for _, k in tanks], 0.5)
            changed.append(day)
            ammonia, nitrite = ammonia / 2, nitrite / 2
        given = {}
        for (key, k), there, after in zip(tanks, ammonia.tolist(), nitrite.tolist(), strict=True):
            if there < AGAIN * start.dose and after < MUCH * start.dose:
                # What a tank shares its water with is dosed for through it.
                given[key] = (start.dose - there) * float(living.water.volumes[k])
        if given:
            share = _others(bare, [k for _, k in tanks])
            for key, amount in given.items():
                y = living.dosed(y, bare.tanks[key], AMMONIA, amount * share)
            doses.append((day, {key: amount * share for key, amount in given.items()}))
            whole = day
        inside = times[(times >= day) & (times < day + DAY - 1e-6)]
        asked = np.unique(np.concatenate(([day], inside, [min(day + DAY, last)])))
        mixing = bool(given) or bool(changed and changed[-1] == day)
        if low is not None and day < slow - 0.5 * DAY:
            made = march(low.living, went_on(low, bare, y), asked, stepper=pace, mixing=mixing).values
            made = np.array([went_on(bare, low, row) for row in made])
        else:
            made = march(living, y, asked, stepper=stepper, mixing=mixing).values
        parts.append(made[np.searchsorted(asked, inside)])
        day, y = float(asked[-1]), made[-1]
    if ready is None:
        parts.append(y[None, :] if len(np.concatenate(parts)) < len(times) else np.empty((0, len(y))))
        values = np.concatenate(parts)[: len(times)]
        return Weeks(bare, start, times, values, tuple(doses), tuple(changed), None, None, low is not None)
    y = living.changed(y, list(water.tanks.values()), _LARGE)
    rest = times[times >= ready - 1e-6]
    asked = rest if rest[0] <= ready + 1e-6 else np.concatenate(([ready], rest))
    later = [when for when in changes if when > ready + 1.0]
    found = march(water.living, y, asked, [(w, _usual_change(water)) for w in later], rtol)
    parts.append(found.values[len(asked) - len(rest) :])
    values, all_changes = np.concatenate(parts), (*changed, ready, *later)
    return Weeks(water, start, times, values, tuple(doses), all_changes, ready, None, low is not None)


def _others(water: LivingWater, tanks: list[int]) -> float:
    """All water by what is in the tanks: a dose for the tanks is thinned by the filters' water."""
    volumes = water.water.volumes
    return float(volumes.sum() / volumes[tanks].sum())


def _ramped(
    water: LivingWater, start: Start, times: np.ndarray, changes: list[float], rtol: float, slow: float
) -> Weeks:
    """Fed lightly from the first day, and more by the week."""
    parts, y, at = [], water.fresh(), 0.0
    last = float(times[-1])
    slowed = slow > 0 and turned_low(water) is not None
    for week in range(1, _RAMP + 1):
        until = min(week * 7 * DAY, last) if week < _RAMP else last
        if until <= at:
            break
        fed = LivingWater(water.study, water.situation, feed=min(week / _RAMP, 1.0) ** 2, growth=water.growth)
        low = turned_low(fed) if slowed and at < slow else None
        soon = [w for w in changes if at < w < until + 1.0]
        inside = times[(times >= at) & ((times < until - 1e-6) | (until == last))]
        asked = np.unique(np.concatenate(([at], inside, [until])))
        made = march_low(fed, low, slow, y, asked, soon, _usual_change, rtol)
        parts.append(made[np.searchsorted(asked, inside)])
        y, at = made[-1], until
    values = np.concatenate(parts)
    settled = _settled(water, times, values)
    return Weeks(water, start, times, values, (), tuple(changes), settled, None, slowed)


def _settled(water: LivingWater, times: np.ndarray, values: np.ndarray) -> float | None:
    """From when on ammonia and nitrite stay under the builder's limits in every tank, s."""
    keeping, living = water.study.system.keeping, water.living
    tanks = list(water.tanks.values())
    ammonia = np.max(living.of(values, AMMONIA)[:, tanks], axis=1)
    nitrite = np.max(living.of(values, NITRITE)[:, tanks], axis=1)
    over = np.asarray((ammonia > keeping.ammonia_limit) | (nitrite > keeping.nitrite_limit))
    if over[-1]:
        return None
    late = np.flatnonzero(over)
    return float(times[late[-1] + 1]) if late.size else 0.0


def spread(study: Analysis, days: float, start: Start, situation: str = "running") -> tuple[Weeks, Weeks, Weeks]:
    """As it is thought to go, the quickest and the slowest of it: growth a third faster and slower, seeds ten times
    more and fewer.
    """
    g = GROWTH
    quick = replace(g, grow_a=1.3 * g.grow_a, grow_n=1.3 * g.grow_n, seed=10 * g.seed)
    slow = replace(g, grow_a=g.grow_a / 1.3, grow_n=g.grow_n / 1.3, seed=0.1 * g.seed)
    return (
        weeks(study, days, start, situation),
        weeks(study, days, start, situation, growth=quick, rtol=_BANDS),
        weeks(study, days, start, situation, growth=slow, rtol=_BANDS),
    )
