"""All rules in one ranked list."""

from __future__ import annotations

from collections.abc import Callable, Iterable
from dataclasses import replace

from fuente.devices import kind_of
from fuente.devices.base import Edit, Finding, Rank
from fuente.document.system import System
from fuente.errors import FuenteError
from fuente.findings import heat, life, pipes, systems
from fuente.findings.remedies import mended
from fuente.study.analysis import Analysis
from fuente.study.known import analysed

Rule = Callable[[Analysis], Iterable[Finding]]

RULES: tuple[Rule, ...] = (
    *pipes.RULES,
    *systems.RULES,
    *life.RULES,
    *heat.RULES,
)  # of the whole system; the rest is each kind's own


def findings(analysis: Analysis) -> tuple[Finding, ...]:
    """Everything to stop for, to fix or to consider, the gravest first. A design that cannot run gets
    that as a Stop.
    """
    try:
        analysis.situation("running")
    except FuenteError as error:
        why = "Without flow nothing else can be judged."
        return (Finding("no-flow", Rank.STOP, str(error), why, _pump_owner(analysis)), *_static(analysis))
    found: list[Finding] = []
    for device in analysis.ordered:
        own = kind_of(device).judge(device, analysis.sites[device.id], analysis)
        found += (mended(analysis, finding) for finding in own)
    for rule in RULES:
        try:
            found += rule(analysis)
        except FuenteError as error:
            found.append(Finding("no-state", Rank.STOP, str(error), "A situation has no steady state.", ""))
    codes = {f.code for f in found}
    kept = (f for f in found if not f.unless or f.unless not in codes)
    return tuple(sorted(_once(_together(list(kept))), key=lambda f: (f.rank, f.code not in NOW)))


NOW = ("running-spill",)  # what is wrong before anything fails, and often why the rest is
MANY = 3  # findings of one kind from which they are told as one


def _together(found: list[Finding]) -> list[Finding]:
    """One finding for many of a kind that say the same, with all their edits, in the place of the first."""
    kept: list[Finding] = []
    for finding in found:
        same = [f for f in found if f.also and f.code == finding.code] if finding.also else []
        if len(same) < MANY:
            kept.append(finding)
        elif finding is same[0]:
            worst = min(same, key=lambda f: f.margin or 0.0)
            changes = tuple(c for f in same if f.edit for c in f.edit.changes)
            edit = Edit("Widen drains", changes) if changes else None
            text = worst.text.removesuffix(".") + f", {worst.also} {len(same) - 1} others."
            kept.append(replace(worst, text=text, action="Wider drains" if edit else "", edit=edit))
    return kept


def _once(found: Iterable[Finding]) -> list[Finding]:
    seen: set[tuple[str, str]] = set()
    kept = []
    for finding in found:
        key = (finding.code, finding.text)
        if key not in seen:
            seen.add(key)
            kept.append(finding)
    return kept


def _static(analysis: Analysis) -> tuple[Finding, ...]:
    """What can be judged of a design that does not run: whether its parts fit and hold."""
    found: list[Finding] = []
    for device in analysis.ordered:
        fits = kind_of(device).fits
        if fits is not None:
            found += fits(device, analysis.sites[device.id], analysis)
    return tuple(sorted(found, key=lambda f: f.rank))


def _pump_owner(analysis: Analysis) -> str:
    """The first pump's station, or the first tank."""
    pumps = (d.id for d in analysis.ordered if any(e.role == "draws" and e.port == "pump" for e in d.ends()))
    return next(pumps, analysis.system.tanks[0].id)


def judge(system: System) -> tuple[Finding, ...]:
    """Findings of a system on its own."""
    return findings(analysed(system))
