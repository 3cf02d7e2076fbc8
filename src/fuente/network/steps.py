"""One step in time: implicit Euler on dV/dt = ΣQ, whole and in halves, by Newton.

Every step keeps the water. Which of them is taken, and how long it may be, is for whoever follows the water.
"""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from fuente import halting
from fuente.network.assembly import Assembly

CLOSE = 2e-15  # of all water: where a step is solved
LEAPT = 3e7  # s of a leap to the end: what drains ever more slowly is then under a twentieth of a millimetre
_ROUNDING = 1e-14  # m: what a level's last digits may be off, times the steepest slope of flow
_LEAPT_ROUNDING = 2e-16  # m: the same at the end of a leap
_MOST = 10  # iterations before a step is cut
_POLISHES = 4
_SETTLED = 1e-13  # m
_LEAP = 80  # iterations from a guess, whose residual may first rise
_TOLD = 1e-7  # m³ that levels told from volumes may be off: Newton sets that right
_HALVES = 3  # of what is left for a level, after which its other bound may be an old one
_NEAR = 0.004  # m a level may move in one of them: a siphon that has just broken has no slope to hold Newton back


def advance(
    assembly: Assembly,
    z: np.ndarray,
    volumes: np.ndarray,
    step: float,
    free: np.ndarray,
    guess: np.ndarray | None = None,
    leap: bool = False,
) -> tuple[np.ndarray, np.ndarray, int, bool]:
    """One implicit step in s: new levels m, volumes m³, iterations, and whether it was solved.

    ``guess`` is where Newton starts. A leap goes far from there, by small moves and through worse.
    """
    halting.step()
    which = np.flatnonzero(free)
    size = len(which)
    inner = (which[:, None] * len(free) + which).ravel()
    scale = float(volumes.sum()) or 1.0
    at = (z if guess is None else guess).copy()
    rest, jac, store = _rest(assembly, at, volumes, step)
    norm = _largest(rest[which])
    count = 0
    # A leap is held to more: from wherever it was tried its end is then the same.
    rounding = _ROUNDING if step < LEAPT else _LEAPT_ROUNDING
    enough, loose = CLOSE * scale, max(100 * CLOSE * scale, rounding * step * _largest(jac))
    near, between, far = _NEAR, _Between(size), step >= LEAPT
    most, halvings = (_LEAP, 1) if leap else (_MOST, 4)
    while norm > enough and count < most:
        count += 1
        matrix = (store - step * jac).take(inner).reshape(size, size)
        change = np.linalg.solve(matrix, -rest[which])
        if _largest(change) < 1e-16:
            break
        if leap:
            change = between.held(at[which], rest[which], np.clip(change, -near, near), far)
        # A square-root law makes full Newton steps swing from side to side: halving one lands in the middle.
        share = 1.0
        for _ in range(halvings):
            trial = at.copy()
            trial[which] += share * change
            rest_try, jac_try, store_try = _rest(assembly, trial, volumes, step)
            norm_try = _largest(rest_try[which])
            if norm_try < norm:
                break
            share /= 2
        if norm_try >= norm and (not leap or (far and norm <= loose)):
            break
        if norm_try > norm:
            near /= 2  # thrown from one side of a corner to the other
        elif far:
            near = min(2 * near, _NEAR)
        at, rest, jac, store, norm = trial, rest_try, jac_try, store_try, norm_try
        steepest = _largest(jac)
        enough = max(CLOSE * scale, 0.01 * rounding * step * steepest)
        loose = max(100 * CLOSE * scale, rounding * step * steepest)
    if not norm <= loose:
        return z, volumes, count, False
    if far:
        at = _polished(assembly, at, volumes, step, which, loose)
    return at, _left_with(assembly, at, volumes, step, free), count, True


def _largest(values: np.ndarray) -> float:
    """The greatest by size; of small arrays in half the time of ``max``."""
    return float(np.maximum.reduce(np.abs(values), axis=None))


def _polished(
    assembly: Assembly, at: np.ndarray, volumes: np.ndarray, step: float, which: np.ndarray, loose: float
) -> np.ndarray:
    """The end of a leap to its last digits: two cells in close touch take turns at what is left over, m³, long before
    their water together is settled.
    """
    for _ in range(_POLISHES):
        rest, jac, store = _rest(assembly, at, volumes, step)
        change = np.linalg.solve((store - step * jac)[np.ix_(which, which)], -rest[which])
        trial = at.copy()
        trial[which] += change
        if float(np.abs(_rest(assembly, trial, volumes, step)[0][which]).max()) > 2 * loose:
            break
        at = trial
        if _largest(change) < _SETTLED:
            break
    return at


def _left_with(assembly: Assembly, at: np.ndarray, volumes: np.ndarray, step: float, free: np.ndarray) -> np.ndarray:
    """Volumes in m³ after a step to these levels in m, which are set for sinks that drain."""
    # Volumes from the levels; what the equations leave over is rounding. Sinks take what the others lost.
    new = np.where(free, assembly.stored(at)[0], volumes)
    sinks = np.flatnonzero(assembly.sinks)
    if sinks.size and (free | assembly.sinks).all():
        net, _ = assembly.balance(at)
        new[sinks] += step * net[sinks]
        lost = float(volumes.sum()) - float(new.sum())
        new[sinks[np.argmax(new[sinks])]] += lost if new[sinks].max() > 0 else 0.0
        for i in np.flatnonzero(assembly.drains & (new > 0)):
            at[i] = assembly.network.cells[i].curve.level(new[i])
    return new


