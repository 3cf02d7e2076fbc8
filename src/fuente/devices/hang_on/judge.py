"""What Fuente would change of a hang-on overflow."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.hang_on.network import siphon_id
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.rules import judged_by
from fuente.devices.site import Site
from fuente.devices.wells import lower_mark

SLOW_TUBE = 0.4  # m/s under which air gathers at the top of a tube


def itself(spec: HangOn, site: Site, study: Study) -> Iterable[Finding]:
    """A siphon that does not wait, a single tube, slow water in it."""
    solution, path = study.running, spec.path
    found: list[Finding] = []
    if not spec.restarts:
        better = round(max(spec.tube_end - 0.03, 0.01), 3)
        edit = Edit("Raise the outer drain", (Change((*path, "stand"), better),))
        found.append(
            Finding(
                "siphon-breaks",
                Rank.STOP,
                "After a power cut the hang-on's siphon breaks and does not start again.",
                "The outer drain lets its box fall below the tube's end; the pump then fills the tank over its rim.",
                spec.id,
                {},
                "Raise outer drain",
                edit,
                spec.tube_end - spec.stand,
            )
        )
    if spec.tubes == 1:
        edit = Edit("Add a tube", (Change((*path, "tubes"), 2),))
        found.append(
            Finding(
                "one-tube",
                Rank.CONSIDER,
                "One tube carries all the water over the rim of the tank.",
                "If it draws air nothing else drains. A second tube, or a drilled hole, is the passive way out.",
                spec.id,
                {},
                "Add a tube",
                edit,
            )
        )
    law = solution.network.link(siphon_id(spec, 0)).law
    speed = abs(solution.flow[siphon_id(spec, 0)]) / law.tube.area  # type: ignore[attr-defined]
    if 0 < speed < SLOW_TUBE:
        found.append(
            Finding(
                "tube-slow",
                Rank.CONSIDER,
                "Water crosses the rim at {speed:speed}; bubbles gather at the top of the tube.",
                "A narrower or a single tube keeps them moving; else draw the air out by hand.",
                spec.id,
                {"speed": speed},
            )
        )
    return tuple(found)


def hung_drain(box: HangOn, site: Site, study: Study) -> Iterable[Finding]:
    """A hang-on overflow is one way out: blocked, or without its siphon, the tank takes what the pump
    chamber spares.
    """
    if study.drains(True, box.tank) or study.most_exposed() != box.tank:
        return
    spilled = study.situation("drain_blocked").numbers["spilled"]
    if spilled < 1e-7:
        return
    edit = next((lower_mark(*well, spilled * 1.05) for well in study.wells()), None)
    yield Finding(
        "hang-on-blocked",
        Rank.STOP,
        "With the hang-on overflow blocked, or its siphon lost, the pump puts {spilled:volume} over the tank's rim.",
        "It is the only way out. Less water in the pump chamber, so that it runs dry before the tank is full; or a"
        " drilled hole with a dry drain.",
        box.id,
        {"spilled": spilled},
        "Lower running level" if edit else "",
        edit,
        -spilled,
    )


judge = judged_by(itself, hung_drain)
