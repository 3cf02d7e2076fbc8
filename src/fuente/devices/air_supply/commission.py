"""The first run of an air pump."""

from __future__ import annotations

from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.devices.pieces import FirstRun, note
from fuente.devices.site import Site


def commission(spec: AirSupplySpec, site: Site) -> tuple[FirstRun, ...]:
    """All valves open, the nearest and shallowest throttled until the last bubbles."""
    return (
        FirstRun(
            f"{spec.id}.valves",
            "Share the air out",
            1,
            note(
                "Open every air valve, start the pump above the water, then throttle the nearest and shallowest drops"
            ),
            note("every drop bubbles evenly; pinch each line behind its check valve: no water comes up it"),
            15,
        ),
    )
