"""Remedies that a finding's own kind cannot give: they take another device."""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.base import Edit, Finding
from fuente.study.analysis import Analysis

BY_VALVE = ("too-much-air", "bed-still", "bed-wild", "air-uneven")  # what turning air valves mends
BY_PUMP = ("air-starved", "air-uneven", "air-deep")  # what a larger air pump mends
NO_LINE = ("no-air", "bed-no-air")


def mended(analysis: Analysis, finding: Finding) -> Finding:
    """The finding with a remedy from elsewhere in the system, where there is one."""
    if finding.code not in (*NO_LINE, *BY_VALVE, *BY_PUMP):
        return finding
    from fuente.devices.recipes.air import larger_pump_for, set_valves_for  # loads the air pump's kind
    from fuente.study.filters import air_line

    system = analysis.system
    if finding.code in NO_LINE:
        line = air_line(analysis, finding.owner)
        more = finding.owner in analysis.air_places and any(d.air_lines() for d in system.devices)
        own = (("Air pump of its own", air_line(analysis, finding.owner, own=True)),) if more else ()
        return replace(finding, action="Connect an air line", edit=line, others=own)
    device = system.by_id.get(finding.owner)
    lines = device.air_lines() if device is not None else ()
    blown = lines[0] if lines else finding.owner
    found: list[tuple[str, Edit]] = []
    if finding.code in BY_VALVE:
        edit = set_valves_for(system.devices, analysis, blown)
        found += [("Balance air valves", edit)] if edit is not None else []
    if finding.code in BY_PUMP:
        edit = larger_pump_for(system.devices, analysis, blown)
        found += [("Larger air pump", edit)] if edit is not None else []
    if not found:
        return finding
    (action, first), *others = found
    return replace(finding, action=action, edit=first, others=tuple(others))
