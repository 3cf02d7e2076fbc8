"""What Fuente would change of a sump on its own."""

from __future__ import annotations

from fuente.devices.base import Finding, Path, Rank
from fuente.devices.sump.spec import Sump
from fuente.network.model import Solution


def judge(sump: Sump, solution: Solution, path: Path) -> tuple[Finding, ...]:
    """Socks and pads that cannot be put in as described."""
    found: list[Finding] = []
    for chamber, width in zip(sump.chambers, sump.widths(), strict=True):
        if chamber.role == "socks" and chamber.socks:
            ring = chamber.socks.diameter + 0.012
            deep = chamber.socks.count * ring
            if width < ring or deep > sump.inner_width:
                found.append(
                    Finding(
                        "socks-fit",
                        Rank.FIX,
                        "The sock plate is {width:length} × {across:length}; the rings want {ring:length} × {deep:length}.",
                        "Each ring needs its diameter and 12 mm of plate around it.",
                        f"{sump.id}.{chamber.id}",
                        {"width": width, "across": sump.inner_width, "ring": ring, "deep": deep},
                    )
                )
    return tuple(found)
