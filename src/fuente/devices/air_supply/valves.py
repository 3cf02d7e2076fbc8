"""Setting every air valve: which opening gives each filter the air that it wants."""

from __future__ import annotations

import math
from collections.abc import Mapping
from dataclasses import dataclass

from fuente.devices.air_supply.network import valve_loss
from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.hydraulics.air import OPEN_VALVE
from fuente.hydraulics.pipes import Pipe
from fuente.hydraulics.pumps import PumpCurve
from fuente.network.aeration import AIR, METRE, Lift
from fuente.water.properties import GRAVITY


@dataclass(frozen=True)
class AirPlan:
    """Openings by filter id, and the share of the wished air that can be had."""

    openings: Mapping[str, float]
    share: float


def set_air(
    spec: AirSupplySpec,
    lifts: Mapping[str, Lift],
    depths: Mapping[str, float],
    wished: Mapping[str, float],
    held: Mapping[str, float],
) -> AirPlan:
    """Openings that give each drop its wish, or all the same lesser share of it. depths m over the
    injectors, air m³/s, held Pa by what lines end in and their check valves.
    """
    drops = [d for d in spec.drops if d.place in lifts]
    curve = PumpCurve.from_points(tuple((q * spec.pumps, p * spec.pump.wear / METRE) for q, p in spec.pump.curve))

    def losses(share: float) -> dict[str, float] | None:
        """Valve losses at a share of the wishes; None where some drop cannot have it."""
        flows = {d.place: share * wished.get(d.place, 0.0) for d in drops}
        left = sum(flows.values())
        head = curve.head(left)
        found = {}
        for i, d in enumerate(drops):
            k = 1.0 if i == 0 else 0.3
            head -= Pipe(spec.bore, max(d.spacing, 0.05 if i == 0 else 0.01), k, 1.5e-6, AIR).head_loss(left)
            flow = flows[d.place]
            left -= flow
            if flow <= 0:
                found[d.place] = math.inf
                continue
            hold = held[d.place] / METRE + 1000.0 * max(depths[d.place], 0.0) / AIR.density
            line = Pipe(d.bore, d.length, 1.5, 1.5e-6, AIR)
            speed = flow / line.area
            spare = (head - hold - line.head_loss(flow)) * 2 * GRAVITY / speed**2
            if spare < OPEN_VALVE:
                return None
            found[d.place] = spare
        return found

    best = losses(1.0)
    share = 1.0
    if best is None:
        low, high = 0.0, 1.0
        for _ in range(40):
            middle = (low + high) / 2
            tried = losses(middle) if middle > 0 else None
            low, high = (middle, high) if tried is not None else (low, middle)
        share = low
        best = losses(share) if share > 0 else {}
    openings = {}
    for key, k in (best or {}).items():
        openings[key] = 0.0 if math.isinf(k) else round(min(math.sqrt(OPEN_VALVE / k), 1.0), 4)
    assert valve_loss(1.0) == OPEN_VALVE
    return AirPlan(openings, share)
