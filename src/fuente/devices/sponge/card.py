"""A sponge's or box's row and card."""

from __future__ import annotations

from fuente.devices.base import Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of, medium_choice
from fuente.devices.pocket import air_of, cell_id, flow_of
from fuente.devices.pocket_shown import drive_choices, headline, pocket_readings
from fuente.devices.sponge.judge import surface
from fuente.devices.sponge.spec import Sponge
from fuente.network.model import Solution


def card(spec: Sponge, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    words, values = headline(spec, solution)
    own = choices_of(spec, path, "style length width height", "")
    own += (
        choices_of(spec, path, "ppi")
        if spec.style == "sponge"
        else (medium_choice(site, (*path, "medium"), spec.medium, ("loose",)), *choices_of(spec, path, "", "slots"))
    )
    big = (
        Reading("of air", air_of(spec, solution), "air_flow")
        if spec.drive == "air"
        else Reading("living surface", surface(spec, site), "area")
    )
    return (
        Station(
            spec.id,
            spec.name,
            words,
            values,
            glyph="sponge",
            cells=(cell_id(spec),),
            big=(Reading("through it", flow_of(spec, solution), "flow"), big),
            choices=(*drive_choices(spec, path), *own),
            readings=(
                Reading(
                    "Living surface",
                    surface(spec, site),
                    "area",
                    "Bulk of the block by its surface for each litre.",
                    "typical of open foam and media",
                    "±30 %",
                ),
                *pocket_readings(spec, site, solution, "the block"),
            ),
            why=Reading(
                "Why this flow",
                flow_of(spec, solution),
                "flow",
                "Bubbles make the water in the tube light; the tank's water pushes it up until tube and block take all"
                " of that head.",
                "Stenning and Martin 1968; Darcy–Forchheimer",
                "±25 %",
            ),
        ),
    )
