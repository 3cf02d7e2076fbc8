"""What Fuente would change of a common drain."""

from __future__ import annotations

from fuente.catalogue import wider_pipe
from fuente.devices.base import Change, Edit, Finding, Path, Rank
from fuente.devices.contract import Study
from fuente.devices.header.card import capacity, law_in
from fuente.devices.header.network import link_id
from fuente.devices.header.spec import HeaderSpec
from fuente.devices.site import Site
from fuente.hydraulics.drains import open_channel_capacity
from fuente.one_line import within

FULLEST = 0.75  # of what it carries: the rest is for slime and for a restart's surge


def judge(spec: HeaderSpec, site: Site, study: Study) -> tuple[Finding, ...]:
    """Too little spare, backing up, or loud."""
    solution, path, quiet = study.running, spec.path, site.space.quiet
    found: list[Finding] = []
    flow, most = solution.flow[link_id(spec)], capacity(spec, solution)
    over = solution.level[spec.id] - spec.low_end - spec.depth
    values = {"flow": flow, "most": most, "over": over}
    edit = _wider(spec, path, along=True)
    if over > 0 and spec.form == "pipe":
        found.append(
            Finding(
                "header-full",
                Rank.STOP,
                f"{spec.name} runs full and backs up {{over:level}} over its crown at {{flow:flow}}.",
                "Then every tank above stands higher, and the drains gulp. A wider pipe, more fall, or a second down"
                " pipe.",
                spec.id,
                values,
                "Wider header" if edit else "",
                edit,
                most - flow,
            )
        )
    elif flow > FULLEST * most:
        found.append(
            Finding(
                "header-tight",
                Rank.FIX,
                f"{spec.name} carries {{flow:flow}} of {{most:flow}}.",
                "Leave a quarter for slime, and for the surge after a power cut.",
                spec.id,
                values,
                "Wider header" if edit else "",
                edit,
                FULLEST * most - flow,
            )
        )
    limit = open_channel_capacity(law_in(spec, solution).down.bore)
    if quiet and flow > 0.5 * limit:
        down = _wider(spec, path, along=False)
        found.append(
            Finding(
                "header-heard",
                Rank.CONSIDER,
                f"The fall of {within(spec.name)} carries {{flow:flow}}; it is quiet up to {{half:flow}}.",
                "Half of what a falling pipe carries as an open channel is quiet.",
                spec.id,
                {"flow": flow, "half": limit / 2},
                "Wider fall" if down else "",
                down,
                limit / 2 - flow,
            )
        )
    return tuple(found)


def _wider(spec: HeaderSpec, path: Path, along: bool) -> Edit | None:
    if along and spec.form == "gutter":
        return Edit("Widen gutter", (Change((*path, "gutter_width"), round(spec.gutter_width * 1.5, 3)),))
    wider = [(f, wider_pipe(getattr(spec, f))) for f in (("pipe", "down") if along else ("down",))]
    changes = tuple(Change((*path, f), size) for f, size in wider if size)
    return Edit("Widen header" if along else "Widen fall", changes) if changes else None
