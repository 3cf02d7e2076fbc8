"""What Fuente would change of a join."""

from __future__ import annotations

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.join.card import difference
from fuente.devices.join.network import link_id
from fuente.devices.join.spec import JoinSpec
from fuente.devices.site import Site

MOST_APART = 0.025  # m between two joined sumps while water moves


def judge(spec: JoinSpec, site: Site, study: Study) -> tuple[Finding, ...]:
    """The sump that gives stands higher: by how much, and what it leaves under the rim."""
    solution, path, margin = study.running, spec.path, site.space.margin
    link = solution.network.link(link_id(spec))
    apart = difference(spec, solution)
    higher = link.a if apart >= 0 else link.b
    left = solution.freeboard(higher)
    found: list[Finding] = []
    edit = Edit("Add a joining line", (Change((*path, "count"), spec.count + 1),)) if spec.count < 8 else None
    if spec.style == "level" and abs(apart) > MOST_APART:
        grave = left < margin
        found.append(
            Finding(
                "sumps-apart",
                Rank.FIX if grave else Rank.CONSIDER,
                (
                    f"{spec.name} make one sump stand {{apart:level}} higher than the other, {{left:level}} under its"
                    " rim."
                    if spec.count > 1
                    else (
                        f"{spec.name} makes one sump stand {{apart:level}} higher than the other, {{left:level}}"
                        " under its rim."
                    )
                ),
                "Another bulkhead side by side, or a wider one, brings them together; area counts less than it seems.",
                spec.id,
                {"apart": abs(apart), "left": left},
                "Add a line" if edit else "",
                edit,
                MOST_APART - abs(apart),
            )
        )
    if spec.style == "fall":
        most = link.law.flow(solution.network.cell(link.a).rim - margin, solution.level[link.b])[0]
        flow = solution.flow[link.id]
        if flow > 0.6 * most:
            found.append(
                Finding(
                    "fall-tight",
                    Rank.FIX,
                    f"{spec.name} carries {{flow:flow}} of the {{most:flow}} it could with your margin left.",
                    "The upper sump has no other way out: leave it room for slime and for a restart.",
                    spec.id,
                    {"flow": flow, "most": most},
                    "Add a line" if edit else "",
                    edit,
                    0.6 * most - flow,
                )
            )
    return tuple(found)
