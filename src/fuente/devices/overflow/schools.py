"""The drain schools as sets of pipes."""

from __future__ import annotations

from fuente.devices.base import FittingCount
from fuente.devices.overflow.spec import Drain, DrainRole, Overflow


def drains_for(overflow: Overflow, roles: tuple[DrainRole, ...]) -> tuple[Drain, ...]:
    """Drains of a school, keeping the pipes that are there: siphon lowest, emergency highest."""
    have = {d.role: d for d in overflow.drains}
    any_drain = overflow.drains[0]
    crest = overflow.crest
    mouths = {"siphon": 0.69 * crest, "open": 0.82 * crest, "emergency": 0.88 * crest}
    if roles == ("siphon", "emergency"):
        mouths["siphon"] = 0.72 * crest
    made = []
    for role in roles:
        if role in have:
            made.append(have[role])
            continue
        valve = 0.5 if role == "siphon" else None
        fittings = (FittingCount(kind="elbow_45", count=2),)
        made.append(
            Drain(
                role=role,
                pipe=any_drain.pipe,
                mouth=round(mouths[role], 3),
                run=any_drain.run,
                valve=valve,
                fittings=fittings,
            )
        )
    return tuple(made)
