"""An air supply's row and card."""

from __future__ import annotations

import itertools
from dataclasses import replace

from fuente.devices.air_supply.network import air_to
from fuente.devices.air_supply.plans import commands
from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.devices.base import Choice, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import choices_of
from fuente.devices.offered import Offer
from fuente.devices.pumping import YEAR
from fuente.devices.site import Site
from fuente.hydraulics.air import OPEN_K, OPEN_VALVE
from fuente.hydraulics.pipes import Pipe
from fuente.network.aeration import AIR, METRE, Aeration
from fuente.network.model import Solution
from fuente.one_line import within
from fuente.water.properties import GRAVITY

LISTED = 16  # drops whose valves stand on the card; of more, the filters' own cards hold them
FIRST = 6  # of them that stand on the card unfolded


def names_of(site: Site, study: Study, lower: bool = False) -> dict[str, str]:
    """What each device and each place is called that can be blown into, with its tank where there are several."""
    found = {}
    for device in site.devices.values():
        if "air" in device.ports():
            name = within(device.title) if lower and len(site.homes) > 1 else device.title
            found[device.id] = f"{name} in {site.homes[device.home].name}" if len(site.homes) > 1 else name
    found.update({p.id: within(p.title) if lower else p.title for p in study.air_places.values()})
    return found


def card(spec: AirSupplySpec, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """The pump, its valves, and what would happen if one fell wide open."""
    path, names = spec.path, names_of(site, study, lower=True)
    group = next((g for g in solution.network.groups if isinstance(g, Aeration) and g.supply.id == spec.id), None)
    air = air_to(spec, solution)
    total, pressure = sum(air.values()), _pressure(group, solution)
    drops = tuple(
        Choice(
            (*path, "drops", i, "opening"), f"Valve to {names.get(d.place, d.place)}", "percent", d.opening, step=0.05
        )
        for i, d in enumerate(spec.drops[:LISTED])
    )
    drops = (*drops[:FIRST], *(replace(c, fold=True) for c in drops[FIRST:]))
    pump = choices_of(
        spec, path, "pump.max_pressure pump.max_flow", "pumps height loop bore pump.wear pump.watts pump.name name"
    )
    return (
        Station(
            spec.id,
            spec.name,
            "{total:air_flow} for " + _many(spec),
            {"total": total},
            glyph="air",
            big=(Reading("of air", total, "air_flow"), Reading("in the manifold", pressure, "air_pressure")),
            choices=(*pump[:2], *drops, *pump[2:]),
            readings=(
                *_pump_readings(spec, site, study, group, solution, pressure),
                *(Reading(f"Air to {names.get(d.place, d.place)}", air[d.place], "air_flow") for d in spec.drops),
            ),
            why=Reading(
                "Why this air",
                total,
                "air_flow",
                "The pump gives less the more it must push. Each drop takes what its depth, diffuser, valve and line"
                " leave: the shallow drop takes the air until it is throttled.",
                "the air as a network; Darcy–Weisbach in each line",
                "±20 %",
            ),
            commands=lambda: commands(spec, site, study),
        ),
    )


def _many(spec: AirSupplySpec) -> str:
    """How many filters, or places where some are none."""
    what = "place" if any(d.chamber for d in spec.drops) else "filter"
    return f"one {what}" if len(spec.drops) == 1 else f"{len(spec.drops)} {what}s"


def _pressure(group: Aeration | None, solution: Solution) -> float:
    """Pressure in Pa at the first tap."""
    if group is None or not group.supply.on:
        return 0.0
    heads = group.heads([solution.level[c] for c in group.cells], solution.flow)
    return max(heads.values(), default=0.0) * 1000 * GRAVITY


def _pump_readings(
    spec: AirSupplySpec, site: Site, study: Study, group: Aeration | None, solution: Solution, pressure: float
) -> list[Reading]:
    """What the pump pushes, costs and would carry, and what one valve wide open takes."""
    year, price = spec.pump.watts * spec.pumps * YEAR, site.space.price
    cost = f"{site.shop.in_money(year / 3.6e6 * price)} a year at {site.shop.in_money(price, 2)} a kWh."
    readings = [
        Reading("Pressure in the manifold", pressure, "air_pressure", "At its first tap.", "", "±10 %"),
        Reading("Power in a year", year, "energy", cost),
    ]
    wishes = [study.air_wish(d.place) for d in spec.drops]
    wish = sum(wishes) / len(wishes) if wishes else 0.0
    if group is not None and wish > 0:
        why = "At the mean depth and line, valves open, each with the air that the mean of these filters wants."
        many = f"{carries(group, solution, wish)} such drops"
        readings.append(Reading("It would carry", many, "", why, "", "±20 %"))
    wide = study.lost_air(spec.id)
    if wide:
        worst = max(wide, key=wide.__getitem__)
        who = names_of(site, study, lower=True).get(worst, worst)
        why = f"What {who} would then lose, the most of all."
        source = "the same network, one drop open"
        readings.append(Reading("If one valve falls wide open", wide[worst], "fraction", why, source))
    return readings


def carries(group: Aeration, solution: Solution, wish: float) -> int:
    """How many drops like the mean one the pump carries with an air in m³/s each, their valves open."""
    supply = group.supply
    if wish <= 0 or not supply.drops:
        return 0
    depths = [max(solution.level[d.lift.a] - d.lift.injector, 0.0) for d in supply.drops]
    need = 0.0
    for drop, depth in zip(supply.drops, depths, strict=True):
        line = Pipe(drop.bore, drop.length, OPEN_K + OPEN_VALVE, 1.5e-6, AIR)
        need += (supply.water.density * GRAVITY * depth + drop.diffuser + line.head_loss(wish) * METRE) / len(depths)
    points = sorted(supply.points)
    for (q0, p0), (q1, p1) in itertools.pairwise(points):  # straight between its points
        low, high = p1 * supply.wear, p0 * supply.wear
        if low <= need <= high:
            return int((q0 + (q1 - q0) * (high - need) / (high - low)) / wish + 1e-6)
    return 0


def offers(spec: AirSupplySpec, site: Site, study: Study, solution: Solution, device_id: str) -> Offer | None:
    """What a filter's card shows of its air: the valve in its line."""
    choices = tuple(
        Choice((*spec.path, "drops", i, "opening"), "Its air valve", "percent", drop.opening, step=0.05)
        for i, drop in enumerate(spec.drops)
        if drop.place == device_id
    )
    return Offer(choices, serves=False) if choices else None
