"""What cards offer to choose from, alike in every kind."""

from __future__ import annotations

from functools import lru_cache

from fuente.catalogue import PIPES
from fuente.devices.base import Choice, Path
from fuente.devices.site import Site

ALL = ("metric", "inch", "hose")
VALVES = (("none", "none"), ("swing_check", "swing check"), ("flap_check", "flap check"))


@lru_cache(maxsize=8)
def pipe_options(families: tuple[str, ...] = ("metric", "inch")) -> tuple[tuple[str, str], ...]:
    """Pipe sizes to choose from."""
    return tuple((p.id, p.name) for p in PIPES.values() if p.family in families)


def chamber_choice(path: Path, site: Site, into: str, chamber: str, label: str, first: str) -> tuple[Choice, ...]:
    """Which chamber of a vessel a line leads to; nothing to choose where it has none. ``first`` says what none chosen
    means.
    """
    found = tuple((port.name, port.title) for port in site.vessels[into].ports.values() if port.title)
    if len(found) < 2:
        return ()
    return (Choice((*path, "chamber"), label, "choice", chamber, (("", first), *found), fold=True),)
