"""Everything to order and cut, of the whole system."""

from __future__ import annotations

import csv
import io
from collections import Counter
from dataclasses import replace

from fuente.catalogue import bulkhead_for, pipe_size
from fuente.devices import kind_of
from fuente.devices.air_supply.care import care as care_air
from fuente.devices.air_supply.parts import parts as parts_air
from fuente.devices.base import Panel, Part, Parts, Task
from fuente.devices.hang_on.care import care as care_hang_on
from fuente.devices.hang_on.parts import parts as parts_hang_on
from fuente.devices.header.care import care as care_header
from fuente.devices.header.parts import parts as parts_header
from fuente.devices.join.care import care as care_join
from fuente.devices.join.parts import parts as parts_join
from fuente.devices.manifold.care import care as care_manifold
from fuente.devices.manifold.parts import parts as parts_manifold
from fuente.devices.overflow.care import care as care_overflow
from fuente.devices.overflow.parts import parts as parts_overflow
from fuente.devices.return_line.care import care as care_return
from fuente.devices.return_line.parts import parts as parts_return
from fuente.devices.standpipe.care import care as care_standpipe
from fuente.devices.standpipe.parts import parts as parts_standpipe
from fuente.devices.sump.care import care as care_sump
from fuente.devices.sump.parts import parts as parts_sump
from fuente.devices.tank.care import care as care_tank
from fuente.devices.tank.parts import parts as parts_tank
from fuente.devices.top_up.care import care as care_top_up
from fuente.devices.top_up.parts import parts as parts_top_up
from fuente.document.system import System
from fuente.errors import FuenteError
from fuente.study.analysis import Analysis
from fuente.study.lowering import foot_of
from fuente.study.sites import vessels_of
from fuente.units import UnitSystem, fill, shown


def parts(analysis: Analysis) -> Parts:
    """Panels and parts in build order: the sump first, then drains, then the return."""
    system = analysis.system
    try:
        solution = analysis.running
    except FuenteError:
        solution = analysis.at_rest().solution
    vessels = vessels_of(system)
    total = Parts()
    for device in system.devices:
        total += parts_sump(device, solution)
    for join in system.joins:
        total += parts_join(join, solution)
    for flow in system.overflows:
        total += parts_overflow(flow, system.tank(flow.tank), solution, foot_of(system, flow, vessels))
    for pipe in system.standpipes:
        header = system.header(pipe.into)
        end = header.low_end if header else vessels[pipe.into].floor + pipe.release
        total += parts_standpipe(pipe, system.tank(pipe.tank), solution, end)
    for box in system.hang_ons:
        end = foot_of(system, box, vessels) + box.release
        total += parts_hang_on(box, system.tank(box.tank), solution, end)
    for header in system.headers:
        joins = sum(s.into == header.id for s in system.standpipes)
        total += parts_header(header, solution, vessels[system.ends_in(header.into)].floor + header.release, joins)
    for line in system.returns:
        total += parts_return(line, system.tank(line.tank), solution, system.device(line.source).floor)
    floors = {d.id: d.floor for d in system.devices}
    for manifold in system.manifolds:
        total += parts_manifold(manifold, solution, floors)
    for top_up in system.top_ups:
        total += parts_top_up(top_up, solution)
    for spec in system.filters:
        total += _headed(spec.name, kind_of(spec).parts(spec, analysis.sites[spec.id], solution))
    for air in system.airs:
        total += parts_air(air, solution)
    for tank in system.tanks:
        total += parts_tank(tank, solution)
    return replace(total, panels=_named(system, _drilled(system, total.panels)), parts=_counted(total.parts))


def _named(system: System, panels: tuple[Panel, ...]) -> tuple[Panel, ...]:
    """With several filters, each panel says whose it is."""
    if len(system.devices) < 2:
        return panels
    names = {d.id: d.name for d in system.devices}
    return tuple(
        replace(p, name=f"{names[owner]}: {p.name[:1].lower()}{p.name[1:]}")
        if (owner := p.id.split(".")[0]) in names
        else p
        for p in panels
    )


