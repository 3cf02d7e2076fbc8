"""Drain pipes, their fittings and the holes that they need."""

from __future__ import annotations

import math

from fuente.catalogue import fitting, pipe_size
from fuente.catalogue.loader import bulkhead_for
from fuente.devices.base import Basin, Panel, Part, Parts
from fuente.devices.contract import Site
from fuente.devices.overflow.network import foot_of
from fuente.devices.overflow.sketch import span
from fuente.devices.overflow.spec import ROLE_NAMES, Overflow
from fuente.network.model import Solution


def parts(overflow: Overflow, site: Site, solution: Solution) -> Parts:
    """Box wall with teeth, pipes, bulkheads, and holes in the tank's floor."""
    tank, sump_floor = site.tank, foot_of(overflow, site)
    found: list[Part] = []
    inner = overflow.box_width
    wall = Panel(
        f"{overflow.id}.wall",
        "Overflow box, long wall",
        inner,
        overflow.crest,
        overflow.wall,
        "acrylic",
        1,
        note=f"teeth take {100 * overflow.teeth:.0f} % of the crest" if overflow.teeth else "plain crest",
    )
    side = Panel(
        f"{overflow.id}.side",
        "Overflow box, end wall",
        overflow.box_length,
        overflow.crest,
        overflow.wall,
        "acrylic",
        1 if overflow.box_width > 0.9 * tank.inner_width else 2,
        note="none where the box meets the glass",
    )
    for i, drain in enumerate(overflow.drains):
        size = pipe_size(drain.pipe)
        name = ROLE_NAMES[drain.role].lower()
        fall = tank.floor + drain.mouth - sump_floor - overflow.release
        base = f"{overflow.id}.drain.{i}"
        found.append(
            Part(
                f"{base}.stand",
                f"Pipe, {size.name}",
                1,
                "piece",
                "Pipe",
                "{l:length}",
                f"{name}: standpipe in the box",
                {"l": drain.mouth},
            )
        )
        found.append(
            Part(
                f"{base}.fall",
                f"Pipe, {size.name}",
                1,
                "piece",
                "Pipe",
                "{l:length}",
                f"{name}: from the tank's floor to the sump",
                {"l": max(fall - drain.mouth, 0) + drain.run},
            )
        )
        fit = bulkhead_for(size)
        x, y = hole_at(overflow, tank, i)
        found.append(
            Part(
                f"{base}.bulkhead",
                f"Bulkhead, {fit.size}",
                1,
                "piece",
                "Fittings",
                "saw {s:length}",
                f"{name}: thread passes {fit.hole_min * 1000:.0f} to {fit.hole_max * 1000:.0f} mm; measure yours",
                {"s": fit.saw},
            )
        )
        found.append(
            Part(
                f"{base}.hole",
                "Hole in the tank's floor",
                1,
                "hole",
                "Holes",
                "{s:length} at {x:length} from the left, {y:length} from the back",
                _hole_note(overflow, tank, i, fit.saw),
                {"s": fit.saw, "x": x, "y": y},
            )
        )
        for each in drain.fittings:
            if each.count:
                found.append(
                    Part(
                        f"{base}.{each.kind}",
                        f"{fitting(each.kind).name}, {size.name}",
                        each.count,
                        "piece",
                        "Fittings",
                        "",
                        name,
                    )
                )
        if drain.valve is not None:
            found.append(
                Part(
                    f"{base}.valve",
                    f"Gate valve, {size.name}",
                    1,
                    "piece",
                    "Fittings",
                    "",
                    f"{name}: to trim it, not to shut",
                )
            )
    cautions = (
        (
            "Holes: measure your own fitting; keep a hole's width from any edge and between holes; never drill tempered"
            " glass."
        ),
        "Primer and solvent cement: ventilation, gloves, no flame. Dry-fit first; unions where it must come apart.",
    )
    return Parts((wall, side), tuple(found), cautions)


def hole_at(overflow: Overflow, tank: Basin, index: int) -> tuple[float, float]:
    """Centre of a drain's hole in m from the tank's left and back outer edges.

    Side by side across the tank, in a zigzag along it as far as the box has room for their flanges and the glass to the
    tank's end for a saw's width, so that flanges clear.
    """
    x0, x1 = span(overflow, tank)
    count = len(overflow.drains)
    y = tank.thickness + overflow.box_width * (index + 0.5) / count
    fit = bulkhead_for(pipe_size(overflow.drains[index].pipe))
    low, high = x0 + fit.flange / 2, x1 - fit.flange / 2
    if overflow.side == "left":
        low = max(low, 1.5 * fit.saw)
    else:
        high = min(high, tank.length - 1.5 * fit.saw)
    if count == 1 or low >= high:
        return (x0 + x1) / 2, y
    return (low if index % 2 else high, y) if overflow.side == "left" else (high if index % 2 else low, y)


def _hole_note(overflow: Overflow, tank: Basin, index: int, saw: float) -> str:
    x, y = hole_at(overflow, tank, index)
    edge = min(x, y, tank.length - x) - saw / 2
    near = math.inf
    for k in range(len(overflow.drains)):
        if k != index:
            a, b = hole_at(overflow, tank, k)
            near = min(near, math.hypot(a - x, b - y) - saw)
    if edge < saw - 1e-9:
        return f"too near an edge: {edge * 1000:.0f} mm of glass, {saw * 1000:.0f} mm wanted"
    if near < saw - 1e-9:
        return f"too near the next hole: {near * 1000:.0f} mm of glass, {saw * 1000:.0f} mm wanted"
    return f"{edge * 1000:.0f} mm of glass to the nearest edge"
