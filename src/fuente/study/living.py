"""The living water of a design: its cells in a situation as stirred reactors, with what every device brings to them."""

from __future__ import annotations

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from typing import TYPE_CHECKING

import numpy as np

from fuente.devices import kind_of
from fuente.devices.lives import Live
from fuente.errors import SolveError
from fuente.life.gas import bubble_transfer, fall_share, saturation, surface_transfer
from fuente.life.heat import evaporation, surface_loss, wall_u
from fuente.life.inputs import (
    ALKALINITY,
    AMMONIA,
    NITRITE,
    TEMPERATURE,
    Inputs,
)
from fuente.life.load import OXYGEN_OF_DIRT, OXYGEN_OF_FEED, ammonia_made
from fuente.life.nitrifiers import GROWTH, Growth
from fuente.life.plants import breathed_in_the_dark
from fuente.life.reactor import Living
from fuente.life.renewal import NITRATE_ION
from fuente.network.aeration import Aeration
from fuente.network.laws import Standpipe
from fuente.network.model import WayKind
from fuente.network.resting import rest
from fuente.network.returning import ReturnLine
from fuente.network.supplies import Falls
from fuente.network.transport import Stirred
from fuente.study.situation import Situation
from fuente.water.properties import density, oxygen_saturation

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

_DAY = 86400.0
LEAST = 1e-8  # 1/s
_NONE = 1e-30  # kg/s
_SPENT = 0.1  # of the alkalinity of new water: with less, a full pH lower, no filter is kept running
_RUNS = 1e-12  # m³/s
_TURNS = 1 / 3600  # by second: water that turns over once an hour is stirred at its surface
_COVERED = 0.5  # of what open water takes up, under a cover that is no seal
_FALL_LEAST = 0.01  # m
_STONE_DEPTH = 0.5  # m
_AIRY = 0.5  # of a pipe's bore: with so much air in it water falls as freely as outside
_FALLING = frozenset({WayKind.WEIR, WayKind.BAFFLE, WayKind.BYPASS, WayKind.DRAIN, WayKind.PIPE, WayKind.HEADER})
_TRICKLING = frozenset({WayKind.FILM, WayKind.DRIPS})


@dataclass(frozen=True)
class Place:
    """Where bacteria live: a device's surface in m² in one cell."""

    device: str
    title: str
    cell: str
    area: float

    @property
    def id(self) -> str:
        """Unlike every other's."""
        return f"{self.device}:{self.cell}"


