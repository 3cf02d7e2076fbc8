"""A filter put into a system so that nothing new is to stop for or to fix: what it brings is mended with it."""

from __future__ import annotations

from collections.abc import Sequence

from fuente.devices.base import Edit, Rank
from fuente.devices.filtering import FilterSpec
from fuente.document.system import System, apply
from fuente.errors import FuenteError
from fuente.findings.judge import findings
from fuente.findings.tried import grave, tried
from fuente.study.analysis import Analysis
from fuente.study.filters import add_filter, add_to_many

ROUNDS = 4  # remedies that one filter may bring along


def added_well(system: System, spec: FilterSpec, tanks: Sequence[str] = ()) -> Edit:
    """The edit that adds a filter, to its tank or with it to others, and mends what that brings: an air pump that then
    blows too little, a mark that then stands too low. What has no remedy stays, and is told.
    """
    edit = add_to_many(system, spec, tanks) if tanks else add_filter(system, spec)
    try:
        before = grave(findings(Analysis(system)))
        study = Analysis(apply(system, edit))
    except FuenteError:
        return edit
    changes = edit.changes
    for _ in range(ROUNDS):
        found = findings(study)
        brought = [f for f in found if f.rank < Rank.CONSIDER and (f.code, f.owner) not in before]
        mended = next((t for t in (tried(study, f, found) for f in brought) if t.edit is not None), None)
        if mended is None or mended.edit is None:
            break
        changes += mended.edit.changes
        study = Analysis(apply(study.system, mended.edit), study)
    return Edit(edit.name, changes)
