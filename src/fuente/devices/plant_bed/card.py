"""A plant bed's row and card."""

from __future__ import annotations

from fuente.devices.base import Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of
from fuente.devices.plant_bed.judge import made, surface, uptake
from fuente.devices.plant_bed.network import ids
from fuente.devices.plant_bed.spec import PlantBed
from fuente.devices.plumbing import flow_in
from fuente.devices.plumbing_shown import line_choices, line_readings
from fuente.network.model import Solution


def card(spec: PlantBed, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    head, foot = ids(spec)
    flow = flow_in(spec, solution)
    held = solution.volume[head] + solution.volume[foot]
    takes = uptake(spec)
    return (
        Station(
            spec.id,
            spec.name,
            "{flow:flow}, takes {n:feed}",
            {"flow": flow, "n": takes},
            glyph="plant",
            cells=ids(spec),
            big=(Reading("through it", flow, "flow"), Reading("nitrogen that plants take", takes, "feed")),
            choices=(
                *choices_of(spec, path, "length width gravel grain plants planted", "height void"),
                *line_choices(spec, path, site),
            ),
            readings=(
                Reading(
                    "Level lost through the gravel",
                    max(solution.level[head] - solution.level[foot], 0.0),
                    "fine_length",
                    "Ergun along the bed.",
                    "Ergun 1952",
                    "±30 %",
                ),
                Reading("Water stays in it", held / flow if flow > 0 else 0.0, "time", "Its water by the flow."),
                Reading(
                    "Living surface",
                    surface(spec, site),
                    "area",
                    "Half of the grains' own surface under water.",
                    "geometry of spheres",
                    "a factor of two",
                ),
                Reading(
                    "Nitrogen that plants take",
                    takes,
                    "feed",
                    "0.4 to 0.6 g a m² a day while they grow; nothing in the dark of winter.",
                    "typical",
                    "a factor of three",
                ),
                *_against(takes, made(spec, site, study)),
                *line_readings(spec, site, solution),
            ),
            why=Reading(
                "Why this much",
                takes,
                "feed",
                "Plants take nitrogen only as fast as they grow: by light, warmth and cutting.",
                "typical",
                "a factor of three",
            ),
        ),
    )


def _against(takes: float, given: float) -> tuple[Reading, ...]:
    """Uptake beside what the feed makes; nothing where nobody is fed."""
    if given <= 0:
        return ()
    why = (
        "Uptake by the nitrogen that the feed of all tanks on this water gives off as ammonia. What plants leave"
        " becomes nitrate, which changes take out; over 100 % they want more than they are given."
    )
    source, sure = "feed × protein × 0.092, Timmons and Ebeling", "a factor of three"
    return (Reading("Of the nitrogen that the feed makes", takes / given, "fraction", why, source, sure),)
