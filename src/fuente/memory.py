"""How often the interpreter looks for reference cycles, and how long one thread keeps it."""

from __future__ import annotations

import gc
import sys
from collections.abc import Iterator
from contextlib import contextmanager


def calm_collector() -> None:
    """Collect seldom: what an edit makes and drops holds no cycles, and a collection in the middle of a drag is felt.

    What stands at the time of the call is taken out of every later search.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(100_000, 20, 50)


@contextmanager
def nothing_collected() -> Iterator[None]:
    """For what walks over all widgets: a window that was closed, and is let go by a collection on the way, would leave
    Qt with a pointer to nothing.
    """
    on = gc.isenabled()
    gc.disable()
    try:
        yield
    finally:
        if on:
            gc.enable()


def share_threads() -> None:
    """Let a thread keep the interpreter for a tenth of a millisecond, not for five: painting lets go of it at every
    stroke, and with something solved aside would wait that long at each; a frame then took a second.
    """
    sys.setswitchinterval(1e-4)
