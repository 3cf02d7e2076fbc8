"""Upkeep of a sponge or box."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.site import Site
from fuente.devices.sponge.spec import Sponge
from fuente.devices.upkeep_words import BUCKET, OLD_WATER, SQUEEZE, WEEK
from fuente.network.model import Solution
from fuente.one_line import within


def care(spec: Sponge, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Squeeze it, look at its air."""
    why = "Its pores hold what it lives on until they clog; tap water with chlorine kills the film."
    name = within(spec.name)
    why_air = "Airlines clog with lime and slip off."
    air = Task(f"{spec.id}.air", f"Look whether {name} still lifts", WEEK, why_air, spec.id)
    if not spec.matted:
        squeeze = Task(
            f"{spec.id}.squeeze",
            f"Squeeze {name} out in old tank water",
            4 * WEEK,
            why,
            spec.id,
            minutes=6,
            litres=0.004,
            tools=BUCKET,
            how=(
                "Bag it under water, so that its dirt stays in the bag",
                OLD_WATER,
                SQUEEZE,
                "Put it back and look for bubbles",
            ),
            living=True,
            clogs=("*",),
            does="cleaned",
        )
        return squeeze, air
    what = "Rinse the mat of" if spec.top == "foam" else "Change the fleece of"
    dirt = "It catches all dirt; the media under it waits."
    fleece = spec.top != "foam"
    return (
        Task(
            f"{spec.id}.mat",
            f"{what} {name}",
            2 * WEEK,
            dirt,
            spec.id,
            minutes=4,
            tools=BUCKET,
            clogs=("*",),
            does="swapped" if fleece else "cleaned",
            uses=(("fleece", 1.0),) if fleece else (),
        ),
        Task(
            f"{spec.id}.bags",
            f"Swish a part of the media of {name}",
            13 * WEEK,
            why,
            spec.id,
            minutes=15,
            litres=0.01,
            tools=BUCKET,
            how=("Lift one bag out, into the bucket", OLD_WATER, "Leave the others"),
            living=True,
            does="cleaned",
        ),
        air,
    )
