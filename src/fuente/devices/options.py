"""What cards offer to choose from, alike in every kind."""

from __future__ import annotations

from functools import lru_cache

from fuente.catalogue import PIPES

ALL = ("metric", "inch", "hose")
VALVES = (("none", "none"), ("swing_check", "swing check"), ("flap_check", "flap check"))


@lru_cache(maxsize=8)
def pipe_options(families: tuple[str, ...] = ("metric", "inch")) -> tuple[tuple[str, str], ...]:
    """Pipe sizes to choose from."""
    return tuple((p.id, p.name) for p in PIPES.values() if p.family in families)
