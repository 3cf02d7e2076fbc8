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
