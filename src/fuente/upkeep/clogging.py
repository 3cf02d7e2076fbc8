"""How a pad clogs, from the differences of levels that were written down: the curve of each stretch between two
cleanings, the date of its threshold with a band, and readings that do not fit.

Loss grows with the dirt that is caught. Whether by a constant amount (a straight line), by a constant share (an
exponential) or between (a square) is not known beforehand: each is tried on all stretches, and weighted by how well it
fits. A stretch that has few readings leans on those before it, and the first one on the design. Cleaning begins anew.
"""

from __future__ import annotations

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

import numpy as np

DAY = 86400.0
READS = 1.0e-3  # m, how sure a ruler is: a millimetre
PART = 0.06  # of a difference: waves, flow of that day
_FIRST = 0.3  # how sure the design is of a clean pad's loss, as a share (foam and media ±30 %)
_PACE = 0.7  # how sure a usual interval is of the first stretch's pace, as a share
_BETWEEN = (0.15, 0.3)  # share by which clean loss, and pace, differ from stretch to stretch, until that is seen
_DRAWS = 4000
_ODD = 4.0  # times its usual scatter: a reading that is flagged
_LATEST = 20 * 365 * DAY


@dataclass(frozen=True)
class Shape:
    """A way to grow: what of a difference goes straight with time, and back; how likely it is ``beforehand``."""

    name: str
    beforehand: float
    straight: Callable[[np.ndarray], np.ndarray]
    slope: Callable[[np.ndarray], np.ndarray]
    back: Callable[[np.ndarray], np.ndarray]


_HIGHEST = 20.0  # of a logarithm: no level comes near it
# Dirt narrows what is left open, so that the loss grows the faster the more there is.
SHAPES = (
    Shape("straight", 0.2, lambda y: y, lambda y: np.ones_like(y), lambda g: g),
    Shape(
        "square",
        0.3,
        lambda y: np.sqrt(y),
        lambda y: 0.5 / np.sqrt(np.maximum(y, 1e-9)),
        lambda g: np.maximum(g, 0.0) ** 2,
    ),
    Shape(
        "exponential",
        0.5,
        lambda y: np.log(y),
        lambda y: 1.0 / np.maximum(y, 1e-9),
        lambda g: np.exp(np.minimum(g, _HIGHEST)),
    ),
)


@dataclass(frozen=True)
class Stretch:
    """Readings from one cleaning to the next: when it began and ended (s since 1970; the last has no end), times and
    differences in m, and which of them are odd.
    """

    begins: float
    ends: float | None
    times: np.ndarray
    drops: np.ndarray
    odd: np.ndarray

    @property
    def age(self) -> np.ndarray:
        """s since it began."""
        found: np.ndarray = self.times - self.begins
        return found


@dataclass(frozen=True)
class Clog:
    """What is known of a place that clogs: its stretches, by time its curve with an 80 % band (each an array over
    ``at``, s since 1970), and when it reaches ``limit`` m: the middle, the early and the late of 80 %; None where it
    does not within twenty years.
    """

    stretches: tuple[Stretch, ...]
    limit: float
    at: np.ndarray
    curve: np.ndarray
    low: np.ndarray
    high: np.ndarray
    due: float | None
    early: float | None
    late: float | None
    shape: str

    @property
    def now(self) -> float:
        """What it has reached at its last reading's time, m."""
        return float(self.curve[-1]) if self.curve.size else 0.0


def stretches(
    readings: Sequence[tuple[float, float]], cleanings: Sequence[float], begins: float
) -> tuple[Stretch, ...]:
    """Readings (s since 1970, m) between cleanings; the first stretch begins at the start of all."""
    starts = sorted({begins, *(c for c in cleanings if c > begins)})
    rows = sorted(readings)
    found = []
    for k, start in enumerate(starts):
        end = starts[k + 1] if k + 1 < len(starts) else None
        # A reading of the very moment of cleaning is of what was clogged, and belongs to the stretch before.
        mine = [
            (t, y) for t, y in rows if (start < t or (k == 0 and t >= start)) and (end is None or t <= end) and y > 0
        ]
        times, drops = (np.array([row[i] for row in mine], dtype=float) for i in (0, 1))
        found.append(Stretch(start, end, times, drops, np.zeros(len(mine), dtype=bool)))
    return tuple(found)


@dataclass(frozen=True)
class _Line:
    """A stretch as a line of one shape: clean value and pace by s, with their covariance."""

    at: np.ndarray
    cov: np.ndarray


