"""What can be written into the log: its names as builders say them, its quantity, and what is likely.

Ammonia and nitrite count as nitrogen, nitrate as NO₃, hardness as CaCO₃; all values are SI.
"""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass

MG = 1e-3  # kg/m³
DEGREE = 17.848e-3  # kg/m³ of CaCO₃: a German degree of hardness


@dataclass(frozen=True)
class Measure:
    """Something that is measured or counted: key, words, quantity of ``units``, what builders call it; values in SI
    outside ``low`` to ``high`` are asked about. ``placed`` says that it belongs to one place rather than to a tank.
    """

    key: str
    name: str
    quantity: str
    called: tuple[str, ...]
    low: float
    high: float
    placed: bool = False
    ends: str = ""  # what a curve of it stands on: "" for the range of what was seen, or "zero"
    whole: bool = False  # counted, not measured


MEASURES: Mapping[str, Measure] = {
    m.key: m
    for m in (
        Measure("ammonia", "Ammonia", "concentration", ("ammonia", "nh3", "nh4", "nh3/nh4", "tan"), 0.0, 8 * MG),
        Measure("nitrite", "Nitrite", "concentration", ("nitrite", "no2"), 0.0, 10 * MG),
        Measure("nitrate", "Nitrate", "concentration", ("nitrate", "no3"), 0.0, 400 * MG),
        Measure("ph", "pH", "number", ("ph",), 4.0, 10.5),
        Measure(
            "alkalinity",
            "Alkalinity",
            "concentration",
            ("alkalinity", "kh", "dkh", "carbonate hardness", "carbonate"),
            0.0,
            0.6,
        ),
        Measure("hardness", "Hardness", "concentration", ("hardness", "gh", "dgh", "general hardness"), 0.0, 1.2),
        Measure("phosphate", "Phosphate", "concentration", ("phosphate", "po4"), 0.0, 20 * MG),
        Measure("oxygen", "Oxygen", "concentration", ("oxygen", "o2", "do"), 0.5 * MG, 20 * MG),
        Measure("salinity", "Salinity", "salinity", ("salinity", "salt"), 0.0, 45.0),
        Measure("temperature", "Temperature", "temperature", ("temperature", "temp", "t", "water temperature"), 0, 40),
        Measure(
            "setpoint", "Heater set to", "temperature", ("setpoint", "set point", "heater", "heater set to"), 5.0, 36.0
        ),
        Measure("drop", "Level difference", "level", ("drop", "level difference", "difference"), 0.0, 0.5, placed=True),
        Measure("level", "Level", "level", ("level", "depth", "water level"), -0.1, 4.0, placed=True),
        Measure("flow", "Flow", "flow", ("flow", "real flow", "return flow"), 1e-7, 0.03, placed=True),
        Measure("power", "Power", "power", ("power", "watts", "draws"), 0.0, 5000.0, placed=True),
        Measure("topup", "Topped up", "volume", ("topped up", "top up", "topup", "top-up", "added water"), 0.0, 2.0),
        Measure(
            "change",
            "Water changed",
            "volume",
            ("changed", "water change", "water changed", "change", "wc", "changed water"),
            0.0,
            20.0,
        ),
        Measure("fed", "Fed", "dose", ("fed", "feed", "food"), 0.0, 5.0),
        Measure("died", "Died", "number", ("died", "dead", "death", "deaths", "lost"), 0, 10000, whole=True),
        Measure("arrived", "Arrived", "number", ("arrived", "new", "added fish", "arrival"), 0, 10000, whole=True),
        Measure("cost", "Spent", "number", ("cost", "spent", "paid", "costs"), 0.0, 1e6),
        Measure("bought", "Bought", "number", ("bought", "in stock", "stocked"), 0.0, 1e5, whole=True),
        Measure("used", "Used", "number", ("used", "used up"), 0.0, 1e5, whole=True),
    )
}
EVENTS: Mapping[str, str] = {
    "done": "Done",
    "cleaned": "Cleaned",
    "swapped": "Changed",
    "postponed": "Postponed",
    "note": "Note",
    "photo": "Photograph",
}
WORKED = ("cleaned", "swapped", "done")  # after which a place begins anew


def name_of(what: str) -> str:
    """What an entry is about, in words."""
    return MEASURES[what].name if what in MEASURES else EVENTS.get(what, what)
