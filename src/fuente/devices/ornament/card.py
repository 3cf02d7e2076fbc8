"""An ornament filter's row and card."""

from __future__ import annotations

from fuente.devices.base import Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of, medium_choice, weighed
from fuente.devices.ornament.judge import stone_needed, surface
from fuente.devices.ornament.spec import Ornament
from fuente.devices.pocket import cell_id, flow_of
from fuente.devices.pocket_shown import drive_choices, headline, pocket_readings
from fuente.network.model import Solution


def card(spec: Ornament, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    words, values = headline(spec, solution)
    flow = flow_of(spec, solution)
    sizes = {"litres": "form outer inner height", "box": "form width depth height"}.get(spec.form, "form width height")
    return (
        Station(
            spec.id,
            spec.name,
            words,
            values,
            glyph="ornament",
            cells=(cell_id(spec),),
            big=(Reading("through it", flow, "flow"), Reading("room inside", spec.cavity, "volume")),
            choices=(
                *choices_of(spec, path, sizes),
                medium_choice(site, (*path, "medium"), spec.medium),
                *weighed(choices_of(spec, path, "media gaps gap"), site.medium(spec.medium).dry),
                *drive_choices(spec, path),
                *choices_of(spec, path, "", "gap_height animal ppi foam wall shell exit lid ballast"),
            ),
            readings=(
                Reading(
                    "Living surface",
                    surface(spec, site),
                    "area",
                    "Media and foam by their surface for each litre.",
                    "typical",
                    "±30 %",
                ),
                Reading(
                    "Ballast that holds it down",
                    stone_needed(spec, site),
                    "mass",
                    "Stone, a third more than its lift when flooded.",
                    "Archimedes",
                    "±15 %",
                ),
                Reading("Speed in the gaps", flow / spec.open_area, "speed", "Under {0.1:speed} nobody is held."),
                *pocket_readings(spec, site, solution, "gaps and layers"),
            ),
            why=Reading(
                "Why this flow",
                flow,
                "flow",
                "Lift or pump against gaps, foam and media inside.",
                "Stenning and Martin 1968; Darcy–Forchheimer; holes C = 0.62",
                "±30 %",
            ),
        ),
    )
