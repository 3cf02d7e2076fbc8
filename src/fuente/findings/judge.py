"""All rules in one ranked list."""

from __future__ import annotations

from collections.abc import Callable, Iterable

from fuente.devices.base import Finding, Rank
from fuente.devices.overflow.judge import judge as judge_overflow
from fuente.devices.return_line.judge import judge as judge_return
from fuente.devices.sump.judge import judge as judge_sump
from fuente.devices.tank.judge import judge as judge_tank
from fuente.document.system import System
from fuente.errors import FuenteError
from fuente.findings import build, filters, flood, flow, heat, media, systems
from fuente.study.analysis import Analysis

Rule = Callable[[Analysis], Iterable[Finding]]

RULES: tuple[Rule, ...] = (*flood.RULES, *flow.RULES, *media.RULES, *heat.RULES, *build.RULES)  # one filter each time
WHOLE: tuple[Rule, ...] = (*filters.WHOLE, *media.WHOLE, *systems.RULES)


def findings(analysis: Analysis) -> tuple[Finding, ...]:
    """Everything to stop for, to fix or to consider, the gravest first. A design that cannot run gets that as a Stop."""
    try:
        running = analysis.running
    except FuenteError as error:
        return (
            Finding(
                "no-flow", Rank.STOP, str(error), "Without flow nothing else can be judged.", _pump_owner(analysis)
            ),
            *_static(analysis),
        )
    found: list[Finding] = []
    for i, tank in enumerate(analysis.system.tanks):
        found += judge_tank(tank, running, ("tanks", i))
    for i, over in enumerate(analysis.system.overflows):
        found += judge_overflow(over, analysis.system.tank(over.tank), running, ("overflows", i))
    for i, device in enumerate(analysis.system.devices):
        found += judge_sump(device, running, ("devices", i))
    for i, line in enumerate(analysis.system.returns):
        found += judge_return(line, analysis.system.tank(line.tank), running, ("returns", i))
    devices = analysis.system.devices
    views = [analysis.about(d.id) for d in devices] if len(devices) != 1 else [analysis]
    for view, rules in (*((v, RULES) for v in views), (analysis, WHOLE)):
        for rule in rules:
            try:
                found += rule(view)
            except FuenteError as error:
                found.append(Finding("no-state", Rank.STOP, str(error), "A situation has no steady state.", ""))
    return tuple(sorted(_once(found), key=lambda f: f.rank))


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
    found: list[Finding] = []
    for rule in build.RULES:
        found += rule(analysis)
    return tuple(sorted(found, key=lambda f: f.rank))


def _pump_owner(analysis: Analysis) -> str:
    system = analysis.system
    pumps = [line.id for line in system.returns] + [m.id for m in system.manifolds]
    return (pumps or [system.tanks[0].id])[0]


def judge(system: System) -> tuple[Finding, ...]:
    """Findings of a system on its own."""
    return findings(Analysis(system))
