"""A canister's row and card."""

from __future__ import annotations

from fuente.devices.base import Change, Choice, Edit, Path, Reading, Station
from fuente.devices.canister.judge import suction, surface, wet_mass
from fuente.devices.canister.spec import Canister, Layer
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of
from fuente.devices.plumbing_shown import pipe_words
from fuente.devices.pocket import cell_id, flow_of
from fuente.devices.pumping import pump_choices
from fuente.network.model import Solution


def card(spec: Canister, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    flow = flow_of(spec, solution)
    lost = max(solution.level[site.tank.id] - solution.level[cell_id(spec)], 0.0)
    front, folded = pump_choices(spec.pump, (*path, "pump"))
    media = (("foam", "Foam"), *((m.id, m.name) for m in site.catalogue.media.values()))
    layers: list[Choice] = []
    for k, layer in enumerate(spec.layers):
        own: Path = (*path, "layers", k)
        layers.append(Choice((*own, "medium"), f"Layer {k + 1}", "choice", layer.medium, media))
        for c in choices_of(layer, own, "", "share" + (" ppi" if layer.medium == "foam" else "")):
            layers.append(
                Choice(c.path, f"Layer {k + 1}, {c.label.lower()}", c.quantity, c.value, c.options, c.step, True)
            )
    stays = spec.inside / flow if flow > 0 else 0.0
    return (
        Station(
            spec.id,
            spec.name,
            "{flow:flow}, head lost {lost:fine_length}",
            {"flow": flow, "lost": lost},
            glyph="canister",
            cells=(cell_id(spec),),
            big=(
                Reading("through it", flow, "flow"),
                Reading("of what is on its box", flow / spec.pump.max_flow, "fraction"),
            ),
            choices=(
                *choices_of(spec, path, "style flow held"),
                *layers[:4],
                *front[:2],
                *choices_of(spec, path, "diameter height"),
                Choice((*path, "hose"), "Hose", "choice", spec.hose, pipe_words(), fold=True),
                *layers[4:],
                *choices_of(spec, path, "", "bores length intake outlet dividers stand offset dirt name"),
                *folded[:3],
            ),
            readings=_readings(spec, site, solution, lost, stays, flow),
            why=Reading(
                "Why this flow",
                flow,
                "flow",
                "Both hoses end in one tank: no height is lifted, all head goes into hoses, taps and media.",
                "operating point of pump and losses",
                "±20 %",
            ),
            commands=lambda: _commands(spec, path),
        ),
    )


def _commands(spec: Canister, path: Path) -> tuple[tuple[str, Edit], ...]:
    found = []
    left = 1 - sum(x.share for x in spec.layers)
    if left >= 0.1 and len(spec.layers) < 8:
        more = (*spec.layers, Layer(medium="ring", share=round(min(left, 0.2), 2)))
        found.append(("Add a layer on top", Edit("Add layer", (Change((*path, "layers"), more),))))
    if len(spec.layers) > 1:
        found.append(("Take out the top layer", Edit("Take out layer", (Change((*path, "layers"), spec.layers[:-1]),))))
    return tuple(found)


def _readings(
    spec: Canister, site: Site, solution: Solution, lost: float, stays: float, flow: float
) -> tuple[Reading, ...]:
    """Flow, suction, media."""
    return (
        Reading(
            "Living surface",
            surface(spec, site),
            "area",
            "Layers by their surface, less what water passes by.",
            "typical",
            "±30 %",
        ),
        Reading("Litres inside", spec.inside, "volume", "With nothing in it."),
        Reading(
            "Head lost before the pump",
            lost,
            "head",
            "Strainer, suction hose, taps and media.",
            "Darcy–Weisbach; Darcy–Forchheimer; Ergun",
            "±25 %",
        ),
        Reading(
            "Suction under its lid",
            suction(spec, solution),
            "head",
            "Below nothing it stands under pressure. A soft hose folds at about half a metre.",
        ),
        Reading("Water stays in it", stays, "time", "Inside by flow."),
        Reading("Its media, wet", wet_mass(spec, site), "mass", "What is lifted out."),
        Reading(
            "Turnover by it",
            flow / solution.volume[site.tank.id],
            "per_hour",
            "Its flow over the tank's water.",
        ),
    )
