"""Water lifted by air in a tube: slug and churn flow after Stenning and Martin, drift flux beside it, bubbly wide
tubes.
"""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np

from fuente.errors import FuenteError
from fuente.hydraulics.drains import smooth_step
from fuente.hydraulics.pumps import bracketed_root
from fuente.water.properties import GRAVITY

SLUGS_TO, BUBBLY_FROM = 0.06, 0.1  # m: narrower tubes slug, wider ones with fine bubbles stay bubbly; between, a part
USUAL_DOUBT, MOST_DOUBT = 0.25, 0.9  # of what is lifted
_BUBBLE_RISE = 0.25  # m/s in bubbly flow
_C0_SLUG, _C0_BUBBLY = 1.2, 1.05
_DRIFT = 0.35


def _check(bore: float, length: float, submergence: float, air: float) -> None:
    if not (bore > 0 and length > 0 and air >= 0):
        raise FuenteError("An airlift needs a bore, a length above the injector, and air.")
    if not 0 < submergence <= length:
        raise FuenteError(
            "The submergence is the part of the lift's length that stands under water: above zero, not more."
        )


def airlift_flow(
    bore: float, length: float, submergence: float, air: float, friction_factor: float = 0.025, k: float = 0.0
) -> float:
    """Water flow in m³/s. bore m, length m of tube over the injector, submergence m, air m³/s at mean tube pressure.

    Stenning and Martin 1968: Hs/L − 1/(1 + Qg/(s·Qf)) = Vf²/(2gL)·[(K+1) + (K+2)·Qg/Qf], K = f·L/D + k, slip
    s = 1.2 + 0.2·Qg/Qf + 0.35·√(gD)/Vf. k holds whatever is in series: sponge, bed, bends. Bores 10 to 80 mm; ±25 %.
    """
    _check(bore, length, submergence, air)
    if air == 0:
        return 0.0
    area = math.pi / 4 * bore**2
    loss = friction_factor * length / bore + k
    slip = _DRIFT * math.sqrt(GRAVITY * bore)

    def rest(water: float) -> float:
        speed, ratio = water / area, air / water
        s = 1.2 + 0.2 * ratio + slip / speed
        return (
            submergence / length
            - 1 / (1 + ratio / s)
            - speed**2 / (2 * GRAVITY * length) * (loss + 1 + (loss + 2) * ratio)
        )

    return _lifted(rest, area)


def drift_flux_flow(
    bore: float, length: float, submergence: float, air: float, friction_factor: float = 0.025, k: float = 0.0
) -> float:
    """The same by drift flux: void = jg/(C0·j + drift), homogeneous friction, momentum of the liquid that speeds up.

    Nicklin 1962 with C0 = 1.2 and a drift of 0.35·√(gD), less in narrow tubes by their Eötvös number (Reinemann et al.
    1990); from 100 mm on bubbly flow with 0.25 m/s, and a smooth way over from 60 mm. A check on the other model, and
    the one for wide tubes; ±25 %.
    """
    _check(bore, length, submergence, air)
    if air == 0:
        return 0.0
    area = math.pi / 4 * bore**2
    wide, _ = smooth_step((bore - SLUGS_TO) / (BUBBLY_FROM - SLUGS_TO))
    eotvos = 1000 * GRAVITY * bore**2 / 0.072
    slugs = _DRIFT * math.sqrt(GRAVITY * bore) * max(1 - 3.18 / eotvos - 14.77 / eotvos**2, 0.0)
    drift = slugs + wide * (_BUBBLE_RISE - slugs)
    c0 = _C0_SLUG + wide * (_C0_BUBBLY - _C0_SLUG)

    def rest(water: float) -> float:
        liquid, gas = water / area, air / area
        total = liquid + gas
        void = gas / (c0 * total + drift)
        friction = (friction_factor * length / bore + k) * total**2 * (1 - void)
        momentum = 2 * liquid * liquid / (1 - void)
        return submergence / length - (1 - void) - (friction + momentum) / (2 * GRAVITY * length)

    return _lifted(rest, area)


