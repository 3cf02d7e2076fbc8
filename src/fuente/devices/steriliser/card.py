"""A steriliser's row and card."""

from __future__ import annotations

from fuente.devices.base import Choice, Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of
from fuente.devices.lamps import dose
from fuente.devices.plumbing_shown import pipe_words
from fuente.devices.pocket import cell_id, flow_of
from fuente.devices.pumping import pump_choices
from fuente.devices.steriliser.spec import Steriliser
from fuente.network.model import Solution


def card(spec: Steriliser, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    flow = flow_of(spec, solution)
    given = dose(spec, flow)
    turn = flow / solution.volume[site.tank.id]
    front, folded = pump_choices(spec.pump, (*path, "pump"))
    return (
        Station(
            spec.id,
            spec.name,
            "{flow:flow}, {turn:per_hour}",
            {"flow": flow, "turn": turn},
            glyph="lamp",
            cells=(cell_id(spec),),
            pumped=True,
            big=(Reading("J/m² of ultraviolet", given, "number"), Reading("of the tank's water", turn, "per_hour")),
            choices=(
                *choices_of(spec, path, "watts length diameter"),
                *front,
                *choices_of(spec, path, "age outlet", "sleeve loss run intake stand offset name"),
                Choice((*path, "hose"), "Hose", "choice", spec.hose, pipe_words(), fold=True),
                *folded[:3],
            ),
            readings=(
                Reading(
                    "Water stays under the lamp",
                    spec.water / flow if flow > 0 else 0.0,
                    "time",
                    "Chamber's water by the flow.",
                ),
                Reading(
                    "Dose",
                    f"{given:.0f} J/m²",
                    "",
                    "150 clear green water, 450 are what most germs want. A tenth of it is mJ/cm².",
                    "lamp's ultraviolet by its chamber and time",
                    "a factor of two",
                ),
                Reading("Lamp and pump draw", spec.watts + spec.pump.watts * spec.pump.speed**3, "power"),
            ),
            why=Reading(
                "Why this flow",
                flow,
                "flow",
                "Both hoses end in one tank: the pump's head goes into hoses and chamber alone.",
                "operating point",
                "±20 %",
            ),
        ),
    )
