"""An air supply as a group beside the water."""

from __future__ import annotations

from collections.abc import Mapping

from fuente.devices.air_supply.spec import AirSupplySpec, DropSpec
from fuente.hydraulics.air import DIFFUSER_PRESSURE
from fuente.network.aeration import Aeration, AirDrop, AirSupply, Lift
from fuente.water.properties import Water

OPEN_VALVE = 8.0  # loss of a small air valve fully open, on its line's bore; typical
CHECK_PRESSURE = 400.0  # Pa that a small check valve holds back; typical


def valve_loss(opening: float) -> float:
    """Loss coefficient of an air valve by the share that it is open: by the square of what is left of its passage."""
    return OPEN_VALVE / max(opening, 1e-3) ** 2


def drop_of(spec: DropSpec, lift: Lift) -> AirDrop:
    """A drop as the solver takes it."""
    held = (DIFFUSER_PRESSURE if spec.end == "diffuser" else 0.0) + (CHECK_PRESSURE if spec.check else 0.0)
    return AirDrop(lift, spec.length, spec.bore, valve_loss(spec.opening), held, spec.spacing, spec.opening <= 0.005)


def lower(spec: AirSupplySpec, lifts: Mapping[str, Lift], water: Water) -> Aeration | None:
    """The group of a supply by the lifts of each filter's id; None where no drop reaches one."""
    drops = tuple(drop_of(d, lifts[d.to]) for d in spec.drops if d.to in lifts)
    if not drops:
        return None
    points = tuple((q * spec.pumps, p) for q, p in spec.pump.curve)
    return Aeration(AirSupply(spec.id, spec.name, points, spec.bore, drops, True, spec.pump.wear, water))
