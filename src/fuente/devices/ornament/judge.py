"""What Fuente would change of an ornament filter."""

from __future__ import annotations

import math
from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.ornament.spec import Ornament
from fuente.devices.pocket import flow_of
from fuente.devices.pocket_shown import judge_pocket
from fuente.devices.rules import judged_by
from fuente.life.load import foam_surface
from fuente.structure.buoyancy import ballast

FAST = 0.1  # m/s in a gap that holds a weak fish against it; an assumption


def surface(spec: Ornament, site: Site) -> float:
    """Living surface, m²."""
    own = spec.media * site.medium(spec.medium).living(site.ruled(spec).surface == "core")
    return own + (spec.foam_bulk * foam_surface(spec.ppi) if spec.ppi else 0.0)


def stone_needed(spec: Ornament, site: Site) -> float:
    """Ballast in kg of stone that keeps it down."""
    stuff = site.medium(spec.medium)
    return ballast(spec.shell_volume, spec.shell_mass, spec.media * (1 - stuff.void), spec.media * stuff.dry)[1]


def grow(spec: Ornament, site: Site, factor: float) -> Edit | None:
    """More media, as far as the cavity holds it."""
    path = spec.path
    if spec.media <= 0:
        return None
    own = spec.media * site.medium(spec.medium).living(site.ruled(spec).surface == "core")
    more = spec.media * (1 + (factor - 1) * surface(spec, site) / own)  # the foam stays as it is
    if more + spec.foam_bulk > 0.9 * spec.cavity:
        return None
    return Edit("Add media", (Change((*path, "media"), round(more + 5e-5, 4)),))


def shared(spec: Ornament, site: Site, study: Study) -> Iterable[Finding]:
    """What every filter in a tank says."""
    solution, path = study.running, spec.path
    yield from list(judge_pocket(spec, site, solution, path))


def gap_wide(spec: Ornament, site: Site, study: Study) -> Iterable[Finding]:
    """Gaps that an animal or its media passes."""
    path = spec.path
    stuff = site.medium(spec.medium)
    limit = min(0.8 * spec.animal, 0.8 * stuff.size if spec.media > 0 and not spec.ppi else 1.0)
    if spec.gap > limit:
        better = round(limit, 4)
        gaps = min(round(spec.gaps * spec.gap / better), 200)
        yield Finding(
            "gap-wide",
            Rank.FIX,
            "Gaps of {gap:fine_length} let in what is {limit:fine_length} wide.".replace("{limit", "{animal"),
            "No animal may pass or sit fast in a gap, no media fall out of it: four fifths of the smaller of both.",
            spec.id,
            {"gap": spec.gap, "animal": limit / 0.8},
            "Narrower gaps, more of them",
            Edit("Narrow gaps", (Change((*path, "gap"), better), Change((*path, "gaps"), max(gaps, spec.gaps)))),
            limit - spec.gap,
        )


def gap_fast(spec: Ornament, site: Site, study: Study) -> Iterable[Finding]:
    """Water in the gaps that holds an animal against them."""
    solution, path = study.running, spec.path
    speed = flow_of(spec, solution) / spec.open_area
    if speed > FAST:
        more = min(math.ceil(spec.gaps * (speed / FAST) ** 1.3), 200)  # wider gaps let more through
        yield Finding(
            "gap-fast",
            Rank.FIX,
            "Water enters the gaps at {speed:speed}: it holds small animals on them.",
            "More gaps slow it down.",
            spec.id,
            {"speed": speed},
            "More gaps",
            Edit("More gaps", (Change((*path, "gaps"), more),)),
        )


def exit_narrow(spec: Ornament, site: Site, study: Study) -> Iterable[Finding]:
    """An exit that its airline or cable does not pass."""
    path = spec.path
    if spec.exit < spec.passes - 1e-6:
        yield Finding(
            "exit-narrow",
            Rank.FIX,
            "Its exit of {exit:fine_length} does not pass what is {passes:fine_length} thick.",
            "Airline or cable leaves at the back; a pinched airline starves the lift, a pinched cable is dangerous."
            " A plug does not pass a hole: cut a slot from the edge.",
            spec.id,
            {"exit": spec.exit, "passes": spec.passes},
            "Wider exit",
            Edit("Widen exit", (Change((*path, "exit"), spec.passes),)),
            spec.exit - spec.passes,
        )
    elif spec.exit - spec.passes > spec.animal:
        yield Finding(
            "exit-wide",
            Rank.FIX,
            "Beside what leaves by it the exit is {open:fine_length} open: animals of {animal:fine_length} pass.",
            "Bush it with foam, or make it smaller.",
            spec.id,
            {"open": spec.exit - spec.passes, "animal": spec.animal},
            "Smaller exit",
            Edit("Smaller exit", (Change((*path, "exit"), round(spec.passes + 0.5 * spec.animal, 4)),)),
            spec.animal - spec.exit + spec.passes,
        )


def floats(spec: Ornament, site: Site, study: Study) -> Iterable[Finding]:
    """A shell that its ballast does not hold down."""
    path = spec.path
    stone = stone_needed(spec, site)
    if stone > spec.ballast + 0.01:
        yield Finding(
            "floats",
            Rank.FIX,
            "It floats: it wants {stone:mass} of stone and has {have:mass}.",
            "Walls and media lighter than water push up, a third more than that should hold it down.",
            spec.id,
            {"stone": stone, "have": spec.ballast},
            "Add ballast",
            Edit("Add ballast", (Change((*path, "ballast"), round(stone + 0.05, 1)),)),
            spec.ballast - stone,
        )


def shell_unsafe(spec: Ornament, site: Site, study: Study) -> Iterable[Finding]:
    """What its shell may give off."""
    if spec.shell in ("metal", "unknown"):
        yield Finding(
            "shell-unsafe",
            Rank.STOP if spec.shell == "metal" else Rank.FIX,
            "Its shell is metal." if spec.shell == "metal" else "Shell material not given.",
            "Copper, lead and zinc kill at a fraction of a milligram a litre, glazes and paints may hold them. Take"
            " fired clay, stone or food-safe plastic.",
            spec.id,
        )


def no_access(spec: Ornament, site: Site, study: Study) -> Iterable[Finding]:
    """Media that nobody reaches."""
    path = spec.path
    if not spec.lid:
        yield Finding(
            "no-access",
            Rank.CONSIDER,
            "It opens only by a tear-down.",
            "A filter that is hard to reach is not cleaned. Let its top lift off.",
            spec.id,
            {},
            "Give it a lid",
            Edit("Give it a lid", (Change((*path, "lid"), True),)),
        )


def ornament_high(spec: Ornament, site: Site, study: Study) -> Iterable[Finding]:
    """A top that stands out of the water."""
    solution = study.running
    if spec.height > solution.level[site.tank.id] - site.tank.floor:
        yield Finding(
            "ornament-high",
            Rank.CONSIDER,
            f"{spec.name} stands out of the water.",
            "Its upper part then holds no water.",
            spec.id,
        )


judge = judged_by(shared, gap_wide, gap_fast, exit_narrow, floats, shell_unsafe, no_access, ornament_high)
