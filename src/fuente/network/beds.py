"""Laws of what filters put in the water's way: beds and holes by a straight and a square loss, floats on a pipe."""

from __future__ import annotations

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property

import numpy as np

from fuente.hydraulics.drains import smooth_step
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.porous import Porous
from fuente.network.laws import Bulkhead
from fuente.network.model import NO_FLOW, NOTHING, Piped, Way, WayKind
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


@dataclass(frozen=True)
class Bed:
    """A bed, sponge or row of holes between two waters: its lower edge at ``foot`` m, and its height in m.

    Water stands against it over its wetted share. ``dirt`` multiplies the loss of ``soft``, what clogs; ``hard`` is
    holes and bends.
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
        q, slope = self._whole.flow_and_slope(up - low)
        share, by_share = (wet / self.height, 1 / self.height) if wet < self.height else (1.0, 0.0)
        return q * share, slope * share + q * by_share, -slope * share if down > self.foot else 0.0

    @cached_property
    def _whole(self) -> Resistance:
        return self.soft.times(self.dirt) + self.hard


@dataclass(frozen=True)
class Through(Piped):
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

    def held(self, a: float, b: float) -> Flow:
        """What its pipes hold."""
        v, by_a, by_b = self.one.held(a, b)
        return self.count * v, self.count * by_a, self.count * by_b

    def _forward(self, up: float, down: float, n: float) -> Flow:
        bed, one = self._bed, self.one
        base = max(down, one.sill)  # a pipe that ends in air has no head below its sill
        opening = one.opening(up)
        if opening is None or up <= base:
            return NO_FLOW
        # What the pipe gives falls as the head between pipe and bed rises, and what the bed passes rises: where they
        # meet. Free of the bed's water, the pipe's flow is one number and the bed's head follows from it.
        free = n * one.passes(opening, base)[0]
        low, high = base, up
        middle = min(base + bed.loss(free), up)
        for _ in range(60):
            q, _, by_down = one.passes(opening, middle)
            through, slope = bed.flow_and_slope(middle - base)
            rest = n * q - through
            if rest > 0:
                low = middle
            else:
                high = middle
            step = middle + rest / max(slope - n * by_down, 1e-12)
            if abs(step - middle) < 1e-14:
                break
            middle = step if low < step < high else (low + high) / 2
        q, by_up, by_middle = one.passes(opening, middle)
        through, slope = bed.flow_and_slope(middle - base)
        whole = slope - n * by_middle
        share = slope / whole if whole > 0 else 0.0
        by_a = n * by_up * share
        by_b = -slope * (-n * by_middle) / whole if whole > 0 and down >= base else 0.0
        return through, by_a, by_b

    @cached_property
    def _bed(self) -> Resistance:
        return self.soft.times(self.dirt)


@dataclass(frozen=True)
class FloatFed(Piped):
    """A pipe under water with a float valve that holds the lower water at ``level`` m, opening over ``band`` m below
    it.
    """

    one: Bulkhead
    count: int
    level: float
    band: float
    stuck: str = ""  # "open" or "shut"

    def flow(self, a: float, b: float) -> Flow:
        """What the pipe gives by the share that the float opens; never back."""
        q, by_a, by_b, by_float = self.by_float(a, b, b)
        return q, by_a, by_b + by_float

    def held(self, a: float, b: float) -> Flow:
        """What its pipes hold: the float sits at their end."""
        v, by_a, by_b = self.one.held(a, a)
        return self.count * v, self.count * (by_a + by_b), 0.0

    def by_float(self, a: float, b: float, floated: float) -> tuple[float, float, float, float]:
        """Flow and its slopes by the levels before it, after it, and where the float hangs."""
        if self.stuck == "shut" or a <= b:
            return 0.0, 0.0, 0.0, 0.0
        share, slope = smooth_step((self.level - floated) / self.band) if not self.stuck else (1.0, 0.0)
        if share <= 0:
            return 0.0, 0.0, 0.0, 0.0
        q, by_a, by_b = self.one.flow(a, b)
        n = self.count
        return n * q * share, n * by_a * share, n * by_b * share, -n * q * slope / self.band


class FloatedFeed:
    """A pipe from one water into another whose float hangs in a third; see network.model.Group."""

    forks = False

    def __init__(self, key: str, name: str, a: str, b: str, floated: str, valve: FloatFed, owner: str = ""):
        self.key, self.name, self.valve, self.owner = key, name, valve, owner
        self.cells = (a, b, floated)
        self.pairs = ((a, b),)
        self.ways = (Way(key, name, a, b, WayKind.PIPE, owner),)

    def stuck(self, how: str) -> FloatedFeed:
        """The same with its float stuck "open", "shut" or free ("")."""
        a, b, floated = self.cells
        return FloatedFeed(self.key, self.name, a, b, floated, replace(self.valve, stuck=how), self.owner)

    def scratch(self, flows: Mapping[str, float]) -> None:
        """It is answered at once, and remembers nothing."""

    def exchange(self, levels: Sequence[float], scratch: None = None) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """See network.model.Group."""
        q, by_a, by_b, by_float = self.valve.by_float(*levels)
        slopes = np.array([by_a, by_b, by_float])
        return np.array([-q, q, 0.0]), np.vstack((-slopes, slopes, np.zeros(3))), np.array([q])

    def heads(self, levels: Sequence[float], flows: Mapping[str, float] = NOTHING) -> Mapping[str, float]:
        """It has no inner nodes."""
        return {}

    def held(self, levels: Sequence[float]) -> None:
        """A short pipe; what it holds is not counted."""


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
        q, slope = self._holes.flow_and_slope(a - base)
        return q, slope, -slope if b > self.floor else 0.0

    @cached_property
    def _holes(self) -> Resistance:
        return hole_loss(self.area)


def pipe_of(bore: float, length: float, k: float, roughness: float, water: Water) -> Pipe:
    """A pipe with its losses, never without a length."""
    return Pipe(bore, max(length, 0.02), k, roughness, water)


@dataclass(frozen=True)
class Sealed:
    """A closed line from open water into a closed vessel, a bed in a row with it: suction reaches through it.

    ``intake`` m is where it draws air once the open water falls there; the vessel's level is its head. ``soft`` is what
    catches dirt, and ``rest`` what stands in the row and catches none.
    """

    intake: float
    pipe: Pipe
    count: int
    soft: Resistance = Resistance()
    dirt: float = 1.0
    open_share: float = 1.0
    rest: Resistance = Resistance()

    def flow(self, a: float, b: float) -> Flow:
        """By the two heads, the pipes side by side and the bed after them; back it falls to the intake at
        the lowest.
        """
        n = self.count * self.open_share
        if n <= 0:
            return NO_FLOW
        if a < b:
            low = max(a, self.intake)
            if b <= low:
                return NO_FLOW
            q, slope = self._through(b - low, n)
            return -q, slope if a > self.intake else 0.0, -slope
        wet, by_wet = smooth_step((a - self.intake) / 0.01)
        if wet <= 0:
            return NO_FLOW
        q, slope = self._through(a - b, n)
        return q * wet, slope * wet + q * by_wet / 0.01, -slope * wet

    def _through(self, drop: float, n: float) -> tuple[float, float]:
        bed = self._bed
        guess = min(
            n * self.pipe.flow_and_slope(drop)[0], bed.flow_and_slope(drop)[0] if bed != Resistance() else math.inf
        )
        low, high = 0.0, max(guess, 1e-12)
        q, slope = high, 1.0
        for _ in range(60):
            lost, by_flow = self.pipe.loss_and_slope(q / n)
            rest = drop - lost - bed.loss(q)
            slope = by_flow / n + bed.straight + 2 * bed.square * q
            low, high = (q, high) if rest > 0 else (low, q)
            step = q + rest / slope
            if not low <= step <= high:
                step = (low + high) / 2
            if abs(step - q) <= 1e-14 + 1e-12 * q:
                break
            q = step
        return q, 1.0 / slope

    @cached_property
    def _bed(self) -> Resistance:
        return self.soft.times(self.dirt) + self.rest


@dataclass(frozen=True)
class Film:
    """Water that runs down a packing, held in it as a film: out of a cell whose volume is what hangs there.

    ``floor`` m and ``area`` m² turn the cell's level into that volume; V = hold · Q^0.6 m³, as films on packings keep.
    """

    floor: float
    area: float
    hold: float

    def flow(self, a: float, b: float) -> Flow:
        """Downwards only."""
        held = (a - self.floor) * self.area
        if held <= 0:
            return NO_FLOW
        q = (held / self.hold) ** (5 / 3)
        return q, 5 / 3 * q / held * self.area, 0.0
