"""Whether a point of a drawing touches a shape of it."""

from __future__ import annotations

import itertools


def inside(x: float, y: float, points: tuple[tuple[float, float], ...]) -> bool:
    """Whether a point is in a polygon."""
    within = False
    for (x0, y0), (x1, y1) in zip(points, (*points[1:], points[0]), strict=True):
        if (y0 > y) != (y1 > y) and x < (x1 - x0) * (y - y0) / (y1 - y0) + x0:
            within = not within
    return within


def near(x: float, y: float, points: tuple[tuple[float, float], ...], reach: float) -> bool:
    """Whether a point is within reach of a line of several parts."""
    for (x0, y0), (x1, y1) in itertools.pairwise(points):
        length = (x1 - x0) ** 2 + (y1 - y0) ** 2
        t = 0.0 if not length else max(0.0, min(1.0, ((x - x0) * (x1 - x0) + (y - y0) * (y1 - y0)) / length))
        if (x - x0 - t * (x1 - x0)) ** 2 + (y - y0 - t * (y1 - y0)) ** 2 < reach**2:
            return True
    return False
