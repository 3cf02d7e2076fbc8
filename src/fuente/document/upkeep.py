"""What the builder decides of the upkeep: own intervals and tasks, how far apart media are cleaned, what is kept on
the shelf.
"""

from __future__ import annotations

from pydantic import Field, model_validator

from fuente.devices.base import Spec, measured
from fuente.one_line import Line

_DAY = 86400.0


class OwnInterval(Spec):
    """Another interval for a task."""

    task: str = Field(max_length=200, description="Id of the task.")
    every: float = measured(7 * _DAY, "days", "Every", 0.25 * _DAY, 3650 * _DAY, step=_DAY)


class OwnTask(Spec):
    """A task of the builder's own."""

    id: str = Field(max_length=40)
    name: Line = Field("Task", min_length=1, max_length=120)
    every: float = measured(30 * _DAY, "days", "Every", 0.25 * _DAY, 3650 * _DAY, step=_DAY)
    why: Line = Field("", max_length=400)
    place: str = Field("", max_length=200, description="Id of what it is done at; empty for the whole.")
    minutes: float = Field(10.0, ge=0.0, le=10000.0)


class Dosed(Spec):
    """A chemical medium in a bag, renewed by halves: half of its dose each half of its life."""

    medium: str = Field("carbon", max_length=40, description="An id among the consumables.")
    tank: str = Field("tank", max_length=40, description="Whose water it is for.")
    halves: bool = Field(True, description="Half of it each half of its interval.")


class Upkeep(Spec):
    """The builder's own ways of keeping the system."""

    apart: float = measured(
        14 * _DAY, "days", "Between two cleanings of living media", 0.0, 90 * _DAY, "Never two at once.", step=_DAY
    )
    sweep: float = measured(
        0.0, "hours", "Circulation pumps sweep in turn every", 0.0, 48 * 3600.0, "0 for never.", step=3600.0
    )
    full: float = measured(
        25.0,
        "number",
        "A pad is due at",
        1.1,
        200.0,
        "Times its clean loss where it does not overflow sooner.",
        step=5.0,
    )
    intervals: tuple[OwnInterval, ...] = Field((), max_length=500)
    own: tuple[OwnTask, ...] = Field((), max_length=200)
    dosed: tuple[Dosed, ...] = Field((), max_length=40)

    @model_validator(mode="after")
    def _single(self) -> Upkeep:
        if len({i.task for i in self.intervals}) != len(self.intervals):
            raise ValueError("A task has one interval.")
        if len({o.id for o in self.own}) != len(self.own):
            raise ValueError("Two of your own tasks have the same id.")
        return self
