"""An air supply as a group beside the water."""

from __future__ import annotations

from collections.abc import Mapping

from fuente.devices.air_supply.spec import AirSupplySpec, DropSpec
from fuente.devices.base import Fragment
from fuente.devices.contract import Device
from fuente.devices.filtering import FilterSpec
from fuente.devices.site import Site
from fuente.hydraulics.air import DIFFUSER_PRESSURE, OPEN_VALVE
from fuente.network.aeration import Aeration, AirDrop, AirSupply, Lift
from fuente.network.model import Solution

_NO_LIFT = Lift("", "", "", "", 0.0, 1.0, 0.01)
CHECK_PRESSURE = 400.0  # Pa that a small check valve holds back; typical


def valve_loss(opening: float) -> float:
    """Loss coefficient of an air valve by the share that it is open: by the square of what is left of its passage."""
    return OPEN_VALVE / max(opening, 1e-3) ** 2


def end_of(drop: DropSpec, devices: Mapping[str, Device]) -> str:
    """What a drop ends in: as the device that it blows into says on its own card, else as the drop does."""
    blown = devices.get(drop.to)
    return blown.air_line_end if isinstance(blown, FilterSpec) and blown.ends_its_line else drop.end


def drop_of(spec: DropSpec, lift: Lift, end: str) -> AirDrop:
    """A drop as the solver takes it, with what it ends in."""
    held = (DIFFUSER_PRESSURE if end == "diffuser" else 0.0) + (CHECK_PRESSURE if spec.check else 0.0)
    return AirDrop(lift, spec.length, spec.bore, valve_loss(spec.opening), held, spec.spacing, spec.opening <= 0.005)


def air_to(spec: AirSupplySpec, solution: Solution) -> dict[str, float]:
    """Air in m³/s at the room's pressure, by the device that each of its drops blows into."""
    found = dict.fromkeys((d.place for d in spec.drops), 0.0)
    for group in solution.network.groups:
        if isinstance(group, Aeration) and group.supply.id == spec.id:
            for drop in group.supply.drops:
                found[drop.lift.owner] = solution.flow.get(f"{spec.id}.{drop.lift.id}", 0.0)
    return found


def drops(spec: AirSupplySpec) -> dict[str, AirDrop]:
    """Its lines by the device that each blows into, before anything is known of their tubes."""
    return {d.place: drop_of(d, _NO_LIFT, d.end) for d in spec.drops}


def lower(spec: AirSupplySpec, site: Site) -> Fragment:
    """The group of a supply by the tubes that wait for its air; nothing where no drop reaches one."""
    drops = tuple(drop_of(d, site.lifts[d.place], end_of(d, site.devices)) for d in spec.drops if d.place in site.lifts)
    if not drops:
        return Fragment()
    points = tuple((q * spec.pumps, p) for q, p in spec.pump.curve)
    supply = AirSupply(spec.id, spec.name, points, spec.bore, drops, True, spec.pump.wear, site.water)
    return Fragment(groups=(Aeration(supply),))
