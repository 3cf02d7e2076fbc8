"""The first run of an overflow's drains."""

from __future__ import annotations

from fuente.devices.overflow.spec import Overflow
from fuente.devices.pieces import FirstRun, note
from fuente.devices.site import Site


def commission(overflow: Overflow, site: Site) -> tuple[FirstRun, ...]:
    """Open the trim, close it until the siphon is full, look at the open channel, try the emergency."""
    roles = {d.role: d for d in overflow.drains}
    found: list[FirstRun] = []
    if "siphon" in roles:
        found.append(
            FirstRun(
                f"{overflow.id}.siphon",
                "Trim the siphon",
                2,
                note(
                    "Open the siphon's valve wide, start the pump low, then close the valve a little at a time until"
                    " the drain stops gulping"
                ),
                note(
                    "silent, no air in the pipe; the level in the box holds for ten minutes"
                    + (" with a trickle over the open channel" if "open" in roles else "")
                ),
                20,
            )
        )
    if "open" in roles and "siphon" not in roles:
        found.append(
            FirstRun(
                f"{overflow.id}.open",
                "Listen to the open channel",
                2,
                note("Run the pump low, then full, and listen at the open channel"),
                note("water hugs the pipe's wall and the drain stays quiet"),
                10,
            )
        )
    if "emergency" in roles:
        found.append(
            FirstRun(
                f"{overflow.id}.emergency",
                "Try the emergency drain",
                2,
                note("Block the other drains with a wet cloth in your hand, and let the box rise"),
                note(
                    "the emergency drain, its mouth {m:length} over the floor, takes the full flow and is heard; the"
                    " tank stays under its rim",
                    m=roles["emergency"].mouth,
                ),
                10,
            )
        )
    return tuple(found)
