"""The laws that links follow, on levels above the room's floor. Each is a hydraulics formula given a place."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from functools import cached_property
from typing import NamedTuple

from fuente.hydraulics.drains import (
    FULL_NEAR,
    HELD,
    Outfall,
    critical_outfall,
    fall_filled,
    mouth_flow,
    outfall,
    running_full,
    segment,
    standpipe_flow,
)
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import Porous, sheet_flow, wall_flow
from fuente.hydraulics.weirs import gap_flow, submerged_weir_flow
from fuente.network.model import NO_FLOW, Law, Piped
from fuente.water.properties import Water

Flow = tuple[float, float, float]
_NONE: Flow = NO_FLOW
_LEAVES = 0.7  # of its depth before: about where water leaves a round opening into air


def _both_ways(forward: Callable[[float, float], Flow], a: float, b: float) -> Flow:
    """Use a law that is written for a ≥ b in both directions."""
    if a >= b:
        return forward(a, b)
    q, by_up, by_down = forward(b, a)
    return -q, -by_down, -by_up


@dataclass(frozen=True)
class Weir:
    """A crest at an elevation in m, of a free length in m, with a height in m over the floor before it."""

    crest: float
    length: float
    height: float = 0.3

    def flow(self, a: float, b: float) -> Flow:
        """Kindsvater–Carter, submerged after Villemonte; either way."""
        crest = self.crest
        if a >= b:
            if a <= crest:
                return _NONE
            return submerged_weir_flow(a - crest, b - crest, self.length, self.height)
        if b <= crest:
            return _NONE
        q, by_up, by_down = submerged_weir_flow(b - crest, a - crest, self.length, self.height)
        return -q, -by_down, -by_up


@dataclass(frozen=True)
class Spill:
    """Water over a rim onto the floor."""

    rim: float
    length: float

    def flow(self, a: float, b: float) -> Flow:
        """A free weir; nothing comes back."""
        if a <= self.rim:
            return _NONE
        q, slope, _ = submerged_weir_flow(a - self.rim, -1.0, self.length, 0.3)
        return q, slope, 0.0


@dataclass(frozen=True)
class Gap:
    """An opening under a baffle: sill elevation, width and height in m."""

    sill: float
    width: float
    height: float

    def flow(self, a: float, b: float) -> Flow:
        """Submerged sluice, either way."""
        if a <= self.sill and b <= self.sill:
            return _NONE
        return _both_ways(lambda up, down: gap_flow(up - self.sill, down - self.sill, self.width, self.height), a, b)


@dataclass(frozen=True)
class Pad:
    """An upright pad or a bed crossed sideways: foot elevation, width, height, thickness in m."""

    foot: float
    width: float
    height: float
    thickness: float
    medium: Porous
    water: Water
    dirt: float | None = None  # times its clean loss that the medium stands for; None for what does not clog

    def flow(self, a: float, b: float) -> Flow:
        """Darcy–Forchheimer through the wetted face, either way."""
        if a <= self.foot and b <= self.foot:
            return _NONE
        return _both_ways(
            lambda up, down: wall_flow(
                up - self.foot, down - self.foot, self.width, self.height, self.thickness, self.medium, self.water
            ),
            a,
            b,
        )


@dataclass(frozen=True)
class Beside:
    """Two ways side by side between the same waters; the second is the one that filters nothing."""

    first: Law
    open: Law

    def flow(self, a: float, b: float) -> Flow:
        """Of both together."""
        one, other = self.first.flow(a, b), self.open.flow(a, b)
        return one[0] + other[0], one[1] + other[1], one[2] + other[2]

    def past(self, a: float, b: float) -> float:
        """Share of the water that goes by the open way, at levels in m."""
        whole = self.flow(a, b)[0]
        return self.open.flow(a, b)[0] / whole if abs(whole) > 1e-12 else 0.0


@dataclass(frozen=True)
class Sheet:
    """A sock or plate of a wetted area in m² over a foot elevation and a height in m."""

    foot: float
    height: float
    area: float
    thickness: float
    medium: Porous
    water: Water
    dirt: float | None = None  # as of a Pad

    def flow(self, a: float, b: float) -> Flow:
        """Through the part of the sheet that stands in water on its higher side, either way."""
        if a <= self.foot and b <= self.foot:
            return _NONE
        return _both_ways(self._forward, a, b)

    def _forward(self, up: float, down: float) -> Flow:
        wet = up - self.foot
        share, share_slope = (wet / self.height, 1 / self.height) if wet < self.height else (1.0, 0.0)
        low = max(down, self.foot)
        q, slope = sheet_flow(up - low, self.area, self.thickness, self.medium, self.water)
        return q * share, slope * share + q * share_slope, -slope * share if down > self.foot else 0.0


class Opening(NamedTuple):
    """A round opening under a level: that level's depth over its invert in m, what falls free out of it part full with
    its slope and its depth, and the weight of the full pipe with its slope.
    """

    depth: float
    free: Outfall
    full: float
    full_slope: float


@dataclass(frozen=True)
class Bulkhead(Piped):
    """A hole with a fitting through an upright wall: centre elevation in m and the pipe, exit loss included."""

    centre: float
    pipe: Pipe

    @property
    def sill(self) -> float:
        """Elevation in m of its invert."""
        return self.centre - self.pipe.bore / 2

    def flow(self, a: float, b: float) -> Flow:
        """Part full it falls free at critical depth, or is drowned by the water beyond; full it is a pipe between two
        levels. Either way.
        """
        return _both_ways(self._forward, a, b)

    def _forward(self, up: float, down: float) -> Flow:
        opening = self.opening(up)
        if opening is None or up < down:  # equal levels: no flow, but a way between them
            return _NONE
        return self.passes(opening, down)

    def opening(self, up: float) -> Opening | None:
        """What the higher level alone decides; None where it stands under the invert."""
        depth = up - self.sill
        if depth <= 0:
            return None
        full, slope = running_full(depth, self.pipe.bore)
        free = critical_outfall(depth, self.pipe) if full < 1 else Outfall(0.0, 0.0, 0.0)
        return Opening(depth, free, full, slope)

    def passes(self, opening: Opening, down: float) -> Flow:
        """Its flow against the lower level, and its slopes by both."""
        depth, free, full, full_slope = opening
        bore, after = self.pipe.bore, down - self.sill
        part: Flow = (free.flow, free.slope, 0.0)
        if full < 1 and after > free.depth:  # the water beyond stands over the depth at which it would leave
            area, width = segment(after, bore)
            speed, slope = self.pipe.flow_and_slope(depth - after)
            share = area / self.pipe.area
            if share * speed < free.flow:
                part = (share * speed, share * slope, width / self.pipe.area * speed - share * slope)
        if full <= 0:
            return part
        held = max(after, HELD * bore)
        whole, slope = self.pipe.flow_and_slope(depth - held)
        by_down = -slope if after > HELD * bore else 0.0
        return (
            part[0] + full * (whole - part[0]),
            part[1] + full * (slope - part[1]) + full_slope * (whole - part[0]),
            part[2] + full * (by_down - part[2]),
        )

    def held(self, a: float, b: float) -> Flow:
        """Its length by the mean of the sections at its ends: each as deep as the water there, and where it falls free
        about as deep as it leaves.
        """
        up, down = (a, b) if a >= b else (b, a)
        depth, bore = up - self.sill, self.pipe.bore
        if depth <= 0 or self.pipe.length <= 0:
            return _NONE
        leaves, by_depth = (_LEAVES * depth, _LEAVES) if _LEAVES * depth < HELD * bore else (HELD * bore, 0.0)
        after = max(down - self.sill, leaves)
        area, width = segment(depth, bore)
        area_after, width_after = segment(after, bore)
        half = self.pipe.length / 2
        by_up, by_down = half * width, 0.0
        if after > leaves:
            by_down = half * width_after
        else:
            by_up += half * width_after * by_depth
        held = half * (area + area_after)
        return (held, by_up, by_down) if a >= b else (held, by_down, by_up)


def drowned(level: float, low: float, high: float) -> tuple[float, float]:
    """Length in m of an upright pipe between two elevations in m that a level covers, and its slope: that much of it
    stands in the cell's own water, and is counted there.
    """
    if level <= low:
        return 0.0, 0.0
    return (level - low, 1.0) if level < high else (high - low, 0.0)


@dataclass(frozen=True)
class Standpipe(Piped):
    """A drain that falls: mouth and release elevations in m, the pipe with its exit loss, and where it primes, in m
    over its mouth.
    """

    mouth: float
    release: float
    pipe: Pipe
    prime_from: float
    prime_to: float
    open_share: float = 1.0  # 0 is a blocked drain
    side: Pipe | None = None  # where it leaves sideways through a wall: that opening; its mouth is then its invert

    def flow(self, a: float, b: float) -> Flow:
        """Weir, open channel, gulping and full, in one rising curve; downwards only."""
        if a <= self.mouth or self.open_share <= 0 or a <= b:
            return _NONE
        base = max(self.release, b)
        low = max(b, self.mouth)
        q, by_head, by_drop = standpipe_flow(
            a - low, a - base, self.pipe, self.prime_from, self.prime_to, self.side, self._taken
        )
        s = self.open_share
        by_b = -by_drop if b > self.release else 0.0
        if b > self.mouth:
            by_b -= by_head
        return s * q, s * (by_head + by_drop), s * by_b

    @cached_property
    def _most(self) -> float:
        """What its mouth passes just before it gulps, m³/s."""
        if self.prime_from <= 0:
            return 0.0
        bore, side = self.pipe.bore, self.side
        return (mouth_flow(self.prime_from, bore) if side is None else outfall(self.prime_from, side))[0]

    @cached_property
    def _taken(self) -> float:
        """Drop in m that its pipe wants for that."""
        return self.pipe.head_loss(self._most)

    @cached_property
    def _open_from(self) -> float:
        """Drop in m from which on that is far from all that its pipe carries."""
        return self.pipe.head_loss(self._most / FULL_NEAR)

    def _filled(self, a: float, b: float) -> tuple[float, float, float]:
        low, base = max(b, self.mouth), max(self.release, b)
        return fall_filled(a - low, a - base, self.pipe, self.prime_from, self.prime_to, self.side, self._open_from)

    def filled(self, a: float, b: float) -> float:
        """Share of its bore that what falls in it fills: 1 where it runs full, and no air comes with the water."""
        return self._filled(a, b)[0] if a > max(self.mouth, b) else 0.0

    def held(self, a: float, b: float) -> Flow:
        """What falls in it over the water that it ends in: a film, or all of it while it runs full."""
        if a <= self.mouth or a <= b or self.open_share <= 0:
            return _NONE
        s = self.open_share
        fills, by_head, by_drop = self._filled(a, b)
        under, by_under = drowned(b, self.release, self.mouth)
        whole = self.pipe.area * max(self.pipe.length - under, 0.0)
        by_b = -by_drop if b > self.release else 0.0
        if b > self.mouth:
            by_b -= by_head
        return (
            s * whole * fills,
            s * whole * (by_head + by_drop),
            s * (whole * by_b - self.pipe.area * by_under * fills),
        )
