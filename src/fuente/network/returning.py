"""The law of a return: a pump, its rising pipe and the outlets, forwards and as a siphon backwards."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

from fuente.errors import PumpTooWeak
from fuente.hydraulics.drains import smooth_step
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.pumps import PumpCurve, operating_point
from fuente.network.laws import drowned
from fuente.network.model import NO_FLOW, Piped
from fuente.water.properties import GRAVITY

Flow = tuple[float, float, float]
_NONE: Flow = NO_FLOW
_SIPHON_FADE = 0.004  # m over which a siphon's last gulp is spread
_DRY_FADE = 0.008  # m over the pump's intake in which it begins to suck air


@dataclass(frozen=True)
class Outlet:
    """A return outlet: mouth elevation in m, the elevation at which a back-siphon breaks, bore and loss k."""

    mouth: float
    breaks_at: float
    bore: float
    k: float

    @cached_property
    def conductance(self) -> float:
        """Flow in m³/s per square root of a metre of head."""
        return math.pi / 4 * self.bore**2 * math.sqrt(2 * GRAVITY / self.k)


@dataclass(frozen=True)
class ReturnLine(Piped):
    """Pump, rising pipe and outlets. ``leak`` is the share of the free back-flow that the check valve lets through."""

    curve: PumpCurve
    pipe: Pipe
    outlets: tuple[Outlet, ...]
    intake: float  # elevation below which the pump takes air
    on: bool = True
    leak: float = 0.02
    pump_k: float = 3.0  # loss backwards through a standing pump, on the pipe's bore
    reverse_k: float = 0.0  # what the held-open valve adds
    valve: bool = True  # whether there is a check valve at all
    lines: int = 1  # rising pipes alike, side by side
    holds: float | None = None  # m³ in one of them, where its pipe's length is not its own but one of equal loss

    back = True

    def flow(self, a: float, b: float) -> Flow:
        """From the pump chamber to the tank; negative as a back-siphon while the pump stands."""
        return self._pumped(a, b) if self.on else self._siphon(a, b)

    def loss(self, flow: float) -> tuple[float, float]:
        """Head lost in m at a flow in m³/s, and its slope: the pipe and the outlets side by side."""
        lost, slope = self.pipe.loss_and_slope(flow / self.lines)
        total = self._conductance
        return lost + (flow / total) ** 2, slope / self.lines + 2 * flow / total**2

    def lift(self, a: float, b: float) -> float:
        """Static head in m: to the tank's water, or to an outlet that stands above it."""
        return max(b, self._top) - a

    @cached_property
    def _top(self) -> float:
        return max(outlet.mouth for outlet in self.outlets)

    @cached_property
    def _conductance(self) -> float:
        return sum(outlet.conductance for outlet in self.outlets)

    def sprays(self, b: float) -> tuple[tuple[float, float], ...]:
        """Pumping into a level of ``b`` m: each outlet in air by its share of the flow and its free fall in m."""
        whole = self._conductance
        return tuple((o.conductance / whole, o.mouth - b) for o in self.outlets if o.mouth > b)

    @cached_property
    def _usual(self) -> tuple[float, float, float]:
        """Lift in m, flow and its slope by lift where the pump usually works: from its intake to its highest mouth, or
        at six tenths of what it lifts. Others are near by, and begin on the tangent there.
        """
        lift = min(self._top - self.intake, 0.6 * self.curve.shutoff)
        flow, _, slope = operating_point(self.curve, lift, self.loss)
        return lift, flow, slope

    def _pumped(self, a: float, b: float) -> Flow:
        wet, wet_slope = smooth_step((a - self.intake) / _DRY_FADE)
        if wet <= 0:
            return _NONE
        try:
            usual, flow, by_lift = self._usual
            lift = self.lift(a, b)
            guess = max(flow + by_lift * (lift - usual), 0.0)
            q, _, slope = operating_point(self.curve, lift, self.loss, guess=guess)
        except PumpTooWeak:
            return _NONE
        by_b = slope if b >= self._top else 0.0
        return q * wet, -slope * wet + q * wet_slope / _DRY_FADE, by_b * wet

    def _sealed(self, b: float) -> tuple[float, float]:
        """How far its siphon holds at the tank's level in m, and the slope: the outlets hang on one pipe, and air that
        the first of them draws breaks it for all.
        """
        share, slope = smooth_step((b - self._first_air) / _SIPHON_FADE)
        return share, slope / _SIPHON_FADE

    @cached_property
    def _first_air(self) -> float:
        return max(outlet.breaks_at for outlet in self.outlets)

    @property
    def contents(self) -> float:
        """Water in m³ that its rising pipes hold when full."""
        return (self.pipe.area * self.pipe.length if self.holds is None else self.holds) * self.lines

    def held(self, a: float, b: float) -> Flow:
        """Full over the water that it stands in while the pump pushes, behind a valve that is tight, and while it is a
        siphon; else empty.
        """
        under, by_under = drowned(a, self.intake, max(self._top, self.intake))
        area = self.pipe.area * self.lines
        whole, by_whole = self.contents - area * under, -area * by_under
        if whole <= 0:
            return _NONE
        if self.valve and self.leak <= 0:
            return whole, by_whole, 0.0
        full, by_b = self._sealed(b)
        by_a = 0.0
        if self.on:
            wet, by_wet = smooth_step((a - self.intake) / _DRY_FADE)
            by_a, by_b = (1 - full) * by_wet / _DRY_FADE, by_b * (1 - wet)
            full += (1 - full) * wet
        return whole * full, by_whole * full + whole * by_a, whole * by_b

    def _siphon(self, a: float, b: float) -> Flow:
        head = b - a
        if head <= 0 or self.leak <= 0:
            return _NONE
        share, share_slope = self._sealed(b)
        if share <= 0:
            return _NONE
        total = share * self._conductance
        total_slope = share_slope * self._conductance
        # The outlets as one loss on the pipe's bore, in series with pipe, valve and pump.
        total, total_slope = total / self.lines, total_slope / self.lines  # of one of the pipes
        k_out = 2 * GRAVITY * (self.pipe.area / total) ** 2
        whole = Pipe(
            self.pipe.bore,
            self.pipe.length,
            self.pipe.k + self.pump_k + self.reverse_k + k_out,
            self.pipe.roughness,
            self.pipe.water,
        )
        q, slope = whole.flow_and_slope(head)
        q *= self.leak * self.lines
        slope *= self.leak * self.lines
        by_k = q / (2 * max(whole.k, 1e-9)) * (2 * k_out / total) * total_slope
        return -q, slope, -slope - by_k
