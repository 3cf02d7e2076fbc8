"""What the water carries: each cell a stirred reactor, each way of a solved network an advective flow.

A network's water becomes a few stirred volumes and the flows between them (``Stirred``); whoever knows what happens in
them writes that as a ``System`` of rates with their slopes; ``march`` follows it through time.
"""

from __future__ import annotations

from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property
from typing import Protocol

import numpy as np

from fuente import halting
from fuente.errors import SolveError
from fuente.network.model import Solution, WayKind
from fuente.network.pattern import pattern_of

_LEAST = 1e-6  # m³: what holds less is a place where flows meet, not a reactor
_TELLS = 1e-13  # m³/s: what is less is the rounding of a solved network


@dataclass(frozen=True)
class Stirred:
    """Stirred volumes and the flows between them.

    ``volumes`` (n,) m³, each with the water in pipes that comes down to it. ``flows`` (n, n) m³/s: from column to row,
    the diagonal what leaves a volume, below zero. What leaves to a sink arrives nowhere, so that a column's sum is what
    is lost from there. Places without water of their own, dry cells and forks of pipes, only pass on what comes.
    ``fresh`` (n,) m³/s of new water comes in from mains and reservoirs, which are no volumes of it.
    """

    ids: tuple[str, ...]
    volumes: np.ndarray
    flows: np.ndarray
    temperatures: np.ndarray  # °C that their cells are said to have
    fresh: np.ndarray = field(default_factory=lambda: np.zeros(1))

    def __post_init__(self) -> None:
        if self.fresh.shape != self.volumes.shape:
            object.__setattr__(self, "fresh", np.zeros(len(self.volumes)))

    @classmethod
    def of(cls, solution: Solution) -> Stirred:
        """The water of a solved state."""
        network = solution.network
        held = {c.id: solution.volume[c.id] + solution.piped.get(c.id, 0.0) for c in network.cells}
        tanks = {way.a for way in network.ways if way.kind is WayKind.TOP_UP}
        cells = [c for c in network.cells if not c.sink and c.id not in tanks and held[c.id] > _LEAST]
        place = {c.id: i for i, c in enumerate(cells)}
        n = len(cells)
        sinks = {c.id for c in network.cells if c.sink} | tanks
        ways = [way for way in network.ways if way.kind is not WayKind.AIR]
        for way in ways:
            for end in (way.a, way.b):
                if end not in sinks:
                    place.setdefault(end, len(place))
        whole, fresh = np.zeros((len(place), len(place))), np.zeros(len(place))
        for way in ways:
            flow = solution.flow.get(way.id, 0.0)
            a, b = (way.a, way.b) if flow > 0 else (way.b, way.a)
            if abs(flow) > _TELLS and a in sinks and b not in sinks:
                fresh[place[b]] += abs(flow)
            if abs(flow) <= _TELLS or a in sinks:
                continue
            whole[place[a], place[a]] -= abs(flow)
            if b not in sinks:
                whole[place[b], place[a]] += abs(flow)
        return cls(
            tuple(c.id for c in cells),
            np.array([held[c.id] for c in cells]),
            _reduced(whole, n),
            np.array([c.temperature for c in cells]),
            fresh[:n],
        )

    @cached_property
    def index(self) -> dict[str, int]:
        """Id → position."""
        return {key: i for i, key in enumerate(self.ids)}

    @property
    def through(self) -> np.ndarray:
        """What runs through each volume, m³/s, (n,)."""
        return -np.diag(self.flows)


def _reduced(whole: np.ndarray, n: int) -> np.ndarray:
    """Flows between the first n places, with those that hold nothing passed through: at such a place what comes leaves
    in the shares in which its water does.
    """
    if len(whole) == n:
        return whole
    inner = whole[n:, n:].copy()
    still = np.diag(inner) > -_TELLS  # nothing leaves there, and so nothing comes that counts
    inner[still, still] = -1.0
    onward = np.linalg.solve(inner, whole[n:, :n])
    made: np.ndarray = whole[:n, :n] - whole[:n, n:] @ onward
    return made


