"""Laws of what filters put in the water's way: beds and holes by a straight and a square loss, floats on a pipe."""

from __future__ import annotations

import math
from dataclasses import dataclass

from fuente.hydraulics.drains import smooth_step
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import Porous
from fuente.network.laws import Bulkhead
from fuente.network.model import NO_FLOW
from fuente.water.properties import GRAVITY, Water

Flow = tuple[float, float, float]
HOLE_C = 0.62  # of a sharp-edged hole
_LEAST_STRAIGHT = 0.05  # s/m²: keeps a hole's slope at rest finite; 0.005 mm at 360 L/h


@dataclass(frozen=True)
class Resistance:
    """Head lost in m as straight·Q + square·Q², Q in m³/s. Losses in a row add up."""

    straight: float = 0.0
    square: float = 0.0

    def __add__(self, other: Resistance) -> Resistance:
        return Resistance(self.straight + other.straight, self.square + other.square)

    def times(self, factor: float) -> Resistance:
        """So much more of it, as dirt makes it."""
        return Resistance(self.straight * factor, self.square * factor)

    def loss(self, flow: float) -> float:
        """Head lost in m at a flow in m³/s, either way."""
        return self.straight * flow + self.square * flow * abs(flow)

    def flow_and_slope(self, drop: float) -> tuple[float, float]:
        """Flow in m³/s at a drop in m ≥ 0, and its slope."""
        a = max(self.straight, _LEAST_STRAIGHT)
        root = math.sqrt(a * a + 4 * self.square * drop)
        return 2 * drop / (a + root), 1 / root


def bed_loss(medium: Porous, area: float, thickness: float, water: Water) -> Resistance:
    """A porous layer of a face in m² and a thickness in m along the flow: Darcy–Forchheimer."""
    weight = water.density * GRAVITY
    return Resistance(
        water.viscosity * thickness / (medium.permeability * area * weight),
        medium.inertia * thickness / (area**2 * GRAVITY),
    )


def hole_loss(area: float, coefficient: float = HOLE_C) -> Resistance:
    """Holes of an area in m² in all: Δh = (Q/(C·A))²/2g."""
    return Resistance(0.0, 1 / (2 * GRAVITY * (coefficient * area) ** 2))


def pipe_k_loss(bore: float, k: float) -> Resistance:
    """Fittings of a loss coefficient on a bore in m."""
    return Resistance(0.0, k / (2 * GRAVITY * (math.pi / 4 * bore**2) ** 2))


@dataclass(frozen=True)
class Bed:
    """A bed, sponge or row of holes between two waters: its lower edge at ``foot`` m, and its height in m.

    Water stands against it over its wetted share. ``dirt`` multiplies the loss of ``soft``, what clogs; ``hard`` is holes and
    bends.
    """

    foot: float
    height: float
    soft: Resistance
    hard: Resistance = Resistance()
    dirt: float = 1.0

    def flow(self, a: float, b: float) -> Flow:
        """Through it, either way."""
        if a >= b:
            return self._forward(a, b)
        q, by_up, by_down = self._forward(b, a)
        return -q, -by_down, -by_up

    def _forward(self, up: float, down: float) -> Flow:
        wet = up - self.foot
        if wet <= 0:
            return NO_FLOW
        low = max(down, self.foot)
        q, slope = (self.soft.times(self.dirt) + self.hard).flow_and_slope(up - low)
        share, by_share = (wet / self.height, 1 / self.height) if wet < self.height else (1.0, 0.0)
        return q * share, slope * share + q * by_share, -slope * share if down > self.foot else 0.0


@dataclass(frozen=True)
class Through:
    """A pipe under water, or several alike, with a bed in a row: how a drum's bed is fed from below.

    ``one`` is a pipe with its place in the wall; the bed takes all its flow.
    """

    one: Bulkhead
    count: int
    soft: Resistance
    dirt: float = 1.0
    open_share: float = 1.0

    def flow(self, a: float, b: float) -> Flow:
        """The drop shared between pipes and bed, either way: the point in between by Newton in a bracket."""
        n = self.count * self.open_share
        if n <= 0:
            return NO_FLOW
        if a >= b:
            return self._forward(a, b, n)
        q, by_up, by_down = self._forward(b, a, n)
        return -q, -by_down, -by_up

    def _forward(self, up: float, down: float, n: float) -> Flow:
        bed = self.soft.times(self.dirt)
        base = max(down, self.one.centre - self.one.pipe.bore / 2)  # a pipe that ends in air has no head below its sill
        if up <= base:
            return NO_FLOW
        low, high = base, up
        middle = base + 0.5 * (up - base)
        for _ in range(60):  # the head between pipe and bed
            q, _, by_down = self.one.flow(up, middle)
            through, slope = bed.flow_and_slope(middle - base)
            rest = n * q - through
            if rest > 0:
                low = middle
            else:
                high = middle
            step = middle + rest / max(slope - n * by_down, 1e-12)
            if not low < step < high:
                step = (low + high) / 2
            if abs(step - middle) < 1e-14:
                break
            middle = step
        q, by_up, by_middle = self.one.flow(up, middle)
        through, slope = bed.flow_and_slope(middle - base)
        whole = slope - n * by_middle
        share = slope / whole if whole > 0 else 0.0
        by_a = n * by_up * share
        by_b = -slope * (-n * by_middle) / whole if whole > 0 and down >= base else 0.0
        return through, by_a, by_b


@dataclass(frozen=True)
class FloatFed:
    """A pipe under water with a float valve that holds the lower water at ``level`` m, opening over ``band`` m below it."""

    one: Bulkhead
    count: int
    level: float
    band: float
    stuck: str = ""  # "open" or "shut"

    def flow(self, a: float, b: float) -> Flow:
        """What the pipe gives by the share that the float opens; never back."""
        if self.stuck == "shut" or a <= b:
            return NO_FLOW
        share, slope = smooth_step((self.level - b) / self.band) if not self.stuck else (1.0, 0.0)
        if share <= 0:
            return NO_FLOW
        q, by_a, by_b = self.one.flow(a, b)
        n = self.count
        return n * q * share, n * by_a * share, n * (by_b * share - q * slope / self.band)


@dataclass(frozen=True)
class Drips:
    """A tray with holes: elevation of its floor in m, area of the holes in m². Downwards only."""

    floor: float
    area: float

    def flow(self, a: float, b: float) -> Flow:
        """Free jets under the tray's depth; what stands below does not hold them back until it drowns the tray."""
        base = max(b, self.floor)
        if a <= base:
            return NO_FLOW
        q, slope = hole_loss(self.area).flow_and_slope(a - base)
        return q, slope, -slope if b > self.floor else 0.0


def pipe_of(bore: float, length: float, k: float, roughness: float, water: Water) -> Pipe:
    """A pipe with its losses, never without a length."""
    return Pipe(bore, max(length, 0.02), k, roughness, water)
