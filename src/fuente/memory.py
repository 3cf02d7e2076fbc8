"""When the interpreter looks for reference cycles, and how long one thread keeps it."""

from __future__ import annotations

import gc
import sys

_SELDOM = (100_000, 20, 50)  # objects made since the last search; searches of each age before the next age is searched


def collect_seldom() -> None:
    """A start makes many objects and drops few: it is not searched through again and again."""
    gc.set_threshold(*_SELDOM)


def calm_collector() -> None:
    """Collect seldom: what an edit makes and drops holds no cycles, and a collection in the middle of a drag is felt.

    What stands at the time of the call is taken out of every later search.
    """
    gc.collect()
    gc.freeze()
    collect_seldom()


def collect_by_hand() -> None:
    """Collect only where ``collect_due`` is called.

    A collection begins wherever an object is made: in a thread of the pool, while Qt paints, while it walks over all
    widgets with a new style. A closed window that is let go there is taken from under Qt's hands.
    """
    gc.disable()
    collect_seldom()


def collect_due() -> int:
    """Collect what is due by the collector's own thresholds; how many objects were let go."""
    counts = zip(gc.get_count(), gc.get_threshold(), strict=True)
    due = [age for age, (made, limit) in enumerate(counts) if made > limit]
    return gc.collect(max(due)) if due and due[0] == 0 else 0


def share_threads() -> None:
    """Let a thread keep the interpreter for a tenth of a millisecond, not for five: painting lets go of it at every
    stroke, and with something solved aside would wait that long at each; a frame then took a second.
    """
    sys.setswitchinterval(1e-4)
