"""Drains that fall: vented standpipes, full siphons, and the modes between."""

from __future__ import annotations

import math
from typing import NamedTuple

from fuente.hydraulics.pipes import Pipe
from fuente.water.properties import GRAVITY

OPEN_CHANNEL_FILL = 7 / 24  # share of the bore that falling water may take before air is trapped
QUIET_SHARE = 0.5  # of that limit
_GPM = 231 * 0.0254**3 / 60  # m³/s in a US gallon a minute
_CD = 0.6


def open_channel_capacity(bore: float, fill: float = OPEN_CHANNEL_FILL) -> float:
    """Flow in m³/s that a vented vertical pipe carries as a film on its wall.

    bore m; fill, the share of the bore's area that water takes (0 to 7/24). Q = 27.8·r^(5/3)·D^(8/3) in US gpm and
    inches, Wyly and Eaton 1961; ±15 %.

    A bore of one inch: 27.8 · (7/24)^(5/3) = 3.57 US gpm.

    >>> round(open_channel_capacity(0.0254) * 15850.323, 2)
    3.57
    """
    flow: float = 27.8 * fill ** (5 / 3) * (bore / 0.0254) ** (8 / 3) * _GPM
    return flow


def mouth_flow(head: float, bore: float) -> tuple[float, float]:
    """Flow into an upright open mouth and its derivative by head: a circular weir, then an orifice.

    head m over the mouth, bore m. Weir Q = ⅔·0.6·√(2g)·πD·h^1.5 while h < D/4·1.5, orifice Q = 0.6·A·√(2gh) above;
    joined by a fourth-power mean so that it is smooth. ±15 %.
    """
    if head <= 0:
        return 0.0, 0.0
    root = math.sqrt(2 * GRAVITY)
    weir = 2 / 3 * _CD * root * math.pi * bore * head**1.5
    orifice = _CD * math.pi / 4 * bore**2 * root * math.sqrt(head)
    ratio = (weir / orifice) ** 4
    flow = weir / (1 + ratio) ** 0.25
    # d ln Q = d ln weir − ratio/(1+ratio)·(d ln weir − d ln orifice)
    return flow, flow / head * (1.5 - ratio / (1 + ratio))


FULL_FROM, FULL_BY = 1.2, 3.0  # bores of water over a side opening's invert between which its pipe comes to run full
_USUAL_FRICTION = 0.025
_NEAR_ENOUGH = 1e-3  # of the head
HELD = 0.65  # of the bore: where the water leaves a full pipe into air


def segment(depth: float, bore: float) -> tuple[float, float]:
    """Wetted area in m² of a round section at a depth in m (0 to its bore), and its width at the surface in m."""
    x = min(max(depth / bore, 0.0), 1.0)
    theta = 2 * math.acos(1 - 2 * x)
    return bore**2 / 8 * (theta - math.sin(theta)), 2 * bore * math.sqrt(x * (1 - x))


class Outfall(NamedTuple):
    """Water in a round opening that falls free: flow in m³/s, its slope by the head, m²/s, and its depth in m."""

    flow: float
    slope: float
    depth: float


def critical_outfall(head: float, pipe: Pipe) -> Outfall:
    """Part-full flow out of a round opening or a short pipe that falls free.

    head m of still water over its invert; pipe with its entrance loss, and 1.0 for the speed that the water leaves
    with. It leaves at critical depth y, where v² = g·A/T, and what stands over that made its speed and its losses:
    head = y + (k + f·L/D)·v²/2g (Chow 1959, section 4). ±5 % up to 1.2 bores; over that a pipe comes to run full.

    A bore of 45.2 mm without losses carries 1 048 L/h under 29.1 mm.

    >>> round(critical_outfall(0.0291, Pipe(0.0452, 0.0, 1.0)).flow * 3.6e6)
    1048
    """
    if head <= 0:
        return Outfall(0.0, 0.0, 0.0)
    bore, whole = pipe.bore, pipe.area
    low, high = 0.0, min(head, bore * (1 - 1e-9))
    y = _critical_depth(head, bore, pipe.k + _USUAL_FRICTION * pipe.length / bore)
    area = width = speed = by_y = rise = 0.0
    for _ in range(60):
        area, width = segment(y, bore)
        speed = math.sqrt(GRAVITY * area / width)
        by_y = speed / 2 * (width / area - 2 * (bore - 2 * y) / width**2)
        loss, slope = pipe.loss_and_slope(speed * whole)
        rest, rise = y + loss - head, 1 + slope * whole * by_y
        if rest > 0:
            high = y
        else:
            low = y
        step = rest / rise
        if abs(step) < 1e-14:
            break
        y = y - step if low < y - step < high else (low + high) / 2
    return Outfall(area * speed, (width * speed + area * by_y) / rise, y)


