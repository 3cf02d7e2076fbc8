"""A sloping header that runs part full, as common drains and gutters do."""

from __future__ import annotations

import math

MANNING_PLASTIC = 0.010  # s/m^(1/3), smooth plastic pipe


def pipe_flow(bore: float, slope: float, depth: float, roughness: float = MANNING_PLASTIC) -> tuple[float, float]:
    """Flow in m³/s of a round pipe at a depth in m (0 to its bore) on a slope in m/m, and its derivative by depth.

    Manning's equation with the part-full hydraulic radius; ±15 %.

    Half full it carries half of 1/n · A · (D/4)^(2/3) · √S: 3.36 L/s in 100 mm at 1 %.

    >>> round(pipe_flow(0.1, 0.01, 0.05)[0] * 1000, 2)
    3.36
    """
    x = min(max(depth / bore, 1e-7), 1.0)
    theta = 2 * math.acos(1 - 2 * x)
    area = bore**2 / 8 * (theta - math.sin(theta))
    wetted = bore * theta / 2
    flow = area ** (5 / 3) * wetted ** (-2 / 3) * math.sqrt(slope) / roughness
    top = math.sin(theta / 2)
    if top < 1e-9:
        return flow, 0.0
    return flow, flow * (5 / 3 * bore * top / area - 2 / 3 * 2 / top / wetted)


def gutter_flow(width: float, slope: float, depth: float, roughness: float = MANNING_PLASTIC) -> tuple[float, float]:
    """Flow in m³/s of an open rectangular gutter of a width in m at a depth in m, and its derivative by depth."""
    depth = max(depth, 1e-9)
    area, wetted = width * depth, width + 2 * depth
    flow = area ** (5 / 3) * wetted ** (-2 / 3) * math.sqrt(slope) / roughness
    return flow, flow * (5 / 3 / depth - 2 / 3 * 2 / wetted)


def part_full_flow(bore: float, slope: float, fill: float, roughness: float = MANNING_PLASTIC) -> tuple[float, float]:
    """Flow in m³/s and speed in m/s of a round pipe at a relative depth of 0 to 1 on a slope in m/m."""
    x = min(max(fill, 1e-6), 1.0)
    theta = 2 * math.acos(1 - 2 * x)
    flow, _ = pipe_flow(bore, slope, x * bore, roughness)
    return flow, flow / (bore**2 / 8 * (theta - math.sin(theta)))


def depth_of(flow: float, bore: float, slope: float) -> float | None:
    """Relative depth at which a header carries a flow in m³/s; None where it would run full.

    Above 0.94 of its bore a round pipe carries no more: the crown's friction takes back what the depth gives.
    """
    low, high = 1e-6, 0.93
    if part_full_flow(bore, slope, high)[0] < flow:
        return None
    for _ in range(60):
        middle = (low + high) / 2
        low, high = (middle, high) if part_full_flow(bore, slope, middle)[0] < flow else (low, middle)
    return high


def round_volume(bore: float, length: float, share: float) -> float:
    """Water in m³ in a level round pipe filled to a share of its bore."""
    theta = 2 * math.acos(1 - 2 * min(max(share, 0.0), 1.0))
    return bore**2 / 8 * (theta - math.sin(theta)) * length
