"""What an air supply is made of."""

from __future__ import annotations

from fuente.devices.air_supply.spec import AirSupplySpec
from fuente.devices.base import Part, Parts
from fuente.devices.contract import Site
from fuente.devices.pocket import AIR_CAUTION, ELECTRIC
from fuente.network.model import Solution


def parts(spec: AirSupplySpec, site: Site, solution: Solution) -> Parts:
    """Pump, manifold, valves, lines."""
    pump = spec.pump
    found = [
        Part(
            f"{spec.id}.pump",
            pump.name,
            spec.pumps,
            "piece",
            "Equipment",
            "{p:air_pressure} at no flow, {q:air_flow} at no pressure",
            f"{pump.watts:.0f} W",
            {"p": pump.max_pressure, "q": pump.max_flow},
        ),
        Part(
            f"{spec.id}.main",
            f"Air manifold, rigid pipe, {spec.bore * 1000:.0f} mm bore",
            1,
            "piece",
            "Pipe",
            "{l:run}",
            "",
            {"l": sum(d.spacing for d in spec.drops)},
        ),
        Part(f"{spec.id}.valves", "Air valve", len(spec.drops), "piece", "Fittings", "", "one for each drop"),
    ]
    checks = sum(d.check for d in spec.drops)
    if checks:
        found.append(
            Part(f"{spec.id}.checks", "Air check valve", checks, "piece", "Fittings", "", "mind its direction")
        )
    stones = sum(d.end == "diffuser" for d in spec.drops)
    if stones:
        found.append(
            Part(f"{spec.id}.stones", "Air diffuser", stones, "piece", "Fittings", "", "clogs: change it twice a year")
        )
    for bore in sorted({d.bore for d in spec.drops}):
        run = sum(d.length for d in spec.drops if d.bore == bore)
        found.append(
            Part(
                f"{spec.id}.line.{bore}",
                f"Airline, {bore * 1000:g} mm bore",
                1,
                "piece",
                "Pipe",
                "{l:run}",
                "all drops",
                {"l": run},
            )
        )
    return Parts((), tuple(found), (AIR_CAUTION, ELECTRIC))
