"""Standard trials of a wet test: named sets of faults, with what is written down from each."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass
from typing import Literal

from fuente.devices.base import Rank
from fuente.study.air_hours import AirHours, air_hours
from fuente.study.analysis import Analysis
from fuente.study.breaking import Fault
from fuente.study.faults import fits
from fuente.study.wet_test import Margin, WetTest, run

HALF_HOUR = 1800.0


@dataclass(frozen=True)
class Trial:
    """A standard trial: id, title, faults, how long, and what is written down from it.

    ``reads`` says whose margin is measured. ``when`` says in which systems it stands beyond what its faults ask for.
    """

    id: str
    title: str
    faults: tuple[Fault, ...]
    until: float
    reads: Literal["sump", "tank"]
    when: Callable[[Analysis], bool] = lambda _: True


def _many(study: Analysis) -> bool:
    return len(study.system.tanks) > 1


def _plain_drain(study: Analysis) -> bool:
    return not _many(study) and bool(study.drains(True))


def _cut(*more: Fault) -> tuple[Fault, ...]:
    return (Fault("power-cut", 5), *more)


TRIALS: tuple[Trial, ...] = (
    Trial("cut-valve-tight", "Cut the power, valve tight", _cut(Fault("check-valve-leak", 5, 0.0)), HALF_HOUR, "sump"),
    Trial(
        "cut-valve-as-is",
        "Cut the power, valve as it is, half an hour",
        _cut(),
        HALF_HOUR,
        "sump",
        lambda s: s.has_sump or not s.airs,
    ),
    Trial(
        "power-cut", "Cut the power, half an hour", _cut(), HALF_HOUR, "tank", lambda s: bool(s.airs) and not s.has_sump
    ),
    Trial(
        "cut-valve-open", "Cut the power, valve held open", _cut(Fault("check-valve-leak", 5, 1.0)), HALF_HOUR, "sump"
    ),
    Trial(
        "cut-and-return",
        "Cut the power, give it back after five minutes",
        _cut(Fault("power-return", 305)),
        1200.0,
        "tank",
    ),
    Trial(
        "drain-blocked",
        "Close the siphon and the open channel",
        (Fault("drain-block", 5),),
        HALF_HOUR,
        "tank",
        _plain_drain,
    ),
    Trial(
        "drain-blocked",
        "Close the drain",
        (Fault("all-drains-block", 5),),
        HALF_HOUR,
        "tank",
        lambda s: not _many(s) and not s.drains(True),
    ),
    Trial(
        "tank-drain-blocked",
        "Block the drain of the tank with the least room",
        (Fault("tank-drain-block", 5, 0.0),),
        HALF_HOUR,
        "tank",
        _many,
    ),
    Trial("pads-clogged", "Pads at 25 times their clean loss", (Fault("pads-clog", 5, 25.0),), HALF_HOUR, "sump"),
    Trial("pump-worn", "Pump down to four fifths of its head", (Fault("pump-wear", 5, 0.8),), HALF_HOUR, "sump"),
    Trial(
        "header-half", "Half of the common drain blocked", (Fault("header-block", 5, 0.5),), HALF_HOUR, "tank", _many
    ),
    Trial(
        "air-valve-open", "The most closed air valve falls wide open", (Fault("air-valve-open", 5, 0.0),), 600.0, "tank"
    ),
    Trial("air-worn", "Air pump down to six tenths of its pressure", (Fault("air-worn", 5, 0.6),), 600.0, "tank"),
    Trial(
        "float-open",
        "Float stuck open for half an hour",
        (Fault("float-open", 5),),
        HALF_HOUR,
        "sump",
        lambda s: bool(s.fresh_floats),
    ),
    Trial(
        "siphon-lost",
        "The siphon over the rim does not start again",
        _cut(Fault("power-return", 65), Fault("siphon-lost", 65)),
        1200.0,
        "tank",
    ),
    Trial(
        "one-pump",
        "One pump sticks",
        (Fault("pump-stuck", 5, 1.0),),
        HALF_HOUR,
        "sump",
        lambda s: len(s.pump_ducts) > 1,
    ),
)


def standard_trials(analysis: Analysis) -> tuple[Trial, ...]:
    """What a system should stand before it is filled for good: those whose faults it can have."""
    return tuple(t for t in TRIALS if t.when(analysis) and all(fits(analysis, f.kind) for f in t.faults))


@dataclass(frozen=True)
class TrialResult:
    """A trial with its run; of a power cut that nobody ends also how long the oxygen lasts, where that is known."""

    trial: Trial
    test: WetTest
    air: AirHours | None = None

    @property
    def passed(self) -> bool:
        """Whether the builder's margins held, and in a power cut the oxygen for as long as nobody may be home; that
        filters stand still is told and fails nothing.
        """
        dry = self.test.verdict.rank in (None, Rank.CONSIDER)
        return dry and (self.breath is None or self.breath.rank in (None, Rank.CONSIDER))

    @property
    def breath(self) -> AirHours | None:
        """The hours of oxygen, where no flood decides."""
        return self.air if self.test.verdict.rank in (None, Rank.CONSIDER) else None

    @property
    def rest(self) -> Margin:
        """What is to be measured when the water is still: the margin, and in which vessel."""
        assert self.test.rests is not None
        filters, tanks = self.test.rests
        return filters if self.trial.reads == "sump" and filters is not None else tanks

    @property
    def expected(self) -> float:
        """What Fuente expects to be read then, m."""
        return self.rest.left

    @property
    def peak(self) -> float:
        """The least margin on the way there, m."""
        return self.test.sump_margin if self.trial.reads == "sump" else self.test.tank_margin


def trials(analysis: Analysis, progress: Callable[[float], bool] | None = None) -> list[TrialResult]:
    """All standard trials."""
    found = []
    every = standard_trials(analysis)
    for i, trial in enumerate(every):
        kinds = [f.kind for f in trial.faults]
        air = air_hours(analysis) if "power-cut" in kinds and "power-return" not in kinds else None
        found.append(TrialResult(trial, run(analysis, trial.faults, trial.until), air))
        if progress is not None and not progress((i + 1) / len(every)):
            break
    return found
