"""An under-gravel filter's row and card."""

from __future__ import annotations

from fuente.devices.base import Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of
from fuente.devices.pocket import cell_id, flow_of
from fuente.devices.pocket_shown import drive_choices, headline, pocket_readings
from fuente.devices.under_gravel.judge import surface
from fuente.devices.under_gravel.spec import UnderGravel
from fuente.network.model import Solution


def card(spec: UnderGravel, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    words, values = headline(spec, solution)
    flow = flow_of(spec, solution)
    return (
        Station(
            spec.id,
            spec.name,
            words,
            values,
            glyph="plate",
            cells=(cell_id(spec),),
            big=(Reading("through the gravel", flow, "flow"), Reading("sinking", flow / spec.area, "slow_speed")),
            choices=(*drive_choices(spec, path), *choices_of(spec, path, "length width gravel grain", "void gap")),
            readings=(
                Reading(
                    "Living surface",
                    surface(spec, site),
                    "area",
                    "Half of the grains' own surface, 6·(1 − void)/d of the bulk: the rest touches or lies in muck.",
                    "geometry of spheres",
                    "a factor of two",
                ),
                Reading(
                    "Each tube draws on",
                    spec.area / spec.tubes,
                    "area",
                    "Of the plate; under 0.1 m² each draws evenly.",
                ),
                *pocket_readings(spec, site, solution, "the gravel"),
            ),
            why=Reading(
                "Why this flow",
                flow,
                "flow",
                "Lift against what gravel (Ergun) and slots take; clean gravel takes next to nothing.",
                "Stenning and Martin 1968; Ergun 1952",
                "±25 %",
            ),
        ),
    )
