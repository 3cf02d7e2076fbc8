"""A hang-on filter's row and card."""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.base import Change, Choice, Edit, Path, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of, medium_choice
from fuente.devices.plumbing_shown import pipe_words
from fuente.devices.pocket import cell_id, flow_of
from fuente.devices.pumping import pump_choices
from fuente.devices.rim_box.judge import hangs, surface
from fuente.devices.rim_box.network import clean_id
from fuente.devices.rim_box.spec import SKIMS, RimBox
from fuente.network.model import Solution


def card(spec: RimBox, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    flow = flow_of(spec, solution)
    drop = max(solution.level[cell_id(spec)] - solution.level[clean_id(spec)], 0.0)
    room = max(solution.network.cell(cell_id(spec)).floor + spec.block - solution.level[clean_id(spec)], 0.001)
    return (
        Station(
            spec.id,
            spec.name,
            "{flow:flow}, {drop:level} drop of {room:level}",
            {"flow": flow, "drop": drop, "room": room},
            used=min(drop / room, 1.0),
            glyph="rim_box",
            cells=(cell_id(spec), clean_id(spec)),
            big=(Reading("through it", flow, "flow"), Reading("level lost in its block", drop, "fine_length")),
            choices=_choices(spec, site),
            readings=_readings(spec, site, solution, flow),
            why=Reading(
                "Why this flow",
                flow,
                "flow",
                "What lifts it over the lip against the height from the tank's water, and the tube's loss; block and"
                " lip only raise the water in the box.",
                "operating point of pump and losses; Stenning and Martin 1968 on air",
                "±20 %",
            ),
        ),
    )


def _choices(spec: RimBox, site: Site) -> tuple[Choice, ...]:
    path: Path = spec.path
    inlets = next(c for c in choices_of(spec, path, "inlet"))
    depth = site.level - site.tank.floor

    def draw(way: str) -> Edit:
        deep = max(round(depth - SKIMS, 3), 0.0) if way == "skim" else 0.05
        return Edit("Another inlet", (Change((*path, "inlet"), way), Change((*path, "intake"), deep)))

    front, folded = pump_choices(spec.pump, (*path, "pump")) if spec.drive == "pump" else ((), ())
    bag = [replace(c, density=site.medium(spec.medium).dry) for c in choices_of(spec, path, "", "media")]
    if spec.media > 0:
        bag.append(replace(medium_choice(site, (*path, "medium"), spec.medium, ("loose",), "In the bag"), fold=True))
    return (
        *choices_of(spec, path, "drive"),
        replace(inlets, make=draw),
        *front[:2],
        *choices_of(spec, path, "wide off ppi thickness block", "height lip spout over end intake"),
        *bag,
        Choice((*path, "hose"), "Tube", "choice", spec.hose, pipe_words(), fold=True),
        *choices_of(spec, path, "", "tubes dirt name"),
        *folded[:3],
    )


def _readings(spec: RimBox, site: Site, solution: Solution, flow: float) -> tuple[Reading, ...]:
    held = solution.volume[cell_id(spec)] + solution.volume[clean_id(spec)]
    return (
        Reading("Living surface", surface(spec, site), "area", "Block, and half of the bag's.", "typical", "±30 %"),
        Reading("Turnover by it", flow / solution.volume[site.tank.id], "per_hour", "Its flow over the tank's water."),
        Reading("Water in the box", held, "volume", "It stays there with the pump off, up to the lip."),
        Reading("Water stays in it", held / flow if flow > 0 else 0.0, "time", "Its water by the flow."),
        Reading("Hangs on the rim", hangs(spec, site, solution), "mass", "Water, dry media, and a box of plastic."),
    )