def _critical_depth(head: float, bore: float, k: float) -> float:
    """Critical depth in m under a head in m with a loss that is the same at any speed: near enough to begin from."""
    low, high = 0.0, min(head, bore * (1 - 1e-9))
    y = min(head / (1 + k / 3), 0.9 * bore)
    for _ in range(20):
        area, width = segment(y, bore)
        mean = area / width
        # d(A/T)/dy = 1 − A·T'/T², T' = 2·(D − 2y)/T
        rest, rise = y + k / 2 * mean - head, 1 + k / 2 * (1 - 2 * mean * (bore - 2 * y) / width**2)
        if rest > 0:
            high = y
        else:
            low = y
        step = rest / rise
        if abs(step) < _NEAR_ENOUGH * head:
            break
        y = y - step if low < y - step < high else (low + high) / 2
    return y


def running_full(head: float, bore: float) -> tuple[float, float]:
    """Weight, 0 to 1, of the full pipe in a side opening under a head in m over its invert, and its slope by head."""
    weight, slope = smooth_step((head / bore - FULL_FROM) / (FULL_BY - FULL_FROM))
    return weight, slope / ((FULL_BY - FULL_FROM) * bore)


def outfall(head: float, pipe: Pipe) -> tuple[float, float]:
    """Flow in m³/s of a round side opening that falls free, and its slope by the head in m over its invert: critical
    depth while it is part full, a full pipe from three bores on.
    """
    weight, weight_slope = running_full(head, pipe.bore)
    part = critical_outfall(head, pipe) if weight < 1 else Outfall(0.0, 0.0, 0.0)
    if weight <= 0:
        return part.flow, part.slope
    full, full_slope = pipe.flow_and_slope(head - HELD * pipe.bore)
    more = full - part.flow
    return part.flow + weight * more, part.slope + weight * (full_slope - part.slope) + weight_slope * more


def full_siphon(drop: float, pipe: Pipe) -> tuple[float, float]:
    """Flow in m³/s of a drain that runs full between two levels, and its speed in m/s.

    drop m between the levels; pipe.k holds every loss before the exit, whose 1.0 is added here. ±10 %.
    """
    whole = Pipe(pipe.bore, pipe.length, pipe.k + 1.0, pipe.roughness, pipe.water)
    flow = whole.flow_at(drop)
    return flow, flow / whole.area


def smooth_step(x: float) -> tuple[float, float]:
    """0 to 1 over 0 ≤ x ≤ 1 with level ends, and its slope."""
    if x <= 0:
        return 0.0, 0.0
    if x >= 1:
        return 1.0, 0.0
    return x * x * (3 - 2 * x), 6 * x * (1 - x)