class _Between:
    """Where each level's end lies, as far as a leap has seen: over what held too little, under what held too much.

    A cell that runs dry has no slope at its floor and far too steep a one a millimetre over it: Newton is thrown from
    the one to the other for ever, halves close in on what lies between. What flows in from elsewhere moves the end, so
    that a bound that was not met again for three halves is let go.
    """

    def __init__(self, size: int):
        """Of so many cells nothing is known."""
        self._low, self._high = np.full(size, -np.inf), np.full(size, np.inf)
        self._same = np.zeros(size, dtype=int)  # times on one side, one after the other
        self._side = np.zeros(size)

    def held(self, at: np.ndarray, rest: np.ndarray, change: np.ndarray, far: bool) -> np.ndarray:
        """The change in m, halfway to the other side where it would leave what is left between; ``rest`` in m³. A step
        that is no leap to the end is left as it is.
        """
        if not far:
            return change
        side = np.sign(rest)
        self._low = np.where(side < 0, at, self._low)
        self._high = np.where(side > 0, at, self._high)
        self._same = np.where(side == self._side, self._same + 1, 0)
        self._side = side
        old = self._same >= _HALVES
        self._low[(old & (side > 0)) | (self._low >= self._high)] = -np.inf
        self._high[(old & (side < 0)) | (self._low >= self._high)] = np.inf
        self._same[old] = 0
        to = at + change
        out = np.flatnonzero(((to <= self._low) & (side > 0)) | ((to >= self._high) & (side < 0)))
        between = self._low[out] / 2 + self._high[out] / 2
        change[out] = np.where(np.isfinite(between), between - at[out], change[out])
        return change


class Stepped(NamedTuple):
    """A step's end: levels m (cells,), volumes m³ (cells,), how far off in m, and what every way passed, m³ (ways,)."""

    levels: np.ndarray
    volumes: np.ndarray
    error: float
    passed: np.ndarray


def double_step(
    assembly: Assembly, z: np.ndarray, volumes: np.ndarray, step: float, comes: np.ndarray | float = 0.0
) -> Stepped | None:
    """One step in s once whole and once in halves, put together to second order; ``comes`` m³/s by cell besides what
    the ways bring.

    What the ways passed is put together alike, so that it makes the volumes but for what Newton left over. None where
    Newton does not close.
    """
    free = ~assembly.sinks
    whole = advance(assembly, z, volumes + step * comes, step, free)
    if not whole[3]:
        return None
    at_once = step * assembly.way_flows(whole[0])
    half = step / 2 * comes
    first = _half(assembly, z, volumes + half, step / 2, free, (z + whole[0]) / 2)
    if first is None:
        return None
    in_halves = step / 2 * assembly.way_flows(first[0])
    second = _half(assembly, first[0], first[1] + half, step / 2, free, whole[0])
    if second is None:
        return None
    in_halves += step / 2 * assembly.way_flows(second[0])
    error = float(np.abs(second[0] - whole[0])[free].max())
    better = 2 * second[1] - whole[1]
    if (better[free] < 0).any() or (better[assembly.drains] < volumes[assembly.drains] - 1e-15).any():
        return Stepped(
            second[0], second[1], error, in_halves
        )  # near a floor, or at a first drop over a rim, first order is the safe one
    at = assembly.levels(better, second[0])
    return Stepped(_set_right(assembly, at, better, free), better, error, 2 * in_halves - at_once)


def _set_right(assembly: Assembly, z: np.ndarray, volumes: np.ndarray, free: np.ndarray) -> np.ndarray:
    """Levels in m at which the cells with their pipes hold these volumes, where z are not those already.

    Where a pipe fills or empties within millimetres, levels told from volumes near by may be far off.
    """
    if float(np.abs(assembly.stored(z)[0] - volumes)[free].max()) < _TOLD:
        return z
    return advance(assembly, z, volumes, 0.0, free, leap=True)[0]


def _half(
    assembly: Assembly, z: np.ndarray, volumes: np.ndarray, step: float, free: np.ndarray, guess: np.ndarray
) -> tuple[np.ndarray, np.ndarray] | None:
    """A half step from a good guess, or without it where that fails."""
    start = np.where(free, guess, z)
    done = advance(assembly, z, volumes, step, free, start)
    if not done[3]:
        done = advance(assembly, z, volumes, step, free, start, leap=True)
    if not done[3]:
        done = advance(assembly, z, volumes, step, free)
    return (done[0], done[1]) if done[3] else None


def _rest(
    assembly: Assembly, z: np.ndarray, volumes: np.ndarray, step: float
) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
    """What is unbalanced after a step, m³, with the slopes of the flows and of what is stored."""
    net, jac = assembly.balance(z)
    stored, store = assembly.stored(z)
    return stored - volumes - step * net, jac, store
