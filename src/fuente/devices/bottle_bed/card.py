"""A bottle bed's row and card."""

from __future__ import annotations

from fuente.catalogue import Medium
from fuente.devices.base import Reading, Station
from fuente.devices.bottle_bed.judge import MARGIN, heard, surface
from fuente.devices.bottle_bed.sizing import wish
from fuente.devices.bottle_bed.spec import BottleBed
from fuente.devices.contract import Study
from fuente.devices.filtering import STANDING, Site, choices_of, medium_choice
from fuente.devices.pocket import air_of, cell_id, flow_of
from fuente.devices.pocket_shown import headline, pocket_readings
from fuente.network.model import Solution


def card(spec: BottleBed, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    words, values = headline(spec, solution)
    flow, air = flow_of(spec, solution), air_of(spec, solution)
    stuff = site.medium(spec.medium)
    litre = air / max(spec.media * 1000, 1e-9)
    return (
        Station(
            spec.id,
            spec.name,
            words,
            values,
            glyph="bottle",
            cells=(cell_id(spec),),
            big=(Reading("of air a litre of carriers", litre, "air_flow"), Reading("through it", flow, "flow")),
            choices=(
                *choices_of(spec, path, "tubes diameter height fill"),
                medium_choice(site, (*path, "medium"), spec.medium, ("carrier",), "Carriers"),
                *choices_of(
                    spec,
                    path,
                    "holes hole top_holes top_hole cap_holes entry end",
                    "cap_hole shoulder sponge hang injector outlet roll age airline suckers sucker at dirt name",
                ),
            ),
            readings=_readings(spec, site, solution, flow, air, stuff),
            why=Reading(
                "Why this flow",
                flow,
                "flow",
                "Bubbles make the water in the bottle lighter than the tank's: it leaves at the top and comes in at the"
                " foot, as fast as holes and sponge let it.",
                "drift flux in wide tubes, C0 = 1.05, {0.25:speed}; holes C = 0.62",
                "±30 %",
            ),
        ),
    )


def _readings(
    spec: BottleBed, site: Site, solution: Solution, flow: float, air: float, stuff: Medium
) -> tuple[Reading, ...]:
    """Surface, air, holes, carriers."""
    return (
        Reading("Carriers in all", spec.media, "volume", "Bottle by bottle, at the fill that you chose."),
        Reading(
            "Living surface",
            surface(spec, site),
            "area",
            "Carriers by their surface for each litre.",
            "typical",
            "±30 %",
        ),
        Reading(
            "If they stand still",
            STANDING * surface(spec, site),
            "area",
            "About a third is then reached by water; the bed strains instead, and must be flushed often.",
            "an assumption",
        ),
        Reading(
            "Air that it wants",
            wish(spec, site),
            "air_flow",
            "{8.33333e-06:air_flow:bare} to {5e-05:air_flow} for each litre of carriers, by your rule.",
        ),
        Reading("Largest hole", MARGIN * stuff.size, "fine_length", "Four fifths of the carriers' least dimension."),
        Reading(
            "Speed in the holes",
            flow / spec.narrowest,
            "speed",
            "Where they leave least room. Under {0.25:speed} carriers do not cling.",
        ),
        Reading(
            "It is heard",
            heard(spec, air, flow),
            "",
            "By how fast its air breaks at the surface, coarser from an open line, from deeper and past fast holes:"
            " up to {0.005:slow_speed} a whisper, up to {0.02:slow_speed} a murmur.",
            "an assumption",
        ),
        *pocket_readings(spec, site, solution, "holes and sponge"),
    )
