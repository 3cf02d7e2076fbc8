"""Pump curves and the point at which a pump works."""

from __future__ import annotations

import itertools
import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property

from fuente.errors import FuenteError, PumpTooWeak


@dataclass(frozen=True)
class PumpCurve:
    """Head in m against flow in m³/s.

    From a maker's points (flow, head), interpolated monotonically (PCHIP), or, where there are none, a parabola through
    the two numbers on the box, which is a guess of about ±15 %. ``speed`` is the share of full speed (affinity laws),
    ``wear`` multiplies the head.
    """

    max_head: float
    max_flow: float
    points: tuple[tuple[float, float], ...] = ()
    speed: float = 1.0
    wear: float = 1.0

    def __post_init__(self) -> None:
        if not (self.max_head > 0 and self.max_flow > 0):
            raise FuenteError("A pump needs a greatest head and a greatest flow above zero.")
        if self.points:
            flows = [q for q, _ in self.points]
            heads = [h for _, h in self.points]
            if len(self.points) < 2 or any(b <= a for a, b in itertools.pairwise(flows)):
                raise FuenteError("A pump curve needs two points or more with rising flow.")
            if any(b >= a for a, b in itertools.pairwise(heads)):
                raise FuenteError("A pump's head must fall as its flow rises.")

    @classmethod
    def from_points(cls, points: Sequence[tuple[float, float]]) -> PumpCurve:
        """Curve through (flow m³/s, head m), in rising flow."""
        ordered = tuple(sorted((float(q), float(h)) for q, h in points))
        if len(ordered) < 2:
            raise FuenteError("A pump curve needs two points or more.")
        return cls(max(h for _, h in ordered), max(q for q, _ in ordered), ordered)

    @property
    def is_guess(self) -> bool:
        """Whether only the two numbers on the box are known."""
        return not self.points

    @cached_property
    def _shape(self) -> Callable[[float], tuple[float, float]]:
        if not self.points:
            top, most = self.max_head, self.max_flow

            def parabola(q: float) -> tuple[float, float]:
                x = q / most
                return top * (1 - x * x), -2 * top * x / most

            return parabola
        if len(self.points) == 2:  # PCHIP through two points is a straight line
            (q0, h0), (q1, h1) = self.points
            fall = (h1 - h0) / (q1 - q0)
            return lambda x: (h0 + fall * (x - q0), fall)
        from scipy.interpolate import PchipInterpolator

        q, h = zip(*self.points, strict=True)
        curve = PchipInterpolator(q, h, extrapolate=False)
        slope = curve.derivative()
        first_slope = min(float(slope(q[0])), 0.0)
        last_slope = min(float(slope(q[-1])), (h[-1] - h[-2]) / (q[-1] - q[-2]))

        def pchip(x: float) -> tuple[float, float]:
            if x <= q[0]:
                return h[0] + first_slope * (x - q[0]), first_slope
            if x >= q[-1]:
                return h[-1] + last_slope * (x - q[-1]), last_slope
            return float(curve(x)), float(slope(x))

        return pchip

    def head(self, flow: float) -> float:
        """Head in m at a flow in m³/s; below zero past the greatest flow."""
        return self.head_and_slope(flow)[0]

    def head_and_slope(self, flow: float) -> tuple[float, float]:
        """Head in m and its derivative by flow."""
        n = self.speed
        head, slope = self._shape(flow / n)
        return self.wear * n * n * head, self.wear * n * slope

    @cached_property
    def shutoff(self) -> float:
        """Head in m at no flow."""
        return self.head(0.0)


def bracketed_root(rest: Callable[[float], float], low: float, high: float, rounds: int = 200) -> float:
    """Where a function that changes sign once between two points is nothing; bisection with secant steps inside it."""
    at_low, at_high = rest(low), rest(high)
    if at_low == 0 or (at_low > 0) == (at_high > 0):
        return low if abs(at_low) < abs(at_high) else high
    for n in range(rounds):
        middle = (low + high) / 2
        if n % 3 and at_high != at_low:
            secant = high - at_high * (high - low) / (at_high - at_low)
            if low < secant < high:
                middle = secant
        value = rest(middle)
        if value == 0 or high - low < 1e-13 * max(abs(high), 1e-300):
            return middle
        if (value > 0) == (at_low > 0):
            low, at_low = middle, value
        else:
            high, at_high = middle, value
    return (low + high) / 2


def operating_point(
    curve: PumpCurve,
    lift: float,
    loss: Callable[[float], tuple[float, float]],
    what: str = "the tank",
    guess: float = 0.0,
) -> tuple[float, float, float]:
    """Flow m³/s, head m, and the flow's derivative by lift (m²/s).

    ``lift`` m is the static head, ``loss`` gives head lost and its slope at a flow. The root of
    H(Q) − lift − loss(Q), which only falls, by Newton held inside a bracket. Raises PumpTooWeak.
    """
    shutoff = curve.shutoff
    if shutoff <= lift:
        raise PumpTooWeak(
            f"The pump does not reach {what}: it lifts {shutoff:.2f} m at most and the lift is {lift:.2f} m."
        )
    low, high = 0.0, curve.max_flow * curve.speed
    if not guess:
        while curve.head(high) - lift - loss(high)[0] > 0:
            high *= 1.5
    elif guess >= high:
        high = 1.5 * guess
    flow = guess if low < guess < high else high * math.sqrt(max(0.02, 1 - lift / shutoff)) * 0.7
    slope, rest = -1.0, 0.0
    for _ in range(60):
        head, head_slope = curve.head_and_slope(flow)
        lost, loss_slope = loss(flow)
        rest, slope = head - lift - lost, head_slope - loss_slope
        if rest > 0:
            low = flow
        else:
            high = flow
        step = flow - rest / slope if slope < 0 else (low + high) / 2
        if not low <= step <= high:
            step = (low + high) / 2
        if abs(step - flow) <= 1e-12 * curve.max_flow:
            flow = step
            break
        flow = step
    if rest > 1e-9:  # the guess had hidden a root beyond the bracket
        return operating_point(curve, lift, loss, what)
    return flow, curve.head(flow), 1 / slope
