"""What the water carries: each cell a stirred reactor, each way of a solved network an advective flow.

A network's water becomes a few stirred volumes and the flows between them (``Stirred``); whoever knows what happens in
them writes that as a ``System`` of rates with their slopes; ``march`` follows it through time.
"""

from __future__ import annotations

import threading
from collections.abc import Callable, Sequence
from dataclasses import dataclass, field
from functools import cached_property, lru_cache
from typing import Protocol

import numpy as np

from fuente import halting
from fuente.errors import SolveError
from fuente.network.model import Solution, WayKind

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
_SEEN = 100.0  # times what is small of a value: what is as large may double at once
_CLOSE = 1e-4  # of a value, that a last whole step of Newton moves: what is left is its square
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
        self._matrix = _pattern(system)
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


def rest_at(
    system: Callable[[float], System],
    by_factor: Callable[[np.ndarray], np.ndarray],
    start: np.ndarray,
    factor: float,
    aim: Callable[[np.ndarray], tuple[float, int, float]],
    among: slice = slice(None),
    most: int = 120,
) -> tuple[np.ndarray, float]:
    """Where nothing changes any more and ``aim`` is met: values, and the factor at which a system that goes straight by
    it comes to rest so; ``by_factor`` are the slopes of its rates by that. ``aim`` gives a value that is to be 1 at the
    end, straight in one of the values, which, and its slope by that.

    Newton's method for values and factor together; no step more than doubles or halves either. Raises SolveError where
    that finds nothing.
    """
    first = system(factor)
    rows, _ = first.entries
    pattern = _pattern(first)
    held = np.ones(first.size, dtype=bool)
    held[among] = False
    y = np.asarray(start, dtype=float)
    diagonal = np.where(held, 1.0, 1e-14)
    for _ in range(most):
        halting.step()
        now = system(factor)
        rates = np.where(held, 0.0, now.rates(y))
        solve = pattern.factored(np.where(held[rows], 0.0, now.slopes(y)), diagonal)
        alone, along = solve(rates), solve(np.where(held, 0.0, by_factor(y)))
        value, which, slope = aim(y)
        turn = slope * along[which]
        if not np.isfinite(turn) or abs(turn) < 1e-300:
            break
        more = (1.0 - value - slope * alone[which]) / turn
        change = alone + more * along
        bold = float(np.max((np.abs(change) / (_SEEN * first.scale + np.abs(y)))[among]))
        share = min(1.0, 1.0 / max(bold, 1e-30), 0.5 * factor / max(-more, 1e-30), factor / max(more, 1e-30))
        y = np.asarray(np.where(first.signed, y + share * change, np.maximum(y + share * change, y / 4)))
        factor += share * more
        if share == 1.0 and bold < _CLOSE and abs(more) < _CLOSE * factor:
            return y, factor
    raise SolveError("No feed was found at which the water stands at the limits.")


def rest(
    system: System, start: np.ndarray, among: slice = slice(None), first: float = 60.0, most: int = 300
) -> np.ndarray:
    """Values at which nothing changes any more, of those ``among`` which that is asked: implicit steps that grow until
    the values stand to 1e-9 of themselves and their scale. The others stay as they are; ``first`` s is the first step,
    long where the start is near. Raises SolveError where no such state is found.
    """
    rows, _ = system.entries
    pattern = _pattern(system)
    held = np.ones(system.size, dtype=bool)
    held[among] = False
    y, h = np.asarray(start, dtype=float), first
    for _ in range(most):
        halting.step()
        rates = np.where(held, 0.0, system.rates(y))
        slopes = np.where(held[rows], 0.0, system.slopes(y))
        made = y + pattern.factored(slopes, 1.0 / h)(rates)
        changed = np.abs(made - y)[among]
        # A step that throws something far is not taken: what dies out by it would not come back.
        bold = float(np.max(changed / (_SEEN * system.scale + np.abs(y))[among]))
        if (bold > 1.0 or bool((made < -system.scale)[~system.signed].any())) and h > 1e-3:
            h *= 0.2
            continue
        y = np.asarray(np.where(system.signed, made, np.maximum(made, 0.0)))
        if h > 1e12 and float(np.max(changed / (system.scale + np.abs(y))[among])) < 1e-9:
            return y
        h = min(h * (2.0 if bold > 0.3 else 5.0 if bold > 0.03 else 30.0 if bold > 3e-3 else 1e4), 1e15)
    raise SolveError("The water comes to no steady state in which everything stays as it is.")


