"""Work that nobody waits for any more ends at its next step, wherever it is."""

from __future__ import annotations

import threading
from collections.abc import Callable, Iterator
from contextlib import contextmanager

_mine = threading.local()


class Halted(Exception):  # not an error: nothing is wrong, nobody listens
    """The work was given up. It says nothing of the design, so that nothing may be kept of it."""


@contextmanager
def halted_when(stopped: Callable[[], bool]) -> Iterator[None]:
    """What is worked out within, in this thread, ends with Halted soon after ``stopped`` says so."""
    before = getattr(_mine, "stopped", None)
    _mine.stopped = stopped
    try:
        yield
    finally:
        _mine.stopped = before


def step() -> None:
    """Said by all that takes long, many times a second. Raises Halted."""
    stopped = getattr(_mine, "stopped", None)
    if stopped is not None and stopped():
        raise Halted


@contextmanager
def telling(tell: Callable[[float], object]) -> Iterator[None]:
    """What is followed within, in this thread, tells the moment that it has come to, in s of its own time."""
    before = getattr(_mine, "tell", None)
    _mine.tell = tell
    try:
        yield
    finally:
        _mine.tell = before


def reached(moment: float) -> None:
    """Said by what follows something in time: it has come to so many s."""
    tell = getattr(_mine, "tell", None)
    if tell is not None:
        tell(moment)
