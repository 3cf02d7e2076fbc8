"""How sure what is said is: bands of the numbers that situations and findings quote, and margins that they unsettle."""

from __future__ import annotations

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from math import hypot, inf, isfinite

from fuente.devices.base import Finding, Rank, Verdict
from fuente.errors import FuenteError
from fuente.findings.judge import findings
from fuente.study.analysis import Analysis
from fuente.study.doubted import DOUBTS, GEOMETRY, doubted
from fuente.study.situation import Situation

_BANDED = frozenset(("level", "flow", "volume", "per_hour", "days", "air_flow", "fraction"))
_LENGTHS = frozenset(("level",))
_TELLS = 0.03  # of a number: narrower bands say nothing that its digits do not
MARGINS = ("power_cut", "valve_leaks", "drain_blocked", "pipe_blocked")


@dataclass(frozen=True)
class Band:
    """The least and the most that a number may be, and what most of that comes from."""

    low: float
    high: float
    by: str

    @property
    def half(self) -> float:
        """Half its width."""
        return (self.high - self.low) / 2


@dataclass(frozen=True)
class Bands:
    """By situation and number's name, and by a finding's code and owner and value's name."""

    situations: Mapping[str, Mapping[str, Band]] = field(default_factory=dict)
    findings: Mapping[tuple[str, str], Mapping[str, Band]] = field(default_factory=dict)


def bands(study: Analysis, found: tuple[Finding, ...], tell: Callable[[float], bool] = lambda _: True) -> Bands | None:
    """Each doubt solved apart, in every situation, and judged; None when it was stopped.

    A number's half width is the root of the squares of what each doubt moves it by.
    """
    moved: dict[str, dict[str, dict[str, float]]] = {}
    told: dict[tuple[str, str], dict[str, dict[str, float]]] = {}
    bases = {name: s for name in study.names() if isinstance(s := study.try_situation(name), Situation)}
    steps, done = len(DOUBTS) * (len(bases) + 1), 0
    for doubt in DOUBTS:
        other = doubted(study, doubt)
        if other is not None:
            for name, base in bases.items():
                done += 1
                if not tell(done / steps):
                    return None
                case = other.try_situation(name)
                if isinstance(case, Situation):
                    for key, value in base.numbers.items():
                        if isfinite(value) and isfinite(case.numbers.get(key, inf)):
                            moved.setdefault(name, {}).setdefault(key, {})[doubt.name] = case.numbers[key] - value
            _judged(other, found, doubt.name, told)
        done += 1
        if not tell(done / steps):
            return None
    situations = {
        name: {key: _band(bases[name].numbers[key], by) for key, by in numbers.items()}
        for name, numbers in moved.items()
    }
    values = {(f.code, f.owner): f.values for f in found}
    return Bands(
        situations,
        {at: {key: _band(values[at][key], by) for key, by in numbers.items()} for at, numbers in told.items()},
    )


def _judged(
    other: Analysis,
    found: tuple[Finding, ...],
    doubt: str,
    told: dict[tuple[str, str], dict[str, dict[str, float]]],
) -> None:
    """What a doubt moves the values of findings by; one that is not told then moves nothing."""
    try:
        there = {(f.code, f.owner): f.values for f in findings(other)}
    except FuenteError:
        return
    for finding in found:
        at = finding.code, finding.owner
        for key, value in finding.values.items():
            if isfinite(value) and isfinite(there.get(at, {}).get(key, inf)):
                told.setdefault(at, {}).setdefault(key, {})[doubt] = there[at][key] - value


def _band(value: float, by: Mapping[str, float]) -> Band:
    half = hypot(*by.values())
    most = max(by, key=lambda name: abs(by[name]), default="")
    return Band(value - half, value + half, most)


_SLOT = re.compile(r"\{(\w+):(\w+)\}")


def with_bands(found: tuple[Finding, ...], known: Bands, study: Analysis) -> tuple[Finding, ...]:
    """The findings with each number's band where it is wide, what dominates it, and margins that may be none."""
    made = [_worded(f, known.findings.get((f.code, f.owner), {})) for f in found]
    return (*made, *_in_doubt(known, study, found))


def _worded(finding: Finding, own: Mapping[str, Band]) -> Finding:
    text, values, by = _banded(finding.text, finding.values, own)
    if not by:
        return finding
    return replace(finding, text=text, why=f"{finding.why} The band is mostly by {by}.", values=values)


def banded(case: Situation, known: Bands) -> Verdict:
    """A situation's verdict with the band of each number in it that has a wide one."""
    verdict = case.verdict
    text, values, by = _banded(verdict.text, verdict.values, known.situations.get(case.name, {}))
    return replace(verdict, text=text, values=values) if by else verdict


def _banded(text: str, values: Mapping[str, float], own: Mapping[str, Band]) -> tuple[str, dict[str, float], str]:
    """A sentence with its bands, the values that they want, and what makes most of the widest; nothing for none."""
    made, wide = dict(values), dict[str, Band]()

    def said(slot: re.Match[str]) -> str:
        key, quantity = slot[1], slot[2]
        band = own.get(key)
        if band is None or quantity not in _BANDED or key not in values:
            return slot[0]
        half = hypot(band.half, GEOMETRY) if quantity in _LENGTHS and band.half > 0 else band.half
        value = values[key]
        if half <= _TELLS * abs(value) or half == 0:
            return slot[0]
        wide[key] = band
        low = max(value - half, 0.0) if value >= 0 else value - half
        made[f"{key}_low"], made[f"{key}_high"] = low, value + half
        return f"{slot[0]} ({{{key}_low:{quantity}:bare}} to {{{key}_high:{quantity}:bare}})"

    worded = _SLOT.sub(said, text)
    by = max(wide.values(), key=lambda b: b.half / max(abs(b.low + b.high), 1e-12)).by if wide else ""
    return worded, made, by


def _in_doubt(known: Bands, study: Analysis, found: tuple[Finding, ...]) -> list[Finding]:
    """A margin that is there by its number alone: its band reaches over the rim."""
    made = []
    for name in MARGINS:
        band = known.situations.get(name, {}).get("left")
        case = study.known(name)
        if band is None or not isinstance(case, Situation) or case.verdict.rank is not None:
            continue
        left, half = case.numbers["left"], hypot(band.half, GEOMETRY)
        if case.numbers.get("spilled", 0.0) > 1e-7 or not left - half < 0 <= left:
            continue
        owner = study.wells()[0][1].station if study.wells() else study.system.tanks[0].id
        made.append(
            Finding(
                "margin-in-doubt",
                Rank.CONSIDER,
                f"{case.title}: {{left:level}} are left, and by the doubt of the figures {{over:level}} may go over the"
                " rim.",
                f"Mostly by {band.by}. Measure that, or leave more room.",
                owner,
                {"left": left, "over": half - left},
                margin=left - half,
            )
        )
    return made
