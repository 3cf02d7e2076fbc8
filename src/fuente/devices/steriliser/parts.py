"""What a steriliser's loop is made of."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.filtering import Site
from fuente.devices.pocket import ELECTRIC
from fuente.devices.steriliser.spec import Steriliser
from fuente.network.model import Solution

EYES = "Ultraviolet burns eyes and skin: never look at a lamp that is on, unplug it before you open its chamber."


def parts(spec: Steriliser, site: Site, solution: Solution) -> Parts:
    """Chamber, lamp, pump, hoses."""
    size = pipe_size(spec.hose)
    return Parts(
        (),
        (
            Part(
                f"{spec.id}.lamp",
                "Steriliser, chamber with lamp",
                1,
                "piece",
                "Equipment",
                "{l:length}, {w:power}",
                "",
                {"l": spec.length, "w": spec.watts},
            ),
            Part(
                f"{spec.id}.pump",
                spec.pump.name,
                1,
                "piece",
                "Equipment",
                "{h:head} at no flow, {q:flow} at no head",
                f"{spec.pump.watts:.0f} W",
                {"h": spec.pump.max_head, "q": spec.pump.max_flow},
            ),
            Part(
                f"{spec.id}.hose",
                f"Hose, {size.name}",
                2,
                "piece",
                "Pipe",
                "{l:run}",
                "there and back",
                {"l": spec.run},
            ),
            Part(f"{spec.id}.tap", "Tap with union", 2, "piece", "Fittings", "", "to take it out full"),
        ),
        (EYES, ELECTRIC),
    )
