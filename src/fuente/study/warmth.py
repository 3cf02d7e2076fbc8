"""How warm a water is kept, and what becomes of it with one heater stuck on, one dead, or all dead."""

from __future__ import annotations

from collections.abc import Sequence
from typing import TYPE_CHECKING

from fuente.devices.contract import FALL, Heater, Warmth
from fuente.life.heat import cooling_time, rise_with, surface_loss, wall_u
from fuente.network.model import Cell
from fuente.water.properties import HEAT_CAPACITY

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis


def heaters(study: Analysis, body: Sequence[str]) -> list[Heater]:
    """All heaters in a body of water, by the ids of its cells."""
    inside = set(body)
    return [h for d in study.system.devices for h in d.heated() if h.cell in inside]


def loss_per_kelvin(study: Analysis, body: Sequence[str]) -> float:
    """Heat in W/K that a body of water loses to the room through upright walls and open surface; its floors stand on
    board. ±30 %, most of it at the surface.
    """
    found = 0.0
    for key in body:
        cell: Cell = study.network.cell(key)
        depth = max(study.running.level[key] - cell.floor, 0.0)
        if cell.walls is not None:
            found += wall_u(cell.walls.material, cell.walls.thickness) * cell.walls.around * depth
        found += surface_loss(cell.open_area, cell.cover)
    return found


def warmth(study: Analysis, body: Sequence[str]) -> Warmth | None:
    """Of one body of water; None where nothing heats it. Pumps that stand in it help."""
    placed = heaters(study, body)
    count = sum(h.count for h in placed)
    if not count:
        return None
    homes = [t for t in study.system.tanks if t.id in set(body)]
    kept = max((t.temperature for t in homes), default=25.0)
    per_kelvin = loss_per_kelvin(study, body)
    watts, largest = sum(h.count * h.watts for h in placed), max(h.watts for h in placed)
    pumps = sum(d.warms for d in study.system.devices if _in(study, d.id, body))
    cold, usual = study.space.coldest, study.space.air
    dead = cold + rise_with(pumps, per_kelvin)
    capacity = sum(study.running.volume[key] for key in body) * HEAT_CAPACITY
    return Warmth(
        kept,
        cold + rise_with(watts + pumps, per_kelvin),
        usual + rise_with(largest + pumps, per_kelvin),
        cold + rise_with(watts - largest + pumps, per_kelvin),
        dead,
        cooling_time(capacity, per_kelvin, kept, dead, FALL) / 3600,
        watts,
        count,
    )


def _in(study: Analysis, device_id: str, body: Sequence[str]) -> bool:
    """Whether a device joins a body of water."""
    owners = {study.network.cell(key).owner for key in body} | {device_id}
    device = study.system.device(device_id)
    return any(end.to in owners - {device_id} for end in device.ends())
