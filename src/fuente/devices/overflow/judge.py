"""What Fuente would change of an overflow on its own."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.catalogue.loader import bulkhead_for
from fuente.devices.base import Basin, Finding, Path, Rank
from fuente.devices.overflow.parts import hole_at
from fuente.devices.overflow.spec import Overflow
from fuente.network.model import Solution


def judge(overflow: Overflow, tank: Basin, solution: Solution, path: Path) -> tuple[Finding, ...]:
    """Holes too near an edge of the floor panel or to each other."""
    found: list[Finding] = []
    for i, drain in enumerate(overflow.drains):
        saw = bulkhead_for(pipe_size(drain.pipe)).saw
        x, y = hole_at(overflow, tank, i)
        edge = min(x, y, tank.length - x) - saw / 2
        if edge < saw - 1e-9:
            found.append(
                Finding(
                    "hole-edge",
                    Rank.CONSIDER,
                    "A drain's hole leaves {edge:length} of glass to the edge; keep {saw:length}.",
                    "A hole's width of glass keeps a crack from running out. A longer box or a smaller fitting helps.",
                    f"{overflow.id}.drains",
                    {"edge": edge, "saw": saw},
                    margin=edge - saw,
                )
            )
            break
    return tuple(found)
