"""What Fuente would change of a return on its own."""

from __future__ import annotations

import math

from fuente.catalogue import wider_pipe
from fuente.devices.base import Basin, Change, Edit, Finding, Path, Rank
from fuente.devices.return_line.network import link_id
from fuente.devices.return_line.spec import ReturnSpec
from fuente.network.laws import ReturnLine
from fuente.network.model import Solution

FAST_OUTLET = 1.5  # m/s


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
    found += _fast(line, solution, path)
    return tuple(found)


def _fast(line: ReturnSpec, solution: Solution, path: Path) -> list[Finding]:
    """Outlets whose water is heard and blows sand about."""
    law = next(k.law for k in solution.network.links if k.id == link_id(line))
    assert isinstance(law, ReturnLine)
    total = sum(o.conductance for o in law.outlets)
    flow = max(solution.flow[link_id(line)], 0.0)
    found = []
    for k, (spec, outlet) in enumerate(zip(line.outlets, law.outlets, strict=True)):
        speed = flow * outlet.conductance / total / (math.pi / 4 * outlet.bore**2)
        if speed > FAST_OUTLET and spec.form == "open":
            wider = wider_pipe(spec.pipe)
            where = (*path, "outlets", k)
            edit = Edit(f"Widen {spec.name.lower()}", (Change((*where, "pipe"), wider),)) if wider else None
            found.append(
                Finding(
                    "outlet-fast",
                    Rank.CONSIDER,
                    f"Water leaves {spec.name.lower()} at {{speed:speed}}.",
                    "Over 1.5 m/s it is heard, tires fish and blows sand about; a wider outlet, a spray bar, or one outlet more.",
                    line.id,
                    {"speed": speed},
                    "Wider outlet" if edit else "",
                    edit,
                    FAST_OUTLET - speed,
                )
            )
    return found
