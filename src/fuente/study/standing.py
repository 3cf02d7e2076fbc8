"""What every water of a design holds: in the long run while it runs, and hours after something went wrong."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import dataclass
from typing import TYPE_CHECKING

import numpy as np

from fuente.errors import SolveError
from fuente.life.inputs import AMMONIA, NITRATE, NITRITE, OXYGEN, TEMPERATURE
from fuente.life.renewal import NITRATE_ION
from fuente.study.limits import Limits
from fuente.study.living import LivingWater
from fuente.study.weeks import DAY, Start, weeks

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

AFTER = 6 * 3600.0  # s after which a situation is looked at
HELD: Mapping[str, tuple[int, float]] = {
    "ammonia": (AMMONIA, 1.0),
    "nitrite": (NITRITE, 1.0),
    "nitrate": (NITRATE, NITRATE_ION),
    "oxygen": (OXYGEN, 1.0),
    "temperature": (TEMPERATURE, 1.0),
}


@dataclass(frozen=True)
class Standing:
    """Of each of HELD its value by cell: kg/m³, nitrate as NO₃, or °C; ``after`` s in that situation, None for the long
    run. A cell without water has none.
    """

    values: Mapping[str, Mapping[str, float]]
    after: float | None

    def of(self, what: str, cells: tuple[str, ...]) -> float | None:
        """The mean of some cells; None where none of them holds water."""
        found = [self.values[what][c] for c in cells if c in self.values[what]]
        return float(np.mean(found)) if found else None


def standing(study: Analysis, situation: str = "running") -> Standing:
    """Of a situation, with the builder's feed. Raises SolveError where nothing is fed."""
    if LivingWater(study).fed <= 0:
        raise SolveError("No feed is known: say what the tanks are fed.")
    if situation == "running":
        limits = Limits(study)
        return _packed(limits.base, limits.now, None)
    made = weeks(study, AFTER / DAY, Start("mature"), situation, every=AFTER / 2)
    return _packed(made.water, made.values[-1], AFTER)


def _packed(water: LivingWater, y: np.ndarray, after: float | None) -> Standing:
    found = {}
    for name, (what, size) in HELD.items():
        values = size * water.living.of(y, what)
        found[name] = {key: float(values[k]) for key, k in water.water.index.items()}
    return Standing(found, after)
