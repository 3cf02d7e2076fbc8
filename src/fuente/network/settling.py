"""Where the water comes to rest, or to a steady flow, from a given state.

Implicit Euler on dV/dt = ΣQ with a step that grows as long as Newton finds it easy, from a second to many days. Every
step keeps the water; the end is either still water or a flow that no longer changes anything. What is spilled stays
spilled.
"""

from __future__ import annotations

from collections.abc import Mapping
from typing import NamedTuple

import numpy as np

from fuente.errors import SolveError
from fuente.network.assembly import Assembly
from fuente.network.model import NOTHING, Network, Solution

_CLOSE = 2e-15  # of all water: where a step is solved
_ROUNDING = 1e-14  # m: what a level's last digits may be off, times the steepest slope of flow
_FIRST = 0.5  # s
_SHARE = 4e-3  # m a step may be off while the water moves: where it can go two ways, this decides the share
_SLOW = 1e-4  # m/s: from here on nothing pours, it only drains and evens out
_LAST = 3e5  # s: the tail of a draining weir is then a few micrometres high
_LEAPT = 3e7  # s of a leap to the end: what drains ever more slowly is then under a twentieth of a millimetre
_STILL = 1e-12  # m/s: less than a millimetre in thirty years
_MOST = 10  # iterations before a step is cut
_LEAP = 80  # iterations from a guess, whose residual may first rise
_NEAR = 0.004  # m a level may move in one of them: a siphon that has just broken has no slope to hold Newton back


def settle(
    network: Network,
    start: Mapping[str, float],
    guess: Mapping[str, float] | None = None,
    flows: Mapping[str, float] = NOTHING,
) -> Solution:
    """Follow the water from levels (cell id → m) until it changes no more. Sinks start empty.

    ``guess``, the end of a similar case, is tried first, in one step that leaps to the end; not where a manifold joins
    many tanks, whose rest depends on the way there. ``flows`` are those of a state near by, as for Assembly. Water is
    kept to 1e-12 of the total. Raises SolveError where no step converges.
    """
    assembly = Assembly(network, flows)
    z = np.array([start.get(cell.id, cell.floor) for cell in network.cells])
    volumes, _ = assembly.storage(z)
    volumes[assembly.sinks] = 0.0
    total = float(volumes.sum())
    free = ~assembly.sinks
    count = 0
    if guess is not None and not any(group.forks for group in network.groups):
        near = np.array([guess.get(cell.id, level) for cell, level in zip(network.cells, z.tolist(), strict=True)])
        tried = advance(assembly, z, volumes, _LEAPT, free, near)
        if not tried[3]:
            count += tried[2]
            tried = advance(assembly, z, volumes, _LEAPT, free, near, leap=True)
        count += tried[2]
        if tried[3]:
            z, volumes = tried[0], tried[1]
            return _finish(assembly, z, volumes, total, count)
    z, volumes, used = follow(assembly, z, volumes, free)
    count += used
    return _finish(assembly, z, volumes, total, count)


def _finish(assembly: Assembly, z: np.ndarray, volumes: np.ndarray, total: float, count: int) -> Solution:
    # Rounding, far under a thousandth of a millilitre, goes to the largest body of water.
    largest = int(np.argmax(volumes))
    volumes[largest] += total - float(volumes.sum())
    net, _ = assembly.balance(z)
    return assembly.solution(z, volumes, float(np.abs(net[~assembly.sinks]).max()), count)


