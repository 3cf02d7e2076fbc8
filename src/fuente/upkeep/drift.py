"""Whether something drifts: a thermometer from what the heater is set to, a flow from what it was.

A self-starting cumulative sum (Hawkins 1987): each reading is compared with all before it, so that no quiet time has
to be known beforehand, and what is left scatters as a bell. The threshold follows from how rare a false alarm is to
be (Siegmund 1985), not from a rule of thumb.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np

RARE = 0.03  # of quiet years in which it may cry
SLACK = 0.5  # of the usual scatter: half of the shift that is looked for
_FEW = 5  # readings before it begins to judge


@dataclass(frozen=True)
class Drift:
    """A drift: from when on (s since 1970), when it was noticed, and by how much what is now differs from before, with
    how sure that is (one standard error).
    """

    since: float
    noticed: float
    shift: float
    sure: float


@lru_cache(maxsize=64)
def threshold(readings: int, rare: float = RARE, slack: float = SLACK) -> float:
    """Height in standard deviations at which two sums, up and down, cry in a share ``rare`` of quiet rows of so many
    readings: Siegmund's run length (e^(2kb) − 2kb − 1)/(2k²), b = h + 1.166.

    >>> round(threshold(365), 1)
    8.2
    """
    length = 2 * max(readings, 1) / -math.log1p(-rare)
    low, high = 1.0, 60.0
    for _ in range(60):
        h = (low + high) / 2
        x = 2 * slack * (h + 1.166)
        run = (math.exp(min(x, 600.0)) - x - 1) / (2 * slack**2)
        low, high = (h, high) if run < length else (low, h)
    return high


def drift(rows: Sequence[tuple[float, float]], scatter: float, a_year: int = 365) -> Drift | None:
    """Whether values (s since 1970, value) drift, and since when; None while they do not. ``scatter`` is the least that
    a reading is off by. ``a_year`` is how many readings a year has, for how rare an alarm is to be.
    """
    times, values = np.array([t for t, _ in rows], dtype=float), np.array([v for _, v in rows], dtype=float)
    if len(values) < _FEW + 1:
        return None
    h = threshold(max(a_year, 12))
    up = down = 0.0
    began_up = began_down = 0
    mean, square, count = float(values[0]), 0.0, 1
    for k in range(1, len(values)):
        sd = math.sqrt(max(square / (count - 1) if count > 1 else 0.0, scatter**2))
        if count >= _FEW:
            t = (values[k] - mean) / (sd * math.sqrt(1 + 1 / count))
            z = _bell(float(t), count - 1)
            z = min(max(z, -4.0), 4.0)  # one odd reading is no drift
            up, down = max(0.0, up + z - SLACK), max(0.0, down - z - SLACK)
            began_up, began_down = (k if up == 0 else began_up), (k if down == 0 else began_down)
            if up > h or down > h:
                return _told(times, values, began_up if up > h else began_down, k)
            if abs(t) > 6:
                continue  # nor does it teach
        count += 1
        step = float(values[k]) - mean
        mean += step / count
        square += step * (float(values[k]) - mean)
    return None


def _told(times: np.ndarray, values: np.ndarray, began: int, noticed: int) -> Drift:
    """What is now against what was before the sum rose."""
    began = max(began, 1)
    before, since = values[: began + 1], values[began + 1 :]
    late = since[-max(len(since) // 2, 1) :]
    shift = float(np.median(late) - np.mean(before))
    sd = float(np.std(before, ddof=1)) if len(before) > 1 else 0.0
    return Drift(float(times[began]), float(times[noticed]), shift, sd * math.sqrt(1 / len(before) + 1 / len(late)))


def _bell(t: float, free: int) -> float:
    """Student's t as a standard normal of the same chance (Wallace 1959; 1e-2 for 4 degrees and more)."""
    if free < 1:
        return 0.0
    z = math.sqrt(free * math.log1p(t * t / free)) * (8 * free + 1) / (8 * free + 3)
    return math.copysign(z, t)
