"""Newline JSON between a controller and Fuente, on this machine alone: what a frame is, and nothing else.

A controller says ``{"hello": 1, "name": …, "sensors": [{"id", "kind", "unit", "place", "name"}], "outlets": […]}``
once, then ``{"id": …, "value": …}`` as often as it likes; a value is in the unit of its kind. What is no frame is
dropped and counted: lines that are too long, no JSON, no numbers, sensors that nobody announced.
"""

from __future__ import annotations

import json
import math
from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

VERSION = 1
HOST = "127.0.0.1"
PORT = 8733
LONGEST = 16_384  # bytes of a line: a hello names its sensors
_MOST_SENSORS = 256
_TEXT = 80
UNITS: Mapping[str, str] = {
    "level": "m",
    "temperature": "degC",
    "flow": "m3/s",
    "ph": "",
    "power": "W",
    "oxygen": "kg/m3",
}
_RANGE: Mapping[str, tuple[float, float]] = {
    "level": (-10.0, 100.0),
    "temperature": (-60.0, 120.0),
    "flow": (-1.0, 1.0),
    "ph": (0.0, 14.0),
    "power": (0.0, 1e5),
    "oxygen": (0.0, 0.1),
}


@dataclass(frozen=True)
class Sensor:
    """One of them: what it measures, in SI, and where (an id of the design, or nothing)."""

    id: str
    kind: str
    place: str = ""
    name: str = ""


@dataclass(frozen=True)
class Outlet:
    """A switched socket of a simulated controller."""

    id: str
    name: str
    on: bool


@dataclass(frozen=True)
class Hello:
    """Who speaks, and what it has."""

    name: str
    sensors: tuple[Sensor, ...]
    outlets: tuple[Outlet, ...] = ()


@dataclass(frozen=True)
class Reading:
    """A value of a sensor, SI."""

    id: str
    value: float


Frame = Hello | Reading


@dataclass
class Reader:
    """Bytes as they come into frames. It holds one line at most, whatever is sent."""

    sensors: dict[str, Sensor] = field(default_factory=dict)
    dropped: int = 0
    _rest: bytes = b""
    _skips: bool = False  # a line that is too long is skipped to its end

    def feed(self, data: bytes) -> list[Frame]:
        """The frames in what came."""
        found: list[Frame] = []
        pieces = (self._rest + data).split(b"\n")
        self._rest = pieces.pop()
        for piece in pieces:
            if self._skips:
                self._skips = False
                continue
            frame = self._frame(piece)
            if frame is not None:
                found.append(frame)
        if len(self._rest) > LONGEST:
            self._rest, self._skips = b"", True
            self.dropped += 1
        return found

    def _frame(self, line: bytes) -> Frame | None:
        if not line.strip():
            return None
        made = decode(line) if len(line) <= LONGEST else None
        if isinstance(made, Hello):
            self.sensors = {s.id: s for s in made.sensors}
            return made
        if isinstance(made, Reading):
            sensor = self.sensors.get(made.id)
            if sensor is not None:
                low, high = _RANGE[sensor.kind]
                if low <= made.value <= high:
                    return made
        self.dropped += 1
        return None


def decode(line: bytes) -> Frame | None:
    """One line; None for what is no frame."""
    try:
        data = json.loads(line.decode("utf-8"), parse_constant=lambda _: None)
    except (ValueError, RecursionError):
        return None
    if not isinstance(data, dict):
        return None
    if "hello" in data:
        return _hello(data)
    value = data.get("value")
    if not isinstance(data.get("id"), str) or isinstance(value, bool) or not isinstance(value, int | float):
        return None
    try:
        number = float(value)
    except OverflowError:
        return None
    return Reading(data["id"][:_TEXT], number) if math.isfinite(number) else None


def _hello(data: Mapping[str, Any]) -> Hello | None:
    sensors, outlets = data.get("sensors"), data.get("outlets", [])
    if data["hello"] != VERSION or not isinstance(sensors, list) or not isinstance(outlets, list):
        return None
    if len(sensors) > _MOST_SENSORS or len(outlets) > _MOST_SENSORS:
        return None
    found = []
    for each in sensors:
        if not isinstance(each, dict) or each.get("kind") not in UNITS or not isinstance(each.get("id"), str):
            return None
        found.append(Sensor(each["id"][:_TEXT], each["kind"], _text(each.get("place")), _text(each.get("name"))))
    sockets = [
        Outlet(_text(o.get("id")), _text(o.get("name")), bool(o.get("on"))) for o in outlets if isinstance(o, dict)
    ]
    return Hello(_text(data.get("name")) or "controller", tuple(found), tuple(sockets))


def _text(value: object) -> str:
    """One line of words, or nothing."""
    if not isinstance(value, str):
        return ""
    return " ".join("".join(c if c.isprintable() else " " for c in value[:_TEXT]).split())


def encode(frame: Frame) -> bytes:
    """A frame as a line."""
    if isinstance(frame, Reading):
        data: dict[str, Any] = {"id": frame.id, "value": frame.value}
    else:
        data = {
            "hello": VERSION,
            "name": frame.name,
            "sensors": [
                {"id": s.id, "kind": s.kind, "unit": UNITS[s.kind], "place": s.place, "name": s.name}
                for s in frame.sensors
            ],
            "outlets": [{"id": o.id, "name": o.name, "on": o.on} for o in frame.outlets],
        }
    return json.dumps(data, ensure_ascii=False, allow_nan=False).encode("utf-8") + b"\n"


def switched(line: bytes) -> tuple[str, bool] | None:
    """A command to a simulated outlet, ``{"set": id, "on": true}``; None for anything else."""
    try:
        data = json.loads(line.decode("utf-8"))
    except (ValueError, RecursionError):
        return None
    if isinstance(data, dict) and isinstance(data.get("set"), str) and isinstance(data.get("on"), bool):
        return data["set"][:_TEXT], data["on"]
    return None