def _drilled(system: System, panels: tuple[Panel, ...]) -> tuple[Panel, ...]:
    """The end panels with the holes of the lines that join two filters; a drilled end is ordered apart from the other."""
    holes: dict[tuple[str, str], list[tuple[float, float, float, str]]] = {}
    for join in system.joins:
        first, second = system.device(join.first), system.device(join.second)
        right = first.offset <= second.offset
        ends = [(first, "right" if right else "left", join.height)]
        if join.style == "level":
            ends.append((second, "left" if right else "right", join.height + first.floor - second.floor))
        saw = bulkhead_for(pipe_size(join.pipe)).saw
        for device, side, height in ends:
            across = device.inner_width / (join.count + 1)
            made = [(across * (i + 1), height, saw, "") for i in range(join.count)]
            holes.setdefault((device.id, side), []).extend(made)
    found: list[Panel] = []
    for panel in panels:
        device_id, _, part = panel.id.partition(".")
        sides = [side for side in ("left", "right") if (device_id, side) in holes]
        if part != "end" or not sides:
            found.append(panel)
            continue
        if len(sides) == 1:
            found.append(replace(panel, name="End", count=1))
        for side in sides:
            where = tuple(holes[(device_id, side)])
            note = f"{panel.note}; {len(where)} holes of {where[0][2] * 1000:.0f} mm, seen from outside"
            found.append(
                replace(panel, id=f"{panel.id}.{side}", name=f"End, {side}, drilled", count=1, holes=where, note=note)
            )
    return tuple(found)


def _headed(name: str, found: Parts) -> Parts:
    """A filter's parts under its own name, each group of them together."""
    groups = list(dict.fromkeys(p.group for p in found.parts))
    rows = sorted(found.parts, key=lambda p: groups.index(p.group))
    return replace(found, parts=tuple(replace(p, group=f"{name}: {p.group[:1].lower()}{p.group[1:]}") for p in rows))


def _counted(found: tuple[Part, ...]) -> tuple[Part, ...]:
    """Equal parts of many tanks as one line: pieces add up, cut lengths stay apart by length."""
    lines: dict[tuple[object, ...], Part] = {}
    counts: Counter[tuple[object, ...]] = Counter()
    for part in found:
        note = part.note
        if part.note.startswith("drain of "):
            note = "drains of the tanks" + part.note.partition(";")[1] + part.note.partition(";")[2]
        values = tuple(sorted((k, round(v, 3)) for k, v in part.values.items()))
        key = (part.name, part.unit, part.group, part.size, note, values)
        lines.setdefault(key, part)
        counts[key] += 1
        if counts[key] > 1:
            lines[key] = replace(lines[key], count=lines[key].count + part.count, note=note)
    return tuple(lines.values())


def tasks(analysis: Analysis) -> tuple[Task, ...]:
    """Upkeep of the whole system."""
    system, solution = analysis.system, analysis.running
    found: list[Task] = []
    for tank in system.tanks:
        found += care_tank(tank, solution)
    for flow in system.overflows:
        found += care_overflow(flow, solution)
    for pipe in system.standpipes:
        found += care_standpipe(pipe, solution)
    for box in system.hang_ons:
        found += care_hang_on(box, solution)
    for header in system.headers:
        found += care_header(header, solution)
    for device in system.devices:
        found += care_sump(device, solution)
    for join in system.joins:
        found += care_join(join, solution)
    for line in system.returns:
        found += care_return(line, solution)
    for manifold in system.manifolds:
        found += care_manifold(manifold, solution)
    for top_up in system.top_ups:
        found += care_top_up(top_up, solution)
    for spec in system.filters:
        found += kind_of(spec).care(spec, solution)
    for air in system.airs:
        found += care_air(air, solution)
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
