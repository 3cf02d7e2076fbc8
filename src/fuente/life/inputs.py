"""What living water carries, by name and place, and what happens in it: the inputs of a reactor."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from fuente.life.nitrifiers import GROWTH, Growth
from fuente.water.properties import HEAT_CAPACITY

CARRIED = ("ammonia", "nitrite", "nitrate", "oxygen", "alkalinity", "salt", "tracer", "temperature")
AMMONIA, NITRITE, NITRATE, OXYGEN, ALKALINITY, SALT, TRACER, TEMPERATURE = range(len(CARRIED))
SUMS = (
    "nitrogen fed",
    "nitrogen in",
    "nitrogen out",
    "nitrogen taken",
    "nitrogen gassed",
    "oxygen in",
    "oxygen out",
    "oxygen from air",
    "oxygen from plants",
    "oxygen breathed",
    "oxygen nitrified",
    "alkalinity in",
    "alkalinity out",
    "alkalinity used",
    "salt in",
    "salt out",
    "tracer in",
    "tracer out",
    "tracer taken",
    "heat in",
    "heat out",
    "heat made",
    "heat lost",
)
SMALL = {"oxygen": 1e-6, "alkalinity": 1e-5, "salt": 1e-4, "temperature": 1e-3}  # else 1e-7 kg/m³: a tenth of a µg/L


def _none(n: int) -> np.ndarray:
    return np.zeros(n)


@dataclass(frozen=True)
class Inputs:
    """What happens in n stirred volumes; arrays (n,) unless said, nothing where left out.

    ``ammonia`` and ``breathing`` kg/s that animals make and use; ``gas`` m³/s, K·A to air; ``falls`` (n, n) m³/s from
    column to row, flows times the share of what they lack that falling water takes up; ``loses`` W/K to a room of
    ``room`` °C; ``watts`` of pumps and lights; ``heaters`` (h,) as (volume, watts, set °C); ``new`` m³/s of new water
    whose contents are ``brings`` (8,), the same leaving again; what comes in from mains and reservoirs brings the same;
    ``dried`` m³/s that evaporates and is topped up with new water without its salt; ``plants`` kg/s of nitrogen that
    they could take, ``plant_oxygen`` kg of oxygen for each kg of it that they take, ``plant_breath`` kg/s that they
    use; ``anoxic`` kg/s of nitrate that could leave as gas; ``carbon`` 1/s·m³ that takes up the tracer.
    """

    ammonia: np.ndarray
    breathing: np.ndarray
    gas: np.ndarray
    falls: np.ndarray
    loses: np.ndarray
    watts: np.ndarray
    new: np.ndarray
    brings: np.ndarray
    dried: np.ndarray
    plants: np.ndarray
    plant_oxygen: np.ndarray
    plant_breath: np.ndarray
    anoxic: np.ndarray
    carbon: np.ndarray
    room: float = 20.0
    heaters: tuple[tuple[int, float, float], ...] = ()
    salinity: float = 0.0
    pressure: float = 1.0
    ph: float = 7.5  # at the alkalinity ``buffer``
    buffer: float = 0.1
    kept_ph: bool = False  # whether somebody puts back the alkalinity that is used, so that the pH stays
    growth: Growth = field(default=GROWTH)

    @classmethod
    def none(cls, n: int, **more: object) -> Inputs:
        """Still water in which nothing happens, but for what is given."""
        made: dict[str, object] = {key: _none(n) for key in cls.arrays()}
        made["falls"] = np.zeros((n, n))
        made["brings"] = np.array([0.0, 0.0, 0.0, 8e-3, 0.1, 0.0, 0.0, 20.0])
        return cls(**(made | more))  # type: ignore[arg-type]

    @staticmethod
    def arrays() -> tuple[str, ...]:
        """Names of what is one value a volume."""
        return (
            "ammonia",
            "breathing",
            "gas",
            "loses",
            "watts",
            "new",
            "dried",
            "plants",
            "plant_oxygen",
            "plant_breath",
            "anoxic",
            "carbon",
        )


def small_of(name: str) -> float:
    """What is small of a sum by m³ of all water, in its own unit."""
    what = name.split(" ", 1)[0]
    return HEAT_CAPACITY * 1e-3 if what == "heat" else SMALL.get(what, 1e-7)
