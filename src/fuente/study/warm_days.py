"""Warmth over days: the coldest room, a heater stuck on, one dead, all dead, the same with another number of heaters,
and a warm room with and without a fan; and what a chiller would have to take out.
"""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TYPE_CHECKING

import numpy as np

from fuente.life.heat import FAN, LATENT, blown, evaporation
from fuente.life.inputs import TEMPERATURE
from fuente.life.reactor import Living
from fuente.network.transport import march
from fuente.study.living import LivingWater
from fuente.water.properties import density

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

HOUR = 3600.0
DANGER = 3.0  # K within which most animals bear it if it comes slowly; some do not
WARM, BLOWN = "warmest room", "the same with a fan"


@dataclass(frozen=True)
class WarmCase:
    """One case: what it is called, times s, °C of every tank by id; ``other`` where its heaters are not those there."""

    name: str
    times: np.ndarray
    tanks: dict[str, np.ndarray]
    other: bool = False

    def hours_off(self, tank: str, by: float = DANGER) -> float | None:
        """Hours until a tank is so many K from where it began; None where it never is in that time."""
        values = self.tanks[tank]
        off = np.flatnonzero(np.abs(values - values[0]) >= by)
        return float(self.times[off[0]]) / HOUR if off.size else None


def warm_days(study: Analysis, days: float = 4.0) -> tuple[WarmCase, ...]:
    """Temperatures of the tanks over days in each case, from what is kept; ±30 % of how fast they go. What evaporates
    cools by a tenth more or less with every 3 °C of the water's: ±40 %.
    """
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
    others = set()
    if single:
        place, watts, _ = max(single, key=lambda s: s[1])
        cases.append(("one stuck on", space.air, (*_less(heaters, place, watts), (place, watts, 1e3))))
        all_of = sum(power for _, power, _ in heaters)
        aim = max(t for _, _, t in heaters)
        stuck: tuple[tuple[int, float, float], ...]
        if all_of > 1.5 * watts:  # several: as one large one
            instead, stuck = "as one large, stuck on", ((place, all_of, 1e3),)
        else:
            instead, stuck = "as two small, one stuck on", ((place, watts / 2, aim), (place, watts / 2, 1e3))
        cases.append((instead, space.air, stuck))
        others.add(instead)
        cases.append(("one dead, coldest room", space.coldest, _less(heaters, place, watts)))
        cases.append(("all dead, coldest room", space.coldest, ()))
    cases += [(WARM, space.warmest, heaters), (BLOWN, space.warmest, heaters)]
    start = water.fresh()
    times = np.arange(0.0, days * 86400.0 + 1.0, HOUR)
    found = []
    for name, room, kept in cases:
        changed = replace(inputs, room=room, heaters=kept)
        if name == BLOWN:
            changed = replace(changed, watts=changed.watts - _blown_away(water))
        living = Living(water.water, water.living.cells, water.living.areas, changed)
        values = march(living, start, times).values
        warm = living.of(values, TEMPERATURE)
        found.append(WarmCase(name, times, {key: warm[:, k] for key, k in water.tanks.items()}, name in others))
    return tuple(found)


def _blown_away(water: LivingWater) -> np.ndarray:
    """Heat in W that a fan over every tank takes besides, by volume: what evaporates more at the warmth that is kept,
    in the warmest room.
    """
    space, network = water.study.space, water.study.network
    found = np.zeros(len(water.water.ids))
    for key, k in water.tanks.items():
        cell = network.cell(key)
        still = evaporation(cell.open_area, max(cell.temperature, space.warmest - 2.0), space.warmest, space.humidity)
        found[k] = (blown(FAN) - 1.0) * still * density(20.0) * LATENT
    return found


def chiller(study: Analysis) -> float:
    """Heat in W to take out in the warmest room, so that every water stays as warm as it is kept; 0 where none."""
    water = LivingWater(study)
    inputs, space = water.inputs, study.space
    comes = inputs.loses * (space.warmest - water.water.temperatures) + inputs.watts
    return max(float(comes.sum()), 0.0)


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
