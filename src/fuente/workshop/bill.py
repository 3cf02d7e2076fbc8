"""Everything to order and cut, of the whole system."""

from __future__ import annotations

import csv
import io
from collections import Counter
from dataclasses import replace

from fuente.devices import kind_of
from fuente.devices.base import Panel, Part, Parts, Task
from fuente.devices.filtering import FilterSpec
from fuente.errors import FuenteError
from fuente.study.analysis import Analysis
from fuente.units import UnitSystem, fill, shown


def parts(analysis: Analysis) -> Parts:
    """Panels and parts in build order: vessels and what joins them, drains, returns, filters, air; tanks, which are
    there, last.
    """
    try:
        solution = analysis.running
    except FuenteError:
        solution = analysis.at_rest().solution
    total = Parts()
    ordered = sorted(analysis.ordered, key=lambda d: kind_of(d).built)
    for device in ordered:
        made = kind_of(device).parts(device, analysis.sites[device.id], solution)
        total += _headed(device.name, made) if isinstance(device, FilterSpec) else made
    return replace(total, parts=_counted(total.parts))


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
    solution = analysis.running
    return tuple(
        task
        for device in analysis.ordered
        for task in kind_of(device).care(device, analysis.sites[device.id], solution)
    )


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
