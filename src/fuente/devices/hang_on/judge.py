"""What Fuente would change of a hang-on overflow."""

from __future__ import annotations

from fuente.devices.base import Basin, Change, Edit, Finding, Path, Rank
from fuente.devices.hang_on.network import siphon_id
from fuente.devices.hang_on.spec import HangOn
from fuente.network.model import Solution

SLOW_TUBE = 0.4  # m/s under which air gathers at the top of a tube


def judge(spec: HangOn, tank: Basin, solution: Solution, path: Path) -> tuple[Finding, ...]:
    """A siphon that does not wait, a single tube, slow water in it."""
    found: list[Finding] = []
    if not spec.restarts:
        better = round(max(spec.tube_end - 0.03, 0.01), 3)
        edit = Edit("Raise the outer drain", (Change((*path, "stand"), better),))
        found.append(
            Finding("siphon-breaks", Rank.STOP, "After a power cut the hang-on's siphon breaks and does not start again.",
                    "The outer drain lets its box fall below the tube's end; the pump then fills the tank over its rim.",
                    spec.id, {}, "Raise outer drain", edit, spec.tube_end - spec.stand)
        )  # fmt: skip
    if spec.tubes == 1:
        edit = Edit("Add a tube", (Change((*path, "tubes"), 2),))
        found.append(
            Finding("one-tube", Rank.CONSIDER, "One tube carries all the water over the rim of the tank.",
                    "If it draws air nothing else drains. A second tube, or a drilled hole, is the passive way out.",
                    spec.id, {}, "Add a tube", edit)
        )  # fmt: skip
    law = next(k.law for k in solution.network.links if k.id == siphon_id(spec, 0))
    speed = abs(solution.flow[siphon_id(spec, 0)]) / law.tube.area  # type: ignore[attr-defined]
    if 0 < speed < SLOW_TUBE:
        found.append(
            Finding("tube-slow", Rank.CONSIDER, "Water crosses the rim at {speed:speed}; bubbles gather at the top of the tube.",
                    "A narrower or a single tube keeps them moving; else draw the air out by hand.", spec.id, {"speed": speed})
        )  # fmt: skip
    return tuple(found)
