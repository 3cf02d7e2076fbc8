"""A drum train's row and card."""

from __future__ import annotations

from fuente.catalogue import pipe_size
from fuente.devices.base import Change, Choice, Edit, Path, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.drum_train.judge import flush_of, surface
from fuente.devices.drum_train.network import drum_id
from fuente.devices.drum_train.spec import ROLES, Drum, DrumTrain
from fuente.devices.filtering import STANDING, Site, choices_of, medium_choice, weighed
from fuente.devices.plumbing import flow_in
from fuente.devices.plumbing_shown import line_choices, line_readings, pipe_words
from fuente.hydraulics.settling import DIRT, PARTICLE, fall_speed
from fuente.network.model import Solution
from fuente.structure.walls import largest_flange


def card(spec: DrumTrain, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    flow = flow_in(spec, solution)
    levels = [solution.level[drum_id(spec, k)] for k in range(len(spec.drums))]
    lost = max(levels[0] - levels[-1], 0.0)
    return (
        Station(
            spec.id,
            spec.name,
            "{flow:flow}, {lost:level} lost",
            {"flow": flow, "lost": lost},
            glyph="drum",
            cells=tuple(drum_id(spec, k) for k in range(len(spec.drums))),
            big=(Reading("through it", flow, "flow"), Reading("level lost", lost, "level")),
            choices=(
                *line_choices(spec, path, site),
                *choices_of(spec, path, "seal gap flush_every bag", "flush_run soft"),
            ),
            readings=(
                Reading(
                    "Living surface",
                    surface(spec, site),
                    "area",
                    "Media and foam by their surface; brushes and settling count for nothing.",
                    "typical",
                    "±30 %",
                ),
                *_weekly(spec, site, levels),
                *line_readings(spec, site, solution),
            ),
            why=Reading(
                "Why these levels",
                lost,
                "length",
                "Each drum stands higher than the next by what its bulkheads and its bed take at this flow.",
                "Darcy–Weisbach; Ergun; Darcy–Forchheimer",
                "±25 %",
            ),
            commands=lambda: commands(spec, path),
        ),
        *rows(spec, site, solution, path),
    )


def rows(spec: DrumTrain, site: Site, solution: Solution, path: Path) -> tuple[Station, ...]:
    """A station for each drum."""
    flow = flow_in(spec, solution)
    levels = [solution.level[drum_id(spec, k)] for k in range(len(spec.drums))]
    return tuple(_drum(spec, k, site, levels, flow, path) for k in range(len(spec.drums)))


def _drum(spec: DrumTrain, k: int, site: Site, levels: list[float], flow: float, path: Path) -> Station:
    drum = spec.drums[k]
    own: Path = (*path, "drums", k)
    choices = choices_of(drum, own, "role diameter height flow")
    if drum.role in ("media", "stirred", "moving"):
        kinds = ("carrier",) if drum.role == "moving" else ("loose", "carrier")
        choices += (medium_choice(site, (*own, "medium"), drum.medium, kinds),)
        choices += weighed(choices_of(drum, own, "media mesh", "grid"), site.medium(drum.medium).dry)
    if drum.role == "foam":
        choices += choices_of(drum, own, "ppi foam", "grid")
    choices += choices_of(drum, own, "outlet", "count flush")
    choices += (Choice((*own, "pipe"), "Bulkhead's pipe", "choice", drum.pipe, pipe_words(), fold=True),)
    depth, room = levels[k] - spec.stand, spec.stand + drum.height - levels[k]
    return Station(
        drum_id(spec, k),
        f"Drum {k + 1}, {ROLES[drum.role]}",
        "stands {depth:level}, {room:level} left",
        {"depth": depth, "room": room},
        glyph="drum",
        cells=(drum_id(spec, k),),
        big=(Reading("water in it", depth, "level"), Reading("under its rim", room, "level")),
        choices=choices,
        readings=tuple(_drum_readings(spec, k, site, levels, flow)),
    )


def _drum_readings(spec: DrumTrain, k: int, site: Site, levels: list[float], flow: float) -> list[Reading]:
    drum = spec.drums[k]
    found = _joint_readings(spec, site, k, levels) if k + 1 < len(spec.drums) else []
    if drum.role == "settle" and flow > 0:
        share = min(fall_speed(PARTICLE, DIRT, site.water) / (flow / drum.area), 1.0)
        why = "Its fall against the rise of the water, flow over plan."
        found.append(Reading("Fine dirt kept", share, "fraction", why, "Stokes and beyond", "±50 %"))
    if drum.role in ("media", "stirred", "moving"):
        share = drum.media / max(drum.area * (levels[k] - spec.stand), 1e-9)
        found.append(Reading("Filled with media", share, "fraction", "Bulk of the media by the water in it."))
    stuff = site.medium(drum.medium)
    if drum.holds_media and stuff.kind == "carrier" and drum.role != "moving":
        found.append(
            Reading(
                "Surface if they live on, standing",
                STANDING * drum.media * stuff.surface,
                "area",
                "By the other rule none: they strain, and are flushed before a film is old.",
                "an assumption",
            )
        )
    if drum.flush > 0 and drum.role != "pump":
        volume, seconds = flush_of(spec, k, levels[k], site)
        why = f"Takes about {seconds:.0f} s through {pipe_size(spec.flush_pipe).name}."
        found.append(Reading("A flush", volume, "volume", why, "full pipe", "±20 %"))
    return found


def _joint_readings(spec: DrumTrain, site: Site, k: int, levels: list[float]) -> list[Reading]:
    """What goes on from a drum to the next, and the fitting that its wall takes."""
    drum = spec.drums[k]
    gasket = site.shop.fitting_for(drum.pipe).gasket
    lost = max(levels[k] - levels[k + 1], 0.0)
    why = f"What a third of a {{{gasket:g}:fine_length}} gasket takes up on that curve; put it outside."
    if spec.soft:
        why = "A soft wall gives under it as far as 1 % of strain in its skin allows; a plate inside spreads its pull."
    flange = largest_flange(drum.diameter, gasket, spec.soft)
    return [
        Reading("Lost to the next", lost, "fine_length", "Bulkheads, screen and bed."),
        Reading("Largest flange on it", flange, "length", why, "r − √(r² − (d/2)²)"),
    ]


def _weekly(spec: DrumTrain, site: Site, levels: list[float]) -> list[Reading]:
    flushed = [k for k, d in enumerate(spec.drums) if d.flush > 0 and d.role != "pump"]
    weekly = sum(flush_of(spec, k, levels[k], site)[0] * 7 * 86400 / spec.flush_every for k in flushed)
    return (
        [Reading("All flushes in a week", weekly, "volume", "Counts as water change; have it replaced.")]
        if weekly
        else []
    )


def commands(spec: DrumTrain, path: Path) -> tuple[tuple[str, Edit], ...]:
    """Another drum at the end, or one less."""
    found = []
    if len(spec.drums) < 6:
        for role, words in ROLES.items():
            made = spec.drums[-1].model_copy(update={"role": role})
            at = len(spec.drums) - (1 if spec.drums[-1].role == "pump" else 0)
            drums: tuple[Drum, ...] = (*spec.drums[:at], made, *spec.drums[at:])
            found.append((f"Add a drum: {words}", Edit("Add drum", (Change((*path, "drums"), drums),))))
    for k in range(len(spec.drums)):
        if len(spec.drums) > 1:
            kept = (*spec.drums[:k], *spec.drums[k + 1 :])
            found.append((f"Take out drum {k + 1}", Edit(f"Take out drum {k + 1}", (Change((*path, "drums"), kept),))))
    return tuple(found)
