"""A drum train's row and card."""

from __future__ import annotations

from fuente.catalogue import bulkhead_for, pipe_size
from fuente.devices.base import Change, Choice, Edit, Path, Reading, Station
from fuente.devices.drum_train.judge import flush_of, surface
from fuente.devices.drum_train.network import drum_id
from fuente.devices.drum_train.spec import ROLES, Drum, DrumTrain
from fuente.devices.filtering import Site, choices_of, medium_choice
from fuente.devices.plumbing import flow_in
from fuente.devices.plumbing_shown import line_choices, line_readings, pipe_words
from fuente.hydraulics.settling import DIRT, PARTICLE, fall_speed
from fuente.network.model import Solution
from fuente.structure.walls import largest_flange


def card(spec: DrumTrain, site: Site, solution: Solution, path: Path) -> Station:
    """As a station."""
    flow = flow_in(spec, solution)
    levels = [solution.level[drum_id(spec, k)] for k in range(len(spec.drums))]
    lost = max(levels[0] - levels[-1], 0.0)
    front: list[Choice] = []
    folded: list[Choice] = []
    for k, drum in enumerate(spec.drums):
        own: Path = (*path, "drums", k)
        for choice in choices_of(drum, own, "role"):
            front.append(_named(choice, k, "holds"))
        more: tuple[Choice, ...] = choices_of(drum, own, "", "diameter height flow outlet count flush")
        more += (Choice((*own, "pipe"), "Bulkhead's pipe", "choice", drum.pipe, pipe_words(), fold=True),)
        if drum.role in ("media", "stirred", "moving"):
            kinds = ("carrier",) if drum.role == "moving" else ("loose", "carrier")
            one = medium_choice((*own, "medium"), drum.medium, kinds)
            more += (
                Choice(one.path, one.label, one.quantity, one.value, one.options, fold=True),
                *choices_of(drum, own, "", "media grid mesh"),
            )
        if drum.role == "foam":
            more += choices_of(drum, own, "", "ppi foam grid")
        folded += [_named(c, k) for c in more]
    return Station(
        spec.id, spec.name, "{flow:flow}, {lost:length} lost",
        {"flow": flow, "lost": lost}, glyph="drum", cells=tuple(drum_id(spec, k) for k in range(len(spec.drums))),
        big=(Reading("through it", flow, "flow"), Reading("level lost", lost, "length")),
        choices=(*front, *line_choices(spec, path, site), *choices_of(spec, path, "", "seal gap flush_every flush_run bag"), *folded),
        readings=(
            Reading("Living surface", surface(spec, site.ruled(spec)), "area", "Media and foam by their surface; brushes and settling count for nothing.", "typical", "±30 %"),
            *_drum_readings(spec, site, solution, levels, flow),
            *line_readings(spec, site, solution),
        ),
        why=Reading("Why these levels", lost, "length", "Each drum stands higher than the next by what its bulkheads and its bed take at this flow.",
                    "Darcy–Weisbach; Ergun; Darcy–Forchheimer", "±25 %"),
        commands=lambda: commands(spec, path),
    )  # fmt: skip


def _named(choice: Choice, k: int, word: str = "") -> Choice:
    label = f"Drum {k + 1} {word}".strip() if word else f"{choice.label}, drum {k + 1}"
    return Choice(choice.path, label, choice.quantity, choice.value, choice.options, choice.step, choice.fold)


def _drum_readings(spec: DrumTrain, site: Site, solution: Solution, levels: list[float], flow: float) -> list[Reading]:
    found = []
    weekly = 0.0
    for k, drum in enumerate(spec.drums):
        if k + 1 < len(spec.drums):
            found.append(
                Reading(
                    f"Drum {k + 1} to {k + 2} loses",
                    max(levels[k] - levels[k + 1], 0.0),
                    "fine_length",
                    "Bulkheads, screen and bed.",
                )
            )
            size = bulkhead_for(pipe_size(drum.pipe))
            found.append(Reading(f"Largest flange on drum {k + 1}", largest_flange(drum.diameter, size.gasket), "length",
                                 f"What a third of a {size.gasket * 1000:.0f} mm gasket takes up on that curve; put it outside.", "r − √(r² − (d/2)²)"))  # fmt: skip
        if drum.role == "settle" and flow > 0:
            share = min(fall_speed(PARTICLE, DIRT, site.water) / (flow / drum.area), 1.0)
            found.append(
                Reading(
                    f"Drum {k + 1} keeps of 0.1 mm dirt",
                    share,
                    "fraction",
                    "Its fall against the rise of the water, flow over plan.",
                    "Stokes and beyond",
                    "±50 %",
                )
            )
        if drum.flush > 0 and drum.role != "pump":
            volume, seconds = flush_of(spec, k, levels[k], site)
            weekly += volume * 7 * 86400 / spec.flush_every
            found.append(
                Reading(
                    f"A flush of drum {k + 1}",
                    volume,
                    "volume",
                    f"Takes about {seconds:.0f} s through {pipe_size(spec.flush_pipe).name}.",
                    "full pipe",
                    "±20 %",
                )
            )
    if weekly:
        found.append(Reading("All flushes in a week", weekly, "volume", "Counts as water change; have it replaced."))
    return found


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
