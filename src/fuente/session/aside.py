"""What a session has done away from the eye: plain functions of a document, for a thread or a script."""

from __future__ import annotations

from collections.abc import Callable

from fuente.devices.base import Finding
from fuente.document.system import System
from fuente.findings import findings
from fuente.findings.tried import tried
from fuente.study.analysis import Analysis

Tell = Callable[[float], bool]  # takes the share done, and answers whether to go on


def checked_aside(system: System, before: Analysis, tell: Tell) -> tuple[Analysis, tuple[Finding, ...]] | None:
    """An analysis of its own with every situation solved, and its findings; None when it was stopped."""
    analysis = Analysis(system, before)
    names = analysis.names()
    for i, name in enumerate(names):
        analysis.try_situation(name)
        if not tell((i + 1) / (len(names) + 1)):
            return None
    return analysis, findings(analysis)


def remedies_aside(
    system: System, before: Analysis, found: tuple[Finding, ...], tell: Tell
) -> tuple[System, tuple[Finding, ...]] | None:
    """The findings with every remedy tried on the design; None when it was stopped."""
    analysis, made = Analysis(system, before), list[Finding]()
    for i, finding in enumerate(found):
        made.append(tried(analysis, finding, found))
        if not tell((i + 1) / len(found)):
            return None
    return system, tuple(made)
