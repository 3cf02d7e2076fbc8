"""Remedies that a finding's own kind cannot give: they take another device."""

from __future__ import annotations

from dataclasses import replace

from fuente.devices.base import Finding
from fuente.study.analysis import Analysis

BY_VALVE = ("too-much-air", "bed-still", "bed-wild", "air-uneven")  # what turning air valves mends
NO_LINE = "no-air"


def mended(analysis: Analysis, finding: Finding) -> Finding:
    """The finding with a remedy from elsewhere in the system, where there is one."""
    if finding.code != NO_LINE and finding.code not in BY_VALVE:
        return finding
    from fuente.devices.recipes.air import lead_air, set_valves_for  # loads the air pump's kind
    from fuente.study.filters import homes_of

    system = analysis.system
    if finding.code == NO_LINE:
        spec = system.filter(finding.owner)
        return replace(
            finding, action="Connect an air line", edit=lead_air(system.devices, spec, homes_of(system, (spec,)))
        )
    lines = system.device(finding.owner).air_lines()
    edit = set_valves_for(system.devices, analysis, lines[0] if lines else finding.owner)
    return finding if edit is None else replace(finding, action="Balance air valves", edit=edit)
