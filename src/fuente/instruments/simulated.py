"""A controller that is played: sensors and switched outlets, driven by the design's own network and by faults."""

from __future__ import annotations

import math
import random
from collections.abc import Sequence
from dataclasses import replace

import numpy as np

from fuente.devices.homes import HomeSpec
from fuente.errors import FuenteError
from fuente.instruments.protocol import Hello, Outlet, Reading, Sensor
from fuente.network.model import WayKind
from fuente.network.transient import History
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.living import LivingWater
from fuente.study.wet_test import run

_AHEAD = 900.0  # s of simulated time that are worked out at once
_MOST = 6 * 3600.0  # s after which the water is taken to stand as it does then
_PUMPS = (WayKind.PUMP, WayKind.FEED_PUMP, WayKind.INNER_PUMP, WayKind.LOOP_PUMP)
_NOISE = {"level": 4e-4, "temperature": 0.06, "flow": 0.01, "ph": 0.015, "power": 0.01}
_HEAT = 4.186e6  # J/(m³·K)
_MOST_TANKS = 24


class Simulated:
    """Values at a simulated time in s from the start; the same seed gives the same values."""

    def __init__(self, study: Analysis, faults: Sequence[Fault] = (), seed: int = 1):
        self.study = study
        self.faults: list[Fault] = sorted(faults, key=lambda f: f.time)
        self._rng = random.Random(seed)
        self._history: History | None = None
        self._until = 0.0
        self.on = {"pumps": True, "heater": True}
        self._heats: list[tuple[float, bool]] = [(0.0, True)]
        self._warm = self._room_of_heat()
        self.sensors = self._sensors()

    # -- what it has ----------------------------------------------------------------------------------------------

    def _sensors(self) -> tuple[Sensor, ...]:
        study, found = self.study, []
        for tank in study.system.tanks[:_MOST_TANKS]:
            found.append(Sensor(f"level.{tank.id}", "level", tank.id, f"{tank.name}, level"))
        for vessel, spot in study.wells()[:4]:
            found.append(
                Sensor(
                    f"level.{spot.leave}", "level", spot.leave, f"{study.system.device(vessel.id).title}, pump chamber"
                )
            )
        first = study.system.tanks[0]
        found.append(Sensor(f"temperature.{first.id}", "temperature", first.id, f"{first.name}, temperature"))
        found.append(Sensor(f"ph.{first.id}", "ph", first.id, f"{first.name}, pH"))
        for way in study.network.ways:
            if way.kind in _PUMPS:
                title = study.system.device(way.owner).title
                found.append(Sensor(f"flow.{way.id}", "flow", way.owner, f"{title}, flow"))
                found.append(Sensor(f"power.{way.id}", "power", way.owner, f"{title}, power"))
        return tuple(found)

    def hello(self) -> Hello:
        """What it says first."""
        outlets = (Outlet("pumps", "Pumps", self.on["pumps"]), Outlet("heater", "Heaters", self.on["heater"]))
        return Hello(f"simulated, {self.study.system.name}", self.sensors, outlets)

    # -- what happens -----------------------------------------------------------------------------------------------

    def switch(self, outlet: str, on: bool, time: float) -> bool:
        """Switch a simulated outlet; False for one that is not there."""
        if outlet not in self.on:
            return False
        if self.on[outlet] == on:
            return True
        self.on[outlet] = on
        if outlet == "pumps":
            self.faults.append(Fault("power-return" if on else "power-cut", max(time, 0.01)))
            self._history = None
        else:
            self._heats.append((time, on))
        return True

    def values(self, time: float) -> list[Reading]:
        """Every sensor at a time."""
        history = self._followed(time)
        at = min(time, float(history.times[-1]))
        levels, flows = history.at(at), history.flows_at(at)
        found = []
        for sensor in self.sensors:
            kind, _, key = sensor.id.partition(".")
            noise = self._rng.gauss(0.0, _NOISE[kind])
            if kind == "level":
                value = levels[key] - self.study.network.cell(key).floor + noise
            elif kind == "flow":
                value = flows.get(key, 0.0) * (1 + noise)
            elif kind == "power":
                owner = self.study.system.device(sensor.place)
                turns = flows.get(key, 0.0) > 1e-9
                value = max(owner.draws * (1 + noise) if turns else 0.0, 0.0)
            elif kind == "temperature":
                value = self._temperature(time) + noise
            else:
                value = 7.4 + 0.06 * math.sin(2 * math.pi * time / 86400.0) + noise
            found.append(Reading(sensor.id, value))
        return found

    def _followed(self, time: float) -> History:
        """The water up to a time, worked out ahead; where it has stood still for long it is taken to stand so."""
        if self._history is None or (time > self._until and self._until < _MOST):
            until = min(max(self._until, time) + _AHEAD, max(_MOST, time if self._history is None else 0.0))
            begins = [replace(f, time=min(f.time, until)) for f in self.faults]
            self._history, self._until = run(self.study, begins, until).history, until
        return self._history

    # -- heat -------------------------------------------------------------------------------------------------------

    def _room_of_heat(self) -> tuple[float, float, float, float]:
        """Temperature at the start, of the room, 1/s by which it nears that, and K/s that the heaters give."""
        study = self.study
        device = study.system.tanks[0]
        start = device.temperature if isinstance(device, HomeSpec) else 20.0
        try:
            inputs = LivingWater(study).inputs
        except FuenteError:
            return start, study.system.space.air, 1e-5, 0.0
        volume = max(sum(study.running.volume.values()), 1e-6)
        loses = float(np.sum(inputs.loses)) / (_HEAT * volume)
        heats = sum(watts for _, watts, _ in inputs.heaters) / (_HEAT * volume)
        return start, study.system.space.air, max(loses, 1e-9), heats

    def _temperature(self, time: float) -> float:
        """It is kept while the heaters may, and nears the room while not."""
        start, room, loses, heats = self._warm
        value, at = start, 0.0
        for k, (begins, on) in enumerate(self._heats):
            ends = self._heats[k + 1][0] if k + 1 < len(self._heats) else time
            ends = min(ends, time)
            if ends <= at and k:
                continue
            span = max(ends - max(begins, at), 0.0)
            away = room + (value - room) * math.exp(-loses * span)
            value = min(away + heats * span, max(start, away)) if on and heats > 0 else (start if on else away)
            at = max(at, ends)
        return value