def follow(
    assembly: Assembly, z: np.ndarray, volumes: np.ndarray, free: np.ndarray, careful: bool = True
) -> tuple[np.ndarray, np.ndarray, int]:
    """Step by growing steps until the water changes no more; cells that are not free stay as they are, but for sinks.

    Careful steps keep the way of the water; others only care for where it ends.
    """
    count, step, last = 0, _FIRST, False
    pace = np.inf  # m/s of the fastest level in the last step
    while careful and (pace > _SLOW or step < 1.0):
        tried = double_step(assembly, z, volumes, step)
        count += 12
        if tried is None or (tried[2] > _SHARE and step > 1e-3):
            step /= 3.0
            if step < 1e-7 or count > 4000:
                break  # the plain steps below halve themselves as far as need be
            continue
        pace = float(np.abs(tried[0] - z).max()) / step
        z, volumes = tried[0], tried[1]
        step *= min(4.0, max(0.5, 0.8 * (_SHARE / max(tried[2], 1e-12)) ** 0.5))
        if step >= _LAST:
            break
    while True:
        at, stored, used, solved = advance(assembly, z, volumes, step, free)
        count += used
        if count > 4000:
            raise SolveError("The water finds no rest: the levels keep moving. Change the last thing you changed.")
        if solved:
            moved = float(np.abs(at - z).max())
            z, volumes = at, stored
            pace = moved / step
            if last or pace < _STILL:
                return z, volumes, count
            step *= 30.0 if moved < 1e-4 else 6.0 if used <= 4 else 2.5
            if step >= _LAST:
                step, last = _LAST, True
        else:
            if pace < 100 * _STILL:  # rounding, not water, is what keeps the last steps from closing
                return z, volumes, count
            last = False
            step /= 5.0
            if step < 1e-7:
                raise SolveError("The water levels could not be followed; this is Fuente's fault, not the design's.")


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
    which = np.flatnonzero(free)
    size = len(which)
    inner = (which[:, None] * len(free) + which).ravel()
    scale = float(volumes.sum()) or 1.0
    at = (z if guess is None else guess).copy()
    rest, jac, areas = _rest(assembly, at, volumes, step)
    norm = float(np.abs(rest[which]).max())
    count = 0
    enough = _CLOSE * scale
    near = _NEAR
    most, halvings = (_LEAP, 1) if leap else (_MOST, 4)
    while norm > enough and count < most:
        count += 1
        matrix = jac.take(inner).reshape(size, size)
        matrix *= -step
        matrix.flat[:: size + 1] += areas[which]
        change = np.linalg.solve(matrix, -rest[which])
        if float(np.abs(change).max()) < 1e-16:
            break
        if leap:
            np.clip(change, -near, near, out=change)
        # A square-root law makes full Newton steps swing from side to side: halving one lands in the middle.
        share = 1.0
        for _ in range(halvings):
            trial = at.copy()
            trial[which] += share * change
            rest_try, jac_try, areas_try = _rest(assembly, trial, volumes, step)
            norm_try = float(np.abs(rest_try[which]).max())
            if norm_try < norm:
                break
            share /= 2
        if norm_try >= norm and not leap:
            break
        if norm_try > norm:
            near /= 2  # thrown from one side of a corner to the other
        at, rest, jac, areas, norm = trial, rest_try, jac_try, areas_try, norm_try
        enough = max(_CLOSE * scale, 0.01 * _ROUNDING * step * float(np.abs(jac).max()))
    if not norm <= max(100 * _CLOSE * scale, _ROUNDING * step * float(np.abs(jac).max())):
        return z, volumes, count, False
    # Volumes from the levels; what the equations leave over is rounding. Sinks take what the others lost.
    new = np.where(free, assembly.storage(at)[0], volumes)
    sinks = np.flatnonzero(assembly.sinks)
    if sinks.size and (free | assembly.sinks).all():
        net, _ = assembly.balance(at)
        new[sinks] += step * net[sinks]
        lost = float(volumes.sum()) - float(new.sum())
        new[sinks[np.argmax(new[sinks])]] += lost if new[sinks].max() > 0 else 0.0
        for i in np.flatnonzero(assembly.drains & (new > 0)):
            at[i] = assembly.network.cells[i].curve.level(new[i])
    return at, new, count, True


class Stepped(NamedTuple):
    """A step's end: levels m (cells,), volumes m³ (cells,), how far off in m, and what every way passed, m³ (ways,)."""

    levels: np.ndarray
    volumes: np.ndarray
    error: float
    passed: np.ndarray


def double_step(assembly: Assembly, z: np.ndarray, volumes: np.ndarray, step: float) -> Stepped | None:
    """One step in s once whole and once in halves, put together to second order.

    What the ways passed is put together alike, so that it makes the volumes but for what Newton left over. None where
    Newton does not close.
    """
    free = ~assembly.sinks
    whole = advance(assembly, z, volumes, step, free)
    if not whole[3]:
        return None
    at_once = step * assembly.way_flows(whole[0])
    first = _half(assembly, z, volumes, step / 2, free, (z + whole[0]) / 2)
    if first is None:
        return None
    in_halves = step / 2 * assembly.way_flows(first[0])
    second = _half(assembly, first[0], first[1], step / 2, free, whole[0])
    if second is None:
        return None
    in_halves += step / 2 * assembly.way_flows(second[0])
    error = float(np.abs(second[0] - whole[0])[free].max())
    better = 2 * second[1] - whole[1]
    if (better[free] < 0).any() or (better[assembly.drains] < volumes[assembly.drains] - 1e-15).any():
        return Stepped(
            second[0], second[1], error, in_halves
        )  # near a floor, or at a first drop over a rim, first order is the safe one
    at = np.array([cell.curve.level(v) for cell, v in zip(assembly.network.cells, better.tolist(), strict=True)])
    return Stepped(at, better, error, 2 * in_halves - at_once)


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
    """What is unbalanced after a step, m³, with the flows' Jacobian and the areas."""
    net, jac = assembly.balance(z)
    stored, areas = assembly.storage(z)
    return stored - volumes - step * net, jac, areas
