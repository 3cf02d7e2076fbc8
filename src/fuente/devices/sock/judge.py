"""What Fuente would change of socks."""

from __future__ import annotations

import math

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.filtering import Site
from fuente.devices.plumbing import flow_in
from fuente.devices.plumbing_shown import judge_lines
from fuente.devices.sock.network import ids
from fuente.devices.sock.spec import SockStage

MOST_SOCKS = 12
EACH = 1000e-3 / 3600  # m³/s that one sock of 180 mm takes for a week between changes; usual practice


def surface(spec: SockStage, site: Site) -> float:
    """It is changed too often to live on."""
    return 0.0


def grow(spec: SockStage, site: Site, factor: float) -> Edit | None:
    """It carries no life, and cannot grow into any."""
    return None


def judge(spec: SockStage, site: Site, study: Study) -> tuple[Finding, ...]:
    """Water over them, too much on each."""
    solution, path = study.running, spec.path
    socks, under = ids(spec)
    found = list(judge_lines(spec, site, solution, path, (under,)))
    over = solution.flow.get(f"{spec.id}.over", 0.0)
    if over > 1e-7:
        found.append(
            Finding(
                "overtops",
                Rank.FIX,
                "{over:flow} goes over the socks instead of through them.",
                "Change them, or take coarser felt or more socks.",
                spec.id,
                {"over": over},
                "Fresh socks" if spec.dirt > 1 else "",
                Edit("Change socks", (Change((*path, "dirt"), 1.0),)) if spec.dirt > 1 else None,
                -over,
            )
        )
    room = spec.sock
    high = solution.level[socks] - solution.network.cell(socks).floor
    if over <= 1e-7 and high > 0.7 * room:
        found.append(
            Finding(
                "socks-full",
                Rank.CONSIDER,
                "Water stands {high:level} in socks of {room:level}.",
                "The level in them is the gauge of how full they are: change them.",
                spec.id,
                {"high": high, "room": room},
                "Fresh socks",
                Edit("Change socks", (Change((*path, "dirt"), 1.0),)),
                0.7 * room - high,
            )
        )
    alike = flow_in(spec, solution) * (0.18 / spec.diameter)  # as if the socks were of 180 mm
    each = alike / spec.socks
    if each > 1.5 * EACH:
        want = min(math.ceil(alike / EACH), MOST_SOCKS)
        room = round(want * (spec.diameter + 0.04) + 0.04, 2)
        edit = Edit("More socks", (Change((*path, "socks"), want), Change((*path, "length"), room)))
        found.append(
            Finding(
                "socks-few",
                Rank.CONSIDER,
                "Each sock takes {each:flow}: it clogs within days.",
                "About {0.000277778:flow} on a sock of {0.18:length} lasts a week.",
                spec.id,
                {"each": each},
                "More socks" if alike / want <= 1.5 * EACH else "",
                edit if alike / want <= 1.5 * EACH else None,
            )
        )
    return tuple(found)
