"""Remedies are tried on the design before they are offered: each clears its finding and brings no new Stop or Fix."""

from __future__ import annotations

import re
from collections.abc import Iterable, Mapping
from dataclasses import replace

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings.judge import findings
from fuente.study.analysis import Analysis
from fuente.study.known import analysed

STEPS = 6  # times that a remedy may go on: a pipe may need to grow twice, and what it brings be mended too

Key = tuple[str, str]


def grave(found: Iterable[Finding]) -> Mapping[Key, Rank]:
    """What is to stop for or to fix: code and owner of each, and its rank."""
    ranks: dict[Key, Rank] = {}
    for f in found:
        if f.rank < Rank.CONSIDER:
            ranks[f.code, f.owner] = min(f.rank, ranks.get((f.code, f.owner), f.rank))
    return ranks


def tried(analysis: Analysis, finding: Finding, known: Iterable[Finding] | None = None) -> Finding:
    """The finding with a remedy that works on this design, or without one and with why; ``known`` are all its findings.

    The remedy may take several steps, which are then one edit: the same again while it comes nearer, and what mends
    what it brings.
    """
    if finding.edit is None:
        return finding
    before = grave(findings(analysis) if known is None else known)
    against = ""
    for action, edit in ((finding.action, finding.edit), *finding.others):
        changes, reason = _steps(analysis, replace(finding, edit=edit), before)
        if changes:
            return replace(finding, action=action, edit=Edit(edit.name, changes))
        against = against or reason
    words = f" “{finding.action}” was tried on this design and "
    words += against or "does not mend it."
    words += " Something else has to give, here or in what it is joined to."
    return replace(finding, action="", edit=None, why=finding.why + words)


_SLOT = re.compile(r"\{([A-Za-z_]\w*):(\w+)\}")


def standing_alone(finding: Finding) -> str:
    """A finding's sentence with its values in its slots, so that it can be said within another's."""

    def valued(slot: re.Match[str]) -> str:
        return f"{{{finding.values.get(slot[1], 0.0):.9g}:{slot[2]}}}"

    return _SLOT.sub(valued, finding.text)


def _steps(analysis: Analysis, finding: Finding, before: Mapping[Key, Rank]) -> tuple[tuple[Change, ...], str]:
    """Changes that clear a finding and bring nothing worse; none where they do not come to an end, and then what speaks
    against them: the first fault that they brought, or why they cannot be built.
    """
    key, edit = (finding.code, finding.owner), finding.edit
    study, made = analysis, tuple[Change, ...]()
    seen: list[System] = [analysis.system]
    against = ""
    for _ in range(STEPS):
        if edit is None:
            break
        try:
            system = apply(study.system, edit)
            if system in seen:
                break
            seen.append(system)
            study = analysed(system, study)
            found = findings(study)
        except FuenteError as error:
            against = against or f"cannot be built: {error}"
            break
        made += edit.changes
        now = grave(found)
        worse = [k for k, rank in now.items() if k != key and (k not in before or rank < before[k])]
        same = next((f for f in found if (f.code, f.owner) == key), None)
        if same is None and not worse:
            return made, ""
        if worse and not against:
            other = min((f for f in found if (f.code, f.owner) in worse), key=lambda f: f.rank)
            against = f"would bring another fault: {standing_alone(other)}"
        # What it brings is mended first: more of the same may bring more of it.
        next_to = next((f for f in found if (f.code, f.owner) in worse and f.edit is not None), None)
        edit = next_to.edit if next_to is not None else same.edit if same is not None and not worse else None
    return (), against


def all_tried(analysis: Analysis, found: Iterable[Finding]) -> tuple[Finding, ...]:
    """Every finding with its remedy tried."""
    known = tuple(found)
    return tuple(tried(analysis, f, known) for f in known)
