"""A pipe out of a filter that a pump fills, blocked while the pump goes on, and what keeps that off the floor."""

from __future__ import annotations

import math
from collections.abc import Iterable

from fuente.catalogue import pipe_size
from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.devices.beside import BesideSpec
from fuente.devices.plumbing import (
    drain_id,
)
from fuente.one_line import within
from fuente.study.analysis import Analysis

BRIM = 0.02  # m under the rim that a blocked pipe should leave


def blocked(analysis: Analysis) -> Iterable[Finding]:
    """A pipe out of a filter that a pump fills, blocked while the pump goes on."""
    system = analysis.system
    if not analysis.pumped_outs():
        return
    state = analysis.situation("pipe_blocked")
    spec = system.device(state.about)
    assert isinstance(spec, BesideSpec)
    values = {"spilled": state.numbers["spilled"], "left": max(state.numbers["left"], 0.0)}
    if values["spilled"] > 1e-7:
        action, edit = _second_way(analysis, spec)
        if edit is None:
            action, edit = _pump_higher(analysis, spec.id, values["spilled"])
        if edit is None:
            action, edit = _higher_box(analysis, spec)
        yield Finding(
            "filter-pipe-blocked",
            Rank.STOP,
            f"With the pipe out of {within(spec.name)} blocked its pump puts {{spilled:volume}} on the floor.",
            "A leaf or a snail in a pipe is enough. Have the water that the pump can reach run out before that, or give"
            " the filter a second way out.",
            spec.id,
            values,
            action,
            edit,
            -values["spilled"],
        )
    elif values["left"] < BRIM:
        yield Finding(
            "filter-pipe-blocked",
            Rank.FIX,
            f"With the pipe out of {within(spec.name)} blocked it rises to {{left:level}} under its rim.",
            "Leave {0.02:length} for waves.",
            spec.id,
            values,
            margin=values["left"] - BRIM,
        )


def _spare(analysis: Analysis, spec: BesideSpec) -> tuple[float, float] | None:
    """How far over its first pipe a filter's second one goes, and the rim that this wants over its own floor, m; None
    where it has one.
    """
    if spec.drain.spare > 0 or spec.drain.way == "pump":
        return None
    link = analysis.network.link(drain_id(spec))
    bore = pipe_size(spec.drain.pipe).bore
    over = analysis.running.level[link.a] - spec.stand - spec.drain.height + 0.01
    spare = math.ceil(100 * max(1.5 * bore, over)) / 100
    return spare, spec.drain.height + spare + 1.5 * bore + BRIM


def _second_way(analysis: Analysis, spec: BesideSpec) -> tuple[str, Edit | None]:
    """A second pipe out over the first, where there is room for it under the rim."""
    wanted = _spare(analysis, spec)
    if wanted is None:
        return "", None
    link = analysis.network.link(drain_id(spec))
    if spec.stand + wanted[1] > analysis.network.cell(link.a).rim:
        return "", None
    return "Second way out", Edit("Add second way out", (Change((*spec.path, "drain", "spare"), wanted[0]),))


def _higher_box(analysis: Analysis, spec: BesideSpec) -> tuple[str, Edit | None]:
    """The same in a box that is made high enough for it."""
    wanted = _spare(analysis, spec)
    name = spec.rim_field
    if wanted is None or not name:
        return "", None
    high = math.ceil(100 * (wanted[1] + 0.01)) / 100
    changes = (Change((*spec.path, name), high), Change((*spec.path, "drain", "spare"), wanted[0]))
    return "Higher box, second way out", Edit("Raise box, add second way out", changes)


def _pump_higher(analysis: Analysis, filter_id: str, spilled: float) -> tuple[str, Edit | None]:
    """What keeps so much water back in the water that a filter is filled from: the pump's intake raised, or the pipe to
    its chamber.
    """
    filters = {f.id: f for f in analysis.system.of(BesideSpec)}
    pumped = False
    at = filter_id
    for _ in filters:
        spec = filters[at]
        if spec.feed.way == "fed":
            before = next((f for f in filters.values() if f.drain.into == at), None)
            if before is None:
                return "", None
            spec, end, source = before, "drain", before.id
        else:
            end, source = "feed", spec.feed.source
        line = spec.drain if end == "drain" else spec.feed
        pumped = pumped or line.way == "pump"
        upstream = filters.get(source)
        if pumped and (upstream is None or upstream.feed.way in ("fall", "fed")):
            return _raised(analysis, spec, end, source, spilled)
        if upstream is None:
            return "", None
        at = source
    return "", None


def _raised(analysis: Analysis, spec: BesideSpec, end: str, source: str, spilled: float) -> tuple[str, Edit | None]:
    """An intake or a mouth raised until what stays under it is more by what spilled."""
    line = spec.drain if end == "drain" else spec.feed
    vessel = analysis.vessels[source]
    cell = analysis.network.cell(vessel.outlet)
    dry = max(analysis.situation("pipe_blocked").solution.level[cell.id], cell.floor)  # where it stopped, or still runs
    want = cell.curve.level(min(cell.curve.volume(dry) + 1.1 * spilled, cell.curve.volume(cell.rim))) - vessel.floor
    words, name = "Stand the pump higher", "intake"
    if line.way != "pump":
        words, name = "Raise the pipe's mouth", "height"
        want += pipe_size(line.pipe).bore / 2
    if vessel.floor + want > analysis.running.level[cell.id] - 0.03:
        return "", None
    return words, Edit(words, (Change((*spec.path, end, name), math.ceil(want * 100) / 100),))


RULES = (blocked,)
