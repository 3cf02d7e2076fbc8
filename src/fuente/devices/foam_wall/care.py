"""Upkeep of a foam wall."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.site import Site
from fuente.devices.upkeep_words import BUCKET, OLD_WATER, READ, SQUEEZE, WEEK
from fuente.network.model import Solution
from fuente.one_line import within


def care(spec: FoamWall, site: Site, solution: Solution) -> tuple[Task, ...]:
    """The level behind is the gauge; one pad at a time, of two the one and the other by turns."""
    twin = spec.twin != "single"
    names = ("the first pad", "the second pad") if twin else ("it",)
    gauge = Task(
        f"{spec.id}.gauge",
        f"Read the level behind {within(spec.name)}",
        WEEK,
        "The further it stands under the tank's, the more it is clogged.",
        spec.id,
        minutes=1,
        tools=("ruler",),
    )
    rinses = (
        Task(
            f"{spec.id}.rinse.{k}" if twin else f"{spec.id}.rinse",
            f"Rinse {name} of {within(spec.name)} in old tank water" if twin else f"Rinse {name} in old tank water",
            13 * WEEK,
            "Foam walls are large and clog slowly; never all living surface at once.",
            spec.id,
            minutes=25,
            litres=0.02,
            tools=BUCKET,
            how=(READ, "Draw it up slowly between its rails", OLD_WATER, SQUEEZE, "Press it back tight; read again"),
            living=True,
            pair=f"{spec.id}.pads" if twin else "",
            clogs=("*",),
            does="cleaned",
        )
        for k, name in enumerate(names)
    )
    return (gauge, *rinses)
