"""Where what the water carries comes to rest: values at which nothing changes any more."""

from __future__ import annotations

from collections.abc import Callable

import numpy as np

from fuente import halting
from fuente.errors import SolveError
from fuente.network.pattern import pattern_of
from fuente.network.transport import System

_SEEN = 100.0  # times what is small of a value: what is as large may double at once
_CLOSE = 1e-4  # of a value, that a last whole step of Newton moves: what is left is its square


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
    pattern = pattern_of(first)
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
    pattern = pattern_of(system)
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
