"""What Fuente would change of an under-gravel filter."""

from __future__ import annotations

import math
from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.pocket import flow_of
from fuente.devices.pocket_shown import judge_pocket
from fuente.devices.rules import judged_by
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


def diggers(spec: UnderGravel, site: Site, study: Study) -> Iterable[Finding]:
    """Animals that bare the plate."""
    if site.tank.digs:
        yield Finding(
            "diggers",
            Rank.FIX,
            f"Someone who digs lives in {site.tank.name}: under-gravel plates do not stand that.",
            "A bared plate lets all water pass at that place. Take another kind of filter, or lay a mesh half way"
            " up the gravel.",
            spec.id,
        )


def grain(spec: UnderGravel, site: Site, study: Study) -> Iterable[Finding]:
    """Gravel that closes."""
    if spec.grain < 0.002:
        yield Finding(
            "grain-fine",
            Rank.FIX,
            "Gravel of {grain:fine_length} closes within weeks.",
            "Grains of {0.003:length:bare} to {0.006:length} stay open and are vacuumed easily.",
            spec.id,
            {"grain": spec.grain},
            "Coarser gravel",
            Edit("Coarser gravel", (Change((*spec.path, "grain"), 0.004),)),
        )


def thin(spec: UnderGravel, site: Site, study: Study) -> Iterable[Finding]:
    """Gravel that water finds short cuts through."""
    if spec.gravel < 0.04:
        yield Finding(
            "gravel-thin",
            Rank.CONSIDER,
            "{depth:length} of gravel lie over the plate.",
            "Under {0.04:length} water finds short cuts beside stones and roots.",
            spec.id,
            {"depth": spec.gravel},
            "Deeper gravel",
            Edit("Deepen gravel", (Change((*spec.path, "gravel"), 0.05),)),
        )


def slow(spec: UnderGravel, site: Site, study: Study) -> Iterable[Finding]:
    """Water too slow to keep its depth alive."""
    speed = flow_of(spec, study.running) / spec.area
    if not 0 < speed < SLOW:
        return
    # Each tube lifts about what the others do while the air pump keeps up; a tenth more for what it does not.
    want = min(math.ceil(1.1 * spec.tubes * SLOW / speed), MOST_TUBES)
    lifted = spec.drive == "air" and want > spec.tubes
    yield Finding(
        "gravel-slow",
        Rank.CONSIDER,
        "Water sinks through the gravel at {speed:slow_speed}: its depth gets little oxygen.",
        "More lift tubes or more air keep the bed alive."
        if spec.drive == "air"
        else "A stronger pump or a wider hose keeps the bed alive.",
        spec.id,
        {"speed": speed},
        "More lift tubes" if lifted else "",
        Edit("More lift tubes", (Change((*spec.path, "tubes"), want),)) if lifted else None,
        speed - SLOW,
    )


def shared(spec: UnderGravel, site: Site, study: Study) -> Iterable[Finding]:
    """What is judged of every filter within a tank."""
    return judge_pocket(spec, site, study.running, spec.path)


judge = judged_by(shared, diggers, grain, thin, slow)
