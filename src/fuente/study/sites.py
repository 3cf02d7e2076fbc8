"""The surroundings of each filter, from the document."""

from __future__ import annotations

from collections.abc import Mapping

from fuente.devices import kind_of
from fuente.devices.air_supply.network import drop_of
from fuente.devices.filtering import FilterSpec, Site, Vessel
from fuente.devices.sump import network as sump_network
from fuente.document.system import System
from fuente.network.aeration import AirDrop, Lift
from fuente.water.properties import Water, water

STANDING = 0.9  # of its height: where a tank stands that nothing drains and nobody marked
_NO_LIFT = Lift("", "", "", "", 0.0, 1.0, 0.01)


def water_of(system: System) -> Water:
    """The water's density and viscosity, at the first tank's temperature."""
    return water(system.tanks[0].temperature, system.salinity)


def crest_of(system: System, tank_id: str) -> float | None:
    """Height in m over a tank's floor to which its drains take it; None where it has none."""
    found = [o.crest for o in system.overflows if o.tank == tank_id]
    found += [h.crest for h in system.hang_ons if h.tank == tank_id]
    found += [s.mouth for s in system.standpipes if s.tank == tank_id]
    found += [height for f in system.filters for source, height in f.falls() if source == tank_id]
    return min(found, default=None)


def stands(system: System, tank_id: str) -> float:
    """Elevation in m at which a tank's water stands, about: its drains' crest, or the builder's mark."""
    tank = system.tank(tank_id)
    crest = crest_of(system, tank_id)
    if crest is None:
        crest = tank.level or STANDING * tank.inner_height
    return tank.floor + min(crest, tank.inner_height)


def new_site(system: System, tank_id: str) -> Site:
    """The surroundings of a filter that is yet to come to a tank."""
    tank = system.tank(tank_id)
    vessels = vessels_of(system)
    right = max(v.right for v in vessels.values())
    inside = [span_of(f) for f in system.filters if f.tank == tank_id and kind_of(f).inside]
    return Site(
        tank,
        water_of(system),
        vessels,
        system.schools,
        system.salinity,
        frozenset(all_ids(system)),
        stands(system, tank_id),
        {},
        (right, 0.0),
        max((b for _, b in inside), default=0.0) + 0.02,
    )


def span_of(spec: FilterSpec) -> tuple[float, float]:
    """Where a filter stands along its tank, m from the left wall."""
    at = float(getattr(spec, "at", 0.0))
    long = float(getattr(spec, "long", getattr(spec, "length", getattr(spec, "diameter", 0.1))))
    return at, at + long


def all_ids(system: System) -> set[str]:
    """Every id in use."""
    groups = (
        system.tanks, system.overflows, system.standpipes, system.hang_ons, system.headers, system.devices, system.joins,
        system.returns, system.manifolds, system.top_ups, system.filters, system.airs,
    )  # fmt: skip
    return {x.id for group in groups for x in group}


def sites(system: System) -> Mapping[str, Site]:
    """Each filter's site by its id."""
    if not system.filters:
        return {}
    stuff = water_of(system)
    vessels = vessels_of(system)
    drops: dict[str, AirDrop] = {d.to: drop_of(d, _NO_LIFT) for air in system.airs for d in air.drops}
    levels = {t.id: stands(system, t.id) for t in system.tanks}
    return {
        f.id: Site(system.tank(f.tank), stuff, vessels, system.schools, system.salinity, frozenset(), levels[f.tank], drops)
        for f in system.filters
    }  # fmt: skip


def vessels_of(system: System) -> Mapping[str, Vessel]:
    """Everything that a pipe can lead from or to: tanks, sumps, and filters with vessels of their own."""
    found: dict[str, Vessel] = {}
    for tank in system.tanks:
        at = stands(system, tank.id)
        found[tank.id] = Vessel(
            tank.id, tank.name, tank.id, tank.id, tank.floor, tank.rim, tank.offset, tank.offset + tank.length, at
        )
    for device in system.devices:
        first = sump_network.cell_ids(device, device.chambers[0])[0]
        last = sump_network.cell_ids(device, device.chambers[-1])[-1]
        found[device.id] = Vessel(
            device.id, device.name, first, last, device.floor, device.rim, device.offset, device.offset + device.length,
            device.floor + device.chambers[-1].level,
        )  # fmt: skip
    stuff = water_of(system)
    for spec in system.filters:
        vessel = kind_of(spec).vessel
        if vessel is not None:
            site = Site(
                system.tank(spec.tank), stuff, found, system.schools, system.salinity, level=stands(system, spec.tank)
            )
            found[spec.id] = vessel(spec, site)
    return found