class LivingWater:
    """A design's water in one situation. Where a tank's feed is not known nothing lives there that asks for anything.

    ``feed`` is a factor on what is fed, ``gas`` one on what surfaces and bubbles let through; ``without`` ids of
    devices whose surfaces are out; ``stone`` m³/s of air on a battery in every tank, half a metre down at most. Over a
    day's mean, or by night where it is not ``lit``: then plants breathe and give nothing.
    """

    def __init__(
        self,
        study: Analysis,
        situation: Situation | None = None,
        *,
        feed: float = 1.0,
        growth: Growth = GROWTH,
        without: Sequence[str] = (),
        gas: float = 1.0,
        stone: float = 0.0,
        lit: bool = True,
    ):
        self.study = study
        self.situation = situation or study.situation("running")
        self.feed, self.growth, self.without, self.gas = feed, growth, tuple(without), gas
        self.stone, self.lit = stone, lit
        self.water = Stirred.of(self.situation.solution)

    @cached_property
    def lives(self) -> Mapping[str, Live]:
        """What lives in every device, by its id."""
        return {d.id: kind_of(d).lives(d, self.study.sites[d.id]) for d in self.study.system.devices}

    @cached_property
    def places(self) -> tuple[Place, ...]:
        """Living surfaces, in the order of the document; of a device that is out nothing counts."""
        at, network = self.water.index, self.study.network
        found = []
        for device in self.study.system.devices:
            if device.id in self.without:
                continue
            there = [s for s in self.lives[device.id].surfaces if s.cell in at and s.area > 0]
            several = len({s.cell for s in there}) > 1
            found += [
                Place(device.id, network.cell(s.cell).name if several else device.title, s.cell, s.area) for s in there
            ]
        return tuple(found)

    @cached_property
    def tanks(self) -> dict[str, int]:
        """Positions of the tanks' volumes, by id."""
        at = self.water.index
        return {t.id: at[t.id] for t in self.study.system.tanks if t.id in at}

    @cached_property
    def fed(self) -> float:
        """Feed in kg/s of all tanks."""
        return self.feed * sum(f.feed for live in self.lives.values() for f in live.fed)

    @cached_property
    def living(self) -> Living:
        """The system of rates."""
        at = self.water.index
        cells = np.array([at[p.cell] for p in self.places], dtype=int)
        return Living(self.water, cells, np.array([p.area for p in self.places]), self.inputs)

    # -- what happens in it ---------------------------------------------------------------------------------------

    @cached_property
    def inputs(self) -> Inputs:
        """All of it; new water comes from mains, by drips and for what dries, batches are jumps."""
        study, keeping, n = self.study, self.study.system.keeping, len(self.water.ids)
        at, areas = self.water.index, {p.cell: 0.0 for p in self.places}
        ammonia, breathing, plants, given, breath, anoxic = (np.zeros(n) for _ in range(6))
        for place in self.places:
            areas[place.cell] += place.area
        whole = sum(areas.values())
        for live in self.lives.values():
            for each in live.fed:
                if each.cell not in at:
                    continue
                feed = self.feed * each.feed
                ammonia[at[each.cell]] += ammonia_made(feed, each.protein)
                breathing[at[each.cell]] += OXYGEN_OF_FEED * feed
                # What animals leave lies where water is filtered, by how much there is to filter it.
                for cell, area in areas.items() if whole > 0 else ((each.cell, 1.0),):
                    breathing[at[cell]] += OXYGEN_OF_DIRT * feed * area / (whole or 1.0)
            for planted in live.plants:
                if planted.cell not in at:
                    continue
                breath[at[planted.cell]] += breathed_in_the_dark(planted.takes)
                if self.situation.powered:  # else no lamps, and maybe a night
                    plants[at[planted.cell]] += planted.takes
                    given[at[planted.cell]] += planted.takes * (planted.gives if self.lit else 0.0)
            for hole in live.anoxic:
                if hole.cell in at:
                    anoxic[at[hole.cell]] += hole.takes
        salinity = study.system.salinity
        pressure = float(oxygen_saturation(20.0, 0.0, keeping.altitude) / oxygen_saturation(20.0))
        full = float(saturation(np.array([keeping.cold]), salinity, pressure)[0][0])
        salt = salinity * 1e-3 * density(25.0, salinity)
        # As it comes from the tap, aired and salted.
        new = np.array([0.0, 0.0, keeping.nitrate / NITRATE_ION, full, keeping.alkalinity, salt, 0.0, keeping.cold])
        return Inputs(
            ammonia=ammonia,
            breathing=breathing,
            gas=self.gas * self._gas(salinity, pressure),
            falls=self._falls(),
            loses=self._loses(),
            watts=self._watts(),
            new=np.zeros(n),
            brings=new,
            dried=self._dries(),
            plants=plants,
            plant_oxygen=given / np.maximum(plants, _NONE),
            plant_breath=breath,
            anoxic=anoxic,
            carbon=np.zeros(n),
            room=study.space.air,
            heaters=self._heaters() if self.situation.powered else (),
            salinity=salinity,
            pressure=pressure,
            ph=keeping.ph,
            buffer=keeping.alkalinity or 0.1,
            growth=self.growth,
        )

    def _gas(self, salinity: float, pressure: float) -> np.ndarray:
        """K·A to air, m³/s: surfaces, and bubbles where they rise."""
        network, solution = self.study.network, self.situation.solution
        found = np.zeros(len(self.water.ids))
        turns = self.water.through / self.water.volumes
        for k, key in enumerate(self.water.ids):
            cell = network.cell(key)
            covered = cell.open_area * cell.cover / (1 - cell.cover) if cell.cover < 0.999 else 0.0
            area = cell.open_area + _COVERED * covered
            found[k] += surface_transfer(area, bool(turns[k] > _TURNS), cell.temperature)
        full = saturation(self.water.temperatures, salinity, pressure)[0]
        for group in network.groups:
            if not isinstance(group, Aeration):
                continue
            for lift in group.lifts:
                air = solution.flow.get(f"{group.supply.id}.{lift.id}", 0.0)
                cell_id = lift.b if lift.count and lift.b in self.water.index else lift.a
                at = self.water.index.get(cell_id)
                if at is not None and air > 0:
                    depth = solution.level[lift.a] - lift.injector
                    found[at] += bubble_transfer(air, depth, float(full[at]), lift.bubbly)
        for key, k in self.tanks.items():
            depth = min(solution.level[key] - network.cell(key).floor, _STONE_DEPTH)
            found[k] += bubble_transfer(self.stone, depth, float(full[k]))
        return found

    def _falls(self) -> np.ndarray:
        """Flows from column to row times the share of what they lack that falling water takes up, m³/s."""
        at, solution, n = self.water.index, self.situation.solution, len(self.water.ids)
        laws = {link.id: link.law for link in solution.network.links}
        found = np.zeros((n, n))
        for way in self.study.network.ways:
            trickles, law = way.kind in _TRICKLING, laws.get(way.id)
            pumped = isinstance(law, ReturnLine)
            if not trickles and not pumped and way.kind not in _FALLING:
                continue
            flow = solution.flow.get(way.id, 0.0)
            a, b = (way.a, way.b) if flow > 0 else (way.b, way.a)
            if a not in at or b not in at:
                continue
            warmth, level = float(self.water.temperatures[at[a]]), solution.level[b]
            if isinstance(law, ReturnLine):  # what leaves an outlet that stands in air falls from its mouth
                sprays = law.sprays(level) if flow > 0 and b == way.b else ()
                share = sum(part * fall_share(h, warmth) for part, h in sprays if h > _FALL_LEAST)
            elif (height := solution.level[a] - level) > _FALL_LEAST:
                share = fall_share(height, warmth, trickles)
                if isinstance(law, Standpipe | Falls):  # a pipe that runs full takes no air
                    share *= min((1.0 - law.filled(solution.level[a], level)) / _AIRY, 1.0)
            else:
                continue
            found[at[b], at[a]] += abs(flow) * share
        return found

    def _dries(self) -> np.ndarray:
        """Water in m³/s that each volume loses to the air, and gets back sweet."""
        space, network = self.study.space, self.study.network
        cells = [network.cell(key) for key in self.water.ids]
        return np.array([evaporation(c.open_area, c.temperature, space.air, space.humidity) for c in cells])

    def _loses(self) -> np.ndarray:
        """Heat in W/K to the room, by volume: upright walls and surface, as for heaters."""
        found, solution = np.zeros(len(self.water.ids)), self.situation.solution
        for k, key in enumerate(self.water.ids):
            cell = self.study.network.cell(key)
            depth = max(solution.level[key] - cell.floor, 0.0)
            if cell.walls is not None:
                found[k] += wall_u(cell.walls.material, cell.walls.thickness) * cell.walls.around * depth
            found[k] += surface_loss(cell.open_area, cell.cover)
        return found

    def _watts(self) -> np.ndarray:
        """Heat in W from pumps and lamps, where their water comes out."""
        found = np.zeros(len(self.water.ids))
        if not self.situation.powered:
            return found
        flow = self.situation.solution.flow
        for device in self.study.system.devices:
            if device.warms <= 0:
                continue
            into = {w.b for w in self.study.network.ways if w.owner == device.id and flow.get(w.id, 0.0) > 0}
            places = [self.water.index[c] for c in sorted(into) if c in self.water.index]
            for place in places:
                found[place] += device.warms / len(places)
        return found

    def _heaters(self) -> tuple[tuple[int, float, float], ...]:
        """Volume, watts, and what its thermostat keeps."""
        kept: dict[str, float] = {}
        tanks = {t.id: t.temperature for t in self.study.system.tanks}
        for body in self.study.bodies:
            warmest = max((tanks[c] for c in body if c in tanks), default=25.0)
            kept.update(dict.fromkeys(body, warmest))
        return tuple(
            (self.water.index[h.cell], h.count * h.watts, kept[h.cell])
            for d in self.study.system.devices
            for h in d.heated()
            if h.cell in self.water.index
        )

    # -- states ---------------------------------------------------------------------------------------------------

    def fresh(self, grown: float | None = None) -> np.ndarray:
        """New water in every volume, each as warm as its cell is kept; surfaces bare, or ``grown`` to a share."""
        living = self.living
        y = living.start(grown=self.growth.seed if grown is None else grown)
        n = living.n
        y[TEMPERATURE * n : (TEMPERATURE + 1) * n] = self.water.temperatures
        return y

    def mature(self, start: np.ndarray | None = None, near: bool = False) -> np.ndarray:
        """The state in which everything stays as it is, with films grown to what feeds them. Nitrate and alkalinity are
        those with water changed as a steady drip of the same share; where new water does not bring the alkalinity that
        is used, somebody puts it back. From a ``start`` that is ``near`` it is quick. Raises SolveError where there is
        none.
        """
        living = self.dripping
        y = self.fresh(self.about_grown()) if start is None else start.copy()
        among = slice(0, living.sums.start)
        kept = Living(living.water, living.cells, living.areas, replace(living.inputs, kept_ph=True))
        try:
            found = rest(living, y, among, 1e6 if near else 60.0)
        except SolveError:
            return rest(kept, self.fresh(self.about_grown()), among)
        left = min(float(living.of(found, ALKALINITY)[k]) for k in self.tanks.values())
        if left > _SPENT * living.inputs.buffer:
            return found
        return rest(kept, self.fresh(self.about_grown()), among)

    def taken_over(self, other: LivingWater, y: np.ndarray) -> np.ndarray:
        """A state of the same design in another situation, for this one's volumes: what stood where goes on there, and
        films stay where they grew. Sums begin anew.
        """
        made, n, far = self.fresh(), self.living.n, other.living.n
        for key, k in self.water.index.items():
            at = other.water.index.get(key)
            if at is not None:
                made[k : 8 * n : n] = y[at : 8 * far : far]
        places = {p.id: i for i, p in enumerate(other.places)}
        for i, place in enumerate(self.places):
            if place.id in places:
                for mine, theirs in (
                    (self.living.grown_a, other.living.grown_a),
                    (self.living.grown_n, other.living.grown_n),
                ):
                    made[mine.start + i] = y[theirs.start + places[place.id]]
        made[self.living.sums] = 0.0
        return made

    def about_grown(self) -> float:
        """Of a full film that the load keeps alive: at the least ammonia that it can live on, it works so far as it
        dies.
        """
        growth = self.growth
        full = sum(p.area for p in self.places) * growth.most_a
        lean = growth.decay_a / growth.grow_a
        return min(max(float(self.inputs.ammonia.sum()) / full / lean, growth.seed), 0.9) if full > 0 else 0.0

    @cached_property
    def dripping(self) -> Living:
        """The same with water changes spread over time: what they take of everything in the long run. What nothing else
        renews is renewed once in three years, so that it has a state in which it stays.
        """
        keeping = self.study.system.keeping
        rate = -np.log(max(1.0 - keeping.share, 1e-3)) / keeping.interval
        tanks = set(self.tanks.values())
        drip = np.array([rate * v if k in tanks else 0.0 for k, v in enumerate(self.water.volumes)])
        stale = self._unrenewed(drip)
        drip[stale] = LEAST * self.water.volumes[stale]
        living = self.living
        return Living(self.water, living.cells, living.areas, replace(self.inputs, new=drip))

    def _unrenewed(self, drip: np.ndarray) -> np.ndarray:
        """Which volumes no new water reaches and none leaves, straight or through others, (n,)."""
        flows = self.water.flows
        renewed = (drip > 0) | (-flows.sum(axis=0) > _RUNS)
        onward = flows > _RUNS
        while (more := renewed | onward[renewed].any(axis=0)).sum() > renewed.sum():
            renewed = more
        stale: np.ndarray = ~renewed
        return stale

    def worst(self, y: np.ndarray) -> dict[str, tuple[float, float]]:
        """Ammonia and nitrite in kg/m³ in every tank."""
        ammonia, nitrite = self.living.of(y, AMMONIA), self.living.of(y, NITRITE)
        return {key: (float(ammonia[k]), float(nitrite[k])) for key, k in self.tanks.items()}