def _pattern(system: System) -> Pattern:
    """Of a system's slopes; the same for all of one shape."""
    rows, columns = system.entries
    return _known(rows.astype(np.int64).tobytes(), columns.astype(np.int64).tobytes(), system.size)


@lru_cache(maxsize=16)
def _known(rows: bytes, columns: bytes, size: int) -> Pattern:
    return Pattern(np.frombuffer(rows, dtype=np.int64), np.frombuffer(columns, dtype=np.int64), size)


class Pattern:
    """A sparse matrix d − J by its entries, in an order in which it fills up little; d on the diagonal.

    What nothing else goes by, as sums do, is left out of the factors and follows from the rest.
    """

    def __init__(self, rows: np.ndarray, columns: np.ndarray, size: int):
        from scipy.sparse import csc_matrix
        from scipy.sparse.linalg import splu

        self.size = size
        leads = np.zeros(size, dtype=bool)
        leads[columns] = True
        self._leads, self._follows = np.nonzero(leads)[0], np.nonzero(~leads)[0]
        place = np.cumsum(leads) - 1
        self._kept = np.nonzero(leads[rows])[0]
        self._summed = np.nonzero(~leads[rows])[0]
        self._into = (np.cumsum(~leads) - 1)[rows[self._summed]]
        self._of = place[columns[self._summed]]
        count = self._leads.size
        diagonal = np.arange(count)
        all_rows = np.concatenate((place[rows[self._kept]], diagonal))
        all_columns = np.concatenate((place[columns[self._kept]], diagonal))
        heavy = np.where(all_rows == all_columns, float(size), -1.0)
        first = csc_matrix((heavy, (all_rows, all_columns)), shape=(count, count))
        order = splu(first, permc_spec="MMD_AT_PLUS_A").perm_c
        self._order = order
        self._back = self._leads[np.argsort(order)]
        flat = order[all_columns].astype(np.int64) * count + order[all_rows]
        places, self._slot = np.unique(flat, return_inverse=True)
        self._within = (places % count).astype(np.int32)
        self._starts = np.searchsorted(places // count, np.arange(count + 1)).astype(np.int32)
        self._own = threading.local()

    def factored(self, slopes: np.ndarray, diagonal: float | np.ndarray) -> Callable[[np.ndarray], np.ndarray]:
        """What solves for right sides, with d on the diagonal."""
        from scipy.sparse import csc_matrix
        from scipy.sparse.linalg import splu

        d = np.broadcast_to(diagonal, self.size)
        count = self._leads.size
        values = np.concatenate((-slopes[self._kept], d[self._leads]))
        added = np.bincount(self._slot, values, self._within.size)
        matrix = getattr(self._own, "matrix", None)
        if matrix is None:  # one for each thread: to look through its places each time takes as long as to factor it
            matrix = self._own.matrix = csc_matrix((added, self._within, self._starts), shape=(count, count))
        matrix.data = added
        try:
            # The order holds where the diagonal is kept wherever it is a tenth of its column: with full pivoting three
            # times as much fills in.
            solve = splu(matrix, permc_spec="NATURAL", diag_pivot_thresh=0.1, relax=1, panel_size=4).solve
        except RuntimeError:  # exactly singular: nothing pulls on some value
            raise SolveError("The water comes to no steady state in which everything stays as it is.") from None
        summed, below = slopes[self._summed], d[self._follows]

        def solved(right: np.ndarray) -> np.ndarray:
            led = solve(right[self._back])[self._order]
            found = np.empty(self.size)
            found[self._leads] = led
            more = np.bincount(self._into, summed * led[self._of], self._follows.size)
            found[self._follows] = (right[self._follows] + more) / below
            return found

        return solved
