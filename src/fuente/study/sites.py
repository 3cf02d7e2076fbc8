"""The surroundings of each device, from the document."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from fuente.devices import KINDS, in_order
from fuente.devices.site import Site, Vessel
from fuente.document.system import System
from fuente.network.aeration import AirDrop
from fuente.water.properties import Water, water

STANDING = 0.9  # of its height: where a tank stands that nothing drains and nobody marked


def water_of(system: System) -> Water:
    """The water's density and viscosity, at the first tank's temperature."""
    return water(system.tanks[0].temperature, system.salinity)


def crests(system: System) -> dict[str, float]:
    """Height in m over the floor of each drained tank to which its drains take it."""
    found: dict[str, float] = {}
    for device in system.devices:
        for source, height in device.falls():
            found[source] = min(height, found.get(source, height))
    return found


def stands(system: System) -> dict[str, float]:
    """Elevation in m at which each tank's water stands, about: its drains' crest, or the builder's mark."""
    drained = crests(system)
    found = {}
    for tank in system.tanks:
        crest = drained.get(tank.id)
        if crest is None:
            crest = tank.level or STANDING * tank.inner_height
        found[tank.id] = tank.floor + min(crest, tank.inner_height)
    return found


def all_ids(system: System) -> set[str]:
    """Every id in use."""
    return {d.id for d in system.devices}


def new_site(system: System, tank_id: str) -> Site:
    """The surroundings of a filter that is yet to come to a tank."""
    site = next(iter(sites(system).values()))
    right = max(v.right for v in site.vessels.values() if v.lets_go is None)
    spans = (f.span_inside for f in system.devices if f.home == tank_id)
    return replace(
        site,
        tank=system.tank(tank_id),
        taken=frozenset(all_ids(system)),
        level=stands(system)[tank_id],
        drops={},
        beside=(right, 0.0),
        room=max((span[1] for span in spans if span is not None), default=0.0) + 0.02,
    )


def sites(system: System) -> Mapping[str, Site]:
    """Each device's site by its id."""
    homes = {t.id: t for t in system.tanks}
    first = system.tanks[0]
    levels = stands(system)
    drops: dict[str, AirDrop] = {}
    for device in system.devices:
        blows = KINDS[device.kind].drops
        if blows is not None:
            drops.update(blows(device))
    vessels: dict[str, Vessel] = {}
    common = Site(
        first,
        water_of(system),
        vessels,
        system.schools,
        system.salinity,
        level=levels[first.id],
        drops=drops,
        space=system.space,
        devices=system.by_id,
        housed=system.housed,
        homes=homes,
        catalogue=system.catalogue,
        shop=system.shop,
    )
    at_home = {key: replace(common, tank=tank, level=levels[key]) for key, tank in homes.items()}
    found = {d.id: at_home.get(d.home, common) for d in system.devices}
    for device in in_order(system.devices):
        vessel = KINDS[device.kind].vessel
        if vessel is not None:
            vessels[device.id] = vessel(device, found[device.id])
    return found
