"""What can be done to an air pump: all its valves set or opened, another class of pump, or none."""

from __future__ import annotations

from collections.abc import Mapping

from fuente.devices.air_supply.spec import AirPumpSpec, AirSupplySpec
from fuente.devices.air_supply.valves import AirPlan, set_air
from fuente.devices.base import Change, Edit
from fuente.devices.contract import Study
from fuente.devices.site import Site
from fuente.network.aeration import Lift
from fuente.one_line import within

# Air pumps as they are sold, by class: pressure Pa, flow m³/s, watts; typical.
AIR_PUMPS = (
    ("Small air pump", 12e3, 4e-3 / 60, 4.0),
    ("Air pump", 18e3, 12e-3 / 60, 10.0),
    ("Membrane air pump", 25e3, 40e-3 / 60, 35.0),
    ("Large membrane air pump", 35e3, 80e-3 / 60, 65.0),
    ("Piston air pump", 40e3, 140e-3 / 60, 130.0),
)


def pump_for(want: float, depth: float) -> AirPumpSpec:
    """The smallest class of air pump that gives a flow in m³/s at a depth in m with its line and a third to spare."""
    need = 9810.0 * depth + 2500.0
    for name, pressure, flow, watts in AIR_PUMPS:
        if need < pressure and flow * (1 - need / pressure) >= 1.35 * want:
            return AirPumpSpec(name=name, max_pressure=pressure, max_flow=flow, watts=watts)
    name, pressure, flow, watts = AIR_PUMPS[-1]
    return AirPumpSpec(name=name, max_pressure=pressure, max_flow=flow, watts=watts)


def plan_air(spec: AirSupplySpec, study: Study) -> AirPlan | None:
    """Openings of all valves for what each device wants; None where the pump blows nowhere."""
    asked = _asked(spec, study)
    return set_air(spec, *asked) if asked is not None else None


def _asked(
    spec: AirSupplySpec, study: Study
) -> tuple[Mapping[str, Lift], Mapping[str, float], Mapping[str, float], Mapping[str, float]] | None:
    """The tubes that it blows into, how deep they are under water in m, the air in m³/s that their devices want, and
    what their lines' ends hold back in Pa.
    """
    group = study.air_group(spec.id)
    if group is None:
        return None
    lifts = {d.lift.owner: d.lift for d in group.supply.drops}
    depths = {key: study.running.level[lift.a] - lift.injector for key, lift in lifts.items()}
    held = {d.lift.owner: d.diffuser for d in group.supply.drops}
    return lifts, depths, {d.place: study.air_wish(d.place) for d in spec.drops}, held


def valves_edit(spec: AirSupplySpec, plan: AirPlan) -> Edit:
    """The edit that sets a plan's openings."""
    changes = tuple(
        Change((*spec.path, "drops", i, "opening"), plan.openings[d.place])
        for i, d in enumerate(spec.drops)
        if d.place in plan.openings
    )
    return Edit("Set air valves", changes)


def larger_pump(spec: AirSupplySpec, study: Study) -> Edit | None:
    """A pump of the class that carries what all devices on it want, its valves set for them; None for no such class."""
    asked = _asked(spec, study)
    if asked is None:
        return None
    _, depths, wishes, _ = asked
    better = pump_for(sum(wishes.values()), max(depths.values()))
    now = spec.pump
    if better.max_flow <= now.max_flow * now.wear and better.max_pressure <= now.max_pressure * now.wear:
        return None
    plan = set_air(spec.model_copy(update={"pump": better}), *asked)
    return Edit("Take a larger air pump", (Change((*spec.path, "pump"), better), *valves_edit(spec, plan).changes))


def commands(spec: AirSupplySpec, site: Site, study: Study) -> tuple[tuple[str, Edit], ...]:
    """Balance the valves, open them all, another pump."""
    found: list[tuple[str, Edit]] = []
    plan, group = plan_air(spec, study), study.air_group(spec.id)
    if plan is not None and group is not None:
        label = (
            "Balance valves: to each what it wants"
            if plan.share >= 1
            else f"Share out what there is: {100 * plan.share:.0f} % of what each wants"
        )
        found.append((label, valves_edit(spec, plan)))
        opened = tuple(
            Change((*spec.path, "drops", i, "opening"), 1.0) for i, d in enumerate(spec.drops) if d.opening < 1
        )
        if opened:
            found.append(("Open all valves", Edit("Open all air valves", opened)))
        wish = sum(study.air_wish(d.place) for d in spec.drops)
        deepest = max(study.running.level[d.lift.a] - d.lift.injector for d in group.supply.drops)
        better = pump_for(wish, deepest)
        if (better.max_flow, better.max_pressure) != (spec.pump.max_flow, spec.pump.max_pressure):
            edit = Edit("Change air pump", (Change((*spec.path, "pump"), better),))
            found.append((f"Take a pump of the class that fits: {within(better.name)}", edit))
    found.append(("Take the air pump out", Edit("Take out air pump", (Change(spec.path, None),))))
    return tuple(found)
