"""Water lifted by air in a tube: slug and churn flow after Stenning and Martin, drift flux beside it, bubbly wide tubes."""

from __future__ import annotations

import math

from fuente.errors import FuenteError
from fuente.hydraulics.pumps import bracketed_root
from fuente.water.properties import GRAVITY

BUBBLY_FROM = 0.08  # m: wider tubes with fine bubbles stay bubbly, and slugs do not form
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
    1990); from 80 mm on bubbly flow with 0.25 m/s. A check on the other model, and the one for wide tubes; ±25 %.
    """
    _check(bore, length, submergence, air)
    if air == 0:
        return 0.0
    area = math.pi / 4 * bore**2
    bubbly = bore >= BUBBLY_FROM
    eotvos = 1000 * GRAVITY * bore**2 / 0.072
    drift = (
        _BUBBLE_RISE if bubbly else _DRIFT * math.sqrt(GRAVITY * bore) * max(1 - 3.18 / eotvos - 14.77 / eotvos**2, 0.0)
    )
    c0 = _C0_BUBBLY if bubbly else _C0_SLUG

    def rest(water: float) -> float:
        liquid, gas = water / area, air / area
        total = liquid + gas
        void = gas / (c0 * total + drift)
        friction = (friction_factor * length / bore + k) * total**2 * (1 - void)
        momentum = 2 * liquid * liquid / (1 - void)
        return submergence / length - (1 - void) - (friction + momentum) / (2 * GRAVITY * length)

    return _lifted(rest, area)


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
