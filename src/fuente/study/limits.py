"""What a living water carries, and what sets the pace of each place in it: by finite change of the solved water.

The feed is raised until ammonia, nitrite or oxygen stands at the builder's limit in a tank, films grown to what feeds
them; by night, when plants only breathe. There each thing that a place needs is given more of, and the whole is solved
again. The pH is taken to be kept; how much feed the alkalinity of new water lasts for is a number of its own.
"""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from functools import cached_property
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from fuente.errors import SolveError
from fuente.life.inputs import (
    ALKALINITY,
    AMMONIA,
    NITRITE,
    OXYGEN,
)
from fuente.life.load import ALKALINITY_OF_NITROGEN
from fuente.life.nitrifiers import GROWTH, Growth
from fuente.life.reactor import Living
from fuente.network.resting import rest, rest_at
from fuente.study.bucket import SOFT
from fuente.study.living import LivingWater, Place
from fuente.units import UnitSystem

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

NEEDS: Mapping[str, str] = {
    "ammonia": "ammonia",
    "oxygen": "oxygen",
    "surface": "surface",
    "contact": "flow through it",
    "temperature": "warmth",
    "ph": "pH",
}
IDLE = 0.8  # of what it could: a place that turns over less waits for ammonia
_LITTLE = (0.1, 0.01, 1e-3)  # of the feed: with that a water is tried that is fed too much
_STILL = 1e-15  # m³/s: water that nothing renews
# What each need is given more of: media half more, twice the flow, air without end, 3 °C, half a pH.
MORE: Mapping[str, str] = {
    "surface": "half more surface",
    "contact": "twice the flow",
    "oxygen": "water full of oxygen",
    "temperature": "3 °C more",
    "ph": "half a pH more",
}
# A whole bar: by how much more a place would do with that much more of each where nothing else holds it; of oxygen,
# of which water that is short of it would take any amount, twice as much.
FULL: Mapping[str, float] = {"surface": 0.5, "contact": 1.0, "oxygen": 1.0, "temperature": 0.225, "ph": 0.5}
_WARMER, _HALF = 3.0, 0.5


class Pace(NamedTuple):
    """Of one place: nitrogen kg/s that it turns over now and at the limit, its share of all at the limit, and by how
    much it would turn over more there (0.3 for three tenths) for each thing of MORE; which of NEEDS sets its pace.
    """

    place: Place
    now: float
    most: float
    share: float
    gains: Mapping[str, float]
    limit: str

    @property
    def used(self) -> float:
        """Of what it could, what it does now."""
        return self.now / self.most if self.most > 0 else 0.0


@dataclass(frozen=True)
class Carrying:
    """Feed in kg/s at which ammonia, nitrite or oxygen stands at its limit in a tank, which tank and which of them, and
    the state.
    """

    feed: float
    tank: str
    what: str
    values: np.ndarray


