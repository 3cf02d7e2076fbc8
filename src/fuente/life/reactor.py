"""Living water: what every stirred volume holds, what lives in it, and how both change.

By volume, kg/m³: ammonia, nitrite and nitrate as nitrogen, oxygen, alkalinity as CaCO₃, salt, one tracer; and its
temperature in °C. By place with living surface: how far each group of bacteria has grown, of a full film. Then sums of
all that came and went, so that balances can be closed.
"""

from __future__ import annotations

import math
from collections.abc import Sequence
from copy import copy
from dataclasses import replace
from functools import cached_property
from typing import NamedTuple

import numpy as np

from fuente.life.entries import entries_of
from fuente.life.gas import saturation
from fuente.life.inputs import (
    ALKALINITY,
    AMMONIA,
    CARRIED,
    NITRATE,
    NITRITE,
    OXYGEN,
    SALT,
    SMALL,
    SUMS,
    TEMPERATURE,
    TRACER,
    Inputs,
    small_of,
)
from fuente.life.load import ALKALINITY_OF_NITROGEN
from fuente.life.nitrifiers import OXYGEN_AMMONIA, OXYGEN_NITRITE, Working
from fuente.network.transport import Stirred
from fuente.water.properties import HEAT_CAPACITY

_BREATH = 0.5e-3  # kg/m³ of oxygen at which breathing is down to half
_BAND = 0.2  # K over which a thermostat goes from full to nothing
_FLOOR = 1e-3  # kg/m³ of alkalinity under which pH is not told
_DENITRIFIED = 3.57  # kg of alkalinity that comes back with a kg of nitrate nitrogen that leaves as gas
_TAKES_HALF = 0.1e-3  # kg/m³ of nitrogen at which plants take half of what they could
_GAS_HALF = 1e-3  # kg/m³ of nitrate at which anoxic places work at half


def _bytes(places: np.ndarray) -> bytes:
    return places.astype(np.int64).tobytes()


class _Local(NamedTuple):
    """Of one state: both groups at work and how growth goes by warmth, by place; oxygen in balance with air and its
    slope by °C, by volume; how pH goes by alkalinity, by place.
    """

    work: Working
    warm: np.ndarray
    high: np.ndarray
    by_warmth: np.ndarray
    by_buffer: np.ndarray


