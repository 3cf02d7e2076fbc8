"""What Fuente would change of a return on its own."""

from __future__ import annotations

from fuente.devices.base import Basin, Change, Edit, Finding, Path, Rank
from fuente.devices.return_line.spec import ReturnSpec
from fuente.network.model import Solution


def judge(line: ReturnSpec, tank: Basin, solution: Solution, path: Path) -> tuple[Finding, ...]:
    """Outlets over the water, which splash and cost head."""
    found: list[Finding] = []
    level = solution.level[tank.id] - tank.floor
    for k, outlet in enumerate(line.outlets):
        if outlet.height > level + 1e-4:
            edit = Edit(
                f"Lower {outlet.name.lower()}", (Change((*path, "outlets", k, "height"), round(level - 0.02, 3)),)
            )
            found.append(
                Finding(
                    "outlet-dry",
                    Rank.CONSIDER,
                    f"{outlet.name} ends {{over:length}} over the water and splashes.",
                    "It also costs its height in head. Some builders want the splash for air.",
                    line.id,
                    {"over": outlet.height - level},
                    "Lower outlet",
                    edit,
                )
            )
    return tuple(found)
