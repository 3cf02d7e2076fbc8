"""Upkeep of an ornament filter."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.ornament.spec import Ornament
from fuente.devices.site import Site
from fuente.devices.upkeep_words import BUCKET, OLD_WATER, SQUEEZE, WEEK
from fuente.network.model import Solution
from fuente.one_line import within


def care(spec: Ornament, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Rinse the foam, look into the gaps."""
    why = "What nobody sees nobody cleans: a date stands in for the eye."
    return (
        Task(
            f"{spec.id}.rinse",
            f"Rinse the foam of {within(spec.name)}",
            4 * WEEK,
            why,
            spec.id,
            minutes=12,
            litres=0.008,
            tools=BUCKET,
            how=("Lift it out with what sits in it", OLD_WATER, SQUEEZE, "Put it back; look whether its gaps are open"),
            living=True,
            clogs=("*",),
            does="cleaned",
        ),
        Task(
            f"{spec.id}.gaps",
            "Look into its gaps",
            WEEK,
            "Leaves and snails close them; a small animal may sit there.",
            spec.id,
        ),
    )
