"""What lets more water out of a vessel beside a tank that runs full, or less in."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import replace

from fuente.devices.base import Change, Edit, Finding
from fuente.devices.beside import BesideSpec
from fuente.devices.plumbing import (
    drain_id,
)
from fuente.devices.pumping import PumpSpec, pump_for
from fuente.network.model import Solution
from fuente.network.returning import ReturnLine

SPARE = 1.25  # times what comes in that a pump out should take
TURNED = 0.85  # times its speed, a step down
SLOWEST = 0.4
PIPES_MOST = 8

Offer = tuple[str, Edit]  # words on the button, and what it does


def more_out(spec: BesideSpec, solution: Solution) -> tuple[Offer, ...]:
    """Remedies for a vessel that runs full, the likeliest first. Whether they help is for a trial to say."""
    found: list[Offer] = []
    drain, feed = spec.drain, spec.feed
    if drain.way == "pump":
        stronger = Change((*spec.path, "drain", "pump"), _stronger(spec, solution))
        found.append(("Stronger pump out", Edit("Take a stronger pump", (stronger,))))
    elif drain.count < PIPES_MOST:
        more = Change((*spec.path, "drain", "count"), drain.count + 1)
        found.append(("Another pipe out", Edit("Add a pipe out", (more,))))
    if feed.way == "pump" and feed.pump.speed > SLOWEST:
        slower = Change((*spec.path, "feed", "pump", "speed"), max(round(TURNED * feed.pump.speed, 2), SLOWEST))
        found.append(("Turn its pump down", Edit("Turn the pump down", (slower,))))
    return tuple(found)


def _stronger(spec: BesideSpec, solution: Solution) -> PumpSpec:
    """A pump out of the next class that takes what comes in now, with some to spare."""
    pump, link = spec.drain.pump, solution.network.link(drain_id(spec))
    assert isinstance(link.law, ReturnLine)
    over = sum(
        q
        for key, q in solution.spilling.items()
        if solution.network.cell(solution.network.link(key).a).owner == spec.id
    )
    need = SPARE * (max(solution.flow[link.id], 0.0) + over)
    head = link.law.lift(solution.level[link.a], solution.level[link.b]) + link.law.loss(need)[0]
    top, most = pump_for(pump.max_head, pump.max_flow, head, need)
    watts = round(pump.watts * top * most / (pump.max_head * pump.max_flow), 1)
    return pump.model_copy(update={"max_head": top, "max_flow": most, "points": (), "speed": 1.0, "watts": watts})


def offered(finding: Finding, offers: Sequence[Offer]) -> Finding:
    """The finding with these remedies, in their order."""
    if not offers:
        return finding
    (action, edit), *others = offers
    return replace(finding, action=action, edit=edit, others=tuple(others))
