"""What the filters' own kinds say, and their air, with the edits that only the whole system knows."""

from __future__ import annotations

from collections.abc import Iterable
from dataclasses import replace

from fuente.devices import kind_of
from fuente.devices.air_supply.judge import judge as judge_air
from fuente.devices.base import Change, Edit, Finding
from fuente.document.analysis import Analysis
from fuente.document.filters import air_wishes, plan_air, valves_edit, with_drops

BY_VALVE = ("too-much-air", "bed-still", "bed-wild", "air-uneven")  # findings that turning valves mends


def filters(analysis: Analysis) -> Iterable[Finding]:
    """Every filter of its own kind."""
    system, running = analysis.system, analysis.running
    for i, spec in enumerate(system.filters):
        for finding in kind_of(spec).judge(spec, analysis.sites[spec.id], running, ("filters", i)):
            if finding.code == "no-air":
                edit = Edit(f"Lead air to {spec.name.lower()}", (Change(("airs",), with_drops(system, (spec,))),))
                yield replace(finding, action="Lead air to it", edit=edit)
            elif finding.code in BY_VALVE:
                yield _by_valves(analysis, finding, spec.id)
            else:
                yield finding


def airs(analysis: Analysis) -> Iterable[Finding]:
    """Every air pump."""
    names = {f.id: f.name for f in analysis.system.filters}
    if len(analysis.system.tanks) > 1:
        whose = {t.id: t.name for t in analysis.system.tanks}
        names = {f.id: f"{f.name} in {whose[f.tank]}" for f in analysis.system.filters}
    for i, air in enumerate(analysis.system.airs):
        group = analysis.airs.get(air.id)
        wide = analysis.wide_open(air.id) if group else {}
        wishes = air_wishes(analysis, i) if group else {}
        for finding in judge_air(air, group, analysis.running, ("airs", i), names, wide, wishes):
            yield _by_valves(analysis, finding, air.drops[0].to) if finding.code in BY_VALVE else finding


def _by_valves(analysis: Analysis, finding: Finding, filter_id: str) -> Finding:
    """The finding with all valves of its air pump set, where that changes something."""
    for i, air in enumerate(analysis.system.airs):
        if any(d.to == filter_id for d in air.drops) and air.id in analysis.airs:
            plan = plan_air(analysis, i)
            now = {d.to: d.opening for d in air.drops}
            if plan.share > 0 and any(abs(now[key] - value) > 0.02 for key, value in plan.openings.items()):
                return replace(finding, action="Set all air valves", edit=valves_edit(i, air, plan))
    return finding


WHOLE = (filters, airs)
