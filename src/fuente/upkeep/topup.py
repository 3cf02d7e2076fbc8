"""What is topped up against what should dry: a leak is what no evaporation explains."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from fuente.study.analysis import Analysis
from fuente.study.living import LivingWater

DAY = 86400.0
SURE = 0.4  # of evaporation: air, draught and season are guesses
_LATE = 21 * DAY  # what counts as now


@dataclass(frozen=True)
class Drying:
    """Water in m³/s: what is topped up now, what was before, and what should dry by the model; how sure the first is
    (one standard error); whether more goes than dries, and since when it is more than before (s since 1970).
    """

    now: float
    before: float | None
    expected: float
    sure: float
    leaks: bool
    rose: bool


def expected_drying(study: Analysis) -> float:
    """What dries from all water, m³/s; ±40 %."""
    water = LivingWater(study)
    found = float(np.sum(water.inputs.dried))
    return found


def drying(rows: Sequence[tuple[float, float]], today: float, expected: float) -> Drying | None:
    """From top-ups (s since 1970, m³) and what should dry in m³/s; None with fewer than three. The first one fills up
    what dried before the log began, and does not count.
    """
    rows = sorted(rows)
    if len(rows) < 3:
        return None
    split = max(today - _LATE, rows[0][0])
    late = _rate([r for r in rows if r[0] >= split] if sum(r[0] >= split for r in rows) >= 3 else rows[-3:])
    early_rows = [r for r in rows if r[0] < split]
    early = _rate(early_rows) if len(early_rows) >= 4 else None
    now, sure = late
    leaks = now - 2 * sure > expected * (1 + 2 * SURE)
    rose = early is not None and now - early[0] > 2.5 * float(np.hypot(sure, early[1])) and now > 1.4 * early[0]
    return Drying(now, early[0] if early else None, expected, sure, leaks, rose)


def _rate(rows: Sequence[tuple[float, float]]) -> tuple[float, float]:
    """m³/s between the first and the last of some top-ups, and its standard error by how they differ."""
    times, volumes = np.array([t for t, _ in rows]), np.array([v for _, v in rows])
    spans = np.maximum(np.diff(times), 3600.0)
    each = volumes[1:] / spans
    whole = float(volumes[1:].sum() / spans.sum())
    if len(each) < 2:
        return whole, 0.3 * whole
    weights = spans / spans.sum()
    spread = float(np.sqrt((weights * (each - whole) ** 2).sum() / (len(each) - 1)))
    return whole, max(spread, 0.05 * whole)


def litres(flow: float) -> float:
    """L a day of m³/s."""
    return flow * DAY * 1e3
