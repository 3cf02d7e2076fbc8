"""How long the parts of an analysis take: what the eye would wait for is done aside the next time."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from typing import TypeVar

_Made = TypeVar("_Made")
BLINK = 0.05  # s: what took longer the last time is done aside the next time
LONG = 12.0  # s for all situations, beyond which remedies and bands would take many minutes aside
_FADES = 0.7  # of what it took before, from one time to the next


class Pace:
    """What was timed, by name. Without a ``clock`` in s nothing is, and nothing is taken to be long."""

    def __init__(self, clock: Callable[[], float] | None):
        self._clock = clock
        self._took: dict[str, float] = {}  # s, the last time

    @property
    def timed(self) -> bool:
        """Whether there is a clock."""
        return self._clock is not None

    def long(self, name: str) -> bool:
        """Whether it takes longer than a blink, or may: nobody knows before the first time."""
        return self._took.get(name, float("inf") if self.timed else 0.0) > BLINK

    def took(self, name: str) -> float:
        """Seconds, as far as is known."""
        return self._took.get(name, 0.0)

    def total(self, names: Iterable[str]) -> float:
        """Seconds of all of them, as far as is known."""
        return sum(self.took(name) for name in names)

    def of(self, name: str, work: Callable[[], _Made]) -> _Made:
        """What the work makes, with its time noted."""
        if self._clock is None:
            return work()
        before = self._clock()
        made = work()
        self.note(name, self._clock() - before)
        return made

    def note(self, name: str, took: float) -> None:
        """Seconds that it took."""
        # Once quick is not yet quick: where an edit left the water as it was, nothing was solved.
        self._took[name] = max(took, _FADES * self._took.get(name, 0.0))
