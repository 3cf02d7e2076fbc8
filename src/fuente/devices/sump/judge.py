"""What Fuente would change of a sump."""

from __future__ import annotations

from collections.abc import Iterable

from fuente.devices.base import Finding, Rank
from fuente.devices.contract import Study
from fuente.devices.rules import judged_by
from fuente.devices.site import Site
from fuente.devices.sump import judge_build, judge_flood, judge_flow, judge_heat, judge_media
from fuente.devices.sump.spec import Sump


def socks_fit(sump: Sump, site: Site, study: Study) -> Iterable[Finding]:
    """Socks and pads that cannot be put in as described."""
    found: list[Finding] = []
    for chamber, width in zip(sump.chambers, sump.widths(), strict=True):
        if chamber.role == "socks" and chamber.socks:
            ring = chamber.socks.diameter + 0.012
            deep = chamber.socks.count * ring
            if width < ring or deep > sump.inner_width:
                found.append(
                    Finding(
                        "socks-fit",
                        Rank.FIX,
                        "The sock plate is {width:length} × {across:length}; the rings want {ring:length} ×"
                        " {deep:level}.",
                        "Each ring needs its diameter and {0.012:length} of plate around it.",
                        f"{sump.id}.{chamber.id}",
                        {"width": width, "across": sump.inner_width, "ring": ring, "deep": deep},
                    )
                )
    return tuple(found)


RULES = (
    socks_fit,
    *judge_flood.RULES,
    *judge_flow.RULES,
    *judge_media.RULES,
    *judge_heat.RULES,
    *judge_build.RULES,
)
judge = judged_by(*RULES)
fits = judged_by(*judge_build.RULES)
