"""Boxes, tube and drain of a hang-on overflow."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.contract import Site
from fuente.devices.hang_on.network import TUBE_OVER
from fuente.devices.hang_on.spec import HangOn
from fuente.network.model import Solution


def parts(spec: HangOn, site: Site, solution: Solution) -> Parts:
    """In the order of the water."""
    tank, release = site.tank, site.vessels[spec.into].release(spec.release)
    tube, pipe = pipe_size(spec.tube), pipe_size(spec.pipe)
    crest = tank.floor + spec.crest
    over = 2 * (tank.rim + TUBE_OVER - crest + spec.tube_end) + 0.15
    fall = max(crest - spec.stand - release, 0.0) + spec.run
    box = {"l": spec.box_length, "w": spec.box_width}
    return Parts(
        (),
        (
            Part(
                f"{spec.id}.boxes",
                "Overflow box, acrylic",
                2,
                "piece",
                "Equipment",
                "{l:length:bare} × {w:length}",
                "one in the tank, one behind it",
                box,
            ),
            Part(
                f"{spec.id}.tube",
                f"Pipe, {tube.name}",
                spec.tubes,
                "piece",
                "Pipe",
                "{l:length}",
                "tube over the rim",
                {"l": over},
            ),
            Part(
                f"{spec.id}.drain",
                f"Pipe, {pipe.name}",
                1,
                "piece",
                "Pipe",
                "{l:run}",
                "drain of the hang-on",
                {"l": fall},
            ),
        ),
        (),
    )
