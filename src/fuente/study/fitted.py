"""What the builder's tests say of a start: how many bacteria there were at first, and how much surface works."""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from typing import TYPE_CHECKING, NamedTuple

import numpy as np

from fuente.errors import EntryError
from fuente.life.inputs import (
    AMMONIA,
    NITRATE,
    NITRITE,
)
from fuente.life.nitrifiers import GROWTH, Growth
from fuente.life.renewal import NITRATE_ION
from fuente.study.weeks import DAY, Start, Weeks, weeks

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

_BITE = 0.1e-3  # kg/m³ that a test for ammonia or nitrite is off at least, and for nitrate fifty times that
_SHARE = 0.2  # of what it reads, besides
_SEEDS, _RATES = math.log(10.0), 0.4  # how sure both are without tests: a factor of ten, ±40 %
_STEPS = 5
_BY = (0.3, 0.1)  # by which both are changed to see what comes of it, in logarithms
_CLOSE = 0.03
_ROUGH = 5e-4  # of a value a step: far under what a test is off


class Seen(NamedTuple):
    """A test so many s after the start: ammonia and nitrite kg/m³ as nitrogen, nitrate as NO₃; None for what was not
    tested.
    """

    time: float
    ammonia: float | None
    nitrite: float | None
    nitrate: float | None


@dataclass(frozen=True)
class Fitted:
    """First bacteria and effective surface as factors of what is thought, the growth with both, the weeks by it, and by
    how many s animals may come later than thought (None where either never ends).
    """

    seed: float
    surface: float
    growth: Growth
    made: Weeks
    later: float | None


def fitted(study: Analysis, tank: str, seen: Sequence[Seen], start: Start, days: float = 84.0) -> Fitted:
    """The start that goes best through the tests, as far as they outweigh what is thought without them: least squares
    of what tests are off (0.1 mg/L and a fifth; nitrate 5 mg/L), with a factor of ten for first bacteria and ±40 % for
    surface beside them. Raises EntryError without tests.
    """
    if not seen:
        raise EntryError("Write down a test first.")
    last = max(s.time for s in seen) / DAY
    days = max(days, min(last + 1.0, 3650.0))

    def run(at: np.ndarray) -> Weeks:
        return weeks(study, days, start, growth=_growth(at), rtol=_ROUGH)

    usual = run(np.zeros(2))
    at, made = _searched(run, usual, tank, seen)
    later = None
    if made.ready is not None and usual.ready is not None:
        later = made.ready - usual.ready
    return Fitted(float(np.exp(at[0])), float(np.exp(at[1])), _growth(at), made, later)


def _growth(at: np.ndarray) -> Growth:
    seed, rate = np.exp(at)
    return replace(
        GROWTH,
        seed=min(float(GROWTH.seed * seed), 0.9),
        most_a=float(GROWTH.most_a * rate),
        most_n=float(GROWTH.most_n * rate),
    )


def _searched(
    run: Callable[[np.ndarray], Weeks], usual: Weeks, tank: str, seen: Sequence[Seen]
) -> tuple[np.ndarray, Weeks]:
    """Gauss and Newton's steps for the logarithms of both factors, halved where they make it worse."""
    at, made = np.zeros(2), usual
    off = _off(made, tank, seen, at)
    for _ in range(_STEPS):
        slopes = []
        for k, by in enumerate(_BY):
            other = at.copy()
            other[k] += by
            slopes.append((_off(run(other), tank, seen, other) - off) / by)
        slope = np.array(slopes).T
        change = np.linalg.lstsq(slope, -off, rcond=None)[0]
        change = np.clip(change, (-3.0, -0.5), (3.0, 0.5))
        for _ in range(3):
            tried = at + change
            there = run(tried)
            new = _off(there, tank, seen, tried)
            if new @ new < off @ off:
                break
            change = change / 2
        else:
            return at, made
        at, made, off = tried, there, new
        if np.abs(change).max() < _CLOSE:
            break
    return at, made


def _off(made: Weeks, tank: str, seen: Sequence[Seen], at: np.ndarray) -> np.ndarray:
    """How far tests and thoughts are off, each by how sure it is."""
    found = [at[0] / _SEEDS, at[1] / _RATES]
    for what, name, size, least in (
        (AMMONIA, "ammonia", 1.0, _BITE),
        (NITRITE, "nitrite", 1.0, _BITE),
        (NITRATE, "nitrate", NITRATE_ION, 50 * _BITE),
    ):
        values = made.of(what, tank) * size
        for each in seen:
            read = getattr(each, name)
            if read is not None:
                there = float(np.interp(each.time, made.times, values))
                found.append((there - read) / (least + _SHARE * read))
    return np.array(found)
