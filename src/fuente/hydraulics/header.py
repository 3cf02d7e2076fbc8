"""A sloping header that runs part full, as common drains and gutters do."""

from __future__ import annotations

import math

MANNING_PLASTIC = 0.010  # s/m^(1/3), smooth plastic pipe


def part_full_flow(bore: float, slope: float, fill: float, roughness: float = MANNING_PLASTIC) -> tuple[float, float]:
    """Flow in m³/s and speed in m/s of a round pipe at a relative depth of 0 to 1 on a slope in m/m.

    Manning's equation with the part-full hydraulic radius; ±15 %.
    """
    theta = 2 * math.acos(1 - 2 * min(max(fill, 1e-6), 1.0))
    area = bore**2 / 8 * (theta - math.sin(theta))
    wetted = bore * theta / 2
    speed = (area / wetted) ** (2 / 3) * math.sqrt(slope) / roughness
    return area * speed, speed


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
