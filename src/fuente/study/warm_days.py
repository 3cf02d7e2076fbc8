"""Warmth over days: the coldest room, a heater stuck on, one dead, all dead."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from fuente.life.inputs import (
    TEMPERATURE,
)
from fuente.life.reactor import Living
from fuente.network.transport import march
from fuente.study.living import LivingWater

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

HOUR = 3600.0


@dataclass(frozen=True)
class WarmCase:
    """One case: what it is called, times s, °C of every tank by id."""

    name: str
    times: np.ndarray
    tanks: dict[str, np.ndarray]


def warm_days(study: Analysis, days: float = 4.0) -> tuple[WarmCase, ...]:
    """Temperatures of the tanks over days in each case, from what is kept; ±30 % of how fast they go."""
    water = LivingWater(study)
    inputs = water.inputs
    space = study.space
    heaters = inputs.heaters
    single = [
        (water.water.index[h.cell], h.watts, h.count)
        for d in study.system.devices
        for h in d.heated()
        if h.cell in water.water.index
    ]
    cases: list[tuple[str, float, tuple[tuple[int, float, float], ...]]] = [("coldest room", space.coldest, heaters)]
    if single:
        place, watts, _ = max(single, key=lambda s: s[1])
        cases.append(("one stuck on", space.air, (*_less(heaters, place, watts), (place, watts, 1e3))))
        cases.append(("one dead, coldest room", space.coldest, _less(heaters, place, watts)))
        cases.append(("all dead, coldest room", space.coldest, ()))
    start = water.fresh()
    times = np.arange(0.0, days * 86400.0 + 1.0, HOUR)
    found = []
    for name, room, kept in cases:
        living = Living(water.water, water.living.cells, water.living.areas, replace(inputs, room=room, heaters=kept))
        values = march(living, start, times).values
        warm = living.of(values, TEMPERATURE)
        found.append(WarmCase(name, times, {key: warm[:, k] for key, k in water.tanks.items()}))
    return tuple(found)


def _less(
    heaters: tuple[tuple[int, float, float], ...], place: int, watts: float
) -> tuple[tuple[int, float, float], ...]:
    """Without one of so many W at a place."""
    made, taken = [], False
    for at, power, aim in heaters:
        if at == place and not taken:
            power, taken = power - watts, True
        if power > 1e-9:
            made.append((at, power, aim))
    return tuple(made)