def clog(
    readings: Sequence[tuple[float, float]],
    cleanings: Sequence[float],
    begins: float,
    clean: float,
    limit: float,
    usual: float,
    today: float,
    seed: int = 0,
) -> Clog | None:
    """Learn from readings (s since 1970, m) and cleanings: ``clean`` m of the design when it is clean, ``limit`` m at
    which it is due, ``usual`` s in which that is thought to be. None without a reading. Times are s since 1970.
    """
    rows = stretches(readings, cleanings, begins)
    if not any(s.times.size for s in rows):
        return None
    clean = max(clean, 2e-4)
    limit = max(limit, 1.2 * clean)
    rng = np.random.default_rng(seed)
    fits = [_fitted(rows, shape, clean, limit, usual) for shape in SHAPES]
    evidence = np.array([f[2] for f in fits]) + np.log([shape.beforehand for shape in SHAPES])
    weights = np.exp(evidence - evidence.max())
    weights /= weights.sum()
    best = int(weights.argmax())
    flagged = tuple(
        Stretch(s.begins, s.ends, s.times, s.drops, odd) for s, odd in zip(rows, fits[best][3], strict=True)
    )
    now = rows[-1]
    last = max(today, float(now.times[-1]) if now.times.size else today)
    counts = rng.multinomial(_DRAWS, weights)
    paths: list[tuple[Shape, np.ndarray]] = [
        (SHAPES[k], _drawn(fits[k][0][-1], int(counts[k]), fits[k][1], rng)) for k in range(len(SHAPES)) if counts[k]
    ]
    due = np.concatenate([_reached(shape, lines, limit) for shape, lines in paths])
    middle, early, late = (float(np.quantile(due, q, method="closest_observation")) for q in (0.5, 0.1, 0.9))
    until = max(last - now.begins, min(late, 3 * max(middle, DAY)) if math.isfinite(middle) else last - now.begins, DAY)
    ages = np.linspace(0.0, until, 60)
    drawn = np.concatenate([shape.back(lines[:, :1] + lines[:, 1:] * ages) for shape, lines in paths])
    curve, low, high = (np.quantile(drawn, q, axis=0) for q in (0.5, 0.1, 0.9))

    def moment(age: float) -> float | None:
        return now.begins + age if math.isfinite(age) and age < _LATEST else None

    return Clog(
        flagged,
        limit,
        now.begins + ages,
        curve,
        low,
        high,
        moment(middle),
        moment(early),
        moment(late),
        SHAPES[best].name,
    )


def curve_of(stretch: Stretch, made: Clog, points: int = 40) -> tuple[np.ndarray, np.ndarray]:
    """A closed stretch's own curve, by time: a fit to it alone by the shape that fits all of them best."""
    shape = next(s for s in SHAPES if s.name == made.shape)
    end = stretch.ends if stretch.ends is not None else float(stretch.times[-1])
    ages = np.linspace(0.0, end - stretch.begins, points)
    good = ~stretch.odd
    if good.sum() < 2:
        level = float(np.median(stretch.drops)) if stretch.drops.size else 0.0
        return stretch.begins + ages, np.full(points, level)
    y = np.maximum(stretch.drops[good], 1e-4)
    weight = 1.0 / (_scatter(y) * shape.slope(y))
    a = np.column_stack((np.ones(good.sum()), stretch.age[good])) * weight[:, None]
    line, *_ = np.linalg.lstsq(a, shape.straight(y) * weight, rcond=None)
    return stretch.begins + ages, shape.back(line[0] + line[1] * ages)


def _scatter(drops: np.ndarray) -> np.ndarray:
    """How far a reading lies from the truth, m."""
    found: np.ndarray = np.sqrt(READS**2 + (PART * drops) ** 2)
    return found


