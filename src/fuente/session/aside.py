"""What a session has done away from the eye: plain functions of a document, for a thread or a script."""

from __future__ import annotations

from collections.abc import Callable, Iterable, Mapping
from typing import NamedTuple

from fuente.catalogue import Medium
from fuente.devices.base import Finding, Station
from fuente.document.system import System
from fuente.errors import FuenteError
from fuente.findings import findings
from fuente.findings.bands import Bands, bands, with_bands
from fuente.findings.breath import breath
from fuente.findings.tried import tried
from fuente.shown.stations import stations
from fuente.study.air_hours import AirHours, air_hours
from fuente.study.analysis import Analysis
from fuente.study.doubted import DOUBTS
from fuente.study.known import analysed

Tell = Callable[[float], bool]  # takes the share done, and answers whether to go on


class Solved(NamedTuple):
    """An analysis whose running state is known, and its stations."""

    analysis: Analysis
    stations: tuple[Station, ...]
    focus: str = ""  # the tank of a rack whose rows are among them


class Checked(NamedTuple):
    """An analysis with every situation solved, its findings, and what each of them took in s by name."""

    analysis: Analysis
    findings: tuple[Finding, ...]
    took: Mapping[str, float]


class Remedied(NamedTuple):
    """A design, its findings with their bands and remedies as far as these work, and the hours of a power cut."""

    system: System
    findings: tuple[Finding, ...]
    bands: Bands
    air: AirHours | None


def solved_aside(
    system: System, before: Analysis | None = None, focus: str = "", shelf: Iterable[Medium] = ()
) -> Solved:
    """An analysis with its running state and its stations; ``focus`` and ``shelf`` as for stations. Raises FuenteError
    where the design cannot be lowered.
    """
    analysis = analysed(system, before)
    return Solved(analysis, stations(analysis, analysis.now(), focus, list(shelf)), focus)


def checked_aside(
    system: System, before: Analysis, tell: Tell, clock: Callable[[], float] = lambda: 0.0
) -> Checked | None:
    """An analysis of its own with every situation solved, and its findings; None when it was stopped. Clock in s."""
    analysis = analysed(system, before)
    names = analysis.names()
    took, last = dict[str, float](), clock()
    for i, name in enumerate(names):
        analysis.try_situation(name)
        now = clock()
        took[name], last = now - last, now
        if not tell((i + 1) / (len(names) + 1)):
            return None
    found = findings(analysis)
    return Checked(analysis, found, took | {"findings": clock() - last})


def fix_aside(system: System, before: Analysis, finding: Finding, found: tuple[Finding, ...]) -> Finding:
    """One finding with its remedy tried on the design."""
    return tried(analysed(system, before), finding, found)


def remedies_aside(system: System, before: Analysis, found: tuple[Finding, ...], tell: Tell) -> Remedied | None:
    """The findings with every remedy tried on the design, every number's band, and how long the oxygen of a power cut
    lasts; None when it was stopped.
    """
    analysis, made = analysed(system, before), list[Finding]()
    steps = len(found) + len(DOUBTS)
    for i, finding in enumerate(found):
        made.append(tried(analysis, finding, found))
        if not tell((i + 1) / steps):
            return None
    known = bands(analysis, tuple(made), lambda share: tell((len(found) + share * len(DOUBTS)) / steps))
    if known is None:
        return None
    air = _air(analysis)
    return Remedied(system, (*with_bands(tuple(made), known, analysis), *breath(analysis, air)), known, air)


def _air(analysis: Analysis) -> AirHours | None:
    try:
        return air_hours(analysis)
    except FuenteError:  # a water without a state: its own finding says so
        return None
