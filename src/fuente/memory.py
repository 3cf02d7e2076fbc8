"""How often the interpreter looks for reference cycles."""

from __future__ import annotations

import gc


def calm_collector() -> None:
    """Collect seldom: what an edit makes and drops holds no cycles, and a collection in the middle of a drag is felt.

    What stands at the time of the call is taken out of every later search.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(100_000, 20, 50)