class Limits:
    """What one design carries in a situation."""

    def __init__(
        self,
        study: Analysis,
        situation: str = "running",
        growth: Growth = GROWTH,
        without: tuple[str, ...] = (),
        about: str = "",
    ):
        self.study, self.name, self.growth, self.without = study, situation, growth, without
        self.state = study.situation(situation, about)

    def water(self, feed: float = 1.0) -> LivingWater:
        """The living water with feeds times a factor."""
        return LivingWater(self.study, self.state, feed=feed, growth=self.growth, without=self.without, lit=False)

    @cached_property
    def base(self) -> LivingWater:
        """With the feed as it is."""
        return self.water()

    @cached_property
    def living(self) -> Living:
        """Its rates, water changes spread over time and the pH kept."""
        made = self.base.dripping
        return Living(made.water, made.cells, made.areas, replace(made.inputs, kept_ph=True))

    @cached_property
    def now(self) -> np.ndarray:
        """The state with the feed as it is, everything grown to it."""
        return rest(self.living, self.base.fresh(self.base.about_grown()), slice(0, self.living.sums.start))

    @cached_property
    def alkalinity_lasts(self) -> float:
        """Feed in kg/s for which the alkalinity that new water brings lasts in every tank, down to 40 mg/L: what is
        used goes with the feed. Infinite where nothing uses it.
        """
        living = self.living
        used = np.bincount(living.cells, ALKALINITY_OF_NITROGEN * living.turned(self.now)[0], living.n)
        # Of each kilogram that is used, what is missing where: all of it is carried alike.
        missing = np.linalg.solve(np.diag(living.inputs.new + _STILL) - living.water.flows, used)
        most = max(float(missing[k]) for k in self.base.tanks.values())
        if most <= 0:
            return float("inf")
        return self.base.fed * max(float(living.inputs.brings[ALKALINITY]) - SOFT, 0.0) / most

    @cached_property
    def known(self) -> bool:
        """Whether there is anything to say: something is fed, something lives, and the water finds its limits."""
        try:
            return bool(self.paces)
        except SolveError:
            return False

    @cached_property
    def carries(self) -> Carrying:
        """The feed that keeps every tank under the builder's limits; raises SolveError where nothing is fed."""
        if self.base.fed <= 0:
            raise SolveError("No feed is known: say what the tanks are fed.")
        return self.carried_by(self.living, self.now)

    def carried_by(
        self, living: Living, start: np.ndarray, factor: float = 1.0, among: slice | None = None
    ) -> Carrying:
        """The feed at which the first of all limits is met; from the state at another feed. What is not ``among`` the
        values that come to rest stays as it is: all but the sums do.
        """
        keeping = self.study.system.keeping
        tanks, n = list(self.base.tanks.items()), living.n
        named: dict[int, tuple[str, str]] = {}
        for key, k in tanks:
            named[AMMONIA * n + k] = key, "ammonia"
            named[NITRITE * n + k] = key, "nitrite"
            named[OXYGEN * n + k] = key, "oxygen"
        which = np.array(list(named))
        what = which // n
        limits = np.select(
            [what == AMMONIA, what == NITRITE], [keeping.ammonia_limit, keeping.nitrite_limit], -keeping.oxygen_limit
        )

        def aim(y: np.ndarray) -> tuple[float, int, float]:
            # One at the limit: ammonia and nitrite from below, oxygen from above.
            over = y[which] / limits + 2.0 * (limits < 0)
            first = int(over.argmax())
            return float(over[first]), int(which[first]), float(1.0 / limits[first])

        among, held = among or slice(0, living.sums.start), start if among else None
        try:
            y, factor = rest_at(living.fed, living.by_feed, start, factor, aim, among)
        except SolveError:  # far beyond its limits a water does not find back: begin with little feed
            y, factor = self._from_little(living, aim, among, held)
        tank, by = named[aim(y)[1]]
        return Carrying(factor * self.base.fed, tank, by, y)

    def _from_little(
        self,
        living: Living,
        aim: Callable[[np.ndarray], tuple[float, int, float]],
        among: slice,
        held: np.ndarray | None,
    ) -> tuple[np.ndarray, float]:
        """The state at a limit, and the factor on the feed, found from a water that is fed little, with films as they
        are held where they are.
        """
        for share in _LITTLE:
            grown = max(share * self.base.about_grown(), self.growth.seed)
            try:
                y = rest(living.fed(share), self.base.fresh(grown) if held is None else held, among)
                return rest_at(living.fed, living.by_feed, y, share, aim, among)
            except SolveError:
                continue
        raise SolveError("No feed was found at which the water stands at the limits.")

    @cached_property
    def paces(self) -> tuple[Pace, ...]:
        """Every place with living surface, along the document."""
        living, at = self.living, self.carries
        now = living.turned(self.now)[0]
        most = living.turned(at.values)[0]
        gains: dict[str, np.ndarray] = {}
        for need, given in self._more(living, at.values).items():
            changed = self.carried_by(given, at.values, at.feed / self.base.fed)
            gains[need] = np.maximum(given.turned(changed.values)[0] / np.maximum(most, 1e-30) - 1.0, 0.0)
        made, whole = [], float(most.sum())
        if whole <= 0:
            raise SolveError("What is fed reaches no place where anything lives.")
        for p, place in enumerate(self.base.places):
            own = {need: float(gain[p]) for need, gain in gains.items()}
            used = now[p] / most[p] if most[p] > 0 else 0.0
            # What is fed more than is carried waits for no ammonia, however little it then does.
            idle = used < IDLE and self.base.fed <= at.feed
            limit = "ammonia" if idle else max(own, key=lambda need: own[need])
            made.append(Pace(place, float(now[p]), float(most[p]), float(most[p]) / whole, own, limit))
        return tuple(made)

    def _more(self, living: Living, y: np.ndarray) -> dict[str, Living]:
        """The same water with more of each thing."""
        i, g = living.inputs, living.inputs.growth
        water, cells, areas = living.water, living.cells, living.areas
        airy = i.gas.copy()
        airy[np.unique(cells)] += 20 * water.through[np.unique(cells)] + 1e-3
        warm = g.theta**_WARMER
        warmer = replace(
            g,
            most_a=g.most_a * warm,
            most_n=g.most_n * warm,
            grow_a=g.grow_a * warm,
            grow_n=g.grow_n * warm,
            decay_a=g.decay_a * warm,
            decay_n=g.decay_n * warm,
        )
        return {
            "surface": Living(water, cells, 1.5 * areas, i),
            "contact": Living(replace(water, flows=2 * water.flows), cells, areas, replace(i, falls=2 * i.falls)),
            "oxygen": Living(water, cells, areas, replace(i, gas=airy)),
            "temperature": Living(water, cells, areas, replace(i, growth=warmer)),
            "ph": Living(water, cells, areas, replace(i, ph=i.ph + _HALF)),
        }


def said(pace: Pace, units: UnitSystem = UnitSystem.METRIC) -> str:
    """What sets a place's pace, in one sentence, and what would matter."""
    given = {**MORE, "temperature": f"{_WARMER * 1.8:.0f} °F more"} if units == UnitSystem.US else MORE
    best = max(pace.gains, key=lambda need: pace.gains[need])
    gain = pace.gains[best]
    more = _more_words(gain)
    media = pace.gains.get("surface", 0.0)
    if pace.limit == "ammonia":
        head = (
            f"It waits for ammonia and does {100 * pace.used:.0f} % of what it could: more media would change nothing"
        )
        return f"{head}; at the limit {given[best]} would carry {more}." if gain > 0.02 else f"{head}."
    if pace.limit == "surface":
        return f"Surface sets the pace: half more would carry {more}."
    tail = "more media would change nothing" if media < 0.05 else f"half more media would carry {_more_words(media)}"
    return f"{NEEDS[pace.limit].capitalize()} sets the pace: {tail}; {given[best]} would carry {more}."


def _more_words(gain: float) -> str:
    if gain < 0.02:
        return "no more"
    for size, words in ((0.9, "about twice as much"), (0.42, "about half more"), (0.29, "a third more")):
        if gain >= size:
            return words if gain < 1.3 else f"{1 + gain:.1f} times as much"
    return f"{100 * gain:.0f} % more"


def tank_values(water: LivingWater, y: np.ndarray, what: int) -> dict[str, float]:
    """One of what is carried, in every tank."""
    return {key: float(water.living.of(y, what)[k]) for key, k in water.tanks.items()}


__all__ = ["FULL", "MORE", "NEEDS", "Carrying", "Limits", "Pace", "said", "tank_values"]
