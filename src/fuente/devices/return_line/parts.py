"""Pump, pipe, valve and outlets of a return."""

from __future__ import annotations

from fuente.catalogue import fitting, pipe_size
from fuente.devices.base import Part, Parts
from fuente.devices.contract import Site
from fuente.devices.return_line.spec import ReturnSpec
from fuente.network.model import Solution


def parts(line: ReturnSpec, site: Site, solution: Solution) -> Parts:
    """In the order of the water."""
    tank, pump_floor = site.tank, site.vessels[line.source].floor
    size = pipe_size(line.pipe)
    rise = tank.rim + 0.05 - pump_floor
    found = [
        Part(
            f"{line.id}.pump",
            line.pump.name,
            1,
            "piece",
            "Equipment",
            "{h:head} at no flow, {q:flow} at no head",
            f"{line.pump.watts:.0f} W",
            {"h": line.pump.max_head, "q": line.pump.max_flow},
        ),
        Part(f"{line.id}.rise", f"Pipe, {size.name}", 1, "piece", "Pipe", "{l:run}", "return: up", {"l": rise}),
        Part(
            f"{line.id}.run", f"Pipe, {size.name}", 1, "piece", "Pipe", "{l:run}", "return: sideways", {"l": line.run}
        ),
    ]
    for each in line.fittings:
        if each.count:
            name = f"{fitting(each.kind).name}, {size.name}"
            found.append(Part(f"{line.id}.{each.kind}", name, each.count, "piece", "Fittings", "", "return"))
    if line.valve != "none":
        note = "the second line behind the air holes; fit it where you can reach it"
        found.append(
            Part(f"{line.id}.valve", f"{fitting(line.valve).name}, {size.name}", 1, "piece", "Fittings", "", note)
        )
    for outlet in line.outlets:
        branch = pipe_size(outlet.pipe)
        note = f"air hole {outlet.hole * 1000:.0f} mm" if outlet.hole else "no air hole"
        length = tank.rim + 0.05 - tank.floor - outlet.height
        found.append(
            Part(
                f"{line.id}.{outlet.name}",
                f"Pipe, {branch.name}",
                1,
                "piece",
                "Pipe",
                "{l:length}",
                f"{outlet.name.lower()}: down into the tank, {note}",
                {"l": max(length, 0.0)},
            )
        )
    caution = (
        "Electricity near water: residual-current protection, drip loops; local codes and a licensed electrician"
        " decide."
    )
    return Parts((), tuple(found), (caution,))
