"""A sock stage's row and card."""

from __future__ import annotations

from fuente.devices.base import Reading, Station
from fuente.devices.contract import Study
from fuente.devices.filtering import Site, choices_of
from fuente.devices.plumbing import flow_in
from fuente.devices.plumbing_shown import line_choices, line_readings
from fuente.devices.sock.network import ids
from fuente.devices.sock.spec import SockStage
from fuente.network.model import Solution


def card(spec: SockStage, site: Site, study: Study, solution: Solution) -> tuple[Station, ...]:
    """As a station."""
    path = spec.path
    socks, under = ids(spec)
    flow = flow_in(spec, solution)
    drop = max(solution.level[socks] - max(solution.level[under], solution.network.cell(socks).floor), 0.0)
    room = spec.stand + spec.plate - solution.network.cell(socks).floor
    return (
        Station(
            spec.id,
            spec.name,
            "{flow:flow}, level {drop:level} of {room:level}",
            {"flow": flow, "drop": drop, "room": room},
            used=min(drop / room, 1.0),
            glyph="sock",
            cells=ids(spec),
            big=(Reading("through them", flow, "flow"), Reading("level in them", drop, "level")),
            choices=(
                *choices_of(spec, path, "socks diameter sock micron length width height"),
                *line_choices(spec, path, site),
            ),
            readings=(
                Reading(
                    "Each sock takes",
                    flow / spec.socks,
                    "flow",
                    "About {0.000277778:flow} on one of {0.18:length} lasts a week.",
                    "usual practice",
                ),
                *line_readings(spec, site, solution),
            ),
            why=Reading(
                "Why this level",
                drop,
                "length",
                "The felt takes as much head as pushes the flow through; as it clogs the water in the sock rises to the"
                " plate.",
                "capillaries by the rating",
                "±50 %",
            ),
        ),
    )
