"""What moves the water, one by one: each pump and each air pump, with the fault by which it stops, and what is left."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TYPE_CHECKING

from fuente.network.duct import PumpDuct
from fuente.network.ducts import Ducts
from fuente.network.model import Solution
from fuente.network.returning import ReturnLine
from fuente.study.breaking import Fault

if TYPE_CHECKING:
    from fuente.study.analysis import Analysis

STILL = 1e-8  # m³/s under which nothing turns a tank over


@dataclass(frozen=True)
class Mover:
    """A pump or an air pump: the device it belongs to, what it is called, and how it fails."""

    owner: str
    name: str
    fault: Fault


def movers(study: Analysis) -> tuple[Mover, ...]:
    """All of them, in the order in which faults number them."""
    base = study.calm
    owners = [k.owner for k in base.links if isinstance(k.law, ReturnLine)]
    groups = (g for g in base.groups if isinstance(g, Ducts))
    owners += [d.owner for g in groups for d in g.ducts if isinstance(d, PumpDuct)]
    found = [(owner, Fault("pump-stuck", value=n + 1.0)) for n, owner in enumerate(owners)]
    blowing = [g for g in study.airs.values() if g.supply.on]
    found += [
        (group.supply.id, Fault("air-stops", value=n + 1.0))
        for n, group in enumerate(blowing)
        if any(lift.count for lift in group.lifts)  # what only bubbles moves no water on
    ]
    made = []
    for n, (owner, fault) in enumerate(found):
        alike = [k for k, (other, _) in enumerate(found) if other == owner]
        title = study.system.device(owner).title
        made.append(Mover(owner, f"{title}, pump {alike.index(n) + 1}" if len(alike) > 1 else title, fault))
    return tuple(made)


def left_moving(study: Analysis, solution: Solution) -> tuple[str, float]:
    """The tank that keeps the least of what turns it over while all run, and the share that it keeps, 0 to 1."""
    shares = {}
    for tank in study.system.tanks:
        now = study.moved(study.running, tank.id)
        if now > STILL:
            shares[tank.id] = min(max(study.moved(solution, tank.id) / now, 0.0), 1.0)
    worst = min(shares, key=shares.__getitem__, default="")
    return worst, shares.get(worst, 1.0)
