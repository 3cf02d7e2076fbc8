"""A trickle tower's row and card."""

from __future__ import annotations

from fuente.devices.base import Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of, medium_choice
from fuente.devices.plumbing import flow_in
from fuente.devices.plumbing_shown import line_choices, line_readings
from fuente.devices.trickle_tower.judge import surface, wetting
from fuente.devices.trickle_tower.network import ids
from fuente.devices.trickle_tower.spec import TrickleTower
from fuente.network.model import Solution


def card(spec: TrickleTower, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    tray, film, _base = ids(spec)
    wet = wetting(spec, solution)
    depth = max(solution.level[tray] - solution.network.cell(tray).floor, 0.0)
    held = solution.volume[film] + solution.volume[tray]
    front = "style length width packing holes hole" + (" trays" if spec.style == "trays" else "")
    return (
        Station(
            spec.id,
            spec.name,
            "{flow:flow}, {wet:slow_speed} on its plan",
            {"flow": flow_in(spec, solution), "wet": wet},
            glyph="tower",
            cells=ids(spec),
            big=(Reading("wetting", wet, "slow_speed"), Reading("in the spreading tray", depth, "level")),
            choices=(
                *choices_of(spec, path, front),
                medium_choice(site, (*path, "medium"), spec.medium, ("loose",), "Packing"),
                *choices_of(spec, path, "", "tray base submerged"),
                *line_choices(spec, path, site),
            ),
            readings=(
                Reading(
                    "Living surface",
                    surface(spec, site),
                    "area",
                    "60 % of the packing is wetted well, and all of what stands in water.",
                    "typical",
                    "±40 %",
                ),
                Reading(
                    "Comes down after a power cut",
                    held,
                    "volume",
                    "What stands in the tray and hangs on the packing.",
                    "film of 4 % at 10 m/h",
                    "a factor of two",
                ),
                *line_readings(spec, site, solution),
            ),
            why=Reading(
                "Why this wetting",
                wet,
                "slow_speed",
                "Flow by its plan. Air is what makes it strong: the film takes its oxygen from it, and carbon dioxide"
                " leaves.",
                "holes C = 0.62; usual range of packings",
                "±20 %",
            ),
        ),
    )
