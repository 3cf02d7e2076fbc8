"""What the filters' own kinds say, and their air, with the edits that only the whole system knows."""

from __future__ import annotations

import math
from collections.abc import Iterable
from dataclasses import replace

from fuente.catalogue import pipe_size
from fuente.devices import kind_of
from fuente.devices.air_supply.judge import judge as judge_air
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.plumbing import BesideSpec, drain_id
from fuente.study.analysis import Analysis
from fuente.study.filters import air_wishes, plan_air, valves_edit, with_drops
from fuente.study.pipe_blocked import pumped_outs

BRIM = 0.02  # m under the rim that a blocked pipe should leave
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


def blocked(analysis: Analysis) -> Iterable[Finding]:
    """A pipe out of a filter that a pump fills, blocked while the pump goes on."""
    system = analysis.system
    if not pumped_outs(system):
        return
    state = analysis.situation("pipe_blocked")
    index = round(state.numbers["which"])
    spec = system.filters[index]
    values = {"spilled": state.numbers["spilled"], "left": max(state.numbers["left"], 0.0)}
    if values["spilled"] > 1e-7:
        action, edit = _second_way(analysis, index)
        if edit is None:
            action, edit = _pump_higher(analysis, spec.id, values["spilled"])
        if edit is None:
            action, edit = _higher_box(analysis, index)
        yield Finding(
            "filter-pipe-blocked",
            Rank.STOP,
            f"With the pipe out of {spec.name.lower()} blocked its pump puts {{spilled:volume}} on the floor.",
            "A leaf or a snail in a pipe is enough. Have the water that the pump can reach run out before that, or give "
            "the filter a second way out.",
            spec.id,
            values,
            action,
            edit,
            -values["spilled"],
        )
    elif values["left"] < BRIM:
        yield Finding("filter-pipe-blocked", Rank.FIX, f"With the pipe out of {spec.name.lower()} blocked it rises to {{left:length}} under its rim.",
                      "Leave 20 mm for waves.", spec.id, values, margin=values["left"] - BRIM)  # fmt: skip


def _spare(analysis: Analysis, index: int) -> tuple[float, float] | None:
    """How far over its first pipe a filter's second one goes, and the rim that this wants over its own floor, m; None where it has one."""
    spec = analysis.system.filters[index]
    if not isinstance(spec, BesideSpec) or spec.drain.spare > 0 or spec.drain.way == "pump":
        return None
    link = next(k for k in analysis.network.links if k.id == drain_id(spec))
    bore = pipe_size(spec.drain.pipe).bore
    over = analysis.running.level[link.a] - spec.stand - spec.drain.height + 0.01
    spare = math.ceil(100 * max(1.5 * bore, over)) / 100
    return spare, spec.drain.height + spare + 1.5 * bore + BRIM


def _second_way(analysis: Analysis, index: int) -> tuple[str, Edit | None]:
    """A second pipe out over the first, where there is room for it under the rim."""
    wanted = _spare(analysis, index)
    spec = analysis.system.filters[index]
    if wanted is None:
        return "", None
    link = next(k for k in analysis.network.links if k.id == drain_id(spec))
    if getattr(spec, "stand", 0.0) + wanted[1] > analysis.network.cell(link.a).rim:
        return "", None
    return "Second way out", Edit("Add second way out", (Change(("filters", index, "drain", "spare"), wanted[0]),))


def _higher_box(analysis: Analysis, index: int) -> tuple[str, Edit | None]:
    """The same in a box that is made high enough for it."""
    wanted = _spare(analysis, index)
    spec = analysis.system.filters[index]
    name = next((n for n in ("base", "height") if hasattr(spec, n)), "")
    if wanted is None or not name:
        return "", None
    high = math.ceil(100 * (wanted[1] + 0.01)) / 100
    changes = (Change(("filters", index, name), high), Change(("filters", index, "drain", "spare"), wanted[0]))
    return "Higher box, second way out", Edit("Raise box, add second way out", changes)


def _pump_higher(analysis: Analysis, filter_id: str, spilled: float) -> tuple[str, Edit | None]:
    """What keeps so much water back in the water that a filter is filled from: the pump's intake raised, or the pipe to its chamber."""
    filters = {f.id: (i, f) for i, f in enumerate(analysis.system.filters) if isinstance(f, BesideSpec)}
    pumped = False
    at = filter_id
    for _ in filters:
        index, spec = filters[at]
        if spec.feed.way == "fed":
            before = next((f for _, f in filters.values() if f.drain.into == at), None)
            if before is None:
                return "", None
            index, spec, end, source = filters[before.id][0], before, "drain", before.id
        else:
            end, source = "feed", spec.feed.source
        way = spec.drain.way if end == "drain" else spec.feed.way
        pumped = pumped or way == "pump"
        upstream = filters.get(source)
        if pumped and (upstream is None or upstream[1].feed.way in ("fall", "fed")):
            return _raised(analysis, index, end, source, way, spilled)
        if upstream is None:
            return "", None
        at = source
    return "", None


def _raised(analysis: Analysis, index: int, end: str, source: str, way: str, spilled: float) -> tuple[str, Edit | None]:
    """An intake or a mouth raised until what stays under it is more by what spilled."""
    spec = analysis.system.filters[index]
    line = getattr(spec, end)
    vessel = analysis.sites[spec.id].vessels[source]
    cell = analysis.network.cell(vessel.outlet)
    dry = max(analysis.situation("pipe_blocked").solution.level[cell.id], cell.floor)  # where it stopped, or still runs
    want = cell.curve.level(min(cell.curve.volume(dry) + 1.1 * spilled, cell.curve.volume(cell.rim))) - vessel.floor
    words, name = "Stand the pump higher", "intake"
    if way != "pump":
        words, name = "Raise the pipe's mouth", "height"
        want += pipe_size(line.pipe).bore / 2
    if vessel.floor + want > analysis.running.level[cell.id] - 0.03:
        return "", None
    return words, Edit(words, (Change(("filters", index, end, name), math.ceil(want * 100) / 100),))


def _by_valves(analysis: Analysis, finding: Finding, filter_id: str) -> Finding:
    """The finding with all valves of its air pump set, where that changes something."""
    for i, air in enumerate(analysis.system.airs):
        if any(d.to == filter_id for d in air.drops) and air.id in analysis.airs:
            plan = plan_air(analysis, i)
            now = {d.to: d.opening for d in air.drops}
            if plan.share > 0 and any(abs(now[key] - value) > 0.02 for key, value in plan.openings.items()):
                return replace(finding, action="Set all air valves", edit=valves_edit(i, air, plan))
    return finding


WHOLE = (filters, airs, blocked)
