"""Remedies that a finding's own kind cannot give: they take another device."""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.base import Finding
from fuente.devices.recipes.air import lead_air, set_valves_for
from fuente.study.analysis import Analysis
from fuente.study.filters import homes_of

BY_VALVE = ("too-much-air", "bed-still", "bed-wild", "air-uneven")  # what turning air valves mends
NO_LINE = "no-air"


def mended(analysis: Analysis, finding: Finding) -> Finding:
    """The finding with a remedy from elsewhere in the system, where there is one."""
    system = analysis.system
    if finding.code == NO_LINE:
        spec = system.filter(finding.owner)
        return replace(finding, action="Lead air to it", edit=lead_air(system.devices, spec, homes_of(system, (spec,))))
    if finding.code in BY_VALVE:
        lines = system.device(finding.owner).air_lines()
        edit = set_valves_for(system.devices, analysis, lines[0] if lines else finding.owner)
        if edit is not None:
            return replace(finding, action="Set all air valves", edit=edit)
    return finding