class System(Protocol):
    """Rates of change and their slopes. All values are kept at nothing or more, but those that may be ``signed``."""

    @property
    def size(self) -> int:
        """Number of values."""
        ...

    @property
    def scale(self) -> np.ndarray:
        """What is small of each value, (size,): the absolute tolerance."""
        ...

    @property
    def signed(self) -> np.ndarray:
        """Which values may be below nothing, (size,) of bool."""
        ...

    @property
    def entries(self) -> tuple[np.ndarray, np.ndarray]:
        """Rows and columns of the slopes that may differ from nothing; the diagonal is among them."""
        ...

    def rates(self, y: np.ndarray) -> np.ndarray:
        """dy/dt by the second, (size,)."""
        ...

    def slopes(self, y: np.ndarray) -> np.ndarray:
        """∂(dy/dt)/∂y at the entries."""
        ...


# RODAS3, four stages of third order with an error of second, L-stable and stiffly accurate: Sandu et al. 1997.
_GAMMA = 0.5
_RTOL = 2e-5
_FIRST = 60.0  # s
_AFTER_JUMP = 600.0  # s
_MIXES, _LOOSER = 3600.0, 30.0  # s after a jump in which water mixes, and how much looser it is followed meanwhile
_SHORTEST = 1e-3  # s
_BELOW = 1e-13  # of a value's scale at 1: how far under nothing rounding may take it


@dataclass(frozen=True)
class March:
    """What was followed: times s, values (times, size), steps taken and refused."""

    times: np.ndarray
    values: np.ndarray
    steps: int
    refused: int


class Stepper:
    """Steps through a system by a linearly implicit method with the slopes as they are, adaptive to ``rtol`` of each
    value and the system's scale. Sums that no rate changes are kept to rounding.
    """

    def __init__(self, system: System, rtol: float = _RTOL):
        self.system, self.rtol = system, rtol
        self._matrix = pattern_of(system)
        self.step = _FIRST
        self.steps = self.refused = 0

    def through(
        self, y: np.ndarray, begins: float, ends: float, mixes: float = -np.inf
    ) -> tuple[list[float], list[np.ndarray]]:
        """Times in s and values at every step from one time to another without a jump, both ends included. Until
        ``mixes`` the water that a jump changed mixes. Raises SolveError where no step holds.
        """
        system, floor = self.system, np.where(self.system.signed, -np.inf, -_BELOW)
        at, rates = begins, system.rates(y)
        times, found = [begins], [y]
        while ends - at > 1e-9 * max(ends - begins, 1.0):
            halting.step()
            left = ends - at
            step = left if left < 1.1 * self.step else min(self.step, left)
            made, error = self._tried(y, rates, step)
            if at < mixes:
                error /= _LOOSER
            below = bool((made < floor).any())
            if error <= 1.0 and not below:
                grown = step * min(5.0, max(0.3, 0.9 * max(error, 1e-6) ** (-1 / 3)))
                # The last piece before a jump says nothing of how long the next may be.
                self.step = grown if step >= 0.5 * self.step or grown < self.step else self.step
            elif step > _SHORTEST:
                self.refused += 1
                self.step = max(
                    step * (0.3 if below and error <= 1.0 else min(0.5, max(0.1, 0.9 * error ** (-1 / 3)))), _SHORTEST
                )
                continue
            else:
                made = self._plain(y, step)
                self.step = 10 * _SHORTEST
            made = np.where(system.signed, made, np.maximum(made, 0.0))
            self.steps += 1
            at, y, rates = ends if step == left else at + step, made, system.rates(made)
            times.append(at)
            found.append(y)
        return times, found

    def _tried(self, y: np.ndarray, at: np.ndarray, h: float) -> tuple[np.ndarray, float]:
        rates = self.system.rates
        solve = self._matrix.factored(self.system.slopes(y), 1.0 / (_GAMMA * h))
        k1 = solve(at)
        k2 = solve(at + (4.0 / h) * k1)
        k3 = solve(rates(y + 2.0 * k1) + (k1 - k2) / h)
        k4 = solve(rates(y + 2.0 * k1 + k3) + (k1 - k2 - (8.0 / 3.0) * k3) / h)
        made = y + 2.0 * k1 + k3 + k4
        weight = self.system.scale + self.rtol * np.maximum(np.abs(y), np.abs(made))
        if not np.isfinite(made).all():
            return made, 1e6
        return made, float(np.sqrt(np.mean((k4 / weight) ** 2)) + 0.1 * np.max(np.abs(k4) / weight))

    def _plain(self, y: np.ndarray, h: float) -> np.ndarray:
        """One implicit Euler step by Newton: what is lost in proportion to itself never falls below nothing."""
        at = y.copy()
        for _ in range(30):
            change = self._matrix.factored(self.system.slopes(at), 1.0 / h)(self.system.rates(at) - (at - y) / h)
            at = at + change
            if float(np.max(np.abs(change) / (self.system.scale + np.abs(at)))) < 1e-12:
                made: np.ndarray = np.where(self.system.signed, at, np.maximum(at, 0.0))
                return made
        raise SolveError("What the water carries could not be followed; this is Fuente's fault, not the design's.")