def _fitted(
    rows: Sequence[Stretch], shape: Shape, clean: float, limit: float, usual: float
) -> tuple[list[_Line], float, float, list[np.ndarray]]:
    """Lines of all stretches by one shape, each leaning on those before it; degrees of freedom of the scatter; how
    likely the readings are by it (log, per all of them); which are odd.
    """
    ends = shape.straight(np.array([clean, limit]))
    tone = float(shape.slope(np.array([clean]))[0])
    pace = float(ends[1] - ends[0]) / usual
    first = np.array([_FIRST * clean * tone, _PACE * pace])
    mean, cov = np.array([float(ends[0]), pace]), np.diag(first**2)
    lines: list[_Line] = []
    odd: list[np.ndarray] = []
    likely, count, squares = 0.0, 0, 0.0
    known: list[_Line] = []
    for row in rows:
        if known:
            mean, cov = _next(known, tone * clean, pace)
        line, chi, logs, out = _updated(row, shape, mean, cov)
        lines.append(line)
        odd.append(out)
        likely += logs
        squares += chi
        count += int((~out).sum())
        if (~out).sum() >= 3 and row.ends is not None:
            known.append(line)
    free = max(count - 2 * sum(1 for r in rows if r.times.size), 0) + 4.0
    # The usual scatter counts as four readings; what is seen corrects it, either way.
    scale = (squares + 4.0) / free
    lines = [_Line(line.at, line.cov * max(scale, 0.25)) for line in lines]
    return lines, free, likely, odd


def _next(known: Sequence[_Line], low: float, pace: float) -> tuple[np.ndarray, np.ndarray]:
    """What the stretches before say of the next: their mean, and how they differ."""
    at = np.array([line.at for line in known])
    mean = at.mean(axis=0)
    usual = np.array([_BETWEEN[0] * low, _BETWEEN[1] * max(abs(mean[1]), 0.1 * pace)])
    n = len(known)
    seen = ((at - mean) ** 2).sum(axis=0)
    # The usual difference counts as three stretches.
    spread = (seen + 3 * usual**2) / (n - 1 + 3)
    return mean, np.diag(spread * (1 + 1 / n))


def _updated(row: Stretch, shape: Shape, mean: np.ndarray, cov: np.ndarray) -> tuple[_Line, float, float, np.ndarray]:
    """A line by its readings on what was thought of it before; their squares, how likely they were, which are odd."""
    size = row.times.size
    if not size:
        return _Line(mean, cov), 0.0, 0.0, np.zeros(0, dtype=bool)
    y = np.maximum(row.drops, 1e-4)
    a = np.column_stack((np.ones(size), row.age))
    out = np.zeros(size, dtype=bool)
    prior, at = np.linalg.inv(cov), mean
    for _ in range(4):
        middle = shape.back(a @ at)
        steep = shape.slope(np.clip(middle, 2e-4, None))
        sd = _scatter(np.clip(middle, 2e-4, None)) * steep
        good = ~out
        w = good / sd**2
        at_cov = np.linalg.inv(prior + (a * w[:, None]).T @ a)
        at = at_cov @ (prior @ mean + (a * w[:, None]).T @ shape.straight(y))
        off = np.abs(row.drops - shape.back(a @ at)) / _scatter(shape.back(a @ at))
        usual = max(float(np.median(off)) / 0.6745, 1.0)
        now = off > _ODD * usual
        if size < 4 or (now == out).all():
            break
        out = now
    good = ~out
    off = (row.drops - shape.back(a @ at)) / _scatter(shape.back(a @ at))
    chi = float((off[good] ** 2).sum())
    # Marginal likelihood of the readings in m, so that shapes compare.
    spread = np.diag(sd**2) + a @ cov @ a.T
    away = shape.straight(y) - a @ mean
    keep = np.flatnonzero(good)
    s, d = spread[np.ix_(keep, keep)], away[keep]
    _, logdet = np.linalg.slogdet(s)
    logs = -0.5 * float(d @ np.linalg.solve(s, d)) - 0.5 * float(logdet) + float(np.log(shape.slope(y[keep])).sum())
    return _Line(at, at_cov), chi, logs, out


def _drawn(line: _Line, count: int, free: float, rng: np.random.Generator) -> np.ndarray:
    """Lines as likely as they are, (count, 2); with few readings they scatter more widely than a bell."""
    root = np.linalg.cholesky(line.cov + 1e-300 * np.eye(2))
    bell = rng.standard_normal((count, 2)) @ root.T
    wide = np.sqrt(free / rng.chisquare(free, count))[:, None]
    found: np.ndarray = line.at + bell * wide
    return found


def _reached(shape: Shape, lines: np.ndarray, limit: float) -> np.ndarray:
    """s after its beginning at which each line is at the limit; infinite where it never is."""
    aim = float(shape.straight(np.array([limit]))[0])
    with np.errstate(divide="ignore", invalid="ignore"):
        age = np.where(lines[:, 1] > 0, (aim - lines[:, 0]) / lines[:, 1], np.inf)
    return np.maximum(age, 0.0)
