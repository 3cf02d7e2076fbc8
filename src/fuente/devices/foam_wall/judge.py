"""What Fuente would change of a foam wall."""

from __future__ import annotations

import math
from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, grid
from fuente.devices.foam_wall.network import between_id
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.pocket import drop_of
from fuente.devices.pocket_shown import judge_pocket
from fuente.devices.rules import judged_by
from fuente.life.load import foam_surface

BAGS_REACHED = 0.5  # of their surface, as water goes round them too; an assumption
PUMP_WIDE = 0.05  # m of a small pump; an assumption


def surface(spec: FoamWall, site: Site) -> float:
    """Living surface, m²: the foam's, and half of what lies in bags behind it, which water passes by."""
    core = site.ruled(spec).surface == "core"
    bags = BAGS_REACHED * spec.media * site.medium(spec.medium).living(core) if spec.media > 0 else 0.0
    return bags + _foam_surface(spec)


def _foam_surface(spec: FoamWall) -> float:
    return spec.walls * sum(foam_surface(ppi) for ppi in spec.pads) * spec.thickness * spec.face * spec.foam_height


def lives(spec: FoamWall, site: Site) -> tuple[tuple[str, float], ...]:
    """Living surface by cell: each wall's in the water after it."""
    foam = _foam_surface(spec)
    found = [(between_id(spec, k), foam / spec.walls) for k in range(spec.walls)]
    key, own = found[-1]
    return (*found[:-1], (key, own + surface(spec, site) - foam))


def grow(spec: FoamWall, site: Site, factor: float) -> Edit | None:
    """Thicker foam."""
    path = spec.path
    thicker = round(spec.thickness * factor + 0.0025, 3)
    if thicker > 0.15:
        return None
    return Edit("Thicker foam", (Change((*path, "thickness"), thicker),))


def shared(spec: FoamWall, site: Site, study: Study) -> Iterable[Finding]:
    """What every filter in a tank says."""
    solution, path = study.running, spec.path
    yield from list(judge_pocket(spec, site, solution, path))


def overtops(spec: FoamWall, site: Site, study: Study) -> Iterable[Finding]:
    """Water over the foam's top."""
    solution, path = study.running, spec.path
    over = sum(q for key, q in solution.flow.items() if key.startswith(f"{spec.id}.over."))
    if over > 1e-7:
        room = site.tank.inner_height
        edit = (
            Edit("Raise foam", (Change((*path, "height"), round(min(room, spec.height + 0.03), 3)),))
            if spec.height < room - 0.005
            else None
        )
        yield Finding(
            "overtops",
            Rank.FIX,
            "{over:flow} goes over the foam instead of through it.",
            "Water takes the easy way. Foam must stand over the highest water, or be cleaned.",
            spec.id,
            {"over": over},
            "Raise foam" if edit else "",
            edit,
            -over,
        )


def pad_order(spec: FoamWall, site: Site, study: Study) -> Iterable[Finding]:
    """A fine pad before a coarser one."""
    path = spec.path
    if spec.twin == "twin" and spec.second < spec.ppi and site.ruled(spec).finest == "last":
        yield Finding(
            "pad-order",
            Rank.FIX,
            "The fine pad stands before the coarser one.",
            "Coarse before fine, along the water.",
            spec.id,
            {},
            "Put coarse first",
            Edit("Put coarse first", (Change((*path, "ppi"), spec.second), Change((*path, "second"), spec.ppi))),
        )


def behind_low(spec: FoamWall, site: Site, study: Study) -> Iterable[Finding]:
    """Water behind it fallen to the tube's foot."""
    solution, path = study.running, spec.path
    drop = drop_of(spec, site, solution)
    if drop > 0.05:
        yield Finding(
            "behind-low",
            Rank.FIX,
            "The water behind the foam stands {drop:level} lower than the tank's.",
            "It is clogged or too fine for this flow; lifts weaken and a pump may run dry. Clean it, or take"
            " coarser foam.",
            spec.id,
            {"drop": drop},
            "Coarser foam",
            Edit("Coarser foam", (Change((*path, "ppi"), max(spec.ppi - 10, 10)),)),
            0.05 - drop,
        )


def bend_tight(spec: FoamWall, site: Site, study: Study) -> Iterable[Finding]:
    """Foam bent tighter than it bends."""
    path = spec.path
    if spec.wedges:
        yield Finding(
            "bend-tight",
            Rank.CONSIDER,
            "Foam {deep:length} thick is bent to an inner radius of {inner:length}.",
            "Tighter than twice its thickness it folds and its pores close on the inner side: take a larger reach, or"
            f" cut {spec.wedges} wedges out of its inner side.",
            spec.id,
            {"deep": spec.thickness, "inner": spec.inner},
            "Larger reach",
            Edit("Larger reach", (Change((*path, "reach"), grid(spec.deep + 2.05 * spec.thickness, 0.01)),)),
        )


def behind_narrow(spec: FoamWall, site: Site, study: Study) -> Iterable[Finding]:
    """No room for its pump behind it."""
    if spec.drive != "pump" or spec.fits >= PUMP_WIDE:
        return
    field, value = (
        ("behind", PUMP_WIDE)
        if spec.shape == "flat"
        else ("reach", grid(spec.deep + PUMP_WIDE * (1 + math.sqrt(2)) / 2, 0.01))
    )
    yield Finding(
        "behind-narrow",
        Rank.FIX,
        "Only {fits:length} fit behind it, where its pump stands.",
        "A small pump is some {want:length} wide; measure yours. A heater there wants a guard and a hand's room.",
        spec.id,
        {"fits": spec.fits, "want": PUMP_WIDE},
        "More room behind",
        Edit("More room behind foam", (Change((*spec.path, field), value),)),
        spec.fits - PUMP_WIDE,
    )


judge = judged_by(shared, overtops, pad_order, behind_low, bend_tight, behind_narrow)
