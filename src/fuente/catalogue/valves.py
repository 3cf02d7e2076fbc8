"""Loss coefficients of valves by how far they are open."""

from __future__ import annotations

import math

from fuente.catalogue.loader import tables


def valve_k(opening: float) -> float:
    """Loss coefficient of a gate valve at a share of opening (0.02 to 1); log interpolation, ±50 %."""
    table = tables()["gate_valve"]
    return _log_between(table["opening"], table["k"], opening)


SHUT_ANGLE = 72.0  # degrees from open at which a ball valve passes nothing to speak of


def ball_valve_k(angle: float) -> float | None:
    """Loss coefficient of a ball valve with its handle turned by an angle in degrees from open; None where it is shut.

    Weisbach's values, log interpolation, on to 72°; ±30 %, more near shut, where valves differ.
    """
    if angle >= SHUT_ANGLE:
        return None
    table = tables()["ball_valve"]
    angles, ks = table["angle"], table["k"]
    if angle > angles[-1]:
        return float(ks[-1] * (ks[-1] / ks[-2]) ** ((angle - angles[-1]) / (angles[-1] - angles[-2])))
    return _log_between(angles, ks, angle)


def ball_valve_angle(k: float) -> float:
    """The angle in degrees from open at which a ball valve has a loss coefficient: the inverse of ball_valve_k."""
    table = tables()["ball_valve"]
    angles, ks = table["angle"], table["k"]
    if k > ks[-1]:
        more = math.log(k / ks[-1]) / math.log(ks[-1] / ks[-2]) * (angles[-1] - angles[-2])
        return float(min(angles[-1] + more, SHUT_ANGLE))
    return _log_inverse(angles, ks, k)


def _log_between(xs: list[float], ks: list[float], x: float) -> float:
    x = min(max(x, xs[0]), xs[-1])
    for x0, x1, k0, k1 in zip(xs, xs[1:], ks, ks[1:], strict=False):
        if x <= x1:
            return float(k0 * (k1 / k0) ** ((x - x0) / (x1 - x0)))
    return float(ks[-1])


def _log_inverse(xs: list[float], ks: list[float], k: float) -> float:
    low, high = min(ks), max(ks)
    k = min(max(k, low), high)
    for x0, x1, k0, k1 in zip(xs, xs[1:], ks, ks[1:], strict=False):
        if min(k0, k1) <= k <= max(k0, k1):
            return float(x0 + (x1 - x0) * math.log(k / k0) / math.log(k1 / k0))
    return float(xs[-1])
