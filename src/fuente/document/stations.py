"""The stations in the order in which the water meets them."""

from __future__ import annotations

from fuente.devices.base import Station
from fuente.devices.overflow.card import pipe_options
from fuente.devices.overflow.card import stations as overflow_stations
from fuente.devices.return_line.card import station as return_station
from fuente.devices.sump.card import stations as sump_stations
from fuente.devices.tank.card import station as tank_station
from fuente.document.analysis import Analysis, Situation
from fuente.document.assemble import water_of
from fuente.errors import FuenteError


def stations(analysis: Analysis, situation: Situation | None = None) -> tuple[Station, ...]:
    """All rows and cards, with a situation's water (running by default)."""
    system = analysis.system
    solution = (situation or analysis.situation("running")).solution
    flow = solution.kind_flow("pump")
    dry = analysis.try_situation("evaporated")
    days = dry.numbers["days"] if isinstance(dry, Situation) else float("inf")
    found: list[Station] = []
    for i, tank in enumerate(system.tanks):
        found.append(tank_station(tank, solution, ("tanks", i), flow))
        for k, over in enumerate(system.overflows):
            if over.tank == tank.id:
                found += overflow_stations(over, tank, solution, ("overflows", k), system.space.margin)
    for i, device in enumerate(system.devices):
        found += sump_stations(device, solution, ("devices", i), flow, days)
    pipes = pipe_options(("metric", "inch", "hose"))
    for i, line in enumerate(system.returns):
        tank = system.tank(line.tank)
        device = system.device(line.source)
        level = solution.level[analysis.pump_cell]
        volume = solution.volume[tank.id]
        found.append(
            return_station(
                line,
                tank,
                solution,
                ("returns", i),
                level,
                flow / volume if volume else 0.0,
                pipes,
                water_of(system),
                device.floor,
            )
        )
    return tuple(found)


def try_stations(analysis: Analysis) -> tuple[Station, ...]:
    """The stations of the running state, or of the water at rest where nothing runs."""
    try:
        return stations(analysis)
    except FuenteError:
        return stations(analysis, analysis.at_rest())
