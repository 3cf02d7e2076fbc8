"""A canister's row and card."""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.base import Change, Choice, Edit, Path, Reading, Station
from fuente.devices.canister.judge import pressed, suction, surface, wet_mass
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
    layers = [c for k in range(len(spec.layers)) for c in _layer_choices(spec, site, k)]
    near = [c for c in layers if not c.fold]
    sponge = "sponge" + (" sponge_long sponge_dirt" if spec.sponge else "")
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
                *near[:4],
                *front[:2],
                *choices_of(spec, path, "diameter height"),
                *(replace(c, fold=True) for c in near[4:]),
                *(c for c in layers if c.fold),
                *choices_of(spec, path, "", "foot drain dividers"),
                Choice((*path, "hose"), "Hose in", "choice", spec.hose, pipe_words(), fold=True),
                *choices_of(spec, path, "", "bores length"),
                Choice((*path, "back"), "Hose back", "choice", spec.back, (("", "the same"), *pipe_words()), fold=True),
                *choices_of(spec, path, "", f"back_bores back_length intake {sponge} outlet stand offset name"),
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


def _layer_choices(spec: Canister, site: Site, k: int) -> list[Choice]:
    """What is decided of one layer: its medium and thickness at hand, the rest folded away."""
    layer, own = spec.layers[k], (*spec.path, "layers", k)
    media = (("foam", "Foam"), ("floss", "Floss"), *((m.id, m.name) for m in site.catalogue.media.values()))
    found = [Choice((*own, "medium"), f"Layer {k + 1}", "choice", layer.medium, media)]
    rest = ("ppi " if layer.medium == "foam" else "") + "divider dirt"
    for c in (*choices_of(layer, own, "thickness"), *choices_of(layer, own, "", rest)):
        plan = spec.area if c.path[-1] == "thickness" else 0.0
        found.append(replace(c, label=f"Layer {k + 1}, {c.label[:1].lower() + c.label[1:]}", plan=plan))
    return found


def _commands(spec: Canister, path: Path) -> tuple[tuple[str, Edit], ...]:
    found = []
    left = spec.height - spec.foot - sum(x.thickness for x in spec.layers)
    if left >= 0.02 and len(spec.layers) < 8:
        more = (*spec.layers, Layer(medium="ring", thickness=round(min(left, 0.2 * spec.height), 3), divider=True))
        found.append(("Add a layer on top", Edit("Add layer", (Change((*path, "layers"), more),))))
    if len(spec.layers) > 1:
        found.append(("Take out the top layer", Edit("Take out layer", (Change((*path, "layers"), spec.layers[:-1]),))))
    return tuple(found)


def _at_lid(spec: Canister, solution: Solution) -> Reading:
    """Pressure or suction under the lid: never both in words."""
    sucks = suction(spec, solution)
    if sucks > 0:
        why = "Its pump draws harder than the tank's height presses. A soft hose folds at about half a metre."
        return Reading("Suction under its lid", sucks, "head", why)
    return Reading(
        "Pressure under its lid", -sucks, "head", "The tank's height over it, less what hose and media take."
    )


def _caught(spec: Canister) -> str:
    if spec.catches is None:
        return "the intake's sponge"
    layer = spec.layers[spec.catches]
    what = f"foam of {layer.ppi:g} ppi" if layer.medium == "foam" else "floss" if layer.medium == "floss" else "media"
    return f"layer {spec.catches + 1}, {what}"


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
        _at_lid(spec, solution),
        Reading(
            "Force on its lid as it stands",
            pressed(spec, site, solution.level[site.tank.id]),
            "mass",
            "The weight that would press as hard: with the pump off the tank's whole height stands on it. Its clamps"
            " and its vessel must be made for that.",
            "pressure by area",
            "±5 %",
        ),
        Reading(
            "Dirt is caught in",
            _caught(spec),
            "",
            "The finest in the row, and of those the first along the water; a sponge on the intake before all. It is"
            " rinsed first.",
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
