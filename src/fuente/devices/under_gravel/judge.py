"""What Fuente would change of an under-gravel filter."""

from __future__ import annotations

import math

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.pocket import flow_of
from fuente.devices.pocket_shown import judge_pocket
from fuente.devices.under_gravel.spec import UnderGravel

SLOW = 0.15e-3  # m/s through the gravel under which its depth gets little oxygen; an assumption
MOST_TUBES = 12


def surface(spec: UnderGravel, site: Site) -> float:
    """Living surface in m²: spheres of the grain's size, 6·(1 − void)/d, of which dirt and contacts leave
    about half.
    """
    return 0.5 * spec.bed * 6 * (1 - spec.void) / spec.grain


def grow(spec: UnderGravel, site: Site, factor: float) -> Edit | None:
    """Deeper gravel."""
    path = spec.path
    deeper = round(spec.gravel * factor + 0.005, 2)
    if deeper > 0.12:
        return None
    return Edit("Deepen gravel", (Change((*path, "gravel"), deeper),))


def judge(spec: UnderGravel, site: Site, study: Study) -> tuple[Finding, ...]:
    """Diggers, slots that the grain falls through, depth and speed."""
    solution, path = study.running, spec.path
    found = list(judge_pocket(spec, site, solution, path))
    if site.tank.digs:
        found.append(
            Finding(
                "diggers",
                Rank.FIX,
                f"Someone who digs lives in {site.tank.name}: under-gravel plates do not stand that.",
                "A bared plate lets all water pass at that place. Take another kind of filter, or lay a mesh half way"
                " up the gravel.",
                spec.id,
            )
        )
    if spec.grain < 0.002:
        found.append(
            Finding(
                "grain-fine",
                Rank.FIX,
                "Gravel of {grain:fine_length} closes within weeks.",
                "Grains of 3 to 6 mm stay open and are vacuumed easily.",
                spec.id,
                {"grain": spec.grain},
                "Coarser gravel",
                Edit("Coarser gravel", (Change((*path, "grain"), 0.004),)),
            )
        )
    if spec.gravel < 0.04:
        found.append(
            Finding(
                "gravel-thin",
                Rank.CONSIDER,
                "{depth:length} of gravel lie over the plate.",
                "Under 40 mm water finds short cuts beside stones and roots.",
                spec.id,
                {"depth": spec.gravel},
                "Deeper gravel",
                Edit("Deepen gravel", (Change((*path, "gravel"), 0.05),)),
            )
        )
    speed = flow_of(spec, solution) / spec.area
    if 0 < speed < SLOW:
        # Each tube lifts about what the others do while the air pump keeps up; a tenth more for what it does not.
        want = min(math.ceil(1.1 * spec.tubes * SLOW / speed), MOST_TUBES)
        lifted = spec.drive == "air" and want > spec.tubes
        found.append(
            Finding(
                "gravel-slow",
                Rank.CONSIDER,
                "Water sinks through the gravel at {speed:slow_speed}: its depth gets little oxygen.",
                "More lift tubes or more air keep the bed alive."
                if spec.drive == "air"
                else "A stronger pump or a wider hose keeps the bed alive.",
                spec.id,
                {"speed": speed},
                "More lift tubes" if lifted else "",
                Edit("More lift tubes", (Change((*path, "tubes"), want),)) if lifted else None,
                speed - SLOW,
            )
        )
    return tuple(found)