def standpipe_flow(
    head: float,
    drop: float,
    pipe: Pipe,
    prime_from: float,
    prime_to: float,
    side: Pipe | None = None,
    taken: float = math.inf,
) -> tuple[float, float, float]:
    """Flow of an upright drain in every mode, and its derivatives by head and by drop.

    head m over the mouth, drop m from the upstream level to where the pipe lets go; pipe with all its losses, exit
    included. Below ``prime_from`` m the mouth is a weir or orifice; by ``prime_to`` m the pipe runs full; between them
    it gulps, and the mean flow is a smooth blend. Never more than the full pipe. ``side`` is the opening of a pipe that
    leaves sideways through a wall, head then over its invert. ``taken`` is the drop in m from which on the pipe takes
    all that its mouth passes up to ``prime_from``, where that is known. ±15 %, ±30 % while it gulps.
    """
    if head <= 0 or drop <= 0:
        return 0.0, 0.0, 0.0
    mouth, mouth_slope = mouth_flow(head, pipe.bore) if side is None else outfall(head, side)
    if head <= prime_from and (
        drop > taken or pipe.head_loss(mouth) < drop
    ):  # the pipe takes it, whatever it carries when full
        return mouth, mouth_slope, 0.0
    full, full_slope = pipe.flow_and_slope(drop)
    if mouth >= full:  # the pipe, not the mouth, is the limit
        return full, 0.0, full_slope
    weight, weight_slope = smooth_step((head - prime_from) / (prime_to - prime_from))
    flow = mouth + weight * (full - mouth)
    by_head = (1 - weight) * mouth_slope + weight_slope / (prime_to - prime_from) * (full - mouth)
    return flow, by_head, weight * full_slope


FULL_NEAR = 0.8  # of what a pipe carries full: from there on its mouth's water closes it


def fall_filled(
    head: float,
    drop: float,
    pipe: Pipe,
    prime_from: float,
    prime_to: float,
    side: Pipe | None = None,
    open_from: float = math.inf,
) -> tuple[float, float, float]:
    """Share of a falling pipe that its water fills, 0 to 1, and its derivatives by head and by drop.

    Arguments as for standpipe_flow. While it runs open the water is a film on its wall, r = (Q/(27.8·D^(8/3)))^(3/5) of
    the section (Wyly and Eaton 1961); it comes to be full where the drain runs full. ±20 % of an open drain's.
    ``open_from`` is the drop in m from which on all that its mouth passes up to ``prime_from`` is under FULL_NEAR of
    what the pipe carries full, where that is known.

    >>> fill, _, _ = fall_filled(0.02, 0.9, Pipe(0.0326, 1.2, 2.4), 0.02, 0.05)
    >>> 0.2 < fill < 0.35
    True
    """
    if head <= 0 or drop <= 0:
        return 0.0, 0.0, 0.0
    mouth, mouth_slope = mouth_flow(head, pipe.bore) if side is None else outfall(head, side)
    film = (mouth / open_channel_capacity(pipe.bore, 1.0)) ** 0.6
    film, by_film = (film, 0.6 * film / mouth * mouth_slope) if film < 1 else (1.0, 0.0)
    if head <= prime_from and drop >= open_from:
        return film, by_film, 0.0
    full, full_slope = pipe.flow_and_slope(drop)
    if mouth >= full or head >= prime_to:
        return 1.0, 0.0, 0.0
    ratio = mouth / full
    near, near_slope = smooth_step((ratio - FULL_NEAR) / (1 - FULL_NEAR))
    near_slope /= (1 - FULL_NEAR) * full
    primed, primed_slope = smooth_step((head - prime_from) / (prime_to - prime_from))
    primed_slope /= prime_to - prime_from
    air = (1 - film) * (1 - near) * (1 - primed)
    by_head = (
        by_film * (1 - near) * (1 - primed)
        + near_slope * mouth_slope * (1 - film) * (1 - primed)
        + primed_slope * (1 - film) * (1 - near)
    )
    return 1 - air, by_head, -near_slope * ratio * full_slope * (1 - film) * (1 - primed)


def air_hole_breaks(hole: float, bore: float, flow: float, k_entry: float = 0.5, whole: float | None = None) -> bool:
    """Whether an air hole of a diameter in m stops a back-siphon of a flow in m³/s in a bore in m; of ``whole`` m³/s
    where other outlets hang on the same pipe, as its air must do for all.

    The flowing water's suction, (1+k)·ρv²/2, draws air through the hole (coefficient 0.6, air 1.2 kg/m³); the siphon is
    taken to break once that air is a quarter of the water. The limit is a rule of thumb: test it wet.
    """
    if hole <= 0:
        return False
    speed = flow / (math.pi / 4 * bore**2)
    suction = (1 + k_entry) * 1000 * speed**2 / 2
    air = _CD * math.pi / 4 * hole**2 * math.sqrt(2 * suction / 1.2)
    return air >= 0.25 * (flow if whole is None else whole)
