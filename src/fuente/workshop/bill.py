"""Everything to order and cut, of the whole system."""

from __future__ import annotations

import csv
import io

from fuente.devices.base import Panel, Parts, Task
from fuente.devices.overflow.care import care as care_overflow
from fuente.devices.overflow.parts import parts as parts_overflow
from fuente.devices.return_line.care import care as care_return
from fuente.devices.return_line.parts import parts as parts_return
from fuente.devices.sump.care import care as care_sump
from fuente.devices.sump.parts import parts as parts_sump
from fuente.devices.tank.care import care as care_tank
from fuente.devices.tank.parts import parts as parts_tank
from fuente.document.analysis import Analysis
from fuente.errors import FuenteError
from fuente.units import UnitSystem, fill, shown


def parts(analysis: Analysis) -> Parts:
    """Panels and parts in build order: the sump first, then drains, then the return."""
    system = analysis.system
    try:
        solution = analysis.running
    except FuenteError:
        solution = analysis.at_rest().solution
    total = Parts()
    for device in system.devices:
        total += parts_sump(device, solution)
    for flow in system.overflows:
        total += parts_overflow(flow, system.tank(flow.tank), solution, system.device(flow.into).floor)
    for line in system.returns:
        total += parts_return(line, system.tank(line.tank), solution, system.device(line.source).floor)
    for tank in system.tanks:
        total += parts_tank(tank, solution)
    return total


def tasks(analysis: Analysis) -> tuple[Task, ...]:
    """Upkeep of the whole system."""
    system, solution = analysis.system, analysis.running
    found: list[Task] = []
    for tank in system.tanks:
        found += care_tank(tank, solution)
    for flow in system.overflows:
        found += care_overflow(flow, solution)
    for device in system.devices:
        found += care_sump(device, solution)
    for line in system.returns:
        found += care_return(line, solution)
    return tuple(found)


def in_order(total: Parts) -> tuple[Panel, ...]:
    """Panels by material, in build order within it."""
    return tuple(sorted(total.panels, key=lambda p: p.material != "glass"))


def table(total: Parts, units: UnitSystem) -> list[tuple[str, str, str, str, str]]:
    """Rows of (group, count, what, size, note) with units written out."""
    rows = []
    for p in in_order(total):
        bare = (shown(v, "length", units, unit=False) for v in (p.length, p.width))
        size = " × ".join((*bare, shown(p.thickness, "length", units)))
        note = p.note
        if p.needed:
            note += f"; {shown(p.needed, 'fine_length', units)} needed"
        if p.safety and p.safety < 1e6:
            note += f", safety {p.safety:.1f}"
        rows.append(("Panels, " + p.material, f"{p.count}", p.name, size, note.strip("; ")))
    for part in total.parts:
        count = f"{part.count:g}" if part.unit != "L" else shown(part.count / 1000, "volume", units)
        rows.append((part.group, count, part.name, fill(part.size, part.values, units), part.note))
    return rows


def as_csv(total: Parts, units: UnitSystem) -> str:
    """The list as CSV, sizes also in plain millimetres for a glazier's own sheet."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(["group", "count", "what", "size", "note", "length mm", "width mm", "thickness mm", "mass kg each"])
    panels = in_order(total)
    rows = table(total, units)
    for row, panel in zip(rows, panels, strict=False):
        sizes = [f"{panel.length * 1000:.1f}", f"{panel.width * 1000:.1f}", f"{panel.thickness * 1000:.1f}"]
        writer.writerow([*row, *sizes, f"{panel.mass:.2f}"])
    for row in rows[len(panels) :]:
        writer.writerow([*row, "", "", "", ""])
    for caution in total.cautions:
        writer.writerow(["Caution", "", caution, "", "", "", "", "", ""])
    return out.getvalue()
