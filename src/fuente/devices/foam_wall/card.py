"""A foam wall's row and card."""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.base import Choice, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of, medium_choice
from fuente.devices.foam_wall.judge import surface
from fuente.devices.foam_wall.network import between_id
from fuente.devices.foam_wall.parts import cut_size
from fuente.devices.foam_wall.spec import FoamWall
from fuente.devices.pocket import drop_of, flow_of
from fuente.devices.pocket_shown import drive_choices, headline, pocket_readings
from fuente.network.model import Solution


def card(spec: FoamWall, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    words, values = headline(spec, solution)
    flow = flow_of(spec, solution)
    face = spec.face * min(spec.foam_height, max(solution.level[site.tank.id] - site.tank.floor - spec.dam, 1e-3))
    wide, tall = cut_size(spec)
    room = "shape thickness ppi twin height " + ("behind walls" if spec.shape == "flat" else "reach")
    fold = ("dam dam_at" if spec.dam else "dam") + " squeeze"
    fold += (" second" if spec.twin == "twin" else "") + (" spacing" if spec.walls > 1 else "")
    return (
        Station(
            spec.id,
            spec.name,
            words,
            values,
            glyph="pad",
            cells=tuple(between_id(spec, k) for k in range(spec.walls)),
            big=(
                Reading("level lost behind it", max(drop_of(spec, site, solution), 0.0), "fine_length"),
                Reading("through it", flow, "flow"),
            ),
            choices=(*choices_of(spec, path, room, fold), *drive_choices(spec, path), *_bags(spec, site)),
            readings=(
                Reading(
                    "Living surface",
                    surface(spec, site),
                    "area",
                    "Foam by its surface for each litre.",
                    "typical",
                    "±30 %",
                ),
                Reading(
                    "Speed through its face",
                    flow / face,
                    "slow_speed",
                    "Slower than a small fish swims: it can rest on it.",
                ),
                Reading(
                    "Fits behind it",
                    spec.fits,
                    "length",
                    "The largest upright pump or heater between foam and wall"
                    + (", touching both walls of the corner and the foam." if spec.shape == "corner" else ".")
                    + " A hand wants 100 mm.",
                ),
                Reading("Cut each pad", wide, "length", "Wide, with its squeeze."),
                Reading("and high", tall, "length", "With its squeeze."),
                *pocket_readings(spec, site, solution, "the foam"),
            ),
            why=Reading(
                "Why this level",
                drop_of(spec, site, solution),
                "fine_length",
                "The lifts draw from behind; the water there falls until the difference pushes as much through the"
                " foam.",
                "Darcy–Forchheimer through the wetted face",
                "±30 %",
            ),
        ),
    )


def _bags(spec: FoamWall, site: Site) -> list[Choice]:
    """Media in bags behind it."""
    density = site.medium(spec.medium).dry
    found = [replace(c, density=density) for c in choices_of(spec, spec.path, "", "media")]
    if spec.media > 0:
        found.append(
            replace(medium_choice(site, (*spec.path, "medium"), spec.medium, ("loose",), "Behind it"), fold=True)
        )
    return found
