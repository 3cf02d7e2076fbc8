"""How much a vessel holds at a level, and its walls."""

from __future__ import annotations

import itertools
from bisect import bisect_right
from collections.abc import Iterable
from dataclasses import dataclass

from fuente.errors import SpecError

_GRAIN = 1e-9  # m under which two heights are one


@dataclass(frozen=True)
class LevelCurve:
    """Volume in m³ against level in m: straight between rising breakpoints, and on beyond the last."""

    levels: tuple[float, ...]
    volumes: tuple[float, ...]

    def __post_init__(self) -> None:
        pairs = zip(self.levels, self.levels[1:], self.volumes, self.volumes[1:], strict=False)
        if len(self.levels) < 2 or any(b <= a or w - v < 1e-12 for a, b, v, w in pairs):
            raise SpecError("A chamber holds no water at some height: its contents fill it completely.")

    @classmethod
    def prism(cls, floor: float, top: float, area: float) -> LevelCurve:
        """Upright walls: plan area in m² from floor to top."""
        return cls((floor, top), (0.0, area * (top - floor)))

    @classmethod
    def with_contents(
        cls, floor: float, top: float, area: float, solids: Iterable[tuple[float, float, float]]
    ) -> LevelCurve:
        """Upright walls of a plan area in m² with contents, each (bottom, top, solid volume m³) spread evenly."""
        wanted = [(max(b, floor), min(t, top), v / (t - b)) for b, t, v in solids if t > b and v > 0]
        marks = [floor]
        for mark in sorted({top, *(b for b, _, _ in wanted), *(t for _, t, _ in wanted if t < top)}):
            if mark > marks[-1] + _GRAIN:  # sums that differ in their last digits are one height
                marks.append(mark)
        volumes = [0.0]
        for low, high in itertools.pairwise(marks):
            taken = sum(share for b, t, share in wanted if b <= low + _GRAIN and t >= high - _GRAIN)
            volumes.append(volumes[-1] + (area - taken) * (high - low))
        return cls(tuple(marks), tuple(volumes))

    def _segment(self, level: float) -> int:
        return min(max(bisect_right(self.levels, level) - 1, 0), len(self.levels) - 2)

    def volume(self, level: float) -> float:
        """Volume in m³ at a level in m."""
        return self.volume_and_area(level)[0]

    def volume_and_area(self, level: float) -> tuple[float, float]:
        """Volume in m³ and free water area in m² at a level in m."""
        z, v = self.levels, self.volumes
        i = self._segment(level) if len(z) > 2 else 0
        area = (v[i + 1] - v[i]) / (z[i + 1] - z[i])
        return v[i] + area * (level - z[i]), area

    def level(self, volume: float) -> float:
        """Level in m at a volume in m³."""
        z, v = self.levels, self.volumes
        i = min(max(bisect_right(v, volume) - 1, 0), len(v) - 2)
        return z[i] + (volume - v[i]) * (z[i + 1] - z[i]) / (v[i + 1] - v[i])


@dataclass(frozen=True)
class Walls:
    """What stands between a water and the room: a material, its thickness m, ``around`` m² of upright wall for each
    metre of depth, and ``foot`` m² of floor.
    """

    material: str
    thickness: float
    around: float
    foot: float = 0.0

    def area(self, depth: float) -> float:
        """Wetted wall and floor in m² at a depth in m."""
        return self.around * max(depth, 0.0) + self.foot
