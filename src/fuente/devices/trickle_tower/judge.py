"""What Fuente would change of a trickle tower."""

from __future__ import annotations

import math
from collections.abc import Iterable

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.plumbing import flow_in
from fuente.devices.plumbing_shown import judge_lines
from fuente.devices.rules import judged_by
from fuente.devices.trickle_tower.network import ids
from fuente.devices.trickle_tower.spec import TrickleTower
from fuente.network.model import Solution
from fuente.water.properties import GRAVITY

LEAST, MOST = (
    4 / 3600,
    25 / 3600,
)  # m/s of wetting: under it dry places, over it the film is washed off; usual range, typical
WET_SHARE = 0.6  # of a packing's surface that is wetted well, typical


def surface(spec: TrickleTower, site: Site) -> float:
    """Living surface in m² that is wetted: 60 % of the packing in air, all of it under water."""
    per = site.medium(spec.medium).living(site.ruled(spec).surface == "core")
    dry = spec.plan * (spec.packing - spec.submerged)
    return per * (WET_SHARE * dry + spec.plan * spec.submerged)


def lives(spec: TrickleTower, site: Site) -> tuple[tuple[str, float], ...]:
    """Living surface by cell: the film's, and the base's where the packing stands in its water."""
    _, film, base = ids(spec)
    under = site.medium(spec.medium).living(site.ruled(spec).surface == "core") * spec.plan * spec.submerged
    return ((film, surface(spec, site) - under), (base, under))


def wetting(spec: TrickleTower, solution: Solution) -> float:
    """Flow by plan, m/s."""
    return max(solution.flow.get(f"{spec.id}.film", 0.0), 0.0) / spec.plan


def grow(spec: TrickleTower, site: Site, factor: float) -> Edit | None:
    """A higher packing."""
    path = spec.path
    higher = round(spec.packing * factor + 0.02, 2)
    return None if higher > 2.0 else Edit("Higher packing", (Change((*path, "packing"), higher),))


def shared(spec: TrickleTower, site: Site, study: Study) -> Iterable[Finding]:
    """What its pipes say."""
    solution, path = study.running, spec.path
    _tray, _film, base = ids(spec)
    yield from list(judge_lines(spec, site, solution, path, (base,)))


def wet_enough(spec: TrickleTower, site: Site, study: Study) -> Iterable[Finding]:
    """Too little water on its packing, or too much."""
    solution, path = study.running, spec.path
    wet = wetting(spec, solution)
    flow = flow_in(spec, solution)
    if 0 < wet < LEAST or wet > MOST:
        want = flow / (1.5 * LEAST if wet < LEAST else 0.8 * MOST)
        length = round(want / spec.width, 2)
        edit = Edit("Change its length", (Change((*path, "length"), min(max(length, 0.05), 3.0)),))
        words = "leaves places dry" if wet < LEAST else "washes the film off and runs past"
        yield Finding(
            "wetting",
            Rank.FIX,
            f"{{wet:slow_speed}} of water on its plan {words}.",
            "Between 4 and 25 m³ an hour on each m² a packing is wetted well.",
            spec.id,
            {"wet": wet},
            "Fit its plan to the flow",
            edit,
        )


def tray_over(spec: TrickleTower, site: Site, study: Study) -> Iterable[Finding]:
    """Water over the spreading tray's wall."""
    solution, path = study.running, spec.path
    flow = flow_in(spec, solution)
    over = solution.flow.get(f"{spec.id}.over", 0.0)
    if over > 1e-7:
        each = 0.62 * math.pi / 4 * spec.hole**2 * math.sqrt(2 * GRAVITY * min(0.03, 0.5 * spec.tray))
        holes = min(math.ceil(1.1 * flow / each), 5000)
        yield Finding(
            "tray-over",
            Rank.FIX,
            "{over:flow} runs over the tray's edge instead of through its holes.",
            "It then falls in one stream and leaves most of the packing dry. More holes, or wider ones; they clog,"
            " so leave some to spare.",
            spec.id,
            {"over": over},
            "More holes",
            Edit("More holes", (Change((*path, "holes"), holes),)),
        )


def tray_shallow(spec: TrickleTower, site: Site, study: Study) -> Iterable[Finding]:
    """Holes that do not fill the tray."""
    solution, path = study.running, spec.path
    tray, _film, _base = ids(spec)
    depth = solution.level[tray] - (spec.stand + spec.base + spec.packing)
    if 0 < depth < 0.01:
        holes = max(round(spec.holes * (depth / 0.025) ** 0.5), 6)
        yield Finding(
            "tray-shallow",
            Rank.CONSIDER,
            "The tray holds {depth:fine_length}: a little out of level and half of it is dry.",
            "{0.02:length:bare} to {0.04:length} over the holes spread the water evenly. Fewer holes.",
            spec.id,
            {"depth": depth},
            "Fewer holes",
            Edit("Fewer holes", (Change((*path, "holes"), holes),)),
        )


def splash(spec: TrickleTower, site: Site, study: Study) -> Iterable[Finding]:
    """A fall that splashes."""
    solution = study.running
    _tray, _film, base = ids(spec)
    fall = spec.stand + spec.base - spec.submerged - solution.level[base]
    if fall > 0.15:
        yield Finding(
            "splash",
            Rank.CONSIDER,
            "Water falls {fall:level} from the packing into the base: it splashes and is heard.",
            "Raise the water, or let some of the packing stand in it.",
            spec.id,
            {"fall": fall},
        )


def holes_clog(spec: TrickleTower, site: Site, study: Study) -> Iterable[Finding]:
    """Holes and packing that dirt closes."""
    path = spec.path
    if spec.hole < 0.004:
        yield Finding(
            "holes-clog",
            Rank.CONSIDER,
            "Holes of {hole:fine_length} clog within days.",
            "{0.005:length:bare} to {0.008:length} stay open behind a sock.",
            spec.id,
            {"hole": spec.hole},
            "Wider holes",
            Edit(
                "Wider holes",
                (
                    Change((*path, "hole"), 0.006),
                    Change((*path, "holes"), max(round(spec.holes * (spec.hole / 0.006) ** 2), 1)),
                ),
            ),
        )


judge = judged_by(shared, wet_enough, tray_over, tray_shallow, splash, holes_clog)
