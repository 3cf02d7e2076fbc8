"""A hang-on overflow's row and card."""

from __future__ import annotations

from fuente.devices.base import Choice, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.draining import drain_run
from fuente.devices.hang_on.network import drain_id, inner_id, outer_id, siphon_id
from fuente.devices.hang_on.spec import HangOn
from fuente.devices.options import ALL, chamber_choice, pipe_options
from fuente.devices.site import Site
from fuente.network.model import Solution


def card(spec: HangOn, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """The overflow as a station."""
    tank, path, pipes = site.tank, spec.path, pipe_options(ALL)
    flow = sum(solution.flow[siphon_id(spec, i)] for i in range(spec.tubes))
    head = max(solution.level[tank.id] - tank.floor - spec.crest, 0.0)
    across = solution.level[inner_id(spec)] - solution.level[outer_id(spec)]
    run = drain_run(drain_id(spec), solution)

    def choice(
        field: str, label: str, quantity: str = "length", step: float | None = 0.005, fold: bool = False
    ) -> Choice:
        return Choice((*path, field), label, quantity, getattr(spec, field), step=step, fold=fold)

    return (
        Station(
            spec.id,
            "Hang-on overflow",
            "{flow:flow}, " + ("restarts" if spec.restarts else "does not restart"),
            {"flow": flow},
            glyph="weir",
            cells=(inner_id(spec), outer_id(spec)),
            big=(Reading("over the rim", flow, "flow"), Reading("over the crest", head, "level")),
            choices=(
                choice("crest", "Crest above the tank's floor", step=0.001),
                choice("weir", "Weir length"),
                Choice((*path, "tube"), "Tube over the rim", "choice", spec.tube, pipes),
                Choice((*path, "tubes"), "How many tubes", "count", spec.tubes),
                choice("tube_end", "Tube ends below the crest"),
                choice("stand", "Outer drain below the crest"),
                Choice((*path, "pipe"), "Drain pipe", "choice", spec.pipe, pipes),
                Choice((*path, "teeth"), "Taken by teeth", "fraction", spec.teeth, step=0.05, fold=True),
                choice("box_length", "Each box along the wall", fold=True),
                choice("box_width", "Each box off the wall", fold=True),
                choice("run", "Sideways run", fold=True),
                choice("release", "Drain ends above sump floor", fold=True),
                *chamber_choice(path, site, spec.into, spec.chamber, "Drain ends in", "the first chamber"),
            ),
            readings=(
                Reading(
                    "Level across the tube",
                    max(across, 0.0),
                    "length",
                    "What drives the siphon: inner box over outer box.",
                ),
                Reading("Drain runs", run.mode, "", f"At {run.speed:.2f} m/s."),
                Reading(
                    "After a power cut",
                    "the siphon waits" if spec.restarts else "the siphon breaks",
                    "",
                    "It waits while both ends of the tube stay under water: the outer drain's mouth must stand over"
                    " them.",
                    "",
                    "air gathers in a slow tube: look weekly",
                ),
            ),
        ),
    )