def lift_doubt(bore: float, length: float, submergence: float, air: float, k: float = 0.0) -> float:
    """How far off a lift may be, as a share of what it lifts: a quarter, or as much as the two models part, nine tenths
    at most. Near its onset, where one of them still lifts nothing, that is nearly all of it. Arguments as above.
    """
    lifted = airlift_flow(bore, length, submergence, air, k=k)
    if lifted <= 0:
        return MOST_DOUBT
    apart = abs(drift_flux_flow(bore, length, submergence, air, k=k) / lifted - 1)
    return min(max(apart, USUAL_DOUBT), MOST_DOUBT)


def _lifted(rest, area: float) -> float:  # type: ignore[no-untyped-def]
    """The flow at which the balance closes; none where the water does not reach the top."""
    low, high = 1e-9 * area, 5.0 * area
    if rest(low) <= 0:
        return 0.0
    return float(bracketed_root(rest, low, high))


def best_air(
    bore: float, length: float, submergence: float, friction_factor: float = 0.025, k: float = 0.0
) -> tuple[float, float]:
    """Air flow in m³/s that lifts most, and the water that it lifts: beyond it more air lifts less.

    Golden-section search; the top is flat, so that half of this air lifts nearly as much.
    """
    golden = (math.sqrt(5) - 1) / 2
    low, high = 0.0, 2.0 * math.pi / 4 * bore**2

    def lifted(air: float) -> float:
        return airlift_flow(bore, length, submergence, air, friction_factor, k)

    a, b = high - golden * (high - low), low + golden * (high - low)
    fa, fb = lifted(a), lifted(b)
    for _ in range(60):
        if fa < fb:
            low, a, fa = a, b, fb
            b = low + golden * (high - low)
            fb = lifted(b)
        else:
            high, b, fb = b, a, fa
            a = high - golden * (high - low)
            fa = lifted(a)
    best = (low + high) / 2
    return best, lifted(best)


_LEAST_STRAIGHT = 0.05  # s/m²: keeps a wide tube's slope at rest finite; 0.005 mm at 360 L/h
FEW = 40  # tubes up to which one after the other is quicker than arrays
_SLOW_REYNOLDS = 500.0  # under which a tube's laminar loss counts beside its friction factor


