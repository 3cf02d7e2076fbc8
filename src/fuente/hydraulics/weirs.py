"""Water over crests and under baffles."""

from __future__ import annotations

import math

from fluids.open_flow import Q_weir_rectangular_full_Kindsvater_Carter

from fuente.water.properties import GRAVITY

GAP_COEFFICIENT = 0.65  # submerged sluice, C on the whole opening
_CAPILLARY = 1e-3  # m: Kindsvater and Carter's addition to the head
_MILD = 1e-3  # relative submergence below which Villemonte's power is made straight


def weir_flow(head: float, length: float, crest_height: float = 0.3) -> tuple[float, float]:
    """Flow in m³/s over a full-width sharp crest, and its derivative by head, m²/s.

    head m above the crest, length m of free crest, crest_height m above the floor before it. Kindsvater and Carter
    1957 (fluids). Measured for heads above 30 mm (±2 %); under 10 mm, where water clings to the edge, ±10 %. Their
    1 mm addition to the head is faded out below 3 mm so that no head means no flow.

    By hand, 2/3 · 0.627 · 4.429 · 0.999 · 0.101^1.5 = 0.0594 m³/s over 1 m at a head of 0.1 m.

    >>> round(weir_flow(0.1, 1.0)[0], 4)
    0.0594
    """
    if head <= 0 or length <= 0:
        return 0.0, 0.0
    free = max(length, 2e-3)
    fade = math.exp(-head / _CAPILLARY)
    used = head - _CAPILLARY * fade
    height = max(crest_height, head / 2.5, 1e-4)  # the formula is known up to head = 2.5 crest heights
    flow = float(Q_weir_rectangular_full_Kindsvater_Carter(used, height, free))
    ratio = 0.0749 / height if height <= crest_height else 0.0  # beyond, head over height is held
    slope = flow * (1.5 / (used + _CAPILLARY) + ratio / (0.602 + 0.0749 * used / height)) * (1 + fade)
    return flow, slope


def submerged_weir_flow(
    upstream: float, downstream: float, length: float, crest_height: float = 0.3
) -> tuple[float, float, float]:
    """Flow over a crest whose far side may stand above it, and its derivatives by both heads.

    upstream ≥ downstream, both in m above the crest. Villemonte 1947: Q = Q₀·(1 − (h₂/h₁)^1.5)^0.385; ±5 %.
    """
    flow, slope = weir_flow(upstream, length, crest_height)
    if downstream <= 0 or flow == 0:
        return flow, slope, 0.0
    ratio = min(downstream / upstream, 1.0)
    power = ratio**1.5
    rest = 1 - power
    if rest > _MILD:
        factor = rest**0.385
        by_rest = 0.385 * factor / rest
    else:
        by_rest = _MILD**-0.615
        factor = rest * by_rest
    by_ratio = -1.5 * math.sqrt(ratio)
    d_up = slope * factor + flow * by_rest * by_ratio * (-downstream / upstream**2)
    d_down = flow * by_rest * by_ratio / upstream
    return flow * factor, d_up, d_down


def weir_head(flow: float, length: float, crest_height: float = 0.3) -> float:
    """Head in m over a free crest at a flow in m³/s: the inverse of weir_flow."""
    if flow <= 0:
        return 0.0
    head: float = (flow / (1.8 * length)) ** (2 / 3)
    for _ in range(60):
        got, slope = weir_flow(head, length, crest_height)
        step = (got - flow) / slope
        head = max(head - step, head / 4)
        if abs(step) < 1e-12:
            break
    return head


def gap_flow(upstream: float, downstream: float, width: float, gap: float) -> tuple[float, float, float]:
    """Flow in m³/s under a baffle, and its derivatives by both levels.

    Levels in m above the sill of the gap, upstream ≥ downstream; width and gap in m. Submerged sluice
    Q = 0.65·A·√(2gΔh) (±8 %); once the opening runs part full or free, the far side is held at 0.65 of the depth in
    it, which is critical flow over the sill, so that the flow ends with the water.
    """
    if upstream <= 0 or width <= 0 or gap <= 0 or upstream < downstream:
        return 0.0, 0.0, 0.0
    opening, opening_slope = (gap, 0.0) if upstream >= gap else (upstream, 1.0)
    held = 0.65 * opening
    if downstream >= held:
        drop, d_up, d_down = upstream - downstream, 1.0, -1.0
    else:
        drop, d_up, d_down = upstream - held, 1.0 - 0.65 * opening_slope, 0.0
    soft = 2e-5  # m: slow water is viscous and its loss straight
    root = (drop * drop + soft * soft) ** 0.25
    scale = GAP_COEFFICIENT * width * math.sqrt(2 * GRAVITY)
    pull = drop / root
    pull_slope = 1 / root - 0.5 * drop * drop / root**5
    flow = scale * opening * pull
    return flow, scale * (opening_slope * pull + opening * pull_slope * d_up), scale * opening * pull_slope * d_down


def gap_drop(flow: float, width: float, gap: float) -> float:
    """Level drop in m through a drowned gap at a flow in m³/s."""
    return (flow / (GAP_COEFFICIENT * width * gap)) ** 2 / (2 * GRAVITY)
