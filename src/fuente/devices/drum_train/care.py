"""Upkeep of drums."""

from __future__ import annotations

from fuente.devices.base import Task
from fuente.devices.drum_train.spec import ROLES, DrumTrain
from fuente.devices.site import Site
from fuente.devices.upkeep_words import BUCKET, OLD_WATER, PUMP_OFF, PUMP_ON, READ, SQUEEZE, WEEK
from fuente.network.model import Solution


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
                    f"{spec.id}.drum.{k}",
                    f"Drum {k + 1}",
                    5,
                    0.02,
                    how=(
                        "Open the flush valve until the water runs clear",
                        "Shut it; fill up with water like the pond's",
                    ),
                    does="cleaned",
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
                    f"{spec.id}.drum.{k}",
                    f"Drum {k + 1}",
                    20,
                    0.03,
                    BUCKET,
                    (READ, PUMP_OFF, "Lift the foam out, two people where it is heavy", OLD_WATER, SQUEEZE, PUMP_ON),
                    living=True,
                    clogs=(f"{spec.id}.joint.{k}",),
                    does="cleaned",
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
                    f"{spec.id}.drum.{k}",
                    f"Drum {k + 1}",
                    30,
                    0.05,
                    BUCKET,
                    (PUMP_OFF, "Swish half of it in its net", OLD_WATER, "Flush the foot", PUMP_ON),
                    living=True,
                    does="cleaned",
                )
            )
    return tuple(found)
