"""From a System to one network."""

from __future__ import annotations

from fuente.devices.base import Fragment
from fuente.devices.overflow import network as overflow_network
from fuente.devices.return_line import network as return_network
from fuente.devices.sump import network as sump_network
from fuente.devices.tank import network as tank_network
from fuente.document.system import System
from fuente.network.model import FLOOR, Cell, LevelCurve, Network
from fuente.water.properties import Water, water

_FLOOR_CELL = Cell(FLOOR, "The floor", -1000.0, -999.0, LevelCurve.prism(-1000.0, -999.0, 1e4), sink=True)


def water_of(system: System) -> Water:
    """The water's density and viscosity, at the first tank's temperature."""
    return water(system.tanks[0].temperature, system.salinity)


def lower(system: System) -> Network:
    """All cells and links, pumps running, with the builder's marks. Raises SpecError."""
    stuff = water_of(system)
    fragments: list[Fragment] = []
    ports: dict[str, Fragment] = {}
    for tank in system.tanks:
        taken = sum(o.outer_area for o in system.overflows if o.tank == tank.id)
        fragments.append(tank_network.lower(tank, taken))
    for device in system.devices:
        ports[device.id] = sump_network.lower(device, stuff)
        fragments.append(ports[device.id])
    for flow in system.overflows:
        device = system.device(flow.into)
        inlet = ports[device.id].ports["inlet"]
        fragments.append(overflow_network.lower(flow, system.tank(flow.tank), inlet, device.floor, stuff))
    for line in system.returns:
        device = system.device(line.source)
        pump = device.chambers[-1]
        port = ports[device.id].ports["pump"]
        fragments.append(
            return_network.lower(line, system.tank(line.tank), port, device.floor, device.floor + pump.intake, stuff)
        )
    cells = tuple(cell for f in fragments for cell in f.cells)
    links = tuple(link for f in fragments for link in f.links)
    marks = {cell: level for f in fragments for cell, level in f.marks.items()}
    return Network((*cells, _FLOOR_CELL), links, marks)