@dataclass(frozen=True)
class LiftTubes:
    """Equal-length arrays of tubes: bore m, length over the injector m, sum of losses on the bore, bubbly or slugs."""

    bore: np.ndarray
    length: np.ndarray
    k: np.ndarray  # extra losses; the tube's own friction is added
    bubbly: np.ndarray  # bool: wide tubes with fine bubbles
    kinematic: float = 0.9e-6
    friction: float = 0.025

    @cached_property
    def _fixed(self) -> tuple[np.ndarray, ...]:
        area = math.pi / 4 * self.bore**2
        c0 = np.where(self.bubbly, _C0_BUBBLY, _C0_SLUG)
        drift = np.where(self.bubbly, _BUBBLE_RISE, _DRIFT * np.sqrt(GRAVITY * self.bore)) * area
        loss = self.friction * self.length / self.bore + self.k
        square = 1.0 / (2 * GRAVITY * self.length * area**2)
        straight = 128 * self.kinematic / (math.pi * GRAVITY * self.bore**4)  # Hagen–Poiseuille, a length of it
        straight = np.maximum(straight, _LEAST_STRAIGHT / self.length)
        slow = _SLOW_REYNOLDS * self.kinematic * math.pi / 4 * self.bore
        return c0, drift, loss, square, straight, slow

    def flow_of(self, which: int, submergence: float, air: float) -> tuple[float, float, float]:
        """``flow`` of one of them."""
        return _lifts(self._each[which], submergence, air)

    @cached_property
    def _each(self) -> list[tuple[float, ...]]:
        return list(zip(*(x.tolist() for x in (self.length, *self._fixed)), strict=True))

    def flow(self, submergence: np.ndarray, air: np.ndarray) -> tuple[np.ndarray, np.ndarray, np.ndarray]:
        """Water in m³/s, its slopes by submergence and by air; submergence m, air m³/s at mean tube pressure.

        Stenning and Martin's balance for every tube; in bubbly ones their slip is that of drift flux, C0 = 1.05 and
        0.25 m/s. Without air it is a plain pipe that runs either way: a submergence over the length pushes water up,
        one under it lets water fall back. With air, water falls back only against the bubbles, from the submergence at
        which the lift stops.
        """
        if self.bore.size <= FEW:
            made = [
                _lifts(tube, s, q) for tube, s, q in zip(self._each, submergence.tolist(), air.tolist(), strict=True)
            ]
            water, by_sub, by_air = np.array(made).reshape(-1, 3).T
            return water, by_sub, by_air
        c0, drift, loss, square, straight, slow = self._fixed
        share = submergence / self.length
        stop = ((c0 - 1) * air + drift) / (c0 * air + drift)  # share at which nothing moves
        spare = share - stop
        up = spare > 0
        # Backwards: straight·x + square·(loss + 1)·x² = −spare, closed.
        push = np.where(up, 0.0, -spare)
        bent = square * (loss + 1)
        root = np.sqrt(straight**2 + 4 * bent * push)
        back, back_slope = 2 * push / (straight + root), 1 / root
        # Forwards by Newton, held in a bracket; the balance only falls with the flow.
        ahead = np.where(up, spare, 0.0)
        x = 2 * ahead / (straight + np.sqrt(straight**2 + 4 * bent * ahead))

        def balance(x: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
            held = c0 * x + (c0 - 1) * air + drift
            fade = 1 / (1 + (x / slow) ** 2)
            lost = straight * x * fade + square * ((loss + 1) * x + (loss + 2) * air) * x
            by_flow = c0 * air / (held + air) ** 2 + square * (2 * (loss + 1) * x + (loss + 2) * air)
            return share - held / (held + air) - lost, by_flow + straight * (2 * fade - 1) * fade

        low, high = np.zeros_like(x), np.full_like(x, np.inf)
        for _ in range(80):
            rest, slope = balance(x)
            low, high = np.where(rest > 0, x, low), np.where(rest > 0, high, x)
            step = x + rest / slope
            middle = np.where(np.isfinite(high), (low + high) / 2, 2 * x + 1e-9)
            step = np.where((step >= low) & (step <= high), step, middle)
            near = (np.abs(step - x) <= 1e-12 * x + 1e-18) | (np.abs(rest) < 4e-16)
            x = np.where(up, step, 0.0)
            if bool((near | ~up).all()):
                break
        held = c0 * x + (c0 - 1) * air + drift
        slope = balance(x)[1]
        by_air = ((held - (c0 - 1) * air) / (held + air) ** 2 - square * (loss + 2) * x) / slope
        stop_by_air = -drift / (c0 * air + drift) ** 2
        return (
            np.where(up, x, -back),
            np.where(up, 1 / slope, back_slope) / self.length,
            np.where(up, by_air, -back_slope * stop_by_air),
        )


def _lifts(tube: tuple[float, ...], submergence: float, air: float) -> tuple[float, float, float]:
    """LiftTubes.flow of one tube: its length and what is fixed of it; see there."""
    length, c0, drift, loss, square, straight, slow = tube
    share = submergence / length
    thin = c0 * air + drift
    spare = share - ((c0 - 1) * air + drift) / thin
    bent = square * (loss + 1)
    if spare <= 0:
        root = math.sqrt(straight * straight - 4 * bent * spare)
        return 2 * spare / (straight + root), 1 / root / length, drift / (thin * thin) / root
    x = 2 * spare / (straight + math.sqrt(straight * straight + 4 * bent * spare))
    low, high = 0.0, math.inf
    base, drag = (c0 - 1) * air + drift, square * (loss + 2) * air

    def slope_at(x: float, whole: float, fade: float) -> float:
        return c0 * air / (whole * whole) + 2 * bent * x + drag + straight * (2 * fade - 1) * fade

    for _ in range(80):
        held = c0 * x + base
        whole = held + air
        fade = 1 / (1 + (x / slow) ** 2)
        rest = share - held / whole - straight * x * fade - (bent * x + drag) * x
        if rest > 0:
            low = x
        else:
            high = x
        step = x + rest / slope_at(x, whole, fade)
        if not low <= step <= high:
            step = (low + high) / 2 if high < math.inf else 2 * x + 1e-9
        near = abs(step - x) <= 1e-12 * x + 1e-18 or abs(rest) < 4e-16
        x = step
        if near:
            break
    whole = c0 * x + base + air
    slope = slope_at(x, whole, 1 / (1 + (x / slow) ** 2))
    by_air = ((c0 * x + drift) / (whole * whole) - square * (loss + 2) * x) / slope
    return x, 1 / slope / length, by_air
