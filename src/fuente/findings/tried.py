"""Remedies are tried on the design before they are offered: each clears its finding and brings no new Stop or Fix."""

from __future__ import annotations

from collections.abc import Iterable, Mapping
from dataclasses import replace

from fuente.devices.base import Change, Edit, Finding, Rank
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings.judge import findings
from fuente.study.analysis import Analysis

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
    brings = False
    for action, edit in ((finding.action, finding.edit), *finding.others):
        changes, worse = _steps(analysis, replace(finding, edit=edit), before)
        if changes:
            return replace(finding, action=action, edit=Edit(edit.name, changes))
        brings |= worse
    words = f" “{finding.action}” was tried on this design and "
    words += "would bring another fault: " if brings else "does not mend it: "
    words += "something else has to give, here or in what it is joined to."
    return replace(finding, action="", edit=None, why=finding.why + words)


def _steps(analysis: Analysis, finding: Finding, before: Mapping[Key, Rank]) -> tuple[tuple[Change, ...], bool]:
    """Changes that clear a finding and bring nothing worse; none where they do not come to an end, and whether another
    fault was left.
    """
    key, edit = (finding.code, finding.owner), finding.edit
    study, made = analysis, tuple[Change, ...]()
    seen: list[System] = [analysis.system]
    brings = False
    for _ in range(STEPS):
        if edit is None:
            break
        try:
            system = apply(study.system, edit)
            if system in seen:
                break
            seen.append(system)
            study = Analysis(system, study)
            found = findings(study)
        except FuenteError:
            break
        made += edit.changes
        now = grave(found)
        worse = [k for k, rank in now.items() if k != key and (k not in before or rank < before[k])]
        same = next((f for f in found if (f.code, f.owner) == key), None)
        brings = bool(worse)
        if same is None and not worse:
            return made, False
        # What it brings is mended first: more of the same may bring more of it.
        other = next((f for f in found if (f.code, f.owner) in worse and f.edit is not None), None)
        edit = other.edit if other is not None else same.edit if same is not None and not worse else None
    return (), brings


def all_tried(analysis: Analysis, found: Iterable[Finding]) -> tuple[Finding, ...]:
    """Every finding with its remedy tried."""
    known = tuple(found)
    return tuple(tried(analysis, f, known) for f in known)