class Living:
    """Stirred water with life on surfaces: a system of rates for ``transport.march``.

    ``cells`` (p,) positions of the volumes that p places see, ``areas`` (p,) m² of living surface.
    """

    def __init__(self, water: Stirred, cells: np.ndarray, areas: np.ndarray, inputs: Inputs):
        self.water, self.cells, self.areas, self.inputs = water, np.asarray(cells, dtype=int), areas, inputs
        self.n, self.p = len(water.ids), len(self.cells)
        self.grown_a = slice(8 * self.n, 8 * self.n + self.p)
        self.grown_n = slice(8 * self.n + self.p, 8 * self.n + 2 * self.p)
        self.grown = slice(8 * self.n, 8 * self.n + 2 * self.p)
        self.sums = slice(8 * self.n + 2 * self.p, self.size)
        self._last: tuple[bytes, _Local] | None = None
        self._build()

    def fed(self, factor: float) -> Living:
        """The same with what animals make and breathe times a factor."""
        made = copy(self)
        inputs = self.inputs
        made.inputs = replace(inputs, ammonia=factor * inputs.ammonia, breathing=factor * inputs.breathing)
        made._fed = factor * self._fed
        made._breath = made.inputs.breathing + inputs.plant_breath
        return made

    # -- reading --------------------------------------------------------------------------------------------------

    @property
    def size(self) -> int:
        """See transport.System."""
        return 8 * self.n + 2 * self.p + len(SUMS)

    @cached_property
    def scale(self) -> np.ndarray:
        """See transport.System."""
        by_cell = [np.full(self.n, SMALL.get(name, 1e-7)) for name in CARRIED]
        whole = float(self.water.volumes.sum())
        sums = [whole * small_of(name) for name in SUMS]
        return np.concatenate((*by_cell, np.full(2 * self.p, 1e-6 * self.inputs.growth.seed), sums))

    @cached_property
    def signed(self) -> np.ndarray:
        """See transport.System."""
        found = np.zeros(self.size, dtype=bool)
        found[TEMPERATURE * self.n : 8 * self.n] = True
        found[self.sums] = True
        return found

    def of(self, y: np.ndarray, what: int) -> np.ndarray:
        """One of what is carried, by volume; of one state or of many, (…, n)."""
        found: np.ndarray = y[..., what * self.n : (what + 1) * self.n]
        return found

    def sum_of(self, y: np.ndarray, name: str) -> np.ndarray:
        """What has come or gone since the start: kg, or J."""
        found: np.ndarray = y[..., self.sums.start + SUMS.index(name)]
        return found

    def ph(self, y: np.ndarray) -> np.ndarray:
        """pH by volume: at the carbon dioxide that it has now it goes with the alkalinity."""
        return self._ph(self.of(y, ALKALINITY))[0]

    def start(self, **values: float) -> np.ndarray:
        """A state: every volume at the same values, surfaces bare but for the seed; new water where nothing is said."""
        y = np.zeros(self.size)
        for k, name in enumerate(CARRIED):
            y[k * self.n : (k + 1) * self.n] = values.get(name, self.inputs.brings[k])
        y[self.grown_a] = values.get("grown", self.inputs.growth.seed)
        y[self.grown_n] = values.get("grown", self.inputs.growth.seed)
        return y

    def stored(self, y: np.ndarray, what: int) -> float:
        """All of one of what is carried: kg, or J over 0 °C."""
        size = HEAT_CAPACITY if what == TEMPERATURE else 1.0
        return size * float((self.of(y, what) * self.water.volumes).sum())

    def turned(self, y: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Nitrogen in kg/s that each place turns from ammonia to nitrite, and on to nitrate, (p,)."""
        made: np.ndarray = self._fast * y[self.grown].reshape(2, self.p) * self._local(y).work.value
        return made[0], made[1]

    # -- what is done at once -------------------------------------------------------------------------------------

    def changed(self, y: np.ndarray, cells: Sequence[int], share: float) -> np.ndarray:
        """After a share of some volumes' water was changed for new."""
        y = y.copy()
        which = list(cells)
        for k, name in enumerate(CARRIED):
            at = k * self.n + np.array(which, dtype=int)
            gone, come = (
                share * y[at] * self.water.volumes[which],
                share * self.inputs.brings[k] * self.water.volumes[which],
            )
            y[at] += share * (self.inputs.brings[k] - y[at])
            said = "nitrogen" if k <= NITRATE else "heat" if k == TEMPERATURE else name
            size = HEAT_CAPACITY if k == TEMPERATURE else 1.0
            y[self.sums.start + SUMS.index(f"{said} out")] += size * gone.sum()
            y[self.sums.start + SUMS.index(f"{said} in")] += size * come.sum()
        return y

    def dosed(self, y: np.ndarray, cell: int, what: int, amount: float) -> np.ndarray:
        """After so many kg were put into a volume."""
        y = y.copy()
        y[what * self.n + cell] += amount / self.water.volumes[cell]
        said = "nitrogen" if what <= NITRATE else CARRIED[what]
        y[self.sums.start + SUMS.index(f"{said} in")] += amount
        return y

    # -- rates ----------------------------------------------------------------------------------------------------

    def _ph(self, alkalinity: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        i = self.inputs
        if i.kept_ph:
            return np.full_like(alkalinity, i.ph), np.zeros_like(alkalinity)
        value = i.ph + np.log10((np.maximum(alkalinity, 0.0) + _FLOOR) / (i.buffer + _FLOOR))
        return value, 1.0 / ((np.maximum(alkalinity, 0.0) + _FLOOR) * np.log(10.0))

    def _local(self, y: np.ndarray) -> _Local:
        """What rates and slopes both ask for: solvers ask for the same state in a row."""
        key = y[: 8 * self.n].tobytes()
        if self._last is not None and self._last[0] == key:
            return self._last[1]
        i = self.inputs
        by = np.maximum(y[: 8 * self.n].reshape(8, self.n)[:, self.cells], 0.0)
        ph, by_buffer = self._ph(by[ALKALINITY])
        work = Working.at(by[AMMONIA], by[NITRITE], by[OXYGEN], ph, by[TEMPERATURE], i.salinity, i.growth)
        high, by_warmth = saturation(self.of(y, TEMPERATURE), i.salinity, i.pressure)
        warm = np.exp(math.log(i.growth.theta) * (by[TEMPERATURE] - 18.0))
        made = _Local(work, warm, high, by_warmth, by_buffer)
        self._last = key, made
        return made

    def by_feed(self, y: np.ndarray) -> np.ndarray:
        """How the rates go with all that is fed, as a factor of what is."""
        i, n, volumes = self.inputs, self.n, self.water.volumes
        out = np.zeros(self.size)
        oxygen = self.of(y, OXYGEN)
        out[AMMONIA * n : (AMMONIA + 1) * n] = i.ammonia / volumes
        out[OXYGEN * n : (OXYGEN + 1) * n] = -i.breathing * oxygen / (oxygen + _BREATH) / volumes
        return out

    def rates(self, y: np.ndarray) -> np.ndarray:
        """See transport.System."""
        i, n, c, volumes = self.inputs, self.n, self.cells, self.water.volumes
        out = np.zeros(self.size)
        by = y[: 8 * n].reshape(8, n)
        change = by @ self._flows.T + self._come  # amounts by second, of everything that water carries
        temperature, oxygen = by[TEMPERATURE], by[OXYGEN]
        local = self._local(y)
        high, value = local.high, local.work.value
        breath = self._breath * oxygen / (oxygen + _BREATH)
        air = i.gas * (high - oxygen) + i.falls @ (high - oxygen)
        grown = y[self.grown].reshape(2, self.p)
        made = self._fast * grown * value
        to_nitrite, to_nitrate = np.bincount(c, made[0], n), np.bincount(c, made[1], n)
        used = OXYGEN_AMMONIA * to_nitrite + OXYGEN_NITRITE * to_nitrate
        food = by[AMMONIA] + by[NITRATE]
        take = i.plants / (food + _TAKES_HALF)
        green = i.plant_oxygen * take * food
        gassed = i.anoxic * by[NITRATE] / (by[NITRATE] + _GAS_HALF)
        stove = self._stove(temperature)[0]
        lost = i.loses * (temperature - i.room)
        change[AMMONIA] += i.ammonia - to_nitrite - take * by[AMMONIA]
        change[NITRITE] += to_nitrite - to_nitrate
        change[NITRATE] += to_nitrate - take * by[NITRATE] - gassed
        change[OXYGEN] += air + green - breath - used
        change[ALKALINITY] += self._back * gassed - self._acid * to_nitrite
        change[TRACER] -= i.carbon * by[TRACER]
        change[TEMPERATURE] += (i.watts + stove - lost) / HEAT_CAPACITY - i.dried * temperature
        out[: 8 * n] = (change / volumes).ravel()
        gained = self._grow * grown * value * (1 - grown) - self._decay * local.warm * (grown - i.growth.seed)
        out[self.grown] = gained.ravel()
        leaves = by @ self._leaves
        rows = (
            take * food,
            gassed,
            air,
            green,
            breath,
            used,
            to_nitrite,
            i.carbon * by[TRACER],
            i.dried * temperature,
            stove,
            lost,
        )
        taken, gone, aired, greened, breathed, nitrified, turned, carbon, dried, heated, cooled = np.array(rows).sum(
            axis=1
        )
        come = self._brought
        out[self.sums] = (
            self._fed,
            come[0] + come[1] + come[2],
            leaves[0] + leaves[1] + leaves[2],
            taken,
            gone,
            come[OXYGEN],
            leaves[OXYGEN],
            aired,
            greened,
            breathed,
            nitrified,
            come[ALKALINITY],
            leaves[ALKALINITY],
            self._acid * turned - self._back * gone,
            come[SALT],
            leaves[SALT],
            come[TRACER],
            leaves[TRACER],
            carbon,
            HEAT_CAPACITY * come[TEMPERATURE],
            HEAT_CAPACITY * (leaves[TEMPERATURE] + dried),
            self._driven + heated,
            cooled,
        )
        return out

    def _stove(self, temperature: np.ndarray) -> tuple[np.ndarray, np.ndarray]:
        """Heat in W from heaters, and its slope by temperature."""
        heat, slope = np.zeros(self.n), np.zeros(self.n)
        for cell, watts, aim in self.inputs.heaters:  # few: a loop is quicker than arrays
            x = (aim + _BAND / 2 - float(temperature[cell])) / _BAND
            heat[cell] += watts * min(max(x, 0.0), 1.0)
            slope[cell] -= watts / _BAND if 0 < x < 1 else 0.0
        return heat, slope

    # -- slopes ---------------------------------------------------------------------------------------------------

    def _build(self) -> None:
        i, n = self.inputs, self.n
        g = i.growth
        self._fast = self.areas * np.array([[g.most_a], [g.most_n]])  # kg/s of nitrogen by a full film at its best
        self._grow, self._decay = np.array([[g.grow_a], [g.grow_n]]), np.array([[g.decay_a], [g.decay_n]])
        self._acid, self._back = (0.0, 0.0) if i.kept_ph else (ALKALINITY_OF_NITROGEN, _DENITRIFIED)
        # What flows on, less what new water drives out. What dries leaves all but water and its warmth behind, and is
        # topped up with new water.
        self._flows = self.water.flows - np.diag(i.new)
        sweet = np.where(np.arange(8) == SALT, 0.0, i.brings)
        self._come = np.outer(i.brings, i.new + self.water.fresh) + np.outer(sweet, i.dried)
        self._leaves = -self.water.flows.sum(axis=0) + i.new
        self._brought = self._come.sum(axis=1)
        self._breath = i.breathing + i.plant_breath
        self._fed, self._driven = float(i.ammonia.sum()), float(i.watts.sum())
        to, at = np.nonzero(self._flows)
        self._moved = np.tile(self._flows[to, at] / self.water.volumes[to], 8)
        fall_to, fall_at = np.nonzero(i.falls)
        self._fallen, self._falls_at = i.falls[fall_to, fall_at] / self.water.volumes[fall_to], fall_at
        self._left = np.concatenate((np.tile(self._leaves, 7), HEAT_CAPACITY * (self._leaves + i.dried)))
        self._aired = i.gas + i.falls.sum(axis=0)
        self._entries = entries_of(n, _bytes(self.cells), (_bytes(to), _bytes(at)), (_bytes(fall_to), _bytes(fall_at)))

    @property
    def entries(self) -> tuple[np.ndarray, np.ndarray]:
        """See transport.System."""
        return self._entries

    def _bends(self, local: _Local) -> np.ndarray:
        """How both groups' work goes by ammonia, nitrite, oxygen, alkalinity and warmth, (2, 5, p)."""
        by = local.work.slopes()
        bends = np.empty((2, 5, self.p))
        bends[0, 0], bends[0, 1] = by.by_food[0] + by.by_ammonia[0], 0.0
        bends[1, 0], bends[1, 1] = by.by_ammonia[1], by.by_food[1]
        bends[:, 2], bends[:, 3], bends[:, 4] = by.by_oxygen, by.by_ph * local.by_buffer, by.by_temperature
        return bends

    def slopes(self, y: np.ndarray) -> np.ndarray:
        """See transport.System."""
        i, n, c, volumes = self.inputs, self.n, self.cells, self.water.volumes
        g = i.growth
        by = y[: 8 * n].reshape(8, n)
        temperature, oxygen = by[TEMPERATURE], by[OXYGEN]
        local = self._local(y)
        by_warmth, warm = local.by_warmth, local.warm
        breath = self._breath * _BREATH / (oxygen + _BREATH) ** 2
        food = by[AMMONIA] + by[NITRATE] + _TAKES_HALF
        take, bent = i.plants / food, -i.plants / food**2
        ammonia_taken = take + bent * by[AMMONIA], bent * by[AMMONIA]  # by ammonia, by nitrate
        nitrate_taken = bent * by[NITRATE], take + bent * by[NITRATE]
        green = [i.plant_oxygen * (by_a + by_n) for by_a, by_n in zip(ammonia_taken, nitrate_taken, strict=True)]
        gas = i.anoxic * _GAS_HALF / (by[NITRATE] + _GAS_HALF) ** 2
        stove = self._stove(temperature)[1]
        parts: list[np.ndarray] = [self._moved]
        parts += [
            -ammonia_taken[0] / volumes,
            -ammonia_taken[1] / volumes,
            -(nitrate_taken[1] + gas) / volumes,
            -nitrate_taken[0] / volumes,
            green[0] / volumes,
            green[1] / volumes,
            -(i.gas + breath) / volumes,
            i.gas * by_warmth / volumes,
            self._back * gas / volumes,
            -i.carbon / volumes,
            ((stove - i.loses) / HEAT_CAPACITY - i.dried) / volumes,
        ]
        parts += [-self._fallen, self._fallen * by_warmth[self._falls_at]]
        bends = self._bends(local)
        grown, value = y[self.grown].reshape(2, self.p), local.work.value
        slope = np.zeros((2, 7, self.p))  # by food and warmth as bends, and by how far either group has grown
        slope[:, :5] = (self._fast * grown)[:, None] * bends
        slope[0, 5], slope[1, 6] = self._fast * value
        first, then = slope * (1.0 / volumes[c])
        used = OXYGEN_AMMONIA * slope[0] + OXYGEN_NITRITE * slope[1]
        in_places = (-first, first - then, then, used * (-1.0 / volumes[c]), -self._acid * first)
        parts += [each.ravel() for each in in_places]
        room = (self._grow * grown * (1 - grown))[:, None]
        growth = np.empty((2, 6, self.p))
        growth[:, :5] = room * bends
        growth[:, 4] -= self._decay * warm * math.log(g.theta) * (grown - g.seed)
        growth[:, 5] = self._grow * value * (1 - 2 * grown) - self._decay * warm
        parts += [
            growth.ravel(),
            self._left,
            ammonia_taken[0] + nitrate_taken[0],
            ammonia_taken[1] + nitrate_taken[1],
            gas,
            -self._aired,
            self._aired * by_warmth,
            *green,
            breath,
            -self._back * gas,
            i.carbon,
            stove,
            i.loses,
            used.ravel(),
            (self._acid * slope[0, :6]).ravel(),
        ]
        return np.concatenate(parts)
