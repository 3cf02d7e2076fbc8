"""A sieve's row and card."""

from __future__ import annotations

from fuente.devices.base import Choice, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of, medium_choice, weighed
from fuente.devices.plumbing_shown import line_choices, line_readings, pipe_words
from fuente.devices.sieve_bed.judge import Sag, feed_most, needed, sag, surface, waste_time
from fuente.devices.sieve_bed.lines import choices, commands, through
from fuente.devices.sieve_bed.network import ids, sizing_speed
from fuente.devices.sieve_bed.spec import SieveBed
from fuente.network.model import Solution


def card(spec: SieveBed, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    _over, chamber = ids(spec)
    flow = through(spec, solution)
    want = needed(spec, flow)
    worst = sag(spec)
    gives = feed_most(spec, site, study, solution)
    under = spec.stand + spec.screen - solution.level[chamber]
    most = spec.area * sizing_speed(spec.aperture) * spec.open_share * (1 - spec.clogged)
    return (
        Station(
            spec.id,
            spec.name,
            "{flow:flow}, {want:area} used",
            {"flow": flow, "want": want, "have": spec.area},
            used=min(want / spec.area, 1.0),
            glyph="sieve",
            cells=ids(spec),
            big=(Reading("through it", flow, "flow"), Reading("water under the screen", under, "level")),
            choices=(
                *choices_of(
                    spec,
                    path,
                    "length width screen aperture open_share clogged bars legs",
                    "height edge tube wall load spare",
                ),
                medium_choice(site, (*path, "medium"), spec.medium, ("loose",), "Lower media"),
                *weighed(choices_of(spec, path, "", "media"), site.medium(spec.medium).dry),
                Choice((*path, "waste"), "Waste outlet", "choice", spec.waste, pipe_words(), fold=True),
                *line_choices(spec, path, site),
                *choices(spec, site),
            ),
            commands=lambda: commands(spec),
            readings=_readings(spec, site, solution, want, worst, min(most, gives), flow),
            why=Reading(
                "Why this area",
                want,
                "area",
                "Flow over the speed that clean openings take, their open share, and what dirt may close.",
                "Fuente's own sizing, said to be an assumption",
                "a factor of two",
            ),
        ),
    )


def _readings(
    spec: SieveBed, site: Site, solution: Solution, want: float, worst: Sag, most: float, flow: float
) -> tuple[Reading, ...]:
    """Screen, frame, media, pipes."""
    return (
        Reading(
            "Screen that this flow wants",
            want,
            "area",
            "With what is spare, while dirt closes its share.",
            "an assumed speed through the openings",
            "a factor of two",
        ),
        Reading(
            "Another pump could take",
            max(most - flow, 0.0),
            "flow",
            "What the screen has to spare by the same sizing, and no more than the way in gives besides.",
        ),
        Reading(
            "The frame sags",
            worst.bends,
            "fine_length",
            "The worse of its bars between the edges and its edges between the legs; a two-hundredth of the span is"
            " allowed.",
            "5wL⁴/(384EI), PVC 2.8 GPa",
            "±30 %, creep apart",
        ),
        Reading(
            "Running it off takes",
            waste_time(spec, site, solution),
            "time",
            "The chamber through its waste outlet.",
        ),
        Reading("Living surface", surface(spec, site), "area", "Of the lower media.", "typical", "±30 %"),
        *line_readings(spec, site, solution),
    )
