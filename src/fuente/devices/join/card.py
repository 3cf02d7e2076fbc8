"""A join's row and card."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.base import Choice, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.join.network import link_id
from fuente.devices.join.spec import JoinSpec
from fuente.devices.options import pipe_options
from fuente.devices.site import Site
from fuente.network.model import Solution


def difference(spec: JoinSpec, solution: Solution) -> float:
    """Level before it less the level behind it, m."""
    link = solution.network.link(link_id(spec))
    return solution.level[link.a] - solution.level[link.b]


def card(spec: JoinSpec, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """The join as a station."""
    path, pipes = spec.path, pipe_options()
    flow = solution.flow[link_id(spec)]
    apart = difference(spec, solution)
    speed = abs(flow) / (spec.count * pipe_size(spec.pipe).area)
    styles = (("level", "below water, either way"), ("fall", "over a mouth and down"))
    level = spec.style == "level"
    words = "{apart:level} apart at {flow:flow}" if level else "{flow:flow} fall {apart:level}"
    return (
        Station(
            spec.id,
            spec.name,
            words,
            {"apart": abs(apart), "flow": abs(flow)},
            note=f"{spec.count} × {pipe_size(spec.pipe).name}",
            glyph="standpipe",
            cells=(),
            big=(Reading("apart" if level else "fall", abs(apart), "length"), Reading("passes", abs(flow), "flow")),
            choices=(
                Choice((*path, "pipe"), "Bore", "choice", spec.pipe, pipes),
                Choice((*path, "count"), "How many side by side", "count", spec.count),
                Choice(
                    (*path, "height"),
                    "Centre above the first floor" if level else "Mouth above the first floor",
                    "length",
                    spec.height,
                    step=0.005,
                ),
                *(
                    ()
                    if level
                    else (
                        Choice((*path, "release"), "Ends above the second floor", "length", spec.release, step=0.005),
                    )
                ),
                Choice((*path, "length"), "Length", "length", spec.length, step=0.01),
                Choice((*path, "style"), "Kind", "choice", spec.style, styles, fold=True),
                Choice((*path, "fittings"), "Fittings", "fittings", spec.fittings, fold=True),
                Choice((*path, "name"), "Name", "text", spec.name, fold=True),
            ),
            readings=(Reading("Speed in it", speed, "speed", "Flow by all bores together."),),
            why=Reading(
                "Why this difference",
                abs(apart),
                "length",
                "Water that moves from one sump to the other spends head at the entrance, along the bore and at the"
                " exit; the one that gives stands higher by that much.",
                "energy from level to level",
                "±10 %",
            ),
        ),
    )
