"""New water: what a change or a drip renews, and what would keep nitrate under a limit."""

from __future__ import annotations

import math

from fuente.errors import EntryError

NITRATE_ION = 62.0049 / 14.0067  # kg of NO₃ by kg of its nitrogen: what tests read
DAY = 86400.0


def batch_share(made: float, volume: float, interval: float, limit: float, new: float) -> float:
    """Share to change at each interval in s, so that what is made, kg/s in m³, stands at the limit just before: the
    peak is new + made·T/(V·s).

    A gram a week in 100 L, up to 20 mg/L with clean new water: half.

    >>> batch_share(1e-3 / 604800, 0.1, 604800, 20e-3, 0.0)
    0.5
    """
    if limit <= new:
        return math.inf
    return made * interval / (volume * (limit - new))


def drip_share(made: float, volume: float, limit: float, new: float) -> float:
    """Share of the volume that a drip brings in a day, for the same: it stands at new + made/Q."""
    return math.inf if limit <= new else made * DAY / (volume * (limit - new))


def drip_renews(share: float) -> float:
    """What a drip of so much of a volume a day has renewed after that day: 1 − e^(−d), as new water leaves too.

    >>> round(drip_renews(0.05), 4)
    0.0488
    """
    if share < 0:
        raise EntryError("A drip brings something, or nothing.")
    return 1.0 - math.exp(-share)