def march(
    system: System,
    start: np.ndarray,
    times: Sequence[float] | np.ndarray,
    jumps: Sequence[tuple[float, Callable[[np.ndarray], np.ndarray]]] = (),
    rtol: float = _RTOL,
    stepper: Stepper | None = None,
    mixing: bool = False,
) -> March:
    """Values at each of the rising ``times`` in s, the first the start's. ``jumps`` in the order of their times change
    them at once, as a water change or a dose does; what is asked for at that time is what stood before. Each step is
    off by ``rtol`` of a value at most, by thirty times that while the water mixes within an hour of a jump; sums by
    nothing. A ``stepper`` goes on with the steps of a march before; ``mixing`` says that the start is a jump.
    """
    times = np.asarray(times, dtype=float)
    stepper = stepper or Stepper(system, rtol)
    y, found = np.asarray(start, dtype=float), np.empty((len(times), system.size))
    found[0] = y
    at, written = float(times[0]), 1
    mixes = at + _MIXES if mixing else -np.inf
    if mixing:
        stepper.step = min(stepper.step, _AFTER_JUMP)
    breaks = [(when, change) for when, change in jumps if times[0] <= when < times[-1]]
    for when, change in [*breaks, (float(times[-1]), None)]:
        if when > at:
            stepped, values = stepper.through(y, at, when, mixes)
            upto = int(np.searchsorted(times, when, side="right"))
            found[written:upto] = _between(np.array(stepped), np.array(values), times[written:upto])
            written, y = upto, values[-1]
            halting.reached(when)
        at = when
        if change is not None:
            y, stepper.step, mixes = change(y), min(stepper.step, _AFTER_JUMP), when + _MIXES
    found = np.where(system.signed, found, np.maximum(found, 0.0))
    return March(times, found, stepper.steps, stepper.refused)


def _between(at: np.ndarray, values: np.ndarray, times: np.ndarray) -> np.ndarray:
    """Values at times between steps, (times, size), by the cubic through the four steps around each: rates say nothing
    here, as those of what follows others at once are rounding made large.
    """
    if not times.size:
        return np.empty((0, values.shape[1]))
    count = min(4, len(at))
    first = np.clip(np.searchsorted(at, times, side="left") - 2, 0, len(at) - count)
    found = np.zeros((len(times), values.shape[1]))
    for i in range(count):
        weight = np.ones(len(times))
        for j in range(count):
            if i != j:
                weight *= (times - at[first + j]) / (at[first + i] - at[first + j])
        found += weight[:, None] * values[first + i]
    return found
