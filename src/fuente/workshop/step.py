"""A step of the build, and the cautions that steps name, each worded once."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import dataclass

from fuente.devices import kind_of
from fuente.devices.contract import Device
from fuente.devices.pieces import (
    Note,
)

HOUR, DAY = 3600.0, 86400.0
HEAVY = 20.0  # kg: two people
SMALL = 0.012  # m: holes that a drill makes

# Cautions, each worded once; steps name theirs.
GLASS = "Glass cutting and drilling: goggles, gloves, water on the bit. Tempered glass shatters when drilled."
GLUE = "Silicone, primer and solvent cement: ventilation, gloves, no flame."
LIFT = "Lifting: glass, wet media, full vessels; two people for what is more than you lift alone."
FLOOD = "Water where it must not be: outdoors or over a tray, and stay by it. Nothing plugged in while it fills."
FLOOR = "Load: a full system can exceed a floor's rating; ask a structural engineer."
BITE = "Hot and turning tools: clamp the work, sleeves tight, both hands behind the bit."


@dataclass(frozen=True)
class Step:
    """One step: what it is about, what to do, what to check; minutes of work (typical, ±50 %), hands and tools; how
    long to wait afterwards, s, and for what; ``after`` are steps that must be done, and waited for, before it.
    """

    id: str
    body: str
    title: Note
    act: tuple[Note, ...]
    check: Note
    minutes: float
    hands: int = 1
    tools: tuple[str, ...] = ()
    cautions: tuple[str, ...] = ()
    wait: float = 0.0
    waits_for: str = ""
    after: tuple[str, ...] = ()
    likewise: tuple[str, ...] = ()  # ids of the same step of bodies that are made alike
    shows: str = ""  # id of the piece, nest or run to draw beside it


def once(notes: Iterable[Note]) -> tuple[Note, ...]:
    """Each remark once."""
    found: list[Note] = []
    for each in notes:
        if each not in found:
            found.append(each)
    return tuple(found)


def title_of(device: Device) -> str:
    """A device by its name; by its kind where it has none of its own."""
    return kind_of(device).name if "“" in device.title else device.title
