"""Laws of what joins whole systems: headers and gutters, lines between sumps, top-up, drips, siphons over a rim."""

from __future__ import annotations

import math
from dataclasses import dataclass, replace
from functools import cached_property

from fuente.hydraulics.drains import smooth_step, standpipe_flow
from fuente.hydraulics.header import MANNING_PLASTIC, gutter_flow, pipe_flow
from fuente.hydraulics.pipes import Pipe
from fuente.network.laws import Bulkhead, Standpipe
from fuente.network.model import NO_FLOW, Piped

Flow = tuple[float, float, float]
FULL = 0.93  # of its bore: where a round header carries most


@dataclass(frozen=True)
class Header(Piped):
    """A sloping pipe (``width`` 0) or an open gutter that falls into a down pipe.

    invert elevation in m of its low end, bore or height in m, slope m/m, length m; the down pipe with its exit loss
    lets go at ``release`` m.
    """

    invert: float
    bore: float
    width: float
    slope: float
    length: float
    down: Pipe
    release: float
    open_share: float = 1.0

    def flow(self, a: float, b: float) -> Flow:
        """Manning along the header, surcharged once it is full, and the down pipe's mouth in line; downwards only."""
        depth = a - self.invert
        base = max(self.release, b)
        if depth <= 0 or a <= base or self.open_share <= 0:
            return NO_FLOW
        along, along_slope = self._along(depth)
        bore = self.down.bore
        down, by_head, by_drop = standpipe_flow(depth, a - base, self.down, 0.5 * bore, 1.2 * bore)
        if along <= 0 or down <= 0:
            return NO_FLOW
        # Whichever passes less is what counts, rounded off where they meet.
        total = along**-4 + down**-4
        flow = total**-0.25
        by_along, by_down = (flow / along) ** 5, (flow / down) ** 5
        s = self.open_share
        by_a = by_along * along_slope + by_down * (by_head + by_drop)
        return s * flow, s * by_a, -s * by_down * by_drop if b > self.release else 0.0

    def held(self, a: float, b: float) -> Flow:
        """What falls in its down pipe; what lies along it is its own cell's."""
        return self._down.held(a, b)

    @cached_property
    def _down(self) -> Standpipe:
        bore = self.down.bore
        return Standpipe(self.invert, self.release, self.down, 0.5 * bore, 1.2 * bore, self.open_share)

    def _along(self, depth: float) -> tuple[float, float]:
        if self.width > 0:
            return gutter_flow(self.width, self.slope, depth, MANNING_PLASTIC)
        full = FULL * self.bore
        flow, slope = pipe_flow(self.bore, self.slope, min(depth, full), MANNING_PLASTIC)
        if depth <= full:
            return flow, slope
        rise = max(self.slope * self.length, 1e-4)
        factor = math.sqrt(1 + (depth - full) / rise)
        return flow * factor, flow / (2 * rise * factor)


@dataclass(frozen=True)
class _Alike(Piped):
    """Several equal ways side by side, a share of them open."""

    one: Bulkhead | Standpipe
    count: int
    open_share: float = 1.0

    def flow(self, a: float, b: float) -> Flow:
        """So many times one."""
        n = self.count * self.open_share
        if n <= 0:
            return NO_FLOW
        q, by_a, by_b = self.one.flow(a, b)
        return n * q, n * by_a, n * by_b

    def held(self, a: float, b: float) -> Flow:
        """What all of them hold: a pipe that is blocked keeps its water."""
        v, by_a, by_b = self.one.held(a, b)
        return self.count * v, self.count * by_a, self.count * by_b


@dataclass(frozen=True)
class Lines(_Alike):
    """Bulkheads or pipes below water."""


@dataclass(frozen=True)
class Falls(_Alike):
    """Falling pipes. What blocks a share of them sits in their mouths."""

    def filled(self, a: float, b: float) -> float:
        """As of one of them."""
        assert isinstance(self.one, Standpipe)
        return self.one.filled(a, b)

    def held(self, a: float, b: float) -> Flow:
        """What those hold that still carry, and what stands in the others."""
        v, by_a, by_b = self._open.held(a, b)
        return self.count * v, self.count * by_a, self.count * by_b

    @cached_property
    def _open(self) -> Standpipe:
        assert isinstance(self.one, Standpipe)
        return replace(self.one, open_share=self.one.open_share * self.open_share)


@dataclass(frozen=True)
class FloatValve:
    """A float that lets water in from cell a while cell b is low.

    level m at which it is shut, band m below over which it opens, the most it passes in m³/s. ``floor`` m of the
    reservoir, None for the mains. stuck: "", "open" or "shut".
    """

    level: float
    band: float
    most: float
    floor: float | None
    stuck: str = ""

    def flow(self, a: float, b: float) -> Flow:
        """From the reservoir or the mains; never back."""
        if self.stuck == "shut":
            return NO_FLOW
        share, slope = smooth_step((self.level - b) / self.band) if not self.stuck else (1.0, 0.0)
        wet, wet_slope = (1.0, 0.0) if self.floor is None else smooth_step((a - self.floor) / 0.005)
        if share <= 0 or wet <= 0:
            return NO_FLOW
        q = self.most * share * wet
        return q, self.most * share * wet_slope / 0.005, -self.most * wet * slope / self.band


@dataclass(frozen=True)
class Feed:
    """A constant drip in m³/s."""

    rate: float

    def flow(self, a: float, b: float) -> Flow:
        """The same at any level."""
        return self.rate, 0.0, 0.0


@dataclass(frozen=True)
class RimSiphon(Piped):
    """A tube over a rim between two boxes, its ends at elevations in m; full once primed.

    It moves water either way between the two levels and breaks as the box it draws from falls to the tube's end. A tube
    that has lost its prime (``primed`` False) passes nothing.
    """

    end_a: float
    end_b: float
    tube: Pipe
    primed: bool = True

    def flow(self, a: float, b: float) -> Flow:
        """A full pipe between two levels; beyond an end in air, down to that end."""
        if not self.primed:
            return NO_FLOW
        if a >= b:
            return self._one_way(a, b, self.end_a, self.end_b)
        q, by_up, by_down = self._one_way(b, a, self.end_b, self.end_a)
        return -q, -by_down, -by_up

    def held(self, a: float, b: float) -> Flow:
        """Full while it is primed and the water that it would draw from covers its end."""
        if not self.primed:
            return NO_FLOW
        whole = self.tube.area * self.tube.length
        level, end = (a, self.end_a) if a >= b else (b, self.end_b)
        sealed, slope = smooth_step((level - end) / 0.004)
        slope *= whole / 0.004
        return whole * sealed, slope if a >= b else 0.0, 0.0 if a >= b else slope

    def _one_way(self, up: float, down: float, end_up: float, end_down: float) -> Flow:
        sealed, sealed_slope = smooth_step((up - end_up) / 0.004)
        low = max(down, end_down)
        if sealed <= 0 or up < low:
            return NO_FLOW
        q, slope = self.tube.flow_and_slope(up - low)
        return q * sealed, slope * sealed + q * sealed_slope / 0.004, -slope * sealed if down > end_down else 0.0
