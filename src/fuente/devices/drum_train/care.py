"""Upkeep of drums."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.drum_train.spec import ROLES, DrumTrain
from fuente.devices.site import Site
from fuente.network.model import Solution

WEEK = 7 * 86400.0


def care(spec: DrumTrain, site: Site, solution: Solution) -> tuple[Task, ...]:
    """Flush, hose down brushes, foam in rotation."""
    found = []
    for k, drum in enumerate(spec.drums):
        if drum.role in ("settle", "stirred", "brush") and drum.flush > 0:
            stir = "Stir it with air, then flush" if drum.role == "stirred" else "Flush"
            found.append(
                Task(
                    f"{spec.id}.flush.{k}",
                    f"{stir} drum {k + 1}, {ROLES[drum.role]}",
                    spec.flush_every,
                    "Muck left in a drum feeds the water.",
                    spec.id,
                )
            )
        if drum.role == "foam":
            found.append(
                Task(
                    f"{spec.id}.foam.{k}",
                    f"Rinse the foam of drum {k + 1}",
                    2 * WEEK,
                    "In old pond water; its level tells when.",
                    spec.id,
                )
            )
        if drum.role == "media":
            found.append(
                Task(
                    f"{spec.id}.media.{k}",
                    f"Flush drum {k + 1} and swish half of its media",
                    26 * WEEK,
                    "Never all at once.",
                    spec.id,
                )
            )
    return tuple(found)
